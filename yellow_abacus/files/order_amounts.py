"""What an order file's lines were asked and paid, from whatever amounts it tells of them."""

from collections.abc import Callable, Sequence
from functools import partial

import numpy as np

from yellow_abacus.core.goods.records import NOT_SAID
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP, Bools, Floats, Ints, rhu
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.coded_cells import NONE, CodedCells, Values
from yellow_abacus.files.headings import is_in_minor_units, is_of_a_unit, is_of_rates
from yellow_abacus.files.values import DecimalMark, are_shares, finer_money, parse_rate_off, unsigned

WHOLE_RATE = WHOLE_BP**2
"""Of two rates in basis points, one after the other, what is left is told exactly in parts of it."""
BesidePrices = Callable[[Sequence[str]], Floats]
"""What turns amounts under some headings into prices' side of tax, by row: 1 where none of them says otherwise."""


class OrderAmounts:
    """The amounts of a table's rows. order: of each row; first_row: of each order. rounded: how many amounts had more
    decimals than the currency so far."""

    def __init__(self, cells: CodedCells, mark: DecimalMark, digits: int, order: Ints, first_row: Ints) -> None:
        self.cells, self.mark, self.digits, self.order, self.first_row = cells, mark, digits, order, first_row
        self.rounded = 0

    def money(self, key: str, text: str) -> tuple[int, bool]:
        """An amount in minor units, and whether it was rounded."""
        digits = 0 if key in self._in_minor_units else self.digits
        return finer_money(text, self.mark, digits, largest=LARGEST_CART)

    @cached_property
    def _in_minor_units(self) -> frozenset[str]:
        """The fields whose headings say that they tell cents, or their like."""
        return frozenset(key for key in self.cells.columns if is_in_minor_units(self.cells.heading(key)))

    def _column(self, key: str) -> Ints:
        """Amounts by row in minor units, NOT_SAID where there is none; those that were rounded are counted."""
        told = self.cells.read(key, partial(self.money, key))
        self._count_rounded(told.codes, [one for _, one in told.values])
        return np.array([one for one, _ in told.values] + [NOT_SAID], dtype=np.int64)[told.codes]

    def _count_rounded(self, codes: Ints, rounded: list[bool]) -> None:
        self.rounded += int(np.array([*rounded, False])[codes].sum())

    def of_lines(
        self,
        units: Ints,
        listed: Callable[[], Ints],
        in_home: Floats,
        order_discount: Values[int],
        order_rate: Values[int],
        beside_prices: BesidePrices,
    ) -> tuple[Ints, Ints]:
        """What one unit was asked, and what all were paid, of each row, in the shop's money and tax.

        listed: answers each row's list price, NOT_SAID where the file has amounts otherwise than the shop. in_home:
        what amounts as the file has them are multiplied by. order_discount, order_rate: by order, an amount and parts
        of WHOLE_RATE.
        """
        unit, each, total = self._column("unit_price"), self._column("paid_price"), self._column("line_total")
        off, is_rate = self._discount(units, beside_prices)
        of_order = (order_discount.numbers(0) > 0) | (order_rate.numbers(0) > 0)
        if (unit == NOT_SAID).any():
            unit = self._before_discounts(unit, total, units, off, is_rate)
            is_off = ((off > 0) & (is_rate | (off <= listed() * units))) | of_order[self.order]
            untold = (unit == NOT_SAID) & (each == NOT_SAID) & (total == NOT_SAID)
            unit = np.where(untold & is_off, listed(), unit)
        if is_rate.any():
            off = np.where(is_rate, rhu(np.maximum(unit, 0) * units * np.where(is_rate, off, 0), WHOLE_RATE), off)
        huge = np.flatnonzero(np.maximum(unit, each) * units > LARGEST_CART)
        self.cells.reject("quantity", "The line is worth more than any cart can be.", "Check the quantity.", huge)
        units = np.where(np.isin(np.arange(len(units)), huge), 1, units)
        told = unit != NOT_SAID
        before = np.where(told, unit * units, NOT_SAID)
        paid = np.where(told, before - np.maximum(off, 0), NOT_SAID)
        too_much = np.flatnonzero(told & (off > before))
        self.cells.reject(
            "line_discount",
            "The discount is more than the line.",
            "Write what was taken off the whole line.",
            too_much,
        )
        paid = np.where(each != NOT_SAID, each * units, paid)
        paid = np.where(total != NOT_SAID, total, paid)
        if of_order.any():
            untold = (unit == NOT_SAID) & (paid != NOT_SAID) & of_order[self.order]
            unit = np.where(untold, rhu(np.maximum(paid, 0), units), unit)
            beside = beside_prices(self.cells.headings("order_discount"))
            paid = self._less_the_order_discount(paid, before, order_discount, order_rate, beside)

        def home(amount: Ints) -> Ints:
            if (in_home == 1.0).all():
                return amount
            return np.where(
                amount == NOT_SAID, NOT_SAID, np.floor(np.maximum(amount, 0) * in_home + 0.5).astype(np.int64)
            )

        return home(unit), home(np.where(paid == NOT_SAID, NOT_SAID, np.maximum(paid, 0)))

    def _before_discounts(self, unit: Ints, total: Ints, units: Ints, off: Ints, is_rate: Bools) -> Ints:
        """What a unit was asked, where no column tells it: by what the line came to before its discount, told or with
        what was taken off put back."""
        before = self._column("line_asked")
        share = np.where(is_rate, WHOLE_RATE - off, WHOLE_RATE)
        put_back = (before == NOT_SAID) & (total != NOT_SAID) & (off > 0) & (share > 0)
        with_off = np.where(is_rate, rhu(total * WHOLE_RATE, np.maximum(share, 1)), total + off)
        before = np.where(put_back, with_off, before)
        return np.where((unit == NOT_SAID) & (before != NOT_SAID), rhu(np.maximum(before, 0), units), unit)

    def _discount(self, units: Ints, beside_prices: BesidePrices) -> tuple[Ints, Bools]:
        """Taken off each line, NOT_SAID where that is not said; and where it is a rate, in parts of WHOLE_RATE of the
        line's price. Amounts in several columns are added up; each rate is of what those before it left."""
        headings = self.cells.headings("line_discount")
        may_be_rates = len(headings) < 2 or all(map(is_of_rates, headings))
        off, is_rate = self._discount_in(0, units, beside_prices, may_be_rates=may_be_rates)
        for which in range(1, len(headings)):
            more, more_is_rate = self._discount_in(which, units, beside_prices, may_be_rates=may_be_rates)
            so_far = np.maximum(off, 0)
            of_the_rest = so_far + more * (WHOLE_RATE - so_far) // WHOLE_RATE
            off = np.where(more == NOT_SAID, off, np.where(may_be_rates, of_the_rest, so_far + more))
            is_rate = is_rate | more_is_rate
        return off, is_rate

    def _discount_in(
        self, which: int, units: Ints, beside_prices: BesidePrices, *, may_be_rates: bool
    ) -> tuple[Ints, Bools]:
        """As `_discount`, in one of the columns."""
        heading = self.cells.heading("line_discount", which)
        parse = self.parse_discount("line_discount", which, may_be_rates=may_be_rates)
        told = self.cells.read("line_discount", parse, which)
        amount = np.array([one for one, _, _ in told.values] + [NOT_SAID], dtype=np.int64)[told.codes]
        is_rate = np.array([one for _, _, one in told.values] + [False], dtype=np.bool_)[told.codes]
        self._count_rounded(told.codes, [one for _, one, _ in told.values])
        taken = np.where(is_of_a_unit(heading), amount * units, amount)
        is_amount = (amount > 0) & ~is_rate
        return np.where(is_amount, np.rint(taken * beside_prices([heading])).astype(np.int64), amount), is_rate

    def parse_discount(
        self, key: str, which: int, *, may_be_rates: bool = True
    ) -> Callable[[str], tuple[int, bool, bool]]:
        """What reads the cells of a column of discounts, with a minus or without: the amount, or parts of WHOLE_RATE;
        whether it was rounded; whether it is a rate."""
        heading = self.cells.heading(key, which)
        of_rate, shares = is_of_rates(heading), are_shares(heading, self.cells.text(key, which).used)

        def parse(text: str) -> tuple[int, bool, bool]:
            bare = unsigned(text)
            if may_be_rates and (of_rate or shares or bare.endswith("%")):
                return parse_rate_off(bare, self.mark, shares=shares) * WHOLE_BP, False, True
            return (*self.money(key, bare), False)

        return parse

    def _less_the_order_discount(
        self, paid: Ints, before: Ints, told: Values[int], rate: Values[int], beside: Floats
    ) -> Ints:
        """What lines were paid once what was taken off their order is shared over them by running total. told, rate:
        as in `of_lines`. beside: what turns the amount into prices' side of tax, by row."""
        off = told.numbers(0)
        base = np.where(paid != NOT_SAID, paid, np.maximum(before, 0))
        in_order = np.argsort(self.order, kind="stable")
        base_of = np.bincount(self.order, weights=base, minlength=len(self.first_row)).astype(np.int64)
        off = np.where(base_of > LARGEST_CART, 0, off)
        if (beside != 1.0).any():
            as_told = np.bincount(self.order, weights=base / beside, minlength=len(self.first_row))
            off = np.rint(off * base_of / np.where(as_told > 0, as_told, 1.0)).astype(np.int64)
        off = off + rhu(base_of * rate.numbers(0), WHOLE_RATE)
        too_much = np.flatnonzero(off > base_of)
        message, mend = "The discount is more than the order.", "Write what was taken off the whole order."
        self.cells.reject("order_discount", message, mend, self.first_row[too_much])
        ends = np.cumsum(base[in_order])
        order = self.order[in_order]
        starts = np.searchsorted(order, np.arange(len(self.first_row)))
        begun = (np.concatenate(([0], ends))[starts])[order]
        share_off, whole = np.minimum(off, base_of)[order], np.maximum(base_of[order], 1)
        upto = rhu(share_off * (ends - begun), whole)
        first = np.arange(len(order)) == starts[order]
        mine = upto - np.where(first, 0, np.concatenate(([0], upto[:-1])))
        result = np.where(off[order] > 0, base[in_order] - mine, paid[in_order])
        found = np.empty_like(paid)
        found[in_order] = result
        return found


def added_up(one: Values[int], other: Values[int]) -> Values[int]:
    """Amounts of orders told in two columns; not told where neither does."""
    values, code = np.unique(one.numbers(0) + other.numbers(0), return_inverse=True)
    return Values(values.tolist(), np.where(one.known | other.known, code, NONE))


def less_discount(delivery: Values[int], off: Values[int], rate: Values[int]) -> Values[int]:
    """What was paid for delivery, by order, less what came off it, an amount and in parts of WHOLE_RATE, if that is
    not taken off yet: where it is, some order got more off than it still paid."""
    paid = delivery.numbers(0)
    came_off = np.where(delivery.known, off.numbers(0) + rhu(paid * rate.numbers(0), WHOLE_RATE), 0)
    if not came_off.any() or (came_off > paid).any():
        return delivery
    values, code = np.unique(paid - came_off, return_inverse=True)
    return Values(values.tolist(), np.where(delivery.known, code, delivery.codes))
