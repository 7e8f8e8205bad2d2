"""Offers that do no more than lower prices, as reduced prices: for shop software that knows those and no offers.

What one unit comes to in a cart of its own is its reduced price, so all rules of pricing hold, to the cent.
docs/files.md, "Reduced prices".
"""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.guise import Guise, facts_of
from yellow_abacus.core.clauses.conditions import NOTHING_NEEDED
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.offers import ANYBODY, ANYWHERE, BY_ITSELF, NO_LIMITS, Offer, When
from yellow_abacus.core.offers.amount_off import AmountOffEach, UnitPrice
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.shop.shop import Shop


def lowers_prices_alone(offer: Offer) -> bool:
    """Whether reduced prices over its days would do the same: it is for everybody, everywhere, whatever the cart, and
    takes something off each unit."""
    when = replace(offer.when, first_day=None, last_day=None)
    return (
        all(isinstance(one, PercentOff | AmountOffEach | UnitPrice) for one in offer.gives)
        and not any(isinstance(one, PercentOff) and one.with_delivery for one in offer.gives)
        and not offer.steps
        and when == When()
        and (offer.earned, offer.limits, offer.given) == (NOTHING_NEEDED, NO_LIMITS, BY_ITSELF)
        and (offer.who, offer.where) == (ANYBODY, ANYWHERE)
    )


def reduced_prices(shop: Shop, goods: Goods, offers: Sequence[Offer], plan: Plan) -> Ints:
    """What a unit of each SKU comes to under some offers of a plan, minor units; NO_PRICE where they leave it alone.

    goods: at the prices of the day.
    """
    found = np.full(len(goods.skus), NO_PRICE)
    sold = np.flatnonzero(goods.standing_price > 0)
    if not len(sold) or not offers:
        return found
    cart, nothing = np.arange(len(sold)), np.zeros(len(sold), dtype=np.int64)
    facts = facts_of([Guise()], nothing)
    batch = make_batch(goods, nothing, cart, sold, np.ones_like(sold), nothing, facts)
    open_ = [replace(one, when=When()) for one in offers]
    rows = rows_of(shop, batch, open_)
    priced = price(shop, rows, open_, plan.apply)
    comes_to = np.zeros(len(sold), dtype=np.int64)
    comes_to[rows.cart_by_row] = priced.goods_by_row
    found[sold] = np.where(comes_to < goods.standing_price[sold], comes_to, NO_PRICE)
    return found
