"""What other goods lose where an order that an offer brings holds goods bought in their place.

Of its units in the offer's scope a share are such; each costs what a unit of the goods in question keeps on average
as they are sold today. docs/sums.md, "More orders".
"""

from dataclasses import replace

import numpy as np

from yellow_abacus.core.costing.margins import margins
from yellow_abacus.core.forecast.expected import Source
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.states import over_cells
from yellow_abacus.core.forecast.trying import Setup
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.shop.shop import Shop


def lost_an_order(setup: Setup, source: Source, at: int, reached_by_cell: Floats) -> Floats:
    """What other goods lose, minor units, to an order an offer takes effect on if all its units in scope are bought
    in their place: by cell.

    at: the offer. reached_by_cell: of an order of each weekday and cohort, how likely the offer takes effect on it.
    """
    key = setup.key("switched", at, setup.offers[at].response.switched_of)
    lost = over_cells(source, setup.mix.groups) @ setup.outlook.kept(key, lambda: _lost(setup, at))
    return np.divide(lost, reached_by_cell, out=np.zeros_like(lost), where=reached_by_cell > 0)


def _lost(setup: Setup, at: int) -> Floats:
    """Of an order on average, by group of its carts."""
    mix, offer, outlook = setup.mix, setup.offers[at], setup.outlook
    batch = mix.batch
    (took,) = outlook.took_effect_by_cart(mix, setup.offers, setup.apply, [at], setup.today)
    by_cart = took * mix.share_by_cart * batch.axes.sum_by_cart(batch.quantity_by_line * batch.lines_in(offer.on))
    found = summed_by(mix.groups.number_by_cart, by_cart, len(mix.groups))
    return found * kept_by_others(outlook.shop, mix, offer)


def kept_by_others(shop: Shop, mix: Mix, offer: Offer) -> Floats:
    """What a unit keeps on average, minor units, of the goods an offer's are bought in place of: not its own."""
    batch = mix.batch
    other = batch.lines_in(offer.response.switched_of) & ~batch.lines_in(offer.on)
    units = batch.quantity_by_line * other * mix.share_by_cart[batch.axes.cart_by_line]
    costed = replace(batch.goods, unit_cost=np.nan_to_num(batch.goods.unit_cost))
    kept = np.nan_to_num(margins(shop, costed, costed.standing_price).kept)[batch.sku_by_line]
    result: Floats = np.asarray(units @ kept / (units.sum() or 1.0))
    return result
