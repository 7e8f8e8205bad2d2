"""Branches: where the choice of gift, the option of delivery or the way to pay is not known, each is priced by
itself and weighted by its share.

docs/sums.md, "Branches".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import product
from math import prod
from typing import TypeVar

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.facts import UNKNOWN
from yellow_abacus.core.goods import Goods
from yellow_abacus.core.money import Floats, Ints
from yellow_abacus.core.offers import Offer, PutIn, Reward
from yellow_abacus.core.shop import Shop

MOST_BRANCHES = 64
"""Most branches one set of offers may come to."""

Item = TypeVar("Item")


@dataclass(frozen=True, eq=False)
class Branch:
    """One way things may go. share_by_cart: how likely; the shares of all branches add up to 1, cart by cart.

    offers: with one SKU in each thing put in. option_by_cart: of delivery (`Delivery`). payment: how carts pay of
    which it is not known; None where that changes no price.
    """

    share_by_cart: Floats
    offers: tuple[Offer, ...]
    option_by_cart: Ints
    payment: str | None = None

    def some(self, carts: slice | Ints) -> "Branch":
        return replace(self, share_by_cart=self.share_by_cart[carts], option_by_cart=self.option_by_cart[carts])


def likeliest(shop: Shop, batch: CartBatch, offers: Sequence[Offer]) -> Branch:
    """The branch of the options carts go by most likely; things put in must name one SKU each."""
    return Branch(np.ones(batch.axes.carts), tuple(offers), shop.delivery.likeliest(batch))


def branches(shop: Shop, batch: CartBatch, offers: Sequence[Offer]) -> list[Branch]:
    """Every branch of the carts under these offers."""
    return [
        Branch(share * by_option * payment_share, chosen, option, payment)
        for payment_share, payment in _payments(shop, batch, offers)
        for share, chosen in gift_choices(offers, batch.goods)
        for by_option, option in shop.delivery.ways(batch)
    ]


def _payments(shop: Shop, batch: CartBatch, offers: Sequence[Offer]) -> list[tuple[float, str | None]]:
    """Ways to pay carts whose way is not known, where an offer or a surcharge asks for one."""
    asked = any(where.payments for where in (*(one.where for one in offers), *(one.where for one in shop.surcharges)))
    if not asked or not shop.payments or not (batch.facts.payment.number_by_cart == UNKNOWN).any():
        return [(1.0, None)]
    whole = sum(one.share_bp for one in shop.payments)
    return [(one.share_bp / whole, one.name) for one in shop.payments if one.share_bp]


def gift_choices(offers: Sequence[Offer], goods: Goods) -> list[tuple[float, tuple[Offer, ...]]]:
    """Every choice of things put in: its share, and the offers with one SKU in each. The shares add up to 1."""
    return list(_combined([list(_choices_of(offer, goods)) for offer in offers]))


def count_branches(offers: Sequence[Offer], goods: Goods) -> int:
    """How many branches there are at most."""
    return prod(len(one.all_skus(goods)) for offer in offers for one in offer.rewards() if isinstance(one, PutIn))


def _choices_of(offer: Offer, goods: Goods) -> Iterator[tuple[float, Offer]]:
    if not any(isinstance(reward, PutIn) for reward in offer.rewards()):
        yield 1.0, offer
        return
    by_step = [_combined([_choices(reward, goods) for reward in gives]) for gives in offer.gives_by_step]
    for share, (gives, *more) in _combined([list(step) for step in by_step]):
        steps = tuple(replace(step, gives=chosen) for step, chosen in zip(offer.steps, more, strict=True))
        yield share, replace(offer, gives=gives, steps=steps)


def _choices(reward: Reward, goods: Goods) -> list[tuple[float, Reward]]:
    if not isinstance(reward, PutIn):
        return [(1.0, reward)]
    return [(share, chosen) for chosen, share in reward.choices(goods)] or [(1.0, reward.ended)]


def _combined(parts: Sequence[Sequence[tuple[float, Item]]]) -> Iterator[tuple[float, tuple[Item, ...]]]:
    for some in product(*parts):
        yield prod(share for share, _ in some), tuple(item for _, item in some)
