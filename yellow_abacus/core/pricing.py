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
    itemised: bool = False,
) -> Priced:
    """Price every cart with `offers`; they apply as far as they go together.

    Things put in must name one SKU each (`branches`). watched: an offer whose turn is noted in `seen`. available:
    one row an offer, one column a cart, where not all offers are there for all carts. itemised: note what each offer
    took off each line.
    """
    together = Together(offers, shop.settings)

    def one_block(carts: slice, block: CartBatch) -> Priced:
        there = takes_part(offers, shop, block)
        if available is not None:
            there &= available[:, carts]
        return _price_block(_Pricer(shop, block, together, watched, itemised), apply, there)

    return end_to_end(each_block(batch, one_block))


def _price_block(pricer: "_Pricer", apply: Apply, there: Bools) -> Priced:
    if pricer.together.all_go_together:
        return pricer.walk(range(len(there)), dict(enumerate(there)))
    parts = []
    for carts, available in _alike(there):
        some = pricer.on(carts)
        parts.append((carts, some.best(available) if apply == "best" else some.first(available)))
    return joined(pricer.batch, parts)


@dataclass(frozen=True, eq=False)
class _Pricer:
    """Prices carts on which the same offers take part."""

    shop: Shop
    batch: CartBatch
    together: Together
    watched: int | None
    itemised: bool

    def on(self, carts: Ints) -> "_Pricer":
        return replace(self, batch=self.batch.some(carts))

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
        walk = self.new_walk()
        for at in order:
            if self.together.offers[at].works_on_goods:
                walk.goods_turn(at, where.get(at))
        walk.settle_charge()
        for at in order:
            if self.together.offers[at].works_on_delivery:
                walk.delivery_turn(at, where.get(at))
        return walk.done()

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
