"""What other goods lose where an order that an offer brings holds goods bought in their place.

Of its units in the offer's scope a share are such; each costs what a unit of the goods in question keeps on average
as they are sold today. docs/sums.md, "More orders".
"""

from dataclasses import replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.costing.margins import margins
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.topping_up import Scene
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.shop.shop import Shop


def lost_to(scene: Scene, at: int) -> Floats:
    """What other goods lose, minor units, if all units in scope of the orders an offer takes effect on were bought in
    their place: of an order on average, by group of its carts.

    at: the offer.
    """
    offer = scene.offers[at]
    key = scene.key("switched", at, offer.response.switched_of)
    return scene.outlook.kept(key, lambda: _lost_to(scene, at))


def _lost_to(scene: Scene, at: int) -> Floats:
    mix, offer, outlook = scene.mix, scene.offers[at], scene.outlook
    carts = np.flatnonzero(reached(scene.offers, outlook.shop, mix.batch)[at])
    rows = outlook.costed(mix, scene.offers, scene.apply, carts, scene.today)
    took = summed_by(rows.cart_by_row, rows.took_effect[at] * rows.share_by_row, mix.batch.axes.carts)
    by_cart = took * mix.share_by_cart * units_in(mix.batch, offer.on)
    found = summed_by(mix.groups.number_by_cart, by_cart, len(mix.groups))
    return found * kept_by_others(outlook.shop, mix, offer)


def units_in(batch: CartBatch, scope: Scope) -> Floats:
    """Units of goods in a scope, by cart."""
    return batch.axes.sum_by_cart(np.where(batch.lines_in(scope), batch.quantity_by_line, 0)).astype(np.float64)


def kept_by_others(shop: Shop, mix: Mix, offer: Offer) -> Floats:
    """What a unit keeps on average, minor units, of the goods an offer's are bought in place of: not its own."""
    batch = mix.batch
    other = batch.lines_in(offer.response.switched_of) & ~batch.lines_in(offer.on)
    units = np.where(other, batch.quantity_by_line, 0) * mix.share_by_cart[batch.axes.cart_by_line]
    costed = replace(batch.goods, unit_cost=np.nan_to_num(batch.goods.unit_cost))
    kept = np.nan_to_num(margins(shop, costed, costed.standing_price).kept)[batch.sku_by_line]
    result: Floats = np.asarray(units @ kept / (units.sum() or 1.0))
    return result
