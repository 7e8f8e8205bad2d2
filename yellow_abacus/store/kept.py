"""Forecasts that were kept, in the shop file."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.store.history import now
from yellow_abacus.store.models import KeptForecastRow


def all_kept(session: Session) -> list[KeptForecastRow]:
    """The newest first."""
    return list(session.scalars(select(KeptForecastRow).order_by(KeptForecastRow.id.desc())))


def keep(session: Session, plan: str, first_day: date, last_day: date, told: Mapping[str, Any]) -> KeptForecastRow:
    row = KeptForecastRow(at=now(), plan=plan, first_day=first_day, last_day=last_day, told=dict(told))
    session.add(row)
    session.flush()
    return row


def kept_of(session: Session, plan: str) -> list[KeptForecastRow]:
    """Of a plan by name, the newest first."""
    of_plan = select(KeptForecastRow).where(KeptForecastRow.plan == plan)
    return list(session.scalars(of_plan.order_by(KeptForecastRow.id.desc())))
