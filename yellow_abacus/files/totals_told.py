"""Which discounts an order file's totals show: what was asked for an order's lines, less some of them, on its lines
or on the order, comes to what some column says of the order, with delivery and tax or without. And whether
an amount is an order's.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.amounts_told import A_CENT, A_FIFTH, FEWEST, HALF, MOST, AmountsTold
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.headings import has_words, is_of_rates

MOST_COLUMNS = 4
"""Of discounts: so many are tried in every way."""
MOST_TOTALS = 50
"""Columns that are looked at for one."""
MOST_BESIDE = 3
"""Columns of tax, of fees, or of what is paid by otherwise, that are looked at."""
DISCOUNTS = frozenset(["line_discount", "order_discount"])


@dataclass(frozen=True, eq=False)
class _Way:
    """A way to take columns of discounts. off: what it takes off each order."""

    columns: Columns
    off: Floats


def discounts_as_totals_show(amounts: AmountsTold, told: Sequence[int]) -> Columns:
    """The columns of amounts, with those taken for discounts that orders' totals show to be such; as they are where
    no total shows it, or also shows what is taken already. told: columns that may tell discounts."""
    columns = amounts.columns
    if (
        not {"number", "unit_price", "quantity"} <= columns.keys()
        or "line_total" in columns
        or "paid_price" in columns
    ):
        return columns
    mine = {key: columns[key] for key in DISCOUNTS & columns.keys()}
    told = [at for at in told if amounts.tells_numbers(at) and not is_of_rates(amounts.table.header[at])]
    if not 0 < len(told) <= MOST_COLUMNS or any(at not in told for some in mine.values() for at in some):
        return columns
    asked = amounts.by_order(amounts.asked)
    totals = _Totals(amounts)
    shown = [way for way in _ways(amounts, told) if totals.show(asked - way.off, way.off > A_CENT)]
    most = max((float(way.off.sum()) for way in shown), default=0.0)
    best = [way for way in shown if way.off.sum() >= most - A_CENT]
    if not best or any(way.columns == mine for way in best):
        return columns
    others = {key: some for key, some in columns.items() if key not in DISCOUNTS}
    return {**others, **min(best, key=lambda way: sum(map(len, way.columns.values()))).columns}


def totals_show(amounts: AmountsTold) -> bool:
    """Whether orders' totals show the discounts taken."""
    if not {"number", "unit_price", "quantity"} <= amounts.columns.keys():
        return False
    off = amounts.by_order(amounts.off_lines) + amounts.first_of_order(amounts.off_order)
    return _Totals(amounts).show(amounts.by_order(amounts.asked) - off, off > A_CENT)


def is_of_orders(amounts: AmountsTold, prices: Mapping[str, float]) -> bool:
    """Whether what is taken for the line's total is the order's: told alike on all lines of most orders of several
    unlike ones, or on the first alone; or holds delivery, on top of list prices. prices: as in `guess_columns`, where
    the file does not tell what was asked."""
    if np.isfinite(amounts.asked).any() or not {"number", "sku", "quantity"} <= amounts.columns.keys():
        return False
    total = amounts.of("line_total")
    listed = amounts.lines_as_listed(prices)
    return _is_alike_in_orders(amounts, total, listed) or _holds_delivery(amounts, total, listed)


def _is_alike_in_orders(amounts: AmountsTold, total: Floats, listed: Floats) -> bool:
    first = amounts.orders[1]

    def many(some: Bools) -> Floats:
        """Lines of each order."""
        return amounts.by_order(some.astype(np.float64))

    told = total > 0
    unlike = (many(amounts.is_unlike_the_first(listed)) > 0) & told[first]
    alike = many(told & ~amounts.is_unlike_the_first(total)) == many(np.isfinite(listed))
    alone = many(np.isfinite(total)) == 1
    return bool(unlike.sum() >= FEWEST and (alike | alone)[unlike].mean() >= MOST)


def _holds_delivery(amounts: AmountsTold, total: Floats, listed: Floats) -> bool:
    delivery = amounts.of("delivery_paid")
    told = (total > 0) & (listed > 0) & (delivery > 0)
    if told.sum() < FEWEST:
        return False
    with_it, without = ((np.abs(total - one) <= A_CENT)[told].mean() for one in (listed + delivery, listed))
    return bool(with_it >= HALF and without < A_FIFTH)


def _ways(amounts: AmountsTold, told: Sequence[int]) -> Iterator[_Way]:
    """Those in which each column that is taken takes something off some orders."""
    each = [
        [None, *((at, key, off) for key, off in _forms(amounts, at) if (off > A_CENT).sum() >= FEWEST)] for at in told
    ]
    for forms in product(*each):
        if taken := [one for one in forms if one is not None]:
            columns = {key: tuple(at for at, mine, _ in taken if mine == key) for _, key, _ in taken}
            yield _Way(columns, np.sum([off for _, _, off in taken], axis=0))


def _forms(amounts: AmountsTold, at: int) -> Iterator[tuple[str, Floats]]:
    """The fields a column may be taken for, and what it then takes off each order."""
    off, several = amounts.taken_off(at), amounts.orders[2]
    lines, order = amounts.by_order(off), amounts.first_of_order(off)
    on_first = bool((lines == order).all())
    if not (on_first and (off[several] > A_CENT).any()):
        yield "line_discount", lines
    if not on_first or (off[several] > A_CENT).any():
        yield "order_discount", order


class _Totals:
    """What columns that are taken for nothing say of each order, and what may be added to its goods there."""

    def __init__(self, amounts: AmountsTold) -> None:
        free = [at for at in free_columns(amounts.table.header, amounts.columns) if amounts.tells_numbers(at)]
        self._told = [amounts.first_of_order(amounts.numbers(at)) for at in free[:MOST_TOTALS]]
        self._added = [charge + more for charge, more in beside_goods(amounts)]

    def show(self, amount: Floats, some: Bools) -> bool:
        """Whether one of them is the amount of nearly all of some orders."""
        return some.sum() >= FEWEST and any(
            (np.abs(told - amount - added) <= A_CENT)[some].mean() >= MOST
            for told in self._told
            for added in self._added
        )


def beside_goods(amounts: AmountsTold) -> Iterator[tuple[Floats, Floats]]:
    """What totals may hold besides goods: delivery, less what came off it; and what else columns tell, fees and tax,
    of the order or of each line."""
    nothing = np.zeros(len(amounts.orders[1]))
    fees = [_of_order(amounts, at) for at in headed(amounts, "no_goods")]
    taxes = headed(amounts, "tax")
    told = [nothing, *(_of_order(amounts, at) for at in taxes)]
    told += [amounts.by_order(amounts.taken_off(at)) for at in taxes]
    every_fee = [nothing, sum(fees, start=nothing)] if fees else [nothing]
    for charge, fee, tax in product(_charges(amounts), every_fee, told):
        yield charge, fee + tax


def _charges(amounts: AmountsTold) -> list[Floats]:
    """What orders may have paid for delivery: nothing, what a column says, and that less what came off."""
    columns = amounts.columns
    charges = [np.zeros(len(amounts.orders[1])), *(_of_order(amounts, at) for at in columns.get("delivery_paid", ()))]
    for at in columns.get("delivery_discount", ()):
        off, rate = _of_order(amounts, at), amounts.rate_in(at)
        if rate is not None:
            share = amounts.first_of_order(rate)
            off = np.where(np.isnan(share), off, charges[-1] * share)
        charges.append(charges[-1] - off)
    return charges


def headed(amounts: AmountsTold, what: str) -> list[int]:
    """The columns taken for nothing, a few of those whose headings have words that mean something."""
    free = free_columns(amounts.table.header, amounts.columns)
    return [at for at in free if has_words(amounts.table.header[at], what) and amounts.tells_numbers(at)][
        :MOST_BESIDE
    ]


def _of_order(amounts: AmountsTold, at: int) -> Floats:
    return amounts.first_of_order(amounts.taken_off(at))
