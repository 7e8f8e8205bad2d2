"""The orders a shop has already, beside others of the same numbers: what was told of them stays where nothing else is
told now, and those that read otherwise are known.
"""

import json
from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from operator import ne
from typing import Any

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.records import ALL_OF_ORDERS, NOT_SAID, OF_ORDER
from yellow_abacus.core.ground.axes import Axes, summed_by
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.store.imports import all_live, newest_ids, of_live
from yellow_abacus.store.models import OrderRow
from yellow_abacus.store.order_numbers import SAME_ORDER

ORDER_COLUMNS = (
    *("number", "placed_at", "zone_id", "shopper", "first_order", "code", "shopper_group", "tags", "channel"),
    *(
        "payment",
        "currency",
        "option",
        "status",
        "delivery_paid",
        "delivery_cost",
        "payment_cost",
        "refunded",
        "left_out",
    ),
)
LINE_COLUMNS = ("good_id", "quantity", "unit_price", "paid", "returned")
COLUMN_OF = {"zone": "zone_id", "group": "shopper_group"}
"""Columns of orders that go by another name than the fields of a record."""
MIDNIGHT = " 00:00:00.000000"
"""How a moment ends of which the day alone is told."""
LENGTH_OF_MOMENT = len("2026-03-01 00:00:00.000000")
FEW_OF = 4
"""Where no more than one in so many orders is looked for, those alone are read."""


@dataclass(frozen=True, eq=False)
class StoredOrders:
    """Orders as the shop file keeps them. orders: one entry an order, by column; lines: one entry a line.

    first_line: of each order, and one more at the end.
    """

    orders: dict[str, list[Any]]
    lines: dict[str, Ints]
    first_line: Ints

    @property
    def axes(self) -> Axes:
        return Axes(self.first_line)

    @property
    def units(self) -> Ints:
        """Of each order."""
        return self.axes.sum_by_cart(self.lines["quantity"])

    @property
    def lines_by_order(self) -> Ints:
        return self.axes.lines_by_cart


@dataclass(frozen=True, eq=False)
class KnownOrders:
    """The orders a shop has. number: where in them each number's is. ids: of their rows, rising. newest: whether no
    import that is taken back told them anew since. taken_back: numbers of others that such imports alone have.

    Others are held against them, `at` being for each of those where the known one is, NOT_SAID for none.
    """

    number: dict[str, int]
    known: StoredOrders
    ids: Ints
    newest: Bools
    taken_back: frozenset[str]

    def complete(self, others: StoredOrders, at: Ints, tells: Container[str]) -> None:
        """Set what is not told of others to what is known: of lines, where the order has the same goods."""
        here = at.tolist()
        of_orders = [COLUMN_OF.get(one, one) for one in OF_ORDER if one not in tells]
        for name in (*of_orders, *(["left_out"] if "status" not in tells else [])):
            were = self.known.orders[name]
            pairs = zip(others.orders[name], here, strict=True)
            others.orders[name] = [told if known == NOT_SAID else were[known] for told, known in pairs]
        moments, were = others.orders["placed_at"], self.known.orders["placed_at"]
        if all(one.endswith(MIDNIGHT) for one in moments):  # days alone
            for one, known in enumerate(here):
                if known != NOT_SAID and were[known].startswith(moments[one].removesuffix(MIDNIGHT)):
                    moments[one] = were[known]
        untold = [name for name in LINE_COLUMNS if name in ALL_OF_ORDERS and name not in tells]
        if not untold:
            return
        beside = self._beside(others, at)
        same = np.repeat(~beside.any_line(self._goods_differ(others, beside)), beside.lines)
        for name in untold:
            others.lines[name] = others.lines[name].copy()
            others.lines[name][beside.here[same]] = self.known.lines[name][beside.there[same]]

    def fewer(self, others: StoredOrders, at: Ints) -> int:
        """How many of others have fewer units than the known one."""
        mine = np.flatnonzero(at != NOT_SAID)
        return int((others.units[mine] < self.known.units[at[mine]]).sum())

    def redated(self, others: StoredOrders, at: Ints) -> int:
        """How many of others are of quite another day than the known one."""
        mine = np.flatnonzero(at != NOT_SAID)
        told = zip(*self._both("placed_at", others, mine, at), strict=True)
        moments = np.array([pair for pair in told if pair[0] != pair[1]], dtype="datetime64[s]").reshape(-1, 2)
        return int((np.abs(np.diff(moments)) > SAME_ORDER).sum())

    def left_out_now(self, status: Mapping[str, str]) -> Ints:
        """Which of them counted until now, and are left out. status: by number, of those left out now."""
        counted = [at for number, at in self.number.items() if number in status and not self._left_out[at]]
        return np.array(counted, dtype=np.int64)

    def differing(self, others: StoredOrders, at: Ints) -> Bools:
        """Which of others read otherwise than the known one."""
        found = np.zeros(len(at), dtype=np.bool_)
        mine = np.flatnonzero(at != NOT_SAID)
        for name in others.orders:
            found[mine] |= np.fromiter(map(ne, *self._both(name, others, mine, at)), dtype=np.bool_, count=len(mine))
        found[mine] |= others.lines_by_order[mine] != self.known.lines_by_order[at[mine]]
        beside = self._beside(others, at)
        other = np.zeros(len(beside.here), dtype=np.bool_)
        for name in LINE_COLUMNS:
            other |= self._lines_differ(others, beside, name)
        found[beside.orders] |= beside.any_line(other)
        out = np.array([*zip(*self._both("left_out", others, mine, at), strict=True)], dtype=np.bool_).reshape(-1, 2)
        found[mine[out.all(axis=1)]] = False  # whatever is told of their goods
        return found

    def _both(self, name: str, others: StoredOrders, mine: Ints, at: Ints) -> tuple[Iterable[Any], Iterable[Any]]:
        """What a column has of those others that are known, and of the known ones."""
        told, known = others.orders[name], self.known.orders[name]
        return map(told.__getitem__, mine.tolist()), map(known.__getitem__, at[mine].tolist())

    @property
    def _left_out(self) -> list[int]:
        return self.known.orders["left_out"]

    def _lines_differ(self, others: StoredOrders, beside: "_Beside", name: str) -> Bools:
        result: Bools = others.lines[name][beside.here] != self.known.lines[name][beside.there]
        return result

    def _goods_differ(self, others: StoredOrders, beside: "_Beside") -> Bools:
        return np.logical_or(*(self._lines_differ(others, beside, name) for name in ("good_id", "quantity")))

    def _beside(self, others: StoredOrders, at: Ints) -> "_Beside":
        mine = np.flatnonzero(at != NOT_SAID)
        counts, were = others.lines_by_order[mine], self.known.lines_by_order[at[mine]]
        mine, counts = mine[counts == were], counts[counts == were]
        here, there = others.axes.lines_of(mine), self.known.axes.lines_of(at[mine])
        beside = _Beside(mine, here, there, counts)
        moved = np.flatnonzero(np.repeat(beside.any_line(self._goods_differ(others, beside)), counts))
        order = np.repeat(np.arange(len(counts)), counts)[moved]  # whose lines stand otherwise, or are others
        for lines, place in ((others.lines, here), (self.known.lines, there)):
            of_it = place[moved]
            place[moved] = of_it[np.lexsort((lines["quantity"][of_it], lines["good_id"][of_it], order))]
        return beside


@dataclass(frozen=True, eq=False)
class _Beside:
    """Lines of those orders that have as many as the known one, here and there, the same beside each other in
    whatever order they are told. lines: how many, by order."""

    orders: Ints
    here: Ints
    there: Ints
    lines: Ints

    def any_line(self, told: Bools) -> Bools:
        """Whether it is so of any line of each order."""
        order = np.repeat(np.arange(len(self.lines)), self.lines)
        result: Bools = summed_by(order, told.astype(np.float64), len(self.lines)) > 0
        return result


def known_orders(session: Session, wanted: Container[str]) -> KnownOrders:
    """Those orders that the shop has already, also as left out. wanted: numbers."""
    every = all_live(session)
    which = "" if every else f"where id in ({newest_ids()})"
    there = _rows(session, f"select number, id from orders {which}")
    ids = sorted(order_id for number, order_id in there if number in wanted)
    numbers = () if every else _rows(session, "select distinct number from orders")
    taken_back = frozenset(one for (one,) in numbers if one in wanted) - {number for number, _ in there}
    if not ids:
        nothing = np.zeros(0, dtype=np.int64)
        no_orders: dict[str, list[Any]] = {name: [] for name in ORDER_COLUMNS}
        none = StoredOrders(no_orders, dict.fromkeys(LINE_COLUMNS, nothing), np.zeros(1, dtype=np.int64))
        return KnownOrders({}, none, nothing, nothing > 0, taken_back)
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
    orders["placed_at"] = [
        one if len(one) == LENGTH_OF_MOMENT else moment(datetime.fromisoformat(one)) for one in orders["placed_at"]
    ]
    names = ["order_id", "good_id", "quantity", "coalesce(unit_price, -1)", "coalesce(paid, -1)", "returned"]
    concatenated = ", ".join(f"group_concat({name}, ' ')" for name in names)
    (texts,) = _rows(session, f"select {concatenated} from order_lines {only.format('order_id')}")
    order_id, *told = (np.fromstring(text or "", dtype=np.int64, sep=" ") for text in texts)
    order_ids = np.array(ids, dtype=np.int64)
    in_order = np.argsort(order_id, kind="stable")
    in_order = in_order[np.isin(order_id[in_order], order_ids)]
    first = np.searchsorted(order_id[in_order], np.concatenate((order_ids, [order_ids[-1] + 1])))
    lines = {name: column[in_order] for name, column in zip(LINE_COLUMNS, told, strict=True)}
    places = {number: at for at, number in enumerate(orders["number"])}
    newest = np.ones(len(ids), dtype=np.bool_)
    if not every:
        newest = np.isin(order_ids, _rows(session, "select max(id) from orders group by number"))
    return KnownOrders(places, StoredOrders(orders, lines, first), order_ids, newest, taken_back)


def numbers_that_count(session: Session) -> Sequence[str]:
    """The number of every order that counts."""
    return session.scalars(of_live(session, select(OrderRow.number))).all()


def moment(at: datetime) -> str:
    """As the shop file has it."""
    return at.isoformat(" ", "microseconds")


def _rows(session: Session, query: str) -> Sequence[Any]:
    """Rows as the driver has them."""
    found: Sequence[Any] = session.connection().exec_driver_sql(query).cursor.fetchall()
    return found
