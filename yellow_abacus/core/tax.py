"""Tax on what a shopper pays, and its parts. docs/sums.md, "One cart, priced"."""

import numpy as np

from yellow_abacus.core.money import WHOLE_BP, Ints, percent_of, rhu
from yellow_abacus.core.shop import Settings


def tax_in(settings: Settings, amount: Ints) -> Ints:
    """The tax on each amount: held in it where prices are with tax, due on top of it where they are not."""
    if settings.prices_with_tax:
        return rhu(amount * settings.tax_bp, WHOLE_BP + settings.tax_bp)
    return percent_of(amount, settings.tax_bp)


def shared_tax(settings: Settings, goods: Ints, charge: Ints) -> tuple[Ints, Ints]:
    """Tax on the sum, shared back by running total over goods, then delivery."""
    taxed = goods + charge
    tax = tax_in(settings, taxed)
    on_goods = rhu(tax * goods, np.maximum(taxed, 1))
    return on_goods, tax - on_goods
