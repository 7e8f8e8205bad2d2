"""One batch of carts priced under a set of offers.

Which offers take part is settled cart by cart (`reasons.takes_part`), then which of them go together (`together`),
then the carts walk through those (`walk`). Large batches are priced block by block, several at a time: a block's
arrays fit the processor's cache. docs/sums.md, "One cart, priced" and "Together".
"""

from collections.abc import Iterator, Sequence
from typing import Literal

import numpy as np

from yellow_abacus.core.blocks import each_block
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.priced import Priced, chosen, end_to_end, joined
from yellow_abacus.core.reasons import takes_part
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.together import Together
from yellow_abacus.core.walk import Walk

Apply = Literal["best", "first"]
"""Best for the shopper, or the first in order shuts out later ones."""


def price(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer],
    apply: Apply = "best",
    watched: int | None = None,
    available: Bools | None = None,
) -> Priced:
    """Price every cart with `offers`; they apply as far as they go together.

    Things put in must name one SKU each (`branches`). watched: an offer whose turn is noted in `seen`. available:
    one row an offer, one column a cart, where not all offers are there for all carts.
    """
    together = Together(offers, shop.settings)

    def one_block(carts: slice, block: CartBatch) -> Priced:
        there = takes_part(offers, shop, block)
        if available is not None:
            there &= available[:, carts]
        return _price_block(shop, block, together, apply, watched, there)

    return end_to_end(each_block(batch, one_block))


def _price_block(
    shop: Shop, batch: CartBatch, together: Together, apply: Apply, watched: int | None, there: Bools
) -> Priced:
    everything = list(range(len(together.offers)))
    if together.all_go_together:
        return _Pricer(shop, batch, together, everything, watched).walk(everything, dict(enumerate(there)))
    parts = []
    for carts, available in _alike(there):
        pricer = _Pricer(shop, batch.some(carts), together, available, watched)
        parts.append((carts, pricer.best() if apply == "best" else pricer.first()))
    return joined(batch, parts)


class _Pricer:
    """Prices carts on which the same offers take part."""

    def __init__(
        self, shop: Shop, batch: CartBatch, together: Together, available: Sequence[int], watched: int | None
    ) -> None:
        self.shop, self.batch, self.together, self.available = shop, batch, together, available
        self.watched = watched
        self.offers = together.offers

    def best(self) -> Priced:
        """The largest set that is best for the shopper: the least total, less what is saved on things put in.

        Ties go to the set whose effective offers come earlier in the plan. Yielding offers follow, one by one.
        """
        yielding = self.together.yielding(self.available)
        steady = [at for at in self.available if at not in yielding]
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
        walk = Walk(self.shop, self.batch, self.offers, self.watched)
        for at in order:
            if self.offers[at].works_on_goods:
                walk.goods_turn(at, where.get(at))
        walk.settle_charge()
        for at in order:
            if self.offers[at].works_on_delivery:
                walk.delivery_turn(at, where.get(at))
        return walk.done()

    def first(self) -> Priced:
        """Goods offers, then delivery offers, in order; one that took effect shuts out those it conflicts with."""
        walk = Walk(self.shop, self.batch, self.offers, self.watched)
        for at in self.available:
            if self.offers[at].works_on_goods:
                walk.goods_turn(at, ~self.together.shut_out(at, walk.took_effect()))
        walk.settle_charge()
        for at in self.available:
            if self.offers[at].works_on_delivery:
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
