"""What the amounts in an order file show of its columns, as far as its first rows tell it."""

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.headings import is_of_rates
from yellow_abacus.files.order_shapes import first_row_of_order, tells_a_list
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import DecimalMark, are_rates, are_shares, is_currency_sign, number_if_any

ROWS_LOOKED_AT = 5_000
FEWEST, MANY = 3, 10
"""So many lines, or orders of several lines, tell what a column is."""
LOOKED_AT = 20
"""Different cells of a column that may tell what an order comes to."""
NEARLY_ALL, MOST, MOSTLY, HALF, A_FIFTH = 0.98, 0.9, 0.7, 0.5, 0.2
A_CENT, A_LITTLE, A_HUNDREDTH = 0.011, 1.005, 0.01
NEAR = 0.3
"""As a factor's log: amounts further than that from a list price tell nothing."""
NEAR_ONE = 0.05
"""As a factor's log: a rate so near to 1 does not tell which way it is told."""
FINE = 2.0
"""Amounts from which on a ratio can be told."""
WHOLE_PERCENT = 100
MOST_RATES, A_RATE = 3, 0.005
MORE_THAN_ASKED = 0.1
"""Of the lines: where more of them than that were paid more than was asked, the amount is not the line's."""


class AmountsTold:
    """The amounts of a file's first rows, by row; not a number where a cell is empty or cannot be read."""

    def __init__(self, table: Table, columns: Columns, mark: DecimalMark, most_rows: int = ROWS_LOOKED_AT) -> None:
        rows = table.rows.some(np.arange(min(len(table.rows), most_rows)))
        self._table, self._columns, self._mark = replace(table, rows=rows), columns, mark
        self._known: dict[int, Floats] = {}

    def taken_as(self, columns: Columns) -> "AmountsTold":
        """The same, of columns taken otherwise."""
        other = AmountsTold(self._table, columns, self._mark, len(self._table.rows))
        other._known = self._known
        return other

    def rates_are_ours(self, prices: Mapping[str, float]) -> bool:
        """Whether rates are what one unit of the shop's currency is in the order's: prices divided by them are nearer
        to list prices than multiplied. prices: as in `guess_columns`."""
        if not {"sku", "rate"} <= self._columns.keys():
            return False
        each = self._of("unit_price") if "unit_price" in self._columns else self._paid / self._of("quantity")
        rate, listed = self._of("rate"), self._listed(prices)
        told = (rate > 0) & (each > 0) & (listed > 0)
        above, rates = np.log(each[told] / listed[told]), np.log(rate[told])
        tells = np.abs(rates) > NEAR_ONE
        if tells.sum() < FEWEST:
            return False
        theirs, ours = (float(np.median(np.abs(one[tells]))) for one in (above + rates, above - rates))
        return ours < theirs * HALF

    def are_taxed_otherwise(
        self, prices: Mapping[str, float], taxed: Mapping[str, float], cent: float
    ) -> bool | None:
        """Whether prices are told without tax where list prices are with it, or the other way round: nearly all are,
        to the cent, what list prices come to so, before what came off. None where they do not tell.

        prices: as in `guess_columns`. taxed: by SKU, folded, in times its list price what that comes to taxed the
        other way; one that is a whole percentage of it may be a discount as well, and tells nothing.
        """
        if "sku" not in self._columns:
            return None
        each, listed, times = self._each_before, self._listed(prices), self._by_sku(taxed)
        told = (each > 0) & (np.abs(listed * times - listed) > FEWEST * cent)
        if told.sum() < FEWEST:
            return None
        is_listed, is_other = (np.abs(each - one)[told] <= A_LITTLE * cent for one in (listed, listed * times))
        is_percent = np.abs(times * 100 - np.rint(times * 100))[told] < A_RATE
        if (is_other & ~is_percent).mean() >= MOST:
            return True
        return False if is_listed.mean() >= HALF and not is_other.mean() >= 1 - MOST else None

    @cached_property
    def _each_before(self) -> Floats:
        """What one unit of each line came to before what came off; not a number where that is not told."""
        paid = self._paid
        if not np.isfinite(paid).any():
            return self._of("unit_price")
        off = self.off_lines
        if "line_discount" in self._columns and self._is_rate:
            paid, off = np.where(off > 0, np.nan, paid), np.zeros(len(off))
        each: Floats = _ratio(paid + off, self._of("quantity"))
        return each

    def is_of_all_units(self, key: str, prices: Mapping[str, float]) -> bool:
        """Whether what is taken for the amount of a unit is that of the line. prices: as in `guess_columns`."""
        return self._power_of_units(key, prices) == 1

    def is_of_one_unit(self, key: str, prices: Mapping[str, float]) -> bool:
        """Whether what is taken for the amount of a line is that of a unit."""
        return self._power_of_units(key, prices) == 0

    def _power_of_units(self, key: str, prices: Mapping[str, float]) -> int | None:
        """1 where amounts rise with the units of a line, 0 where they do not; None where they do not tell. They are
        held against list prices, times what lines of one unit are above those."""
        if not {"sku", "quantity"} <= self._columns.keys():
            return None
        amount, units, listed = self._of(key), self._of("quantity"), self._listed(prices)
        told = (amount > 0) & (listed > 0) & (units >= 1)
        above, many = np.log(amount[told] / listed[told]), np.log(units[told])
        alone, several = many == 0, many > 0
        usual = float(np.median(above[alone])) if alone.sum() >= FEWEST else 0.0
        far = np.abs(above[several] - usual - np.outer((0, 1), many[several]))
        nearest = far.argmin(axis=0)[far.min(axis=0) < NEAR]
        for power in (0, 1):
            if len(nearest) >= max(FEWEST, several.sum() * HALF) and (nearest == power).mean() >= MOST:
                return power
        return None

    def is_plainly_the_lines(self, at: int, prices: Mapping[str, float]) -> bool:
        """Whether a column tells what lines came to: seldom more than was asked for them, and mostly just that; or
        where orders of several lines show that it is not theirs, less by anything but the tax of a SKU. prices: as in
        `guess_columns`, where the file does not tell what was asked."""
        total, asked = self.numbers(at), self.asked
        if not np.isfinite(asked).any() and {"sku", "quantity"} <= self._columns.keys():
            asked = self.lines_as_listed(prices)
        told = (total > 0) & (asked > 0)
        if told.sum() < FEWEST or told.mean() < HALF:
            return False
        more = (total - asked)[told]
        if (more <= A_CENT).mean() < NEARLY_ALL:
            return False
        if (np.abs(more) <= A_CENT).mean() >= HALF:
            return True
        several = self.orders[2] if "number" in self._columns else np.zeros(len(told), dtype=np.bool_)
        return (told & several).sum() >= FEWEST and not self._is_by_sku(_ratio(total, asked), told, MOST)

    def total_is_the_lines(self) -> bool:
        """Whether what is taken for the line's total can be: it is seldom more than was asked, unless by the tax of
        its SKU, and is what was asked less the discount."""
        total, asked, off = self._of("line_total"), self.asked, self.off_lines
        told = (total > 0) & (asked > 0)
        if not told.any():
            return True
        is_more = (total > asked * A_LITTLE + A_CENT)[told]
        if is_more.mean() > MORE_THAN_ASKED and not self._is_by_sku(_ratio(total, asked), told & (asked >= FINE)):
            return False
        taken_off = told & (off > A_CENT)
        is_before = np.abs(total - asked)[taken_off] <= A_CENT
        return not (taken_off.sum() >= FEWEST and is_before.mean() >= MOST)

    def is_less_what_came_back(self) -> bool:
        """Whether what is taken for the line's total is what was left of it once units were sent back."""
        if not {"returned", "quantity"} <= self._columns.keys():
            return False
        asked = self._of("line_asked") if "line_asked" in self._columns else self.asked
        paid, total, units, back = (
            asked - self.off_lines,
            self._of("line_total"),
            self._of("quantity"),
            self._of("returned"),
        )
        left = paid * (units - np.abs(back)) / units
        some = (np.abs(back) > 0) & np.isfinite(total) & np.isfinite(left)
        if some.sum() < FEWEST:
            return False
        is_left, is_paid = ((np.abs(total - one) <= A_CENT)[some].mean() for one in (left, paid))
        return bool(is_left >= MOST and is_paid < HALF)

    @cached_property
    def asked(self) -> Floats:
        """For all units of each line; not a number where that is not told."""
        return self._of("unit_price" if "unit_price" in self._columns else "paid_price") * self._of("quantity")

    def _is_by_sku(self, ratio: Floats, some: Bools, least: float = MOSTLY) -> bool:
        """Whether a ratio is the same in most of some lines of a SKU, as tax is, and less in the others. least: the
        share of lines that are most."""
        rows = np.flatnonzero(some)
        if "sku" not in self._columns or not len(rows):
            return False
        by_sku = rows[np.lexsort((ratio[rows], self._column("sku").codes[rows]))]
        sku, begins, many = np.unique(self._column("sku").codes[by_sku], return_index=True, return_counts=True)
        middle = np.repeat(ratio[by_sku[begins + many // 2]], many)
        above = ratio[by_sku] / middle - 1
        mostly = (np.abs(above) <= A_HUNDREDTH).mean() >= least and (above <= A_HUNDREDTH).mean() >= MOST
        return bool(len(sku) * 2 <= len(rows) and mostly)

    def discount_is_the_orders(self) -> bool:
        """Whether what is taken for a discount on the line is one on the order.

        It is where it is told beside several lines in one cell, is alike on all lines of orders whose lines come to
        different amounts, or stands on the first line of each order alone and is no rate of it; a rate is where it
        stands there alone in many orders.
        """
        if self._tells_several_a_row:
            return True
        if "number" not in self._columns:
            return False
        order, first, several = self.orders
        there, is_later = several & (self.off_lines > 0), np.arange(len(order)) != first[order]
        if self._is_rate:
            is_told = self._column("line_discount").filled & several
            return bool(there.sum() >= MANY and not (is_told & is_later).any())
        orders = np.unique(order[there])
        if not len(orders):
            return False
        if not (there & is_later).any():
            is_told = self._column("line_discount").filled
            alone = len(orders) >= FEWEST or not (several & is_later & is_told).any()
            return alone and not self._is_at_rates_of_lines(there)
        alike = ~np.isin(orders, self._orders_of_unlike(self.off_lines))
        worth_unlike = np.isin(orders, self._orders_of_unlike(self._worth))
        if len(orders) < FEWEST:
            return bool(alike.all() and worth_unlike.any()) and not self._may_be_off_lines(there)
        return bool(alike.mean() >= MOST and worth_unlike.mean() > HALF)

    def _may_be_off_lines(self, some: Bools) -> bool:
        """Whether no discount on some lines is more than these are worth, and they are no whole percentages of orders
        rather than of lines."""
        if (self.off_lines > self._worth + A_CENT)[some].any():
            return False
        of_line, of_order = self._whole_percents(some)
        return of_line == 1 or of_order < 1

    def _is_at_rates_of_lines(self, some: Bools) -> bool:
        """Whether discounts on some lines are at a few rates of these, or more often at whole percentages of them
        than of their orders."""
        some = some & (self._worth >= FINE)
        if _few(_ratio(self.off_lines, self._worth)[some]):
            return True
        of_line, of_order = self._whole_percents(some)
        return of_line > of_order

    def _whole_percents(self, some: Bools) -> tuple[float, float]:
        """The shares of discounts on some lines that are whole percentages of these, and of their orders."""
        of_order = self.by_order(self._worth)[self.orders[0]]
        return _whole_percent(self.off_lines, self._worth, some), _whole_percent(self.off_lines, of_order, some)

    def tells_more_off(self, at: int) -> bool:
        """Whether a column tells what came off lines besides the discount taken: what was asked less both is what was
        paid; where nothing tells what was asked, more lines of a SKU cost alike before both than before the one."""
        more, paid = self.taken_off(at), self._paid
        some = (more > A_CENT) & (paid > 0)
        if some.sum() < FEWEST or self._is_rate or is_of_rates(self._table.header[at]):
            return False
        told = some & (self.asked > 0)
        if told.sum() >= FEWEST:
            return bool((np.abs(self.asked - self.off_lines - more - paid) <= A_CENT)[told].mean() >= MOST)
        units = self._of("quantity")
        alike, with_more = (self._alike((paid + off) / units) for off in (self.off_lines, self.off_lines + more))
        return with_more > alike

    @cached_property
    def _paid(self) -> Floats:
        """For all units of each line; not a number where that is not told."""
        total = self._of("line_total")
        each: Floats = self._of("paid_price") * self._of("quantity")
        return np.where(np.isnan(total), each, total)

    def is_off_the_price(self, at: int, prices: Mapping[str, float]) -> bool:
        """Whether a column tells what came off lines after the price they tell: that is mostly the list price where
        something came off, and never less than what did. prices: as in `guess_columns`."""
        off = self.taken_off(at)
        some = off > A_CENT
        if is_of_rates(self._table.header[at]) or not self._is_mostly_at_list_prices(some, prices):
            return False
        told = some & (self._of("unit_price") > 0) & (self._listed(prices) > 0)
        return not (off > self._of("unit_price") * self._of("quantity") + A_CENT)[told].any()

    def is_rate_off_the_price(self, at: int, prices: Mapping[str, float]) -> bool:
        """The same, of a column of rates."""
        rate = self.taken_off(at)
        if not is_of_rates(self._table.header[at]) or (rate > WHOLE_PERCENT).any():
            return False
        return self._is_mostly_at_list_prices(rate > 0, prices)

    def _is_mostly_at_list_prices(self, some: Bools, prices: Mapping[str, float]) -> bool:
        if not {"sku", "quantity", "unit_price"} <= self._columns.keys():
            return False
        price, listed = self._of("unit_price"), self._listed(prices)
        told = some & (price > 0) & (listed > 0)
        return bool(told.sum() >= FEWEST and (np.abs(price - listed) <= A_CENT)[told].mean() >= MOSTLY)

    def is_beside_the_discounts(self, at: int) -> bool:
        """Whether a column takes something off orders that the discounts taken take nothing off, and nothing off some
        that they do: it is no sum of them, and no part."""
        if "number" not in self._columns or ("line_discount" in self._columns and self._is_rate):
            return False
        taken, more = (self.by_order(off) > A_CENT for off in (self.off_lines + self.off_order, self.taken_off(at)))
        return bool((more & ~taken).sum() >= FEWEST and (taken & ~more).sum() >= FEWEST)

    def discount_told_twice(self) -> str:
        """Which column to pass over where the discount on the order is the sum of those on its lines, and of others:
        that of the lines if there are others, else that on the order. Empty where it is another. What lines were paid
        may tell their discount too."""
        off, key = self.off_lines, "line_discount"
        if key not in self._columns:
            off = np.maximum(np.nan_to_num(self.asked - self._paid), 0.0)
            key = "line_total" if "line_total" in self._columns else "paid_price"
        elif self._is_rate:
            return ""
        if not {"number", key} <= self._columns.keys():
            return ""
        lines, order = self.by_order(off), self.first_of_order(self.off_order)
        slack = A_CENT * np.bincount(self.orders[0])  # each line may be rounded
        some, more = lines > A_CENT, order - lines
        if some.sum() < FEWEST or (more >= -slack)[some].mean() < NEARLY_ALL:
            return ""
        if (np.abs(more) <= slack)[some].mean() < A_FIFTH:
            return ""
        return key if (more > slack).sum() >= FEWEST else "order_discount"

    def is_reduced_from(self, at: int, other: int) -> bool:
        """Whether a column of prices is that of another, in some lines less, and never more."""
        price, before = self.numbers(at), self.numbers(other)
        told = (price > 0) & (before > 0)
        less = told & (before - price > A_CENT)
        if told.sum() < FEWEST or not less.any() or (price - before > A_CENT)[told].mean() > 1 - NEARLY_ALL:
            return False
        return not (less.sum() == told.sum() and self._is_by_sku(_ratio(price, before), told))

    def are_mostly_alike(self, one: int, other: int) -> bool:
        """Whether at least half of the amounts of two columns are the same."""
        apart = np.abs(self.numbers(one) - self.numbers(other))
        told = np.isfinite(apart)
        return bool(told.sum() >= FEWEST and (apart <= A_CENT)[told].mean() >= HALF)

    def is_mostly_listed(self, at: int, prices: Mapping[str, float]) -> bool:
        """Whether most prices of a column are list prices. prices: as in `guess_columns`."""
        if "sku" not in self._columns:
            return False
        price, listed = self.numbers(at), self._listed(prices)
        told = (price > 0) & (listed > 0)
        return bool(told.sum() >= FEWEST and (np.abs(price - listed) <= A_CENT)[told].mean() >= MOSTLY)

    def _alike(self, price: Floats) -> int:
        """How many lines have the price that most lines of their SKU have."""
        rows = np.flatnonzero(np.isfinite(price))
        if "sku" not in self._columns or not len(rows):
            return 0
        sku, cents = self._column("sku").codes[rows], np.rint(price[rows] * 100).astype(np.int64)
        both, many = np.unique(np.stack((sku, cents)), axis=1, return_counts=True)
        most = np.zeros(int(sku.max()) + 1, dtype=np.int64)
        np.maximum.at(most, both[0], many)
        return int(most.sum())

    def _orders_of_unlike(self, amount: Floats) -> NDArray[np.int64]:
        """The orders whose lines do not all have the same amount."""
        order, first, _ = self.orders
        return np.unique(order[np.abs(amount - amount[first][order]) > A_CENT / 2])

    def is_taken_off_already(self) -> bool:
        """Whether a discount on the order is in what its lines came to: orders come to the sum of their lines, with
        delivery or without, and none to that less the discount."""
        if "number" not in self._columns or "line_total" not in self._columns:
            return False
        first, lines = self.orders[1], self.by_order(np.nan_to_num(self._of("line_total")))
        off, delivery = (np.nan_to_num(self._of(key))[first] for key in ("order_discount", "delivery_paid"))
        some = np.abs(off) > A_CENT
        if some.sum() < FEWEST:
            return False
        free = free_columns(self._table.header, self._columns)
        every = [self.numbers(at)[first] for at in free if self.tells_numbers(at)]

        def is_told(amount: Floats) -> bool:
            wanted = (amount, amount + delivery)
            return any((np.abs(one - want)[some] <= A_CENT).mean() >= MOST for one in every for want in wanted)

        return is_told(lines) and not is_told(lines - np.abs(off))

    def _listed(self, prices: Mapping[str, float]) -> Floats:
        """The list price of each line's SKU; not a number where it has none."""
        return self._by_sku(prices)

    def lines_as_listed(self, prices: Mapping[str, float]) -> Floats:
        """What lines come to at list prices; not a number where there is none."""
        return self._listed(prices) * self._of("quantity")

    def _by_sku(self, told: Mapping[str, float]) -> Floats:
        """What is told of each line's SKU, folded; not a number where that is nothing."""
        sku = self._column("sku")
        return np.array([told.get(folded(text.strip()), np.nan) for text in sku.texts], dtype=np.float64)[sku.codes]

    @cached_property
    def orders(self) -> tuple[NDArray[np.int64], NDArray[np.int64], Bools]:
        """The order of each row; the first row of each order; and whether each row's order has several."""
        column = self._column("number")
        number = column.codes[first_row_of_order(column)]
        _, first, order, many = np.unique(number, return_index=True, return_inverse=True, return_counts=True)
        return order, first, many[order] > 1

    def by_order(self, amount: Floats) -> Floats:
        """The sum over the rows of each order."""
        found: Floats = np.bincount(self.orders[0], amount).astype(np.float64)
        return found

    def is_unlike_the_first(self, amount: Floats) -> Bools:
        """Whether a line tells another amount than the first of its order."""
        order, first, _ = self.orders
        result: Bools = np.abs(amount - amount[first][order]) > A_CENT
        return result

    def first_of_order(self, amount: Floats) -> Floats:
        """That of each order's first row."""
        return amount[self.orders[1]]

    @property
    def _tells_several_a_row(self) -> bool:
        """Whether rows tell several lines, and one discount for them."""
        if "items" in self._columns and "sku" not in self._columns:
            return True
        if "quantity" not in self._columns:
            return False
        units, off = self._column("quantity"), self._column("line_discount")
        return any(map(tells_a_list, units.used)) and not any(map(tells_a_list, off.used))

    @property
    def _is_rate(self) -> bool:
        """Whether discounts on lines are told as rates."""
        return self._tells_rates(self._columns["line_discount"][0])

    def _tells_rates(self, at: int) -> bool:
        return are_rates(self._table.header[at], self._table.rows.columns[at].used)

    @cached_property
    def _worth(self) -> Floats:
        """What lines were asked; 0 where that is not told."""
        worth: Floats = np.nan_to_num(self._of("unit_price") * self._of("quantity"))
        return worth

    @cached_property
    def off_lines(self) -> Floats:
        return self._all_taken_off("line_discount", self.taken_off)

    @cached_property
    def off_order(self) -> Floats:
        """As each row tells it."""
        return self._all_taken_off("order_discount", self._off_order_in)

    def _all_taken_off(self, key: str, taken_off: Callable[[int], Floats]) -> Floats:
        told = self._columns.get(key, ())
        off: Floats = sum(map(taken_off, told), start=np.zeros(len(self._table.rows)))
        return off

    def _off_order_in(self, at: int) -> Floats:
        """The same, where the column tells rates of what the order was asked, too."""
        rate = self.rate_in(at)
        if "number" not in self._columns or rate is None:
            return self.taken_off(at)
        return np.where(np.isnan(rate), self.taken_off(at), rate * self.by_order(self._worth)[self.orders[0]])

    def rate_in(self, at: int) -> Floats | None:
        """The rates that a column of discounts tells, 1.0 = 100 %; not a number where it tells an amount; None where
        it tells nothing else."""
        if not self._tells_rates(at):
            return None
        told, heading, column = self.taken_off(at), self._table.header[at], self._table.rows.columns[at]
        if are_shares(heading, column.used):
            return told
        signed = np.array(["%" in text for text in column.texts], dtype=np.bool_)[column.codes]
        return np.where(signed | is_of_rates(heading), told / 100, np.nan)

    def taken_off(self, at: int) -> Floats:
        """What a column of discounts says, with a minus or without; 0 where it says nothing."""
        off: Floats = np.nan_to_num(np.abs(self.numbers(at)))
        return off

    def _column(self, key: str) -> Coded:
        return self._table.rows.columns[self._columns[key][0]]

    def _of(self, key: str) -> Floats:
        return self.numbers(self._columns[key][0]) if key in self._columns else np.full(len(self._table.rows), np.nan)

    def tells_numbers(self, at: int) -> bool:
        texts = self._table.rows.columns[at].used[:LOOKED_AT]
        return not any(np.isnan(self._number(text)) for text in texts if text.strip())

    def numbers(self, at: int) -> Floats:
        """Those of a column; each is read once."""
        if at not in self._known:
            self._known[at] = numbers_in(self._table.rows.columns[at], self._number)
        return self._known[at]

    def _number(self, text: str) -> float:
        return amount_in(text.strip().rstrip("%"), self._mark)


def numbers_in(column: Coded, parse: Callable[[str], float]) -> Floats:
    """Those of each row, each text read once."""
    told = np.full(len(column.texts), np.nan)
    told[column.is_used] = [parse(text) for text in column.used]
    return told[column.codes]


def amount_in(text: str, mark: DecimalMark) -> float:
    """A number, with a currency or without; not a number where there is none."""
    found = number_if_any(text.strip(), mark, is_currency_sign)
    return np.nan if found is None else float(found)


def _ratio(one: Floats, other: Floats) -> Floats:
    found: Floats = np.divide(one, other, out=np.full(len(one), np.nan), where=other > 0)
    return found


def _whole_percent(off: Floats, worth: Floats, some: Bools) -> float:
    """The share of some amounts that are a whole percentage of what they came off, but for the cent."""
    rate = np.rint(100 * _ratio(off, worth)) / 100
    return float((np.abs(rate * worth - off) <= A_CENT)[some].mean()) if some.any() else 0.0


def _few(rates: Floats) -> bool:
    """Whether rates are a few, each told more than once."""
    _, many = np.unique(np.rint(rates / A_RATE), return_counts=True)
    most = np.sort(many)[-MOST_RATES:]
    return 0 < 2 * len(most) <= len(rates) and bool(most.sum() >= MOST * len(rates))
