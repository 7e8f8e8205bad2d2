"""What would be kept if delivery were free from another value of goods on, before any offer.

Where no offer runs, a cart is charged as if delivery were never free, or as if it always were: whatever the value it
is free from, it comes to one of the two. So both are priced once, and every value is a sum of them. docs/sums.md,
"Free delivery from another value".
"""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

import numpy as np

from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.shop.shop import Shop

ALWAYS = 1
"""Minor units from which delivery is free for every cart that pays anything."""


def kept_by_free_from(
    forecaster: Forecaster, window: tuple[date, date], free_from: int, values: Sequence[int]
) -> list[float]:
    """What the days keep, minor units, where the options that are free from `free_from` were so from each value
    on."""
    never, always = (_otherwise(forecaster.shop, free_from, value) for value in (None, ALWAYS))
    found = np.zeros(len(values))
    for _, orders, mix in forecaster.available(Plan(*window, ())):
        weight, worth = orders * mix.share_by_cart, mix.batch.worth_by_cart
        kept = [_kept(shop, replace(mix, shop=shop, origin=None)) for shop in (never, always)]
        charged, free = (weight * one for one in kept)
        by_worth = np.argsort(worth, kind="stable")
        below = np.concatenate(([0.0], np.cumsum(charged[by_worth])))
        above = np.concatenate((np.cumsum(free[by_worth][::-1])[::-1], [0.0]))
        at = np.searchsorted(worth[by_worth], values)
        found += below[at] + above[at]
    return found.tolist()


def _kept(shop: Shop, mix: Mix) -> Floats:
    by_cart = Outlook(shop, mix).bare(mix).figures.by_cart
    kept: Floats = by_cart[AT["kept"]]
    return kept


def _otherwise(shop: Shop, free_from: int, value: int | None) -> Shop:
    return replace(shop, zones=tuple(_zone(zone, free_from, value) for zone in shop.zones))


def _zone(zone: Zone, free_from: int, value: int | None) -> Zone:
    options = tuple(
        replace(option, free_from=value) if option.free_from == free_from else option for option in zone.options
    )
    return replace(zone, options=options)
