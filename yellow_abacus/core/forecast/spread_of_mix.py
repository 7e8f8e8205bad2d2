"""Carts to expect by what is in them: how many lie in each band, what they pay, and what of it is kept.

Before any offer. Near misses of a threshold are counted in finer bands. docs/sums.md, "The carts to expect".
"""

from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.spread import MOST_BANDS, SHOWN_SHARE, round_width
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT, LEDGER
from yellow_abacus.core.ground.money import MILLIGRAMS, Floats, Ints

By = Literal["value", "units", "weight"]
INCOME = [INDEX[row] for row in ("goods", "delivery_charged", "surcharges")]
FINE = 10
"""So many finer bands to each, where the width allows."""


@dataclass(frozen=True, eq=False)
class Spread:
    """One entry a band of `width` from 0 on, the last for all above: expected orders; what they pay and what is kept
    of it, minor units.

    Width: minor units of goods at standing prices, units, or grams. fine: orders by bands of `fine_width`, as far as
    the bands go.
    """

    width: int
    orders: Floats
    paid: Floats
    kept: Floats
    fine_width: int
    fine: Floats


def spread(forecaster: Forecaster, window: tuple[date, date], by: By) -> Spread:
    measure = _measure(forecaster.batch, by)
    counted = measure[forecaster.expected.weight_by_cart > 0]
    top = max(1, int(np.quantile(counted, SHOWN_SHARE))) if len(counted) else 1
    width = round_width(top / MOST_BANDS)
    bands = top // width + 1
    fine_width = width // FINE if width % FINE == 0 else 1
    figures, fine = np.zeros((3, bands + 1)), np.zeros(bands * width // fine_width + 1)
    for _, orders, mix in forecaster.available(Plan(*window, ())):
        by_cart = forecaster.outlook.bare(mix).figures.by_cart
        measured, weight = _measure(mix.batch, by), orders * mix.share_by_cart
        band = np.minimum(measured // width, bands)
        paid = by_cart[INCOME].sum(axis=0) + by_cart[AT["tax"]]
        for at, figure in enumerate((1.0, paid, by_cart[LEDGER].sum(axis=0))):
            figures[at] += np.bincount(band, weights=weight * figure, minlength=bands + 1)
        fine += np.bincount(np.minimum(measured // fine_width, len(fine) - 1), weights=weight, minlength=len(fine))
    orders_in, paid_in, kept_in = figures
    return Spread(width, orders_in, paid_in, kept_in, fine_width, fine[:-1])


def _measure(batch: CartBatch, by: By) -> Ints:
    match by:
        case "value":
            return batch.worth_by_cart
        case "units":
            return batch.units_by_cart
        case "weight":
            return batch.weight_by_cart // MILLIGRAMS
