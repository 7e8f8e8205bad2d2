"""One batch of carts priced under a set of offers.

Which offers take part is settled cart by cart (`reasons.takes_part`), then which of them go together (`together`),
then the carts walk through those (`walk`). Large batches are priced block by block, several at a time: a block's
arrays fit the processor's cache. docs/sums.md, "One cart, priced" and "Together".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from yellow_abacus.core.blocks import each_block
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import DeliveryReward, Offer
from yellow_abacus.core.priced import Priced, chosen, end_to_end, joined
from yellow_abacus.core.reasons import takes_part
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.together import Together
from yellow_abacus.core.walk import Walk, gifts_of

Apply = Literal["best", "first"]
"""Best for the shopper, or the first in order shuts out later ones."""


def price(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer],
    apply: Apply = "best",
    watched: bool = False,
    available: Bools | None = None,
    itemised: bool = False,
) -> Priced:
    """Price every cart with `offers`; they apply as far as they go together.

    Things put in must name one SKU each (`branches`). watched, itemised: note what each offer met at its turn, and
    what it took off each line. available: one row an offer, one column a cart, where not all offers are there for all
    carts.
    """
    (priced,) = price_each(shop, batch, [offers], apply, watched, available, itemised)
    return priced


def price_each(
    shop: Shop,
    batch: CartBatch,
    branches: Sequence[Sequence[Offer]],
    apply: Apply = "best",
    watched: bool = False,
    available: Bools | None = None,
    itemised: bool = False,
) -> list[Priced]:
    """Price every cart in each branch; branches differ only in the SKU of things put in, so goods are walked once."""

    def one_block(carts: slice, block: CartBatch) -> list[Priced]:
        there = takes_part(branches[0], shop, block)
        if available is not None:
            there &= available[:, carts]
        pricers = [_Pricer(shop, block, Together(one, shop.settings), watched, itemised, {}) for one in branches]
        if not pricers[0].together.all_go_together:
            return _price_by_kind(pricers, apply, there)
        everything = range(len(there))
        _share_walks(pricers)
        return [pricer.walk(everything, dict(enumerate(there))) for pricer in pricers]

    return [end_to_end(blocks) for blocks in zip(*each_block(batch, one_block), strict=True)]


def _price_by_kind(pricers: Sequence["_Pricer"], apply: Apply, there: Bools) -> list[Priced]:
    """Carts on which the same offers take part are priced together."""
    batch = pricers[0].batch
    parts: list[list[tuple[Ints, Priced]]] = [[] for _ in pricers]
    for carts, available in _alike(there):
        some = batch.some(carts)
        mine = [replace(pricer, batch=some, walked={}) for pricer in pricers]
        _share_walks(mine)
        for number, pricer in enumerate(mine):
            priced = pricer.best(available) if apply == "best" else pricer.first(available)
            parts[number].append((carts, priced))
    return [joined(batch, some) for some in parts]


def _share_walks(pricers: Sequence["_Pricer"]) -> None:
    """Let branches use each other's walks, unless the weight of what is put in can change a delivery charge."""
    weighed = any(
        isinstance(reward, DeliveryReward) and reward.below_weight is not None
        for offer in pricers[0].together.offers
        for reward in offer.rewards()
    )
    if not weighed:
        for pricer in pricers[1:]:
            pricer.walked = pricers[0].walked


@dataclass(eq=False)
class _Pricer:
    """Prices one branch of carts on which the same offers take part. walked: results of walks by the whole way."""

    shop: Shop
    batch: CartBatch
    together: Together
    watched: bool
    itemised: bool
    walked: dict[tuple[tuple[int, bytes], ...], Priced]

    def new_walk(self) -> Walk:
        return Walk(self.shop, self.batch, self.together.offers, self.watched, self.itemised)

    def best(self, available: Sequence[int]) -> Priced:
        """The largest set that is best for the shopper: the least total, less what is saved on things put in.

        Ties go to the set whose effective offers come earlier in the plan. Yielding offers follow, one by one.
        """
        yielding = self.together.yielding(available)
        steady = [at for at in available if at not in yielding]
        first, *others = self.together.largest_sets(steady)
        best = self.walk(first, {})
        everywhere = np.ones(self.batch.axes.carts, dtype=np.bool_)
        worn: dict[int, Bools] = {at: everywhere for at in first}
        for other in others:
            challenger = self.walk(other, {})
            wins = _beats(challenger, best)
            best = chosen(self.batch, wins, challenger, best)
            worn = {at: np.where(wins, at in other, worn.get(at, ~everywhere)) for at in {*worn, *other}}
        for at in yielding:
            worn[at] = ~self.together.shut_out(at, best.took_effect)
            order = [one for one in (*steady, *yielding) if one in worn]
            best = self.walk(order, worn)
        return best

    def walk(self, order: Sequence[int], where: dict[int, Bools]) -> Priced:
        """The offers in order, each on the carts of its `where` (all if it has none)."""
        way = tuple((at, where[at].tobytes() if at in where else b"") for at in order)
        if way in self.walked:
            return replace(self.walked[way], gifts=gifts_of(self.together.offers, self.batch.goods)[0])
        walk, offers = self.new_walk(), self.together.offers
        for at in order:
            if offers[at].works_on_goods:
                walk.goods_turn(at, where.get(at))
        walk.settle_charge()
        for at in order:
            if offers[at].works_on_delivery:
                walk.delivery_turn(at, where.get(at))
        self.walked[way] = walk.done()
        return self.walked[way]

    def first(self, available: Sequence[int]) -> Priced:
        """Goods offers, then delivery offers, in order; one that took effect shuts out those it conflicts with."""
        walk = self.new_walk()
        for at in available:
            if self.together.offers[at].works_on_goods:
                walk.goods_turn(at, ~self.together.shut_out(at, walk.took_effect()))
        walk.settle_charge()
        for at in available:
            if self.together.offers[at].works_on_delivery:
                walk.delivery_turn(at, ~self.together.shut_out(at, walk.took_effect()))
        return walk.done()


def _beats(challenger: Priced, best: Priced) -> Bools:
    costs, least = (one.total - one.saved.sum(axis=0) for one in (challenger, best))
    wins: Bools = costs < least
    tied = np.flatnonzero(costs == least)
    wins[tied] = _earlier(challenger.took_effect[:, tied], best.took_effect[:, tied])
    return wins


def _earlier(these: Bools, those: Bools) -> Bools:
    """Whether these effective offers come earlier in the plan than those: the first difference decides."""
    differs = these != those
    first = differs.argmax(axis=0) if len(these) else np.zeros(these.shape[1], dtype=np.intp)
    result: Bools = differs.any(axis=0) & these[first, np.arange(these.shape[1])]
    return result


def _alike(there: Bools) -> Iterator[tuple[Ints, list[int]]]:
    """Carts on which the same offers take part: indices of carts, and of offers in plan order."""
    kind_by_cart = np.left_shift(1, np.arange(len(there)), dtype=np.int64) @ there
    for kind in np.unique(kind_by_cart):
        yield np.flatnonzero(kind_by_cart == kind), [at for at in range(len(there)) if int(kind) >> at & 1]
