"""Orders in the shop file, held against those there are and added in columns."""

import json
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Any

import numpy as np
from sqlalchemy import func, insert, select
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.records import NOT_SAID, ManyOrders, OrderRecord, in_columns
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.history import Recorder, now, recorder_of
from yellow_abacus.store.imports import UNSAID, all_live, live_ids
from yellow_abacus.store.models import GoodRow, ImportRow, OrderLineRow, OrderRow, ZoneRow

FIRST_ZONE = "Home"
"""Name of the zone made where neither the shop nor the file names one."""
AT_ONCE = 50_000

ORDER_COLUMNS = (
    *("number", "placed_at", "zone_id", "shopper", "first_order", "code", "shopper_group", "tags", "channel"),
    *("payment", "currency", "option", "status", "delivery_paid", "refunded"),
)
LINE_COLUMNS = ("good_id", "quantity", "unit_price", "paid", "returned")


def save_orders(
    session: Session,
    records: Sequence[OrderRecord],
    progress: Callable[[float], None] = lambda _: None,
    file: str = UNSAID,
    left_out: int = 0,
    rounded: int = 0,
) -> Saved:
    """Bring in orders by number, as an import of their own; an order that reads otherwise than before counts as it is
    told now.

    Zones the shop does not know yet are made without charge and cost. SKUs must be known. progress is told
    the share done, 0 to 1. left_out, rounded: as in `ImportRow`.
    """
    recorder, many = recorder_of(session), in_columns(records)
    zones = _zones(session, recorder, many.of_order["zone"])
    good_ids: dict[str, int] = {sku: good_id for sku, good_id in session.execute(select(GoodRow.sku, GoodRow.id))}
    orders, lines = _order_columns(many, zones), _line_columns(many, good_ids)
    progress(0.1)
    known = _known(session, many)
    progress(0.3)
    at = np.array([known.number.get(number, NOT_SAID) for number in many.of_order["number"]], dtype=np.int64)
    fresh = at == NOT_SAID
    changed = ~fresh & known.differing(at, orders, lines, many.first_line)
    saved = Saved(int(fresh.sum()), int(changed.sum()), int((~fresh & ~changed).sum()))
    if saved.new or saved.changed:
        import_id = _new_import(session, recorder, file, saved, left_out, rounded)
        added = np.concatenate((np.flatnonzero(fresh), np.flatnonzero(changed)))
        _add(session, added, many.first_line, orders, lines, import_id, progress)
    return saved


def _new_import(session: Session, recorder: Recorder, file: str, saved: Saved, left_out: int, rounded: int) -> int:
    """One that was there before and was not live, as far as undo is concerned: its orders stay where they are."""
    values = {
        "file": file,
        "at": now(),
        "new": saved.new,
        "changed": saved.changed,
        "unchanged": saved.unchanged,
        "left_out": left_out,
        "rounded": rounded,
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
    columns = {
        name: told["group" if name == "shopper_group" else name] for name in ORDER_COLUMNS if name != "zone_id"
    }
    return columns | {
        "placed_at": [_moment(one) for one in told["placed_at"]],
        "zone_id": [zones[one] for one in told["zone"]],
        "first_order": [None if one is None else int(one) for one in told["first_order"]],
        "tags": [tags[one] for one in told["tags"]],
    }


def _moment(at: datetime) -> str:
    """As the shop file has it."""
    return at.isoformat(" ", "microseconds")


def _line_columns(many: ManyOrders, good_ids: dict[str, int]) -> dict[str, Ints]:
    lines = many.lines
    ids = np.array([good_ids[sku] for sku in lines.skus] or [0], dtype=np.int64)
    columns = (ids[lines.sku], lines.quantity, lines.unit_price, lines.paid, lines.returned)
    return dict(zip(LINE_COLUMNS, columns, strict=True))


@dataclass(frozen=True, eq=False)
class _Known:
    """The orders there are. number: where each number's is. orders: one entry an order; lines: one entry a line.

    first_line: of each order, and one more at the end.
    """

    number: dict[str, int]
    orders: dict[str, list[Any]]
    lines: dict[str, Ints]
    first_line: Ints

    def differing(self, at: Ints, orders: dict[str, list[Any]], lines: dict[str, Ints], first_line: Ints) -> Bools:
        """Which of other orders read otherwise than the one `at` the same place here, NOT_SAID for none of them."""
        found = np.zeros(len(at), dtype=np.bool_)
        mine = np.flatnonzero(at != NOT_SAID)
        if not len(mine):
            return found
        theirs = at[mine]
        for name, told in orders.items():
            known = self.orders[name]
            pairs = zip(mine.tolist(), theirs.tolist(), strict=True)
            found[mine] |= np.array([told[one] != known[other] for one, other in pairs], dtype=np.bool_)
        counts, were = np.diff(first_line)[mine], np.diff(self.first_line)[theirs]
        found[mine] |= counts != were
        same = (counts == were) & (counts > 0)
        mine, theirs, counts = mine[same], theirs[same], counts[same]
        within = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
        here, there = (
            np.repeat(first_line[mine], counts) + within,
            np.repeat(self.first_line[theirs], counts) + within,
        )
        other = np.zeros(len(within), dtype=np.bool_)
        for name, column in lines.items():
            other |= column[here] != self.lines[name][there]
        if len(mine):  # reduceat takes no empty ends
            found[mine] |= np.logical_or.reduceat(other, np.cumsum(counts) - counts)
        return found


def _known(session: Session, many: ManyOrders) -> _Known:
    """Those of the orders brought in that the shop has already."""
    wanted = set(many.of_order["number"])
    which = "" if all_live(session) else f"where id in ({live_ids()})"
    there = _rows(session, f"select number, id from orders {which}")
    ids = sorted(order_id for number, order_id in there if number in wanted)
    if not ids:
        return _Known({}, {name: [] for name in ORDER_COLUMNS}, {}, np.zeros(1, dtype=np.int64))
    few = len(ids) * FEW_OF < len(there)
    only = f"where {{}} in ({', '.join(map(str, ids))})" if few else ""
    wanted_ids = set(ids)
    columns = ", ".join(["id", *(f'"{name}"' for name in ORDER_COLUMNS)])
    rows = [
        row for row in _rows(session, f"select {columns} from orders {only.format('id')}") if row[0] in wanted_ids
    ]
    rows.sort(key=lambda row: row[0])
    orders = dict(zip(ORDER_COLUMNS, map(list, zip(*(row[1:] for row in rows), strict=True)), strict=True))
    tags = {one: json.dumps(json.loads(one), ensure_ascii=False) for one in set(orders["tags"])}
    orders["tags"] = [tags[one] for one in orders["tags"]]
    orders["placed_at"] = [_moment(datetime.fromisoformat(one)) for one in orders["placed_at"]]
    names = ["order_id", "good_id", "quantity", "coalesce(unit_price, -1)", "coalesce(paid, -1)", "returned"]
    concatenated = ", ".join(f"group_concat({name}, ' ')" for name in names)
    (texts,) = _rows(session, f"select {concatenated} from order_lines {only.format('order_id')}")
    order_id, *told = (np.fromstring(text or "", dtype=np.int64, sep=" ") for text in texts)
    order_ids = np.array(ids, dtype=np.int64)
    in_order = np.argsort(order_id, kind="stable")
    in_order = in_order[np.isin(order_id[in_order], order_ids)]
    first = np.searchsorted(order_id[in_order], np.concatenate((order_ids, [order_ids[-1] + 1])))
    lines = {name: column[in_order] for name, column in zip(LINE_COLUMNS, told, strict=True)}
    return _Known({number: at for at, number in enumerate(orders["number"])}, orders, lines, first)


FEW_OF = 4
"""Where no more than one in so many orders is looked for, those alone are read."""


def _rows(session: Session, query: str) -> Sequence[Any]:
    """Rows as the driver has them."""
    found: Sequence[Any] = session.connection().exec_driver_sql(query).cursor.fetchall()
    return found


def _add(
    session: Session,
    added: Ints,
    first_line: Ints,
    orders: dict[str, list[Any]],
    lines: dict[str, Ints],
    import_id: int,
    progress: Callable[[float], None],
) -> None:
    """Insert orders and their lines under neighbouring ids, which nobody else can take while this session writes.

    added: which of the orders.
    """
    first_id, line_id = (
        (session.scalars(select(func.max(kind.id))).one() or 0) + 1 for kind in (OrderRow, OrderLineRow)
    )
    with _indexed_after(session, int(np.diff(first_line)[added].sum())):
        for start in range(0, len(added), AT_ONCE):
            some = added[start : start + AT_ONCE]
            ids = range(first_id + start, first_id + start + len(some))
            picked = [[column[at] for at in some.tolist()] for column in orders.values()]
            _insert(
                session,
                "orders",
                ("id", *orders, "import_id"),
                zip(ids, *picked, [import_id] * len(some), strict=True),
            )
            counts = np.diff(first_line)[some]
            line = np.repeat(first_line[some] - (np.cumsum(counts) - counts), counts) + np.arange(counts.sum())
            order_id = np.repeat(np.array(ids), counts).tolist()
            told = [_or_none(lines[name][line], name) for name in LINE_COLUMNS]
            numbers = range(line_id, line_id + len(line))
            _insert(
                session, "order_lines", ("id", "order_id", *LINE_COLUMNS), zip(numbers, order_id, *told, strict=True)
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
