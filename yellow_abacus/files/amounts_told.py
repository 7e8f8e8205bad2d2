"""What the amounts in an order file show of its columns, as far as its first rows tell it."""

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.headings import is_of_rates
from yellow_abacus.files.order_shapes import first_row_of_order, items_in, tells_all_in_one_cell
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import DecimalMark, are_rates, are_shares, is_currency_sign, number_if_any

ROWS_LOOKED_AT = 5_000
FEWEST = 3
"""So many lines, or orders, tell what a column is."""
LOOKED_AT = 20
"""Different cells of a column that may tell what an order comes to."""
NEARLY_ALL, MOST, MOSTLY, HALF, A_FIFTH = 0.98, 0.9, 0.7, 0.5, 0.2
A_CENT, A_LITTLE, A_HUNDREDTH, A_RATE = 0.011, 1.005, 0.01, 0.005
NEAR = 0.3
"""As a factor's log: amounts further than that from a list price tell nothing."""
NEAR_ONE = 0.05
"""As a factor's log: a rate so near to 1 does not tell which way it is told."""
FINE = 2.0
"""Amounts from which on a ratio can be told."""
MORE_THAN_ASKED = 0.1
"""Of the lines: where more of them than that were paid more than was asked, the amount is not the line's."""


class AmountsTold:
    """The amounts of a file's first rows, by row; not a number where a cell is empty or cannot be read."""

    def __init__(self, table: Table, columns: Columns, mark: DecimalMark, most_rows: int = ROWS_LOOKED_AT) -> None:
        rows = table.rows.some(np.arange(min(len(table.rows), most_rows)))
        self.table, self.columns, self._mark = replace(table, rows=rows), columns, mark
        self._known: dict[int, Floats] = {}

    def taken_as(self, columns: Columns) -> "AmountsTold":
        """The same, of columns taken otherwise."""
        other = AmountsTold(self.table, columns, self._mark, len(self.table.rows))
        other._known = self._known
        return other

    def rates_are_ours(self, prices: Mapping[str, float]) -> bool:
        """Whether rates are what one unit of the shop's currency is in the order's: prices divided by them are nearer
        to list prices than multiplied. prices: as in `guess_columns`."""
        if not {"sku", "rate"} <= self.columns.keys():
            return False
        each = self.of("unit_price") if "unit_price" in self.columns else self.paid / self.of("quantity")
        rate, listed = self.of("rate"), self.listed(prices)
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
        """Whether prices are told without tax where list prices are with it, or the other way round: most are, to the
        cent, what list prices come to so, before what came off, and next to none is one. None where they do not tell.

        prices: as in `guess_columns`. taxed: by SKU, folded, in times its list price what that comes to taxed the
        other way; one that is a whole percentage less may be a discount as well, and tells nothing by itself.
        """
        if "sku" not in self.columns:
            return None
        each, listed, times = self._each_before, self.listed(prices), self.by_sku(taxed)
        told = (each > 0) & (np.abs(listed * times - listed) > FEWEST * cent)
        if told.sum() < FEWEST:
            return None
        is_listed, is_other = (np.abs(each - one)[told] <= A_LITTLE * cent for one in (listed, listed * times))
        is_percent = (times < 1)[told] & (np.abs(times * 100 - np.rint(times * 100))[told] < A_RATE)
        tells = ~is_percent
        if tells.sum() >= FEWEST and is_other[tells].mean() >= HALF and is_listed.mean() <= 1 - MOST:
            return True
        return False if is_listed.mean() >= HALF and not is_other.mean() >= 1 - MOST else None

    @cached_property
    def _each_before(self) -> Floats:
        """What one unit of each line came to before what came off; not a number where that is not told."""
        paid, asked = self.paid, self.of("unit_price") * self.of("quantity")
        told = np.isfinite(paid)
        if not told.any() or (np.abs(paid - asked) <= A_CENT)[told].mean() >= HALF:
            return self.of("unit_price")
        off = self.off_lines
        if "line_discount" in self.columns and self.are_rates_off_lines:
            paid, off = np.where(off > 0, np.nan, paid), np.zeros(len(off))
        each: Floats = ratio(paid + off, self.of("quantity"))
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
        if not {"sku", "quantity"} <= self.columns.keys():
            return None
        amount, units, listed = self.of(key), self.of("quantity"), self.listed(prices)
        told = (amount > 0) & (listed > 0) & (units >= 1)
        above, many = np.log(amount[told] / listed[told]), np.log(units[told])
        alone, several = many == 0, many > 0
        usual = float(np.median(above[alone])) if alone.sum() >= FEWEST else 0.0
        if alone.any() and (np.abs(above[alone] - usual) < NEAR).mean() < MOSTLY:
            return None
        far = np.abs(above[several] - usual - np.outer((0, 1), many[several]))
        nearest = far.argmin(axis=0)[far.min(axis=0) < NEAR]
        for power in (0, 1):
            if len(nearest) >= max(FEWEST, several.sum() * HALF) and (nearest == power).mean() >= MOST:
                return power
        return None

    def is_plainly_the_lines(self, at: int, prices: Mapping[str, float], *, is_headed: bool) -> bool:
        """Whether a column tells what lines came to: seldom more than was asked for them, and mostly just that; or
        where its heading says so and orders of several lines show that it is not theirs, less by anything but the tax
        of a SKU. prices: as in `guess_columns`, where the file does not tell what was asked."""
        total, asked = self.numbers(at), self.asked
        if not np.isfinite(asked).any() and {"sku", "quantity"} <= self.columns.keys():
            asked = self.lines_as_listed(prices)
        told = (total > 0) & (asked > 0)
        if told.sum() < FEWEST or told.mean() < HALF:
            return False
        more = (total - asked)[told]
        if (more <= A_CENT).mean() < NEARLY_ALL:
            return False
        if (np.abs(more) <= A_CENT).mean() >= HALF:
            return True
        several = self.orders[2] if is_headed and "number" in self.columns else np.zeros(len(told), dtype=np.bool_)
        return (told & several).sum() >= FEWEST and not self._is_by_sku(ratio(total, asked), told, MOST)

    def total_is_the_lines(self) -> bool:
        """Whether what is taken for the line's total can be: it is seldom more than was asked, unless by the tax of
        its SKU, and is what was asked less the discount."""
        total, asked, off = self.of("line_total"), self.asked, self.off_lines
        told = (total > 0) & (asked > 0)
        if not told.any():
            return True
        is_more = (total > asked * A_LITTLE + A_CENT)[told]
        if is_more.mean() > MORE_THAN_ASKED and not self._is_by_sku(ratio(total, asked), told & (asked >= FINE)):
            return False
        taken_off = told & (off > A_CENT)
        is_before = np.abs(total - asked)[taken_off] <= A_CENT
        return not (taken_off.sum() >= FEWEST and is_before.mean() >= MOST)

    def is_less_what_came_back(self) -> bool:
        """Whether what is taken for the line's total is what was left of it once units were sent back."""
        if not {"returned", "quantity"} <= self.columns.keys():
            return False
        asked = self.of("line_asked") if "line_asked" in self.columns else self.asked
        paid, total, units, back = (
            asked - self.off_lines,
            self.of("line_total"),
            self.of("quantity"),
            self.of("returned"),
        )
        left = paid * (units - np.abs(back)) / units
        some = (np.abs(back) > 0) & np.isfinite(total) & np.isfinite(left)
        if some.sum() < FEWEST:
            return False
        is_left, is_paid = ((np.abs(total - one) <= A_CENT)[some].mean() for one in (left, paid))
        return bool(is_left >= MOST and is_paid < HALF)

    def returns_more_than_there_was(self) -> bool:
        """Whether what is taken for the units sent back is more than some line had."""
        return bool((np.abs(self.of("returned")) > self.of("quantity")).any())

    @cached_property
    def asked(self) -> Floats:
        """For all units of each line; not a number where that is not told."""
        return self.of("unit_price" if "unit_price" in self.columns else "paid_price") * self.of("quantity")

    def _is_by_sku(self, times: Floats, some: Bools, least: float = MOSTLY) -> bool:
        """Whether a ratio is the same in most of some lines of a SKU, as tax is, and less in the others. least: the
        share of lines that are most."""
        rows = np.flatnonzero(some)
        if "sku" not in self.columns or not len(rows):
            return False
        by_sku = rows[np.lexsort((times[rows], self.column("sku").codes[rows]))]
        sku, begins, many = np.unique(self.column("sku").codes[by_sku], return_index=True, return_counts=True)
        middle = np.repeat(times[by_sku[begins + many // 2]], many)
        above = times[by_sku] / middle - 1
        mostly = (np.abs(above) <= A_HUNDREDTH).mean() >= least and (above <= A_HUNDREDTH).mean() >= MOST
        return bool(len(sku) * 2 <= len(rows) and mostly)

    @cached_property
    def paid(self) -> Floats:
        """For all units of each line; not a number where that is not told."""
        total = self.of("line_total")
        each: Floats = self.of("paid_price") * self.of("quantity")
        return np.where(np.isnan(total), each, total)

    def is_reduced_from(self, at: int, other: int) -> bool:
        """Whether a column of prices is that of another, in some lines less, and never more."""
        price, before = self.numbers(at), self.numbers(other)
        told = (price > 0) & (before > 0)
        less = told & (before - price > A_CENT)
        if told.sum() < FEWEST or not less.any() or (price - before > A_CENT)[told].mean() > 1 - NEARLY_ALL:
            return False
        return not (less.sum() == told.sum() and self._is_by_sku(ratio(price, before), told))

    def are_mostly_alike(self, one: int, other: int) -> bool:
        """Whether at least half of the amounts of two columns are the same."""
        apart = np.abs(self.numbers(one) - self.numbers(other))
        told = np.isfinite(apart)
        return bool(told.sum() >= FEWEST and (apart <= A_CENT)[told].mean() >= HALF)

    def is_mostly_listed(self, at: int, prices: Mapping[str, float], some: Bools | None = None) -> bool:
        """Whether most prices of a column are list prices. prices: as in `guess_columns`. some: the lines that are
        looked at, None for all."""
        if "sku" not in self.columns:
            return False
        price, listed = self.numbers(at), self.listed(prices)
        told = (price > 0) & (listed > 0)
        told = told if some is None else told & some
        return bool(told.sum() >= FEWEST and (np.abs(price - listed) <= A_CENT)[told].mean() >= MOSTLY)

    def listed(self, prices: Mapping[str, float]) -> Floats:
        """The list price of each line's SKU; not a number where it has none."""
        return self.by_sku(prices)

    def lines_as_listed(self, prices: Mapping[str, float]) -> Floats:
        """What lines come to at list prices, or all goods of a row that lists them; not a number where there is
        none."""
        if not tells_all_in_one_cell(self.columns):
            return self.listed(prices) * self.of("quantity")
        column = self.column("items")
        each = map(items_in, column.texts)
        told = [sum(prices.get(folded(sku), np.nan) * int(units) for sku, units in some) for some in each]
        return np.array(told, dtype=np.float64)[column.codes]

    def by_sku(self, told: Mapping[str, float]) -> Floats:
        """What is told of each line's SKU, folded; not a number where that is nothing."""
        sku = self.column("sku")
        return np.array([told.get(folded(text.strip()), np.nan) for text in sku.texts], dtype=np.float64)[sku.codes]

    @cached_property
    def orders(self) -> tuple[NDArray[np.int64], NDArray[np.int64], Bools]:
        """The order of each row; the first row of each order; and whether each row's order has several."""
        column = self.column("number")
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
    def are_rates_off_lines(self) -> bool:
        """Whether discounts on lines are told as rates."""
        return self._tells_rates(self.columns["line_discount"][0])

    def _tells_rates(self, at: int) -> bool:
        return are_rates(self.table.header[at], self.table.rows.columns[at].used)

    @cached_property
    def worth(self) -> Floats:
        """What lines were asked; 0 where that is not told."""
        worth: Floats = np.nan_to_num(self.of("unit_price") * self.of("quantity"))
        return worth

    @cached_property
    def off_lines(self) -> Floats:
        return self._all_taken_off("line_discount", self.taken_off)

    @cached_property
    def off_order(self) -> Floats:
        """As each row tells it."""
        return self._all_taken_off("order_discount", self._off_order_in)

    def _all_taken_off(self, key: str, taken_off: Callable[[int], Floats]) -> Floats:
        told = self.columns.get(key, ())
        off: Floats = sum(map(taken_off, told), start=np.zeros(len(self.table.rows)))
        return off

    def _off_order_in(self, at: int) -> Floats:
        """The same, where the column tells rates of what the order was asked, too."""
        rate = self.rate_in(at)
        if "number" not in self.columns or rate is None:
            return self.taken_off(at)
        return np.where(np.isnan(rate), self.taken_off(at), rate * self.by_order(self.worth)[self.orders[0]])

    def rate_in(self, at: int) -> Floats | None:
        """The rates that a column of discounts tells, 1.0 = 100 %; not a number where it tells an amount; None where
        it tells nothing else."""
        if not self._tells_rates(at):
            return None
        told, heading, column = self.taken_off(at), self.table.header[at], self.table.rows.columns[at]
        if are_shares(heading, column.used):
            return told
        signed = np.array(["%" in text for text in column.texts], dtype=np.bool_)[column.codes]
        return np.where(signed | is_of_rates(heading), told / 100, np.nan)

    def taken_off(self, at: int) -> Floats:
        """What a column of discounts says, with a minus or without; 0 where it says nothing."""
        off: Floats = np.nan_to_num(np.abs(self.numbers(at)))
        return off

    def column(self, key: str) -> Coded:
        return self.table.rows.columns[self.columns[key][0]]

    def of(self, key: str) -> Floats:
        return self.numbers(self.columns[key][0]) if key in self.columns else np.full(len(self.table.rows), np.nan)

    def tells_numbers(self, at: int) -> bool:
        texts = self.table.rows.columns[at].used[:LOOKED_AT]
        return not any(np.isnan(self._number(text)) for text in texts if text.strip())

    def numbers(self, at: int) -> Floats:
        """Those of a column; each is read once."""
        if at not in self._known:
            self._known[at] = numbers_in(self.table.rows.columns[at], self._number)
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


def ratio(one: Floats, other: Floats) -> Floats:
    found: Floats = np.divide(one, other, out=np.full(len(one), np.nan), where=other > 0)
    return found
