"""Branches: where a shopper's choice of gift is not known, each choice is priced by itself and weighted by its share.

docs/sums.md, "Put in".
"""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import product
from math import prod
from typing import TypeVar

from yellow_abacus.core.goods import Goods
from yellow_abacus.core.offers import Offer, PutIn, Reward

MOST_BRANCHES = 64
"""Most branches one set of offers may come to."""

Item = TypeVar("Item")

Branch = tuple[float, tuple[Offer, ...]]


def branches(offers: Sequence[Offer], goods: Goods) -> list[Branch]:
    """Every branch: its share, and the offers with one SKU in each thing put in. The shares add up to 1."""
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
    # Where every choice is out of stock the offer takes no part; the reward stays as it is.
    return [(share, chosen) for chosen, share in reward.choices(goods)] or [(1.0, reward)]


def _combined(parts: Sequence[Sequence[tuple[float, Item]]]) -> Iterator[tuple[float, tuple[Item, ...]]]:
    for some in product(*parts):
        yield prod(share for share, _ in some), tuple(item for _, item in some)
