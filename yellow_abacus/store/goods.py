"""Goods in the shop file."""

import json
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, fields
from datetime import date
from typing import Any

import numpy as np
from sqlalchemy import JSON, Boolean, Date, String, func, insert, select, update
from sqlalchemy.orm import Session
from sqlalchemy.types import TypeEngine

from yellow_abacus.core.goods.making_goods import GoodTable
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.store.history import recorder_of
from yellow_abacus.store.in_columns import Columns, columns_in, read_goods
from yellow_abacus.store.models import Base, GoodRow
from yellow_abacus.store.survived import LARGEST, survived


@dataclass(frozen=True)
class Saved:
    """How many of what was brought in was new, changed, or there already just like that.

    fewer: orders that have fewer units than before. redated: orders that were of quite another day before.
    """

    new: int
    changed: int
    unchanged: int
    fewer: int = 0
    redated: int = 0


def all_goods(session: Session) -> list[GoodRecord]:
    table = good_table(session)
    return [table.record(at) for at in range(len(table))]


def any_goods(session: Session) -> bool:
    return session.scalars(select(GoodRow.id).limit(1)).first() is not None


def tax_classes_of(session: Session) -> dict[str, str]:
    """Of the goods that name one, by SKU."""
    named = select(GoodRow.sku, GoodRow.tax_class).where(GoodRow.tax_class != "")
    return {sku: survived(name) for sku, name in session.execute(named)}


def skus_and_kits(session: Session) -> tuple[list[str], dict[str, tuple[tuple[str, int], ...]]]:
    """All SKUs, and by SKU the parts of those that are kits, with the units of each."""
    kits = select(GoodRow.sku, GoodRow.kit).where(GoodRow.kit != [])
    told = {sku: tuple((part, units) for part, units in survived(kit)) for sku, kit in session.execute(kits)}
    return list(session.scalars(select(GoodRow.sku))), told


def goods_named(session: Session, skus: Iterable[str]) -> GoodTable:
    """Those of some SKUs that the shop has."""
    return good_table(session, select(GoodRow.id).where(GoodRow.sku.in_(_listed(skus))))


def _listed(texts: Iterable[str]) -> Any:
    """Texts as a sub-select over a JSON list: there may be more than a statement takes parameters."""
    return select(func.json_each(json.dumps(list(texts))).table_valued("value").c.value)


def good_table(session: Session, ids: Any = None) -> GoodTable:
    """All goods, or those of some rows (a sub-select of ids)."""
    return good_rows(session, ids)[0]


def good_rows(session: Session, ids: Any = None) -> tuple[GoodTable, list[int]]:
    """The same, and the id of each one's row."""
    if ids is None:
        return loaded_goods(columns_in(session, read_goods))
    wanted = select(GoodRow.id, *_COLUMNS).where(GoodRow.id.in_(ids))
    rows: Sequence[Any] = session.connection().execute(wanted).cursor.fetchall()  # as the driver has them
    return _ordered(list(zip(*rows, strict=True)) or [()] * (len(_COLUMNS) + 1))


def loaded_goods(columns: Columns) -> tuple[GoodTable, list[int]]:
    """All goods, and the id of each one's row. columns: as they are read."""
    names = ("id", *(column.name for column in _COLUMNS))
    return _ordered([json.loads(told) if isinstance(told := columns[name], str) else told for name in names])


def _ordered(found: Sequence[Sequence[Any]]) -> tuple[GoodTable, list[int]]:
    """found: ids, and each of _COLUMNS, as the driver has them."""
    ids, *told = found
    columns = {column.key: _column(column.type, list(one)) for column, one in zip(_COLUMNS, told, strict=True)}
    in_order = sorted(range(len(ids)), key=columns["sku"].__getitem__)
    if in_order == list(range(len(ids))):
        return GoodTable(columns), list(ids)
    ordered = {name: [column[at] for at in in_order] for name, column in columns.items()}
    return GoodTable(ordered), [ids[at] for at in in_order]


_COLUMNS = [GoodRow.__table__.columns[field.name] for field in fields(GoodRecord)]


def _column(kind: TypeEngine[Any], told: list[Any]) -> list[Any]:
    """Of a column as the driver has it. Most goods have the same few lists and dates, which are understood once."""
    if isinstance(kind, JSON):
        known = {text: _frozen(survived(json.loads(text))) for text in set(told)}
        return [known[text] for text in told]
    if isinstance(kind, Date):
        days = {text: text and date.fromisoformat(text) for text in set(told)}
        return [days[text] for text in told]
    if isinstance(kind, Boolean):
        return list(map(bool, told))
    return told if _is_sound(kind, told) else [survived(value) for value in told]


def _is_sound(kind: TypeEngine[Any], told: list[Any]) -> bool:
    """Whether no version before this one let in what this one would not, told from the column as a whole."""
    if isinstance(kind, String):
        return "".join(told).isprintable()
    figures = np.array(told, dtype=np.float64)  # None is nan
    return not (np.isinf(figures) | (np.abs(figures) > LARGEST)).any()


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
    theirs = GoodRow.sku.in_(_listed(record.sku for record in records))
    known = {row.sku: row for row in session.scalars(select(GoodRow).where(theirs))}
    fresh, changed = [], []
    names, lists = [column.key for column in _COLUMNS], [one.key for one in _COLUMNS if isinstance(one.type, JSON)]
    for record in records:
        every = {name: getattr(record, name) for name in names}
        every |= {name: _plain(every[name]) for name in lists}
        row = known.get(record.sku)
        if row is None:
            fresh.append(every)
            continue
        values = {name: value for name, value in every.items() if name in given or name == "sku"}
        if any(getattr(row, name) != value for name, value in values.items()):
            recorder.row_was("goods", row.id, {c.name: getattr(row, c.name) for c in GoodRow.__table__.columns})
            changed.append(values | {"id": row.id})
    progress(0.3)
    if changed:
        session.execute(update(GoodRow), changed)
    progress(0.6)
    if fresh:
        session.execute(insert(Base.metadata.tables[GoodRow.__tablename__]), fresh)
        new = GoodRow.sku.in_(_listed(one["sku"] for one in fresh))
        for new_id in session.scalars(select(GoodRow.id).where(new)):
            recorder.row_was("goods", new_id, None)
    return Saved(len(fresh), len(changed), len(records) - len(fresh) - len(changed))
