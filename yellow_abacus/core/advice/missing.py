"""What a cart misses of an offer: the least to add so that the offer applies.

>>> from yellow_abacus.core.advice.missing import Addition
>>> Addition(sku=3, units=2)
Addition(sku=3, units=2)
"""

from dataclasses import dataclass

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.adding import lacking, rewards_to_add, shelf_of
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.reasons import Reason
from yellow_abacus.core.shop.shop import Shop

ANY_GAP = 2**62


@dataclass(frozen=True)
class Addition:
    """sku: index of it."""

    sku: int
    units: int


def missing(
    shop: Shop, mix: Mix, cart: CartBatch, offers: tuple[Offer, ...], at: int, reason: Reason
) -> Addition | None:
    """The next thing to add to one cart so that an offer may apply; None where adding does not help.

    mix: whose best sellers are added where the offer names nothing. reason: why it does not apply yet.
    """
    offer = offers[at]

    def shelf(scope: Scope) -> Ints:
        return shelf_of(mix, offer, scope, discounted=scope == offer.on)

    if reason == "reward_not_in_cart":
        added = rewards_to_add(shop, cart, offer, lambda: shelf(offer.on))
        if added is not None and len(added.cart):
            return Addition(int(added.sku[0]), int(added.units[0]))
    if reason in ("short", "nothing_in_scope"):
        near = lacking(shop, cart, offers, at, shelf, ANY_GAP, reasons=(reason,))
        if len(near.cart):
            return Addition(int(near.sku[0]), int(near.units[0]))
    if reason in ("nothing_in_scope", "reward_not_in_cart"):
        some = shelf(offer.on)
        return Addition(int(some[0]), 1) if len(some) else None
    return None
