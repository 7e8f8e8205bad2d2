"""Surcharges and tax, which come last: found for the carts that offers changed, and once for all others.

docs/sums.md, "Surcharges" and "Tax".
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from yellow_abacus.core.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.surcharges import Surcharge
from yellow_abacus.core.tax import TaxTable

MOSTLY = 0.6
"""Where offers changed this share of the carts, all are worked out anew."""


@dataclass(frozen=True, eq=False)
class Due:
    """What is taxed, one column a cart, minor units: goods by rate, the delivery charge, each surcharge."""

    table: TaxTable
    goods_by_slot: Ints
    charge: Ints
    asked: Sequence[Ints]

    def some(self, carts: Ints) -> "Due":
        return Due(
            self.table.some(carts),
            self.goods_by_slot[:, carts],
            self.charge[carts],
            [asked[carts] for asked in self.asked],
        )


@dataclass(frozen=True, eq=False)
class Settled:
    """As in `Priced`, one entry a cart."""

    surcharge_by_cart: Ints
    chosen_by_cart: Floats
    goods_tax: Ints
    delivery_tax: Ints
    surcharge_tax: Ints
    chosen_tax: Floats


def settle(due: Due, surcharges: Sequence[Surcharge]) -> Settled:
    """Surcharges and tax of every cart."""
    table, goods, charge = due.table, due.goods_by_slot, due.charge
    own_class = table.taxes.delivery
    charge_by_slot = table.like_goods(charge, goods) if own_class is None else table.at_class(charge, own_class)
    always, always_by_slot = np.zeros_like(charge), np.zeros_like(goods)
    chosen, chosen_tax = np.zeros(len(charge)), np.zeros(len(charge))
    for surcharge, asked in zip(surcharges, due.asked, strict=True):
        carts = np.flatnonzero(asked)
        amount, theirs = asked[carts], table.some(carts)
        by_slot = (
            theirs.like_goods(amount, goods[:, carts])
            if surcharge.tax_class is None
            else theirs.at_class(amount, surcharge.tax_class)
        )
        if surcharge.chosen_bp is None:
            always[carts] += amount
            always_by_slot[:, carts] += by_slot
        else:
            share = surcharge.chosen_bp / WHOLE_BP
            chosen[carts] += share * amount
            chosen_tax[carts] += share * theirs.tax(by_slot)
    goods_tax, delivery_tax, surcharge_tax = table.shared(goods, charge_by_slot, always_by_slot)
    return Settled(always, chosen, goods_tax, delivery_tax, surcharge_tax, chosen_tax)


def settle_changed(
    due: Due, surcharges: Sequence[Surcharge], changed: Ints, without_offers: Callable[[], Settled]
) -> Settled:
    """The same, where only some carts (by index) are otherwise than without offers."""
    if len(changed) > MOSTLY * len(due.charge):
        return settle(due, surcharges)
    rest, theirs = without_offers(), settle(due.some(changed), surcharges)
    found = {}
    for field in fields(Settled):
        figures = getattr(rest, field.name).copy()
        figures[changed] = getattr(theirs, field.name)
        found[field.name] = figures
    return Settled(**found)
