"""Goods in the shop file."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from typing import Any

from sqlalchemy import insert, select, update
from sqlalchemy.orm import Session

from yellow_abacus.core.kits import with_kits
from yellow_abacus.core.records import GoodRecord
from yellow_abacus.store.history import recorder_of
from yellow_abacus.store.models import GoodRow
from yellow_abacus.store.survived import survived


@dataclass(frozen=True)
class Saved:
    """How many of what was brought in was new, changed, or there already just like that."""

    new: int
    changed: int
    unchanged: int


def all_goods(session: Session) -> list[GoodRecord]:
    return goods_among(session, None)


def goods_among(session: Session, ids: Any) -> list[GoodRecord]:
    """Some goods in SKU order, read as columns. ids: of rows, a sub-select; None for all."""
    wanted = select(*_COLUMNS).order_by(GoodRow.sku)
    rows = session.execute(wanted if ids is None else wanted.where(GoodRow.id.in_(ids)))
    return [GoodRecord(*(_frozen(survived(value)) for value in row)) for row in rows]


_COLUMNS = [getattr(GoodRow, field.name) for field in fields(GoodRecord)]


def incomplete_goods(session: Session) -> list[str]:
    """SKUs that lack a purchase cost, a weight, or, where they are sold, a list price."""
    return [
        record.sku
        for record in with_kits(all_goods(session))
        if record.purchase_cost is None
        or record.weight is None
        or (record.list_price is None and not record.gift_only)
    ]


def _frozen(value: Any) -> Any:
    return tuple(_frozen(one) for one in value) if isinstance(value, list) else value


def _plain(value: Any) -> Any:
    return [_plain(one) for one in value] if isinstance(value, tuple) else value


def save_goods(
    session: Session,
    records: Sequence[GoodRecord],
    given: frozenset[str],
    progress: Callable[[float], None] = lambda _: None,
) -> Saved:
    """Bring in goods by SKU. Fields not `given` (the file had no such column) stay as they are.

    progress is told the share done, 0 to 1.
    """
    recorder = recorder_of(session)
    known = {row.sku: row for row in session.scalars(select(GoodRow))}
    fresh, changed = [], []
    for record in records:
        every = {field.name: _plain(getattr(record, field.name)) for field in fields(GoodRecord)}
        values = {name: value for name, value in every.items() if name in given or name == "sku"}
        row = known.get(record.sku)
        if row is None:
            fresh.append(every)
        elif any(getattr(row, name) != value for name, value in values.items()):
            recorder.row_was("goods", row.id, {c.name: getattr(row, c.name) for c in GoodRow.__table__.columns})
            changed.append(values | {"id": row.id})
    progress(0.3)
    if changed:
        session.execute(update(GoodRow), changed)
    progress(0.6)
    if fresh:
        for new_id in session.scalars(insert(GoodRow).returning(GoodRow.id), fresh):
            recorder.row_was("goods", new_id, None)
    return Saved(len(fresh), len(changed), len(records) - len(fresh) - len(changed))
