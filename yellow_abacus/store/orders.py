"""Orders in the shop file, held against those there are and added in columns."""

import json
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import date, datetime, time
from typing import Any

import numpy as np
from sqlalchemy import func, insert, select
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.records import ALL_OF_ORDERS, NOT_SAID, OF_ORDER, ManyOrders, OrderRecord, in_columns
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.history import Recorder, now, recorder_of
from yellow_abacus.store.imports import UNSAID, all_live, live_ids
from yellow_abacus.store.known_orders import COLUMN_OF, LINE_COLUMNS, StoredOrders, known_orders, moment
from yellow_abacus.store.models import GoodRow, ImportRow, OrderLineRow, OrderRow, ZoneRow
from yellow_abacus.store.order_numbers import spelt_before

FIRST_ZONE = "Home"
"""Name of the zone made where neither the shop nor the file names one."""
AT_ONCE = 50_000


@dataclass(frozen=True)
class OrderFile:
    """What is told besides the orders. left_out: by number, the status of those left out for it. rounded: as in
    `ImportRow`. tells: the fields of orders and lines that it says anything of."""

    name: str = UNSAID
    left_out: Mapping[str, str] = field(default_factory=dict)
    rounded: int = 0
    tells: frozenset[str] = ALL_OF_ORDERS


def save_orders(
    session: Session,
    records: Sequence[OrderRecord],
    progress: Callable[[float], None] = lambda _: None,
    file: OrderFile | None = None,
) -> Saved:
    """Bring in orders by number, as an import of their own. An order that reads otherwise than before counts as it is
    told now, and not at all if it is left out now; what the file does not tell of it stays.

    Zones the shop does not know yet are made without charge and cost. SKUs must be known. progress is told
    the share done, 0 to 1.
    """
    recorder, many, file = recorder_of(session), in_columns(records), file or OrderFile()
    zones = _zones(session, recorder, many.of_order["zone"])
    good_ids: dict[str, int] = {sku: good_id for sku, good_id in session.execute(select(GoodRow.sku, GoodRow.id))}
    told = StoredOrders(_order_columns(many, zones), _line_columns(many, good_ids), many.first_line)
    progress(0.1)
    numbers, moments = told.orders["number"], told.orders["placed_at"]
    spelt = spelt_before(session, dict.fromkeys(file.left_out, "") | dict(zip(numbers, moments, strict=True)))
    numbers = told.orders["number"] = [spelt.get(number, number) for number in numbers]
    left_out = {spelt.get(number, number): status for number, status in file.left_out.items()}
    known = known_orders(session, {*numbers, *left_out})
    progress(0.3)
    at = np.array([known.number.get(number, NOT_SAID) for number in numbers], dtype=np.int64)
    known.complete(told, at, file.tells)
    fewer, redated = known.fewer(told, at), known.redated(told, at)
    gone = known.left_out_now(left_out)
    told, at = _also_left_out(told, known.known, gone, left_out), np.concatenate((at, gone))
    fresh = at == NOT_SAID
    changed = ~fresh & known.differing(told, at)
    again = np.flatnonzero(~fresh & ~changed)
    saved = Saved(int(fresh.sum()), int(changed.sum()), len(again), fewer, redated)
    if saved.new or saved.changed:
        newest = known.newest[at[again]]  # what is told anew in an import taken back may not go before this one
        added = (np.flatnonzero(fresh), np.flatnonzero(changed), again[~newest])
        overlaps = saved.changed > 0 or not newest.all() or not known.taken_back.isdisjoint(numbers)
        import_id = _new_import(session, recorder, file, saved, overlaps)
        _add(session, np.concatenate(added), told, import_id, progress)
        rows = ((import_id, order_id) for order_id in known.ids[at[again[newest]]].tolist())
        _insert(session, "told_again", ("import_id", "order_id"), rows)
    return saved


def _also_left_out(told: StoredOrders, known: StoredOrders, gone: Ints, status: Mapping[str, str]) -> StoredOrders:
    """What is told, and behind it those known orders that are gone, left out and without their lines."""
    orders = {name: [*column, *(known.orders[name][at] for at in gone)] for name, column in told.orders.items()}
    for at in range(len(orders["number"]) - len(gone), len(orders["number"])):
        orders["left_out"][at], orders["status"][at] = 1, status[orders["number"][at]]
    nothing = np.repeat(told.first_line[-1], len(gone))
    return StoredOrders(orders, told.lines, np.concatenate((told.first_line, nothing)))


def _new_import(session: Session, recorder: Recorder, file: OrderFile, saved: Saved, overlaps: bool) -> int:
    """One that was there before and was not live, as far as undo is concerned: its orders stay where they are."""
    values = {
        "file": file.name,
        "at": now(),
        **vars(saved),
        "left_out": len(file.left_out),
        "rounded": file.rounded,
        "overlaps": overlaps,
    }
    made = insert(ImportRow).values(values | {"live": True}).returning(ImportRow.id)
    import_id = session.scalars(made).one()
    recorder.row_was("imports", import_id, {"id": import_id, **values, "live": False})
    return import_id


def _zones(session: Session, recorder: Recorder, named: Iterable[str]) -> dict[str, int]:
    """Ids by name; the empty name stands for the shop's first zone."""
    rows = list(session.scalars(select(ZoneRow).order_by(ZoneRow.id)))
    known = {folded(row.name): row.id for row in rows}
    known |= {folded(place): row.id for row in rows for place in row.places if folded(place) not in known}
    wanted = dict.fromkeys(named)
    if "" in wanted and not rows and len(wanted) == 1:
        wanted = {FIRST_ZONE: None}
    for name in wanted:
        if name and folded(name) not in known:
            row = ZoneRow(name=name, places=[], options=[])
            session.add(row)
            session.flush()
            known[folded(name)] = row.id
    found = {name: known[folded(name)] for name in wanted if name}
    return found | {"": next(iter(known.values()))} if known else found


def _order_columns(many: ManyOrders, zones: dict[str, int]) -> dict[str, list[Any]]:
    """What is kept of each order, as the file has it: texts, numbers and nothing."""
    told = many.of_order
    tags = {one: json.dumps(list(one), ensure_ascii=False) for one in dict.fromkeys(told["tags"])}
    columns = {COLUMN_OF.get(name, name): list(told[name]) for name in OF_ORDER}
    return columns | {
        "placed_at": [moment(one) for one in told["placed_at"]],
        "zone_id": [zones[one] for one in told["zone"]],
        "first_order": [None if one is None else int(one) for one in told["first_order"]],
        "tags": [tags[one] for one in told["tags"]],
        "left_out": [0] * len(many),
    }


def _line_columns(many: ManyOrders, good_ids: dict[str, int]) -> dict[str, Ints]:
    lines = many.lines
    ids = np.array([good_ids[sku] for sku in lines.skus] or [0], dtype=np.int64)
    columns = (ids[lines.sku], lines.quantity, lines.unit_price, lines.paid, lines.returned)
    return dict(zip(LINE_COLUMNS, columns, strict=True))


def _add(
    session: Session, added: Ints, told: StoredOrders, import_id: int, progress: Callable[[float], None]
) -> None:
    """Insert orders and their lines under neighbouring ids, which nobody else can take while this session writes.

    added: which of the orders.
    """
    first_id, line_id = (
        (session.scalars(select(func.max(kind.id))).one() or 0) + 1 for kind in (OrderRow, OrderLineRow)
    )
    lines = told.lines
    with _indexed_after(session, int(told.lines_by_order[added].sum())):
        for start in range(0, len(added), AT_ONCE):
            some = added[start : start + AT_ONCE]
            ids = range(first_id + start, first_id + start + len(some))
            picked = [[column[at] for at in some.tolist()] for column in told.orders.values()]
            _insert(
                session,
                "orders",
                ("id", *told.orders, "import_id"),
                zip(ids, *picked, [import_id] * len(some), strict=True),
            )
            line = told.axes.lines_of(some)
            order_id = np.repeat(np.array(ids), told.lines_by_order[some]).tolist()
            each = [_or_none(lines[name][line], name) for name in LINE_COLUMNS]
            numbers = range(line_id, line_id + len(line))
            _insert(
                session,
                "order_lines",
                ("id", "order_id", *LINE_COLUMNS),
                zip(numbers, order_id, *each, strict=True),
            )
            line_id += len(line)
            progress(0.3 + 0.7 * (start + len(some)) / len(added))


MANY_LINES = 100_000


@contextmanager
def _indexed_after(session: Session, lines: int) -> Iterator[None]:
    """Where so many lines come in, their indexes are made after them, which takes a third of the time."""
    indexes = list(OrderLineRow.metadata.tables["order_lines"].indexes) if lines >= MANY_LINES else []
    connection = session.connection()
    for index in indexes:
        index.drop(connection)
    yield
    for index in indexes:
        index.create(connection)


def numbers_of(session: Session, ids: Sequence[int]) -> dict[int, str]:
    """The numbers of some orders, by id."""
    rows = session.execute(select(OrderRow.id, OrderRow.number).where(OrderRow.id.in_(ids)))
    return {one: number for one, number in rows}


def refunded_over(session: Session, first_day: date, last_day: date) -> int:
    """What the orders of some days that count were given back, minor units."""
    ends = (datetime.combine(first_day, time.min), datetime.combine(last_day, time.max))
    told = select(func.coalesce(func.sum(OrderRow.refunded), 0)).where(OrderRow.placed_at.between(*ends))
    if not all_live(session):
        told = told.where(OrderRow.id.in_(live_ids()))
    return session.scalars(told).one()


def _or_none(column: Ints, name: str) -> list[int | None]:
    told: list[int | None] = column.tolist()
    if name in ("unit_price", "paid") and (column == NOT_SAID).any():
        return [None if one == NOT_SAID else one for one in told]
    return told


def _insert(session: Session, table: str, columns: Sequence[str], rows: Iterable[tuple[Any, ...]]) -> None:
    names, places = ", ".join(f'"{name}"' for name in columns), ", ".join("?" * len(columns))
    driver: Any = session.connection().connection.driver_connection
    driver.executemany(f"insert into {table} ({names}) values ({places})", rows)
