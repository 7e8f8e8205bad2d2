"""Goods in the shop file."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass

from sqlalchemy import insert, select, update
from sqlalchemy.orm import Session

from yellow_abacus.core.records import GoodRecord
from yellow_abacus.store.history import recorder_of
from yellow_abacus.store.models import GoodRow


@dataclass(frozen=True)
class Saved:
    """How many of what was brought in was new, changed, or there already just like that."""

    new: int
    changed: int
    unchanged: int


def all_goods(session: Session) -> list[GoodRecord]:
    return [record_of(row) for row in session.scalars(select(GoodRow).order_by(GoodRow.sku))]


def record_of(row: GoodRow) -> GoodRecord:
    return GoodRecord(
        sku=row.sku,
        product=row.product,
        option=row.option,
        list_price=row.list_price,
        reduced_price=row.reduced_price,
        unit_cost=row.unit_cost,
        weight=row.weight,
        categories=tuple(row.categories),
        stock=row.stock,
        brand=row.brand,
        tags=tuple(row.tags),
        never_discounted=row.never_discounted,
    )


def save_goods(session: Session, records: Sequence[GoodRecord], given: frozenset[str]) -> Saved:
    """Bring in goods by SKU. Fields not `given` (the file had no such column) stay as they are."""
    recorder = recorder_of(session)
    known = {row.sku: row for row in session.scalars(select(GoodRow))}
    fresh, changed = [], []
    for record in records:
        every = {name: list(value) if isinstance(value, tuple) else value for name, value in asdict(record).items()}
        values = {name: value for name, value in every.items() if name in given or name == "sku"}
        row = known.get(record.sku)
        if row is None:
            fresh.append(every)
        elif any(getattr(row, name) != value for name, value in values.items()):
            recorder.row_was("goods", row.id, {c.name: getattr(row, c.name) for c in GoodRow.__table__.columns})
            changed.append(values | {"id": row.id})
    if changed:
        session.execute(update(GoodRow), changed)
    if fresh:
        for new_id in session.scalars(insert(GoodRow).returning(GoodRow.id), fresh):
            recorder.row_was("goods", new_id, None)
    return Saved(len(fresh), len(changed), len(records) - len(fresh) - len(changed))
