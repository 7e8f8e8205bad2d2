"""Which discounts an order file's totals show: what was asked for an order's lines, less some of them, on its lines
or on the order, comes to what some column says of the order, with delivery and tax or without.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.amounts_told import A_CENT, FEWEST, MOST, AmountsTold
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.headings import is_of_rates, simplify, words_of

MOST_COLUMNS = 4
"""Of discounts: so many are tried in every way."""
MOST_TOTALS = 50
"""Columns that are looked at for one."""
DISCOUNTS = frozenset(["line_discount", "order_discount"])


@dataclass(frozen=True, eq=False)
class _Way:
    """A way to take columns of discounts. off: what it takes off each order."""

    columns: Columns
    off: Floats


def discounts_as_totals_show(
    amounts: AmountsTold, header: Sequence[str], columns: Columns, told: Sequence[int]
) -> Columns:
    """The columns, with those taken for discounts that orders' totals show to be such; as they are where no total
    shows it, or also shows what is taken already. told: columns that may tell discounts."""
    if (
        not {"number", "unit_price", "quantity"} <= columns.keys()
        or "line_total" in columns
        or "paid_price" in columns
    ):
        return columns
    mine = {key: columns[key] for key in DISCOUNTS & columns.keys()}
    told = [at for at in told if amounts.tells_numbers(at) and not is_of_rates(header[at])]
    if not 0 < len(told) <= MOST_COLUMNS or any(at not in told for some in mine.values() for at in some):
        return columns
    asked = amounts.by_order(amounts.asked)
    totals = _Totals(amounts, header, columns)
    shown = [way for way in _ways(amounts, told) if totals.show(asked - way.off, way.off > A_CENT)]
    most = max((float(way.off.sum()) for way in shown), default=0.0)
    best = [way for way in shown if way.off.sum() >= most - A_CENT]
    if not best or any(way.columns == mine for way in best):
        return columns
    others = {key: some for key, some in columns.items() if key not in DISCOUNTS}
    return {**others, **min(best, key=lambda way: sum(map(len, way.columns.values()))).columns}


def totals_show(amounts: AmountsTold, header: Sequence[str], columns: Columns) -> bool:
    """Whether orders' totals show the discounts taken."""
    if not {"number", "unit_price", "quantity"} <= columns.keys():
        return False
    off = amounts.by_order(amounts.off_lines) + amounts.first_of_order(amounts.off_order)
    return _Totals(amounts, header, columns).show(amounts.by_order(amounts.asked) - off, off > A_CENT)


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

    def __init__(self, amounts: AmountsTold, header: Sequence[str], columns: Columns) -> None:
        free = [at for at in free_columns(header, columns) if amounts.tells_numbers(at)][:MOST_TOTALS]
        self._told = [amounts.first_of_order(amounts.numbers(at)) for at in free]
        taxes = [at for at in free if not words_of("tax").isdisjoint(simplify(header[at]).split())]

        def of_order(at: int) -> Floats:
            return amounts.first_of_order(np.nan_to_num(amounts.numbers(at)))

        nothing: list[Floats] = [np.zeros(1)]
        charge = nothing + [of_order(at) for at in columns.get("delivery_paid", ())]
        for at in columns.get("delivery_discount", ()):
            rate = amounts.rate_in(at)
            off = np.abs(of_order(at))
            if rate is not None:
                share = amounts.first_of_order(rate)
                off = np.where(np.isnan(share), off, charge[-1] * share)
            charge.append(charge[-1] - off)
        self._added = [one + other for one in charge for other in nothing + [of_order(at) for at in taxes]]

    def show(self, amount: Floats, some: Bools) -> bool:
        """Whether one of them is the amount of nearly all of some orders."""
        return some.sum() >= FEWEST and any(
            (np.abs(told - amount - added) <= A_CENT)[some].mean() >= MOST
            for told in self._told
            for added in self._added
        )
