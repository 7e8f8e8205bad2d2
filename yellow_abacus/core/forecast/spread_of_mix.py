"""Carts to expect by what is in them and by whose they are: how many, what they pay, and what of it is kept.

Before any offer. Near misses of a threshold are counted in finer bands, among those it is open to. docs/sums.md, "The
carts to expect".
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.spread import MOST_BANDS, SHOWN_SHARE, round_width
from yellow_abacus.core.clauses.when import WEEKDAYS, When
from yellow_abacus.core.clauses.where import Where
from yellow_abacus.core.clauses.who import Who
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.ground.money import MILLIGRAMS, Bools, Floats, Ints
from yellow_abacus.core.ground.shape import CLOSED
from yellow_abacus.core.shop.shop import Shop

By = Literal["value", "units", "weight"]
INCOME = [INDEX[row] for row in ("goods", "delivery_charged", "surcharges")]
SHOPPERS, HOURS = 2, 24
FINE = 10
"""So many finer bands to each, where the width allows."""


@dataclass(frozen=True)
class OpenTo:
    """Whose orders something is open to, and where and at what hours; everybody's unless something is said."""

    who: Who = field(default_factory=Who)
    where: Where = field(default_factory=Where)
    when: When = field(default_factory=When)

    __pydantic_config__ = CLOSED

    def passes(self, shop: Shop, batch: CartBatch) -> Bools:
        where = self.where.passes(shop.zone_names, batch.zone_by_cart, batch.facts)
        return self.who.passes(batch.facts) & self.when.passes(batch.facts) & where


@dataclass(frozen=True, eq=False)
class Spread:
    """One entry a band of `width` from 0 on, the last for all above: expected orders; what they pay and what is kept
    of it, minor units.

    Width: minor units of goods at standing prices, units, or grams. fine: orders by bands of `fine_width`, as far as
    the bands go, and last all above; one row for each of those asked for.
    """

    width: int
    orders: Floats
    paid: Floats
    kept: Floats
    fine_width: int
    fine: Floats


def spread(
    forecaster: Forecaster, window: tuple[date, date], by: By, open_to: Sequence[OpenTo] = (OpenTo(),)
) -> Spread:
    """open_to: whose orders are told in finer bands."""
    weights = [forecaster.expected.weight_by_cart]
    if forecaster.expected.sketched is not None:
        weights.append(forecaster.expected.sketched.mix.share_by_cart)
    counted = np.concatenate(
        [_measure(batch, by)[weight > 0] for batch, weight in zip(forecaster.batches, weights, strict=True)]
    )
    top = max(1, int(np.quantile(counted, SHOWN_SHARE))) if len(counted) else 1
    width = round_width(top / MOST_BANDS)
    bands = top // width + 1
    fine_width = width // FINE if width % FINE == 0 else 1
    fine_bands = bands * width // fine_width + 1
    figures, fine = np.zeros((3, bands + 1)), np.zeros((len(open_to), fine_bands))
    for _, orders, mix in forecaster.available(Plan(*window, ())):
        by_cart = forecaster.outlook.bare(mix).figures.by_cart
        measured, weight = _measure(mix.batch, by), orders * mix.share_by_cart
        band = np.minimum(measured // width, bands)
        paid = by_cart[INCOME].sum(axis=0) + by_cart[AT["tax"]]
        for at, figure in enumerate((1.0, paid, by_cart[AT["kept"]])):
            figures[at] += np.bincount(band, weights=weight * figure, minlength=bands + 1)
        fine_band = np.minimum(measured // fine_width, fine_bands - 1)
        for at, one in enumerate(open_to):
            here = one.passes(forecaster.shop, mix.batch)
            fine[at] += np.bincount(fine_band[here], weights=weight[here], minlength=fine_bands)
    orders_in, paid_in, kept_in = figures
    return Spread(width, orders_in, paid_in, kept_in, fine_width, fine)


@dataclass(frozen=True, eq=False)
class Groups:
    """Expected orders of some days and what is kept of them, minor units.

    By zone; of first and returning shoppers; by hour of the week from Monday. An order of which it is not known is in
    none.
    """

    zone: tuple[Floats, Floats]
    shopper: tuple[Floats, Floats]
    hour: tuple[Floats, Floats]


def groups(forecaster: Forecaster, window: tuple[date, date]) -> Groups:
    zones = len(forecaster.shop.zones)
    found = [np.zeros((2, size)) for size in (zones, SHOPPERS, WEEKDAYS * HOURS)]
    for _, orders, mix in forecaster.available(Plan(*window, ())):
        kept = forecaster.outlook.bare(mix).figures.by_cart[AT["kept"]]
        weight, facts = orders * mix.share_by_cart, mix.batch.facts
        hour = np.where(
            (facts.weekday_by_cart < 0) | (facts.minute_by_cart < 0),
            -1,
            facts.weekday_by_cart * HOURS + facts.minute_by_cart // 60,
        )
        numbers = (mix.batch.zone_by_cart, np.minimum(facts.orders_before_by_cart, 1), hour)
        for sums, number in zip(found, numbers, strict=True):
            known = number >= 0
            for at, figure in enumerate((weight, weight * kept)):
                sums[at] += np.bincount(number[known], weights=figure[known], minlength=sums.shape[1])
    zone, shopper, by_hour = ((one[0], one[1]) for one in found)
    return Groups(zone, shopper, by_hour)


def _measure(batch: CartBatch, by: By) -> Ints:
    match by:
        case "value":
            return batch.worth_by_cart
        case "units":
            return batch.units_by_cart
        case "weight":
            return batch.weight_by_cart // MILLIGRAMS
