"""An order file to orders, in columns: one row a line, order columns on every row or only on an order's first.

An order is taken whole or not at all: half a cart would be a wrong cart. What an order really got, after discounts,
is kept beside what was asked. docs/files.md, "Orders".
"""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import partial, reduce
from typing import Any

import numpy as np

from yellow_abacus.core.goods.records import ALL_OF_ORDERS, NOT_SAID, ManyOrders, OrderLines
from yellow_abacus.core.ground.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.by_order import ByOrder
from yellow_abacus.files.cancelled_units import less_cancelled
from yellow_abacus.files.clocks import reader_of_moments, tells_utc
from yellow_abacus.files.coded_cells import NONE, CodedCells, Values
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import only_one
from yellow_abacus.files.fields import ORDERS
from yellow_abacus.files.meant_skus import MeantSkus, goods_are_named
from yellow_abacus.files.no_goods import NameTold, named_where_untold, without_no_goods, without_parts
from yellow_abacus.files.order_amounts import OrderAmounts, added_up, less_discount
from yellow_abacus.files.order_asides import beside_their_orders, says_sent_back, without_sums
from yellow_abacus.files.order_shapes import (
    below_their_orders,
    by_name,
    in_lists,
    one_by_one,
    sent_back_below,
    told_by_name,
)
from yellow_abacus.files.order_shop import OrderShop
from yellow_abacus.files.order_statuses import (
    StatusTold,
    how_many,
    is_cancelled,
    leaves_out,
    says_all_came_back,
    told_once,
    with_cancelled,
)
from yellow_abacus.files.order_taxes import OrderTaxes
from yellow_abacus.files.order_totals import less_what_totals_lack
from yellow_abacus.files.reading import Progress
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import (
    BadCellError,
    Reading,
    name_if_any,
    parse_count,
    parse_first_order,
    parse_number,
    split_tags,
    unsigned,
)
from yellow_abacus.files.with_tax import taxed_by

MOST_UNITS = 1_000_000
LARGEST_RATE = 1_000_000
SUMMED = ("delivery_paid", "delivery_cost", "payment_cost", "refunded")
"""Amounts of an order of which each line may tell a part."""


@dataclass(frozen=True, eq=False)
class OrdersRead:
    """rounded: amounts that had more decimals than the currency. foreign: currencies other than the shop's.

    gone: by number, the status of orders left out for it. tells: the fields of orders and lines that are told.
    no_goods: what rows without a SKU are called; parts: how many rows are parts of a kit beside them; less: how many
    orders' totals lack some of their goods and delivery; in_utc: whether times are told in UTC.
    """

    orders: ManyOrders
    rejected: list[Rejection]
    statuses: tuple[StatusTold, ...]
    rounded: int
    foreign: tuple[str, ...]
    gone: Mapping[str, str]
    tells: frozenset[str]
    no_goods: tuple[NameTold, ...] = ()
    parts: int = 0
    less: int = 0
    in_utc: bool = False


def read_orders(
    table: Table, columns: Columns, reading: Reading, shop: OrderShop, progress: Progress = lambda _: None
) -> OrdersRead:
    """The orders whose every row is good, and what is wrong with the rows of the others; those left out for their
    status are in neither. `progress` is told the share done."""
    skus = MeantSkus(shop.list_prices, shop.named() if goods_are_named(table, columns) else None)
    if told_by_name(columns):
        table, columns = by_name(table, columns, shop.named())
    table, columns = told_once(without_sums(table, columns), columns)
    table, columns = less_cancelled(table, columns, reading.decimal_mark)
    table, columns = beside_their_orders(in_lists(table, columns), columns, skus.folded, reading.decimal_mark)
    table = named_where_untold(table, columns, skus.folded, shop.named)
    table, no_goods = without_no_goods(table, columns, skus.folded, reading.no_goods)
    table, parts = without_parts(table, columns, skus.folded)
    table = below_their_orders(table, columns)
    table, columns = one_by_one(*sent_back_below(table, columns, says_sent_back(table, columns)))
    mark = reading.decimal_mark
    table, columns, less = less_what_totals_lack(table, columns, mark, shop.prices, shop.digits, shop.tax)
    cells = CodedCells(table, columns, ORDERS)
    read = _OrderReader(cells, reading, shop, skus).read(progress)
    return replace(read, no_goods=no_goods, parts=parts, less=less, in_utc=tells_utc(table, columns))


class _OrderReader:
    """One entry a row, unless a name says otherwise; `order` is the row's order, in the order they are met."""

    def __init__(self, cells: CodedCells, reading: Reading, shop: OrderShop, skus: MeantSkus) -> None:
        self.cells, self.reading, self.shop, self.skus = cells, reading, shop, skus
        self.mark = reading.decimal_mark
        self._moment = reader_of_moments(cells.table, cells.columns, reading)

    def read(self, progress: Progress) -> OrdersRead:
        self.cells.reject_long_rows()
        self._by = by = ByOrder(self.cells)
        self.order, self.orders, self.first_row, self.names = by.order, by.many, by.first_row, by.names
        self._amounts = OrderAmounts(self.cells, self.mark, self.shop.digits, self.order, self.first_row)
        told = self._order_values(progress)
        self._taxes = OrderTaxes(self.cells, self.reading, self.shop, by, self.skus.names, told["zone"])
        progress(0.5)
        keeps = self._kept(told["status"])
        rates, foreign = self._rates(told["currency"], told["rate"])
        lines = self._lines(rates, told)
        progress(0.8)
        spoilt = self._spoilt(keeps)
        statuses = how_many(told["status"], self.reading.left_out)
        good = keeps & ~spoilt
        factors = {
            "delivery_paid": rates * self._taxes.of_delivery(lines, told["delivery_paid"].numbers(0), rates),
            "delivery_cost": np.full(self.orders, self._taxes.of_carriers_costs),
            "payment_cost": np.ones(self.orders),
            "refunded": rates,
        }
        gone = np.flatnonzero(~keeps).tolist()
        return OrdersRead(
            self._good(good, told, lines, factors),
            self._rejections(keeps, spoilt),
            statuses,
            self._amounts.rounded,
            foreign,
            {self.names[one]: told["status"].values[told["status"].codes[one]] for one in gone},
            self._tells(lines),
        )

    def _tells(self, lines: OrderLines) -> frozenset[str]:
        """What is told of orders and lines, of all that can be."""
        columns = {"number", "placed_at", *(key for key in ALL_OF_ORDERS if self.cells.has(key))}
        told_by = {"cancelled": "status", "returning": "first_order"}
        columns |= {key for by, key in told_by.items() if self.cells.has(by)}
        if (lines.returned > 0).any():
            columns.add("returned")
        amounts = {"unit_price": lines.unit_price, "paid": lines.paid}
        return frozenset(columns | {name for name, told in amounts.items() if (told != NOT_SAID).any()})

    # --- what is told once an order

    def _order_values(self, progress: Progress) -> dict[str, Values[Any]]:
        """Each order column by order; what an order says in two ways is rejected."""
        reads: dict[str, Callable[[str], Any]] = {
            "zone": str,
            "shopper": str,
            "first_order": parse_first_order,
            "returning": partial(parse_first_order, asks_for_returning=True),
            "code": name_if_any,
            "group": name_if_any,
            "tags": split_tags,
            "channel": str,
            "payment": str,
            "option": str,
            "status": str,
            "cancelled": is_cancelled,
            "currency": lambda text: only_one(text, self.shop.currency.upper()),
            "rate": self._parse_rate,
            "delivery_paid": lambda text: self._amounts.money("delivery_paid", text)[0],
            **{key: partial(self._without_sign, key) for key in ("delivery_cost", "payment_cost", "refunded")},
        }
        found = {"date": self._by.once("date", self._moments())}
        for done, (key, parse) in enumerate(reads.items()):
            progress(0.1 + 0.4 * done / len(reads))
            each = [self._told_by_order(key, parse, which) for which in range(len(self.cells.columns.get(key, (0,))))]
            found[key] = reduce(_named_both if key == "code" else added_up, each)
        found["order_discount"], found["order_rate"] = self._discounts("order_discount")
        delivery = less_discount(found["delivery_paid"], *self._discounts("delivery_discount"))
        status = with_cancelled(found["status"], found["cancelled"])
        first = _first_told(found["first_order"], found["returning"])
        return found | {"status": status, "delivery_paid": delivery, "first_order": first}

    def _discounts(self, key: str) -> tuple[Values[int], Values[int]]:
        """What was taken off each order, or its delivery: amounts, and rates in parts of WHOLE_RATE."""
        amounts, rates = list[Values[int]](), list[Values[int]]()
        for which in range(len(self.cells.columns.get(key, (0,)))):
            parse = self._amounts.parse_discount(key, which)
            told = self.cells.read(key, parse, which)
            is_rate = [one for _, _, one in told.values]
            of_rate = np.array([*is_rate, False], dtype=np.bool_)[told.codes]
            sums = Values([one for one, _, _ in told.values], np.where(of_rate, NONE, told.codes))
            amounts.append(self._by.amounts(key, sums, which))
            each = Values(sums.values, np.where(of_rate, told.codes, NONE))
            rates.append(self._by.unless_nothing(key, each, which))
        return reduce(added_up, amounts), reduce(added_up, rates)

    def _told_by_order(self, key: str, parse: Callable[[str], Any], which: int) -> Values[Any]:
        """What one of the columns of a field tells of each order."""
        told = self.cells.read(key, parse, which)
        return (self._by.amounts if key in SUMMED else self._by.once)(key, told, which)

    def _without_sign(self, key: str, text: str) -> int:
        """An amount that may be told with a minus."""
        return self._amounts.money(key, unsigned(text))[0]

    def _parse_rate(self, text: str) -> float:
        rate = float(parse_number(text, self.mark))
        if not 0 < rate <= LARGEST_RATE:
            raise BadCellError(f"“{text}” is no rate.", "Write what one unit of the currency is in your own.")
        return rate if self.reading.rates_of == "theirs" else 1 / rate

    def _moments(self) -> Values[datetime]:
        """Date and time, which may stand in two columns."""
        day = self.cells.text("date")
        if not self.cells.has("time"):
            return self.cells.read("date", lambda text: self._moment(text, ""))
        clock = _whole_hours(self.cells.text("time"))
        both, together = np.unique(day.codes * len(clock.texts) + clock.codes, return_inverse=True)
        texts = [
            f"{day.texts[one // len(clock.texts)]}\0{clock.texts[one % len(clock.texts)]}" for one in both.tolist()
        ]
        texts = ["" if text.startswith("\0") else text for text in texts]
        return self.cells.read_coded("date", Coded(texts, together), lambda text: self._moment(*_day_and_time(text)))

    def _kept(self, status: Values[str]) -> Bools:
        """Which orders are not left out for their status."""
        leaves = [leaves_out(one, self.reading.left_out) for one in status.values]
        return ~np.array([*leaves, False], dtype=np.bool_)[status.codes]

    def _rates(self, currency: Values[str], rate: Values[float]) -> tuple[Floats, tuple[str, ...]]:
        """What one unit of each order's currency is in the shop's own; and the other currencies there are."""
        home, given = self.shop.currency.upper(), dict(self.reading.rates)
        by_table = np.array([1.0 if one == home else given.get(one, np.nan) for one in currency.values] + [1.0])
        told = np.array([*rate.values, np.nan], dtype=np.float64)[rate.codes]
        found = np.where(np.isnan(told) | (by_table[currency.codes] == 1.0), by_table[currency.codes], told)
        for order in np.flatnonzero(np.isnan(found)).tolist():
            message = (
                f"Order {self.names[order]} is in {currency.values[currency.codes[order]]}, and no rate is told."
            )
            mend = (
                f"Say what one {currency.values[currency.codes[order]]} is in {home}, or bring in a column of rates."
            )
            self.cells.reject("currency", message, mend, self.first_row[[order]])
        foreign = tuple(sorted(one for one in currency.values if one != home))
        return np.where(np.isnan(found), 1.0, found), foreign

    # --- lines

    def _lines(self, rates: Floats, told: Mapping[str, Values[Any]]) -> OrderLines:
        """told: by order."""
        cells = self.cells
        told_in = self.skus.told_in
        sku = cells.read_coded(told_in, cells.text("sku"), self.skus.meant_by)
        what = "product" if told_in == "product" else "SKU"
        missing = np.flatnonzero(~cells.filled("sku"))
        cells.reject(told_in, f"The {what} is missing.", f"Write the {what}.", missing)
        quantity = cells.read("quantity", lambda text: parse_count(text, self.mark, least=1, largest=MOST_UNITS))
        mend = "Write how many units were ordered."
        cells.reject("quantity", "The quantity is missing.", mend, np.flatnonzero(~cells.filled("quantity")))
        units = quantity.numbers(1)
        returned = cells.read(
            "returned", lambda text: parse_count(text.lstrip("-−"), self.mark, least=0, largest=MOST_UNITS)
        )
        number = sku.numbers(0)
        factor = self._taxes.of_goods(number, self.reading.taxed)
        in_home = rates[self.order] * factor

        def listed() -> Ints:
            return np.where(in_home == 1.0, self._list_price_of[number], NOT_SAID)

        def beside_prices(headings: Sequence[str]) -> Floats:
            meant = taxed_by(headings)
            same = meant in ("as the shop", self.reading.taxed)
            return np.ones(len(number)) if same else self._taxes.of_goods(number, meant) / factor

        asked, paid = self._amounts.of_lines(
            units, listed, in_home, told["order_discount"], told["order_rate"], beside_prices
        )
        self._check_worth(number, units, asked, sku.known & quantity.known)
        sent_back = np.minimum(returned.numbers(0), units)
        lines = OrderLines(self.skus.names, number, units, asked, paid, sent_back)
        came_back = self._came_back(told["status"]) & self._is_given_back(lines, told["refunded"], rates)
        return replace(lines, returned=np.where(came_back[self.order], units, sent_back))

    def _came_back(self, status: Values[str]) -> Bools:
        """The orders that came back as a whole, as far as their status says so and no column tells what did."""
        if self.cells.has("returned"):
            return np.zeros(self.orders, dtype=np.bool_)
        says = np.array([*map(says_all_came_back, status.values), False], dtype=np.bool_)
        return says[status.codes]

    def _is_given_back(self, lines: OrderLines, refunded: Values[int], rates: Floats) -> Bools:
        """The orders of which all that was paid for goods was given back; all, where no column tells what was."""
        if not self.cells.has("refunded"):
            return np.ones(self.orders, dtype=np.bool_)
        worth = np.bincount(self.order, np.maximum(lines.worth - 1, 0), self.orders)  # a cent may be rounded in each
        return refunded.numbers(0) * rates >= np.maximum(worth, 1)

    @cached_property
    def _list_price_of(self) -> Ints:
        """By SKU."""
        prices = [NOT_SAID if price is None else price for price in self.shop.list_prices.values()]
        return np.array(prices or [0], dtype=np.int64)

    def _check_worth(self, sku: Ints, units: Ints, asked: Ints, known: Bools) -> None:
        """Lines without a price anywhere, and orders worth more than any cart can be."""
        listed = self._list_price_of[sku]
        fine = known & ~self.cells.is_bad
        paid_too = self.cells.has("paid_price") or self.cells.has("line_total")
        unpriced = fine & (listed == NOT_SAID) & (asked == NOT_SAID) & (not paid_too)
        for row in np.flatnonzero(unpriced).tolist():
            message = f"SKU “{self.skus.names[sku[row]]}” has no list price and the row no unit price."
            self.cells.reject("unit_price", message, "Write one of the two.", np.array([row]))
        price = np.where(listed == NOT_SAID, np.maximum(asked, 0), listed)
        worth = np.bincount(
            self.order, weights=np.where(fine, price.astype(np.float64) * units, 0.0), minlength=self.orders
        )
        last_row = np.zeros(self.orders, dtype=np.int64)
        last_row[self.order] = np.arange(len(self.order))  # of several the last one stays
        for order in np.flatnonzero(worth > LARGEST_CART).tolist():
            message = f"Order {self.names[order]} is worth more than any cart can be."
            self.cells.reject("quantity", message, "Check the quantity.", last_row[[order]])

    # --- what comes of it

    def _spoilt(self, keeps: Bools) -> Bools:
        """Orders with a row that is not good, or without a date."""
        spoilt = np.zeros(self.orders, dtype=np.bool_)
        spoilt[self.order[self.cells.is_bad]] = True
        dated = np.zeros(self.orders, dtype=np.bool_)
        dated[self.order[self.cells.filled("date")]] = True
        for order in np.flatnonzero(~dated & ~spoilt & keeps).tolist():
            message = f"Order {self.names[order]} has no date."
            self.cells.reject("date", message, "Write it like 2026-03-01.", self.first_row[[order]])
        return spoilt | ~dated

    def _rejections(self, keeps: Bools, spoilt: Bools) -> list[Rejection]:
        """All that is wrong, and the good rows of orders that have one which is not; none of orders left out."""
        numbers, is_bad = self.cells.numbers, self.cells.is_bad
        left_out = set(numbers[~keeps[self.order]].tolist())
        found = [one for one in self.cells.rejected if one.row not in left_out]
        bad = np.flatnonzero(is_bad)
        orders, first = np.unique(self.order[bad], return_index=True)
        at_fault = np.full(self.orders, NONE)
        at_fault[orders] = numbers[bad[first]]
        for row in np.flatnonzero(spoilt[self.order] & keeps[self.order] & ~is_bad).tolist():
            order = self.order[row]
            name, cause = self.names[order], int(at_fault[order])
            message = f"Order {name} is left out whole: row {cause} is not good."
            found.append(Rejection(int(numbers[row]), "Order number", message, f"Mend row {cause}.", cause))
        return sorted(found, key=lambda one: one.row)

    def _good(
        self, good: Bools, told: dict[str, Values[Any]], lines: OrderLines, factors: Mapping[str, Floats]
    ) -> ManyOrders:
        """factors: what amounts told once an order are multiplied by, by order."""
        orders = np.flatnonzero(good)
        rows = np.flatnonzero(good[self.order])
        rows = rows[np.argsort(self.order[rows], kind="stable")]

        def by_order(key: str, otherwise: object) -> list[Any]:
            values = [*told[key].values, otherwise]
            return [values[code] for code in told[key].codes[orders].tolist()]

        def money(key: str) -> list[int | None]:
            amounts, rate = by_order(key, None), factors[key][orders].tolist()
            return [None if one is None else round(one * of) for one, of in zip(amounts, rate, strict=True)]

        of_order: dict[str, list[Any]] = {
            "number": [self.names[order] for order in orders.tolist()],
            "placed_at": by_order("date", None),
            "first_order": by_order("first_order", None),
            "tags": by_order("tags", ()),
            "delivery_paid": money("delivery_paid"),
            "delivery_cost": money("delivery_cost"),
            "payment_cost": money("payment_cost"),
            "refunded": [one or 0 for one in money("refunded")],
        }
        plain = ("zone", "shopper", "code", "group", "channel", "payment", "currency", "option", "status")
        of_order |= {key: by_order(key, "") for key in plain}
        first = np.concatenate((np.searchsorted(self.order[rows], orders), [len(rows)]))
        some = (column[rows] for column in (lines.sku, lines.quantity, lines.unit_price, lines.paid, lines.returned))
        return ManyOrders(of_order, first.astype(np.int64), OrderLines(lines.skus, *some))


def _first_told(one: Values[Any], other: Values[Any]) -> Values[Any]:
    """What one column tells, and another where that tells nothing."""
    behind = np.where(other.known, len(one.values) + other.codes, NONE)
    return Values([*one.values, *other.values], np.where(one.known, one.codes, behind))


def _named_both(one: Values[str], other: Values[str]) -> Values[str]:
    """Names of orders told in two columns, parted by a comma where an order has two."""
    here, there = [*one.values, ""], [*other.values, ""]
    both, code = np.unique(np.stack([one.codes, other.codes]), axis=1, return_inverse=True)
    pairs = ((here[mine], there[theirs]) for mine, theirs in both.T.tolist())
    texts = [", ".join(dict.fromkeys(filter(None, pair))) for pair in pairs]
    return Values(texts, np.where(one.known | other.known, code, NONE))


_HOUR = re.compile(r"\d{1,2}")


def _whole_hours(clock: Coded) -> Coded:
    """A column of times of day, and of whole hours where all its cells are one or two digits: *9* is *9:00* there."""
    if not all(_HOUR.fullmatch(text.strip()) for text in clock.used if text.strip()):
        return clock
    return Coded([f"{text.strip()}:00" if text.strip() else "" for text in clock.texts], clock.codes)


def _day_and_time(text: str) -> tuple[str, str]:
    day, time = text.split("\0")
    return day, time
