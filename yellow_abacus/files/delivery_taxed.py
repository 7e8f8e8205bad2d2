"""Whether what orders paid for delivery is told with tax or without: as its heading says, else as the prices of the
file are, unless orders' totals show that it is not, or it is what charges are that shoppers see: round.
"""

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.files.amounts_told import A_CENT, A_HUNDREDTH, FEWEST, MOST, AmountsTold
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.order_totals import may_be_of_an_order
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import DecimalMark

FIVES, NINES, TENS = 5, 9, 10
"""Charges end in 0, 5 or 9."""


def are_rounder(told: Ints, otherwise: Ints) -> bool:
    """Whether nearly all charges are round as they are told, and not as they would be otherwise; minor units.

    >>> are_rounder(np.array([490, 799]), np.array([583, 951])), are_rounder(np.array([408]), np.array([490]))
    (True, False)
    """
    return _are_round(told) and not _are_round(otherwise)


def _are_round(charges: Ints) -> bool:
    each = np.unique(charges[charges > 0])
    is_round = (each % FIVES == 0) | (each % TENS == NINES)
    return bool(len(each) > 0 and is_round.mean() >= MOST)


def totals_come_to(
    table: Table, columns: Columns, mark: DecimalMark, first_row: Ints, goods: Floats, charge: Floats
) -> bool:
    """Whether some column tells just goods and delivery of nearly all orders that paid for delivery.

    first_row: of each order. goods, charge: of each order, in units of the currency, 0 where it is not told.
    """
    amounts = AmountsTold(table, columns, mark, len(table.rows))
    free = [at for at in free_columns(table.header, columns) if may_be_of_an_order(table.header[at])]
    some: Bools = (goods > 0) & (charge > 0)
    within = A_CENT + A_HUNDREDTH * charge  # goods are rounded line by line, and tax is more of it
    return bool(some.sum() >= FEWEST) and any(
        (np.abs(amounts.numbers(at)[first_row] - goods - charge) <= within)[some].mean() >= MOST
        for at in (*columns.get("order_total", ()), *free)
        if amounts.tells_numbers(at)
    )
