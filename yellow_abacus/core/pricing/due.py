"""Surcharges and tax, which come last.

docs/sums.md, "Surcharges" and "Tax".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import TaxTable


@dataclass(frozen=True, eq=False)
class Due:
    """What is taxed, one column a row, minor units: goods by rate, the delivery charge, each surcharge."""

    table: TaxTable
    goods_by_slot: Ints
    charge: Ints
    asked: Sequence[Ints]


@dataclass(frozen=True, eq=False)
class SurchargesAndTax:
    """As in `Priced`, one entry a row."""

    surcharge_by_row: Ints
    chosen_by_row: Floats
    goods_tax: Ints
    delivery_tax: Ints
    surcharge_tax: Ints
    chosen_tax: Floats


def find_due(due: Due, surcharges: Sequence[Surcharge]) -> SurchargesAndTax:
    """Surcharges and tax of every row."""
    table, goods, charge = due.table, due.goods_by_slot, due.charge
    own_class = table.taxes.delivery
    charge_by_slot = table.like_goods(charge, goods) if own_class is None else table.at_class(charge, own_class)
    always, always_by_slot = np.zeros_like(charge), np.zeros_like(goods)
    chosen, chosen_tax = np.zeros(len(charge)), np.zeros(len(charge))
    for surcharge, asked in zip(surcharges, due.asked, strict=True):
        rows = np.flatnonzero(asked)
        if not len(rows):
            continue
        amount, theirs = asked[rows], table.some(rows)
        by_slot = (
            theirs.like_goods(amount, goods[:, rows])
            if surcharge.tax_class is None
            else theirs.at_class(amount, surcharge.tax_class)
        )
        if surcharge.chosen_bp is None:
            always[rows] += amount
            always_by_slot[:, rows] += by_slot
        else:
            share = surcharge.chosen_bp / WHOLE_BP
            chosen[rows] += share * amount
            chosen_tax[rows] += share * theirs.tax(by_slot)
    goods_tax, delivery_tax, surcharge_tax = table.shared(goods, charge_by_slot, always_by_slot)
    return SurchargesAndTax(always, chosen, goods_tax, delivery_tax, surcharge_tax, chosen_tax)
