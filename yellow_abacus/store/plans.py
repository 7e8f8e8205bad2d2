"""Plans in the shop file."""

from collections.abc import Mapping
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.store.models import PlanRow


class PlanChangedError(Exception):
    """Somebody else saved the plan since it was read."""


def all_plans(session: Session) -> list[PlanRow]:
    return list(session.scalars(select(PlanRow).order_by(PlanRow.id)))


def plan_named(session: Session, name: str) -> PlanRow | None:
    return session.scalars(select(PlanRow).where(PlanRow.name == name).order_by(PlanRow.id)).first()


def add_plan(session: Session, values: Mapping[str, Any]) -> PlanRow:
    row = PlanRow(**values, revision=1)
    session.add(row)
    session.flush()
    return row


def save_plan(session: Session, row: PlanRow, values: Mapping[str, Any], revision: int) -> None:
    """Replace the plan's contents, if it is still at `revision`. Raises PlanChangedError."""
    if row.revision != revision:
        raise PlanChangedError
    for name, value in values.items():
        setattr(row, name, value)
    row.revision = revision + 1
    session.flush()
