"""One batch of carts priced under a set of offers.

Which offers take part is settled cart by cart (`reasons.takes_part`), then which of them go together (`together`),
then the carts walk through those (`walk`, `checkout`). Large batches are priced block by block, several at a time:
a block's arrays fit the processor's cache. docs/sums.md, "One cart, priced" and "Together".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

import numpy as np

from yellow_abacus.core.blocks import each_block
from yellow_abacus.core.branches import Branch, likeliest
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.checkout import Checkout
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.payments import paid_by
from yellow_abacus.core.priced import Priced, chosen, end_to_end, joined
from yellow_abacus.core.reasons import takes_part
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.together import Together
from yellow_abacus.core.walk import Walk

Apply = Literal["best", "first"]
"""Best for the shopper, or the first in order shuts out later ones."""

_Way = tuple[tuple[int, bytes], ...]
"""Which offers walk, and on which carts: what a walk depends on."""


def price(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer] | Branch,
    apply: Apply = "best",
    watched: bool = False,
    available: Bools | None = None,
    itemised: bool = False,
) -> Priced:
    """Price every cart with `offers`; they apply as far as they go together.

    offers: a branch, or offers alone, whose things put in must name one SKU each: then carts go by the option of
    delivery they go by most likely. watched, itemised: note what each offer met at its turn, and what it took off
    each line. available: one row an offer, one column a cart, where not all offers are there for all carts.
    """
    branch = offers if isinstance(offers, Branch) else likeliest(shop, batch, offers)
    (priced,) = price_each(shop, batch, [branch], apply, watched, available, itemised)
    return priced


def price_each(
    shop: Shop,
    batch: CartBatch,
    branches: Sequence[Branch],
    apply: Apply = "best",
    watched: bool = False,
    available: Bools | None = None,
    itemised: bool = False,
) -> list[Priced]:
    """Price every cart in each branch; goods are walked once for all that pay alike."""

    def one_block(carts: slice, block: CartBatch) -> list[Priced]:
        mine = [branch.some(carts) for branch in branches]
        there = None if available is None else available[:, carts]
        found: list[Priced] = []
        for payment, alike in groupby(mine, lambda branch: branch.payment):
            pays = paying(shop, block, payment)
            found += _price_alike(shop, pays, list(alike), apply, there, watched, itemised)
        return found

    return [end_to_end(blocks) for blocks in zip(*each_block(batch, one_block), strict=True)]


def paying(shop: Shop, batch: CartBatch, method: str | None) -> CartBatch:
    """The carts, with this way to pay where it is not known."""
    if method is None:
        return batch

    def with_method() -> CartBatch:
        return replace(batch, facts=replace(batch.facts, payment=paid_by(batch.facts.payment, method)))

    return batch.kept(("paying", method, shop), with_method)


def _price_alike(
    shop: Shop,
    batch: CartBatch,
    branches: list[Branch],
    apply: Apply,
    available: Bools | None,
    watched: bool,
    itemised: bool,
) -> list[Priced]:
    """Branches that differ in options of delivery and in the SKUs of things put in."""
    offers = branches[0].offers
    there = takes_part(offers, shop, batch)
    if available is not None:
        there &= available
    together = Together(offers, shop.settings)
    pricer = _Pricer(shop, batch, together, branches, watched, itemised, {}, {})
    if together.all_go_together:
        where = dict(enumerate(there))
        return [pricer.walk(number, range(len(there)), where) for number in range(len(branches))]
    return _price_by_kind(pricer, apply, there)


def _price_by_kind(pricer: "_Pricer", apply: Apply, there: Bools) -> list[Priced]:
    """Carts on which the same offers take part are priced together."""
    parts: list[list[tuple[Ints, Priced]]] = [[] for _ in pricer.branches]
    for carts, available in _alike(there):
        some = [branch.some(carts) for branch in pricer.branches]
        mine = replace(pricer, batch=pricer.batch.part(carts), branches=some, walked={}, priced={})
        for number in range(len(some)):
            priced = mine.best(number, available) if apply == "best" else mine.first(number, available)
            parts[number].append((carts, priced))
    return [joined(pricer.batch, some) for some in parts]


@dataclass(eq=False)
class _Pricer:
    """Prices branches of carts on which the same offers take part.

    walked, priced: walks through goods, and results by branch, by the whole way.
    """

    shop: Shop
    batch: CartBatch
    together: Together
    branches: Sequence[Branch]
    watched: bool
    itemised: bool
    walked: dict[_Way, Walk]
    priced: dict[tuple[int, _Way], Priced]

    def new_walk(self) -> Walk:
        return Walk(self.shop, self.batch, self.together.offers, self.watched, self.itemised)

    def best(self, branch: int, available: Sequence[int]) -> Priced:
        """The largest set that is best for the shopper: the least total, less what is saved on things put in.

        Ties go to the set whose effective offers come earlier in the plan. Yielding offers follow, one by one.
        """
        yielding = self.together.yielding(available)
        steady = [at for at in available if at not in yielding]
        first, *others = self.together.largest_sets(steady)
        best = self.walk(branch, first, {})
        everywhere = np.ones(self.batch.axes.carts, dtype=np.bool_)
        worn: dict[int, Bools] = {at: everywhere for at in first}
        for other in others:
            challenger = self.walk(branch, other, {})
            wins = _beats(challenger, best)
            best = chosen(self.batch, wins, challenger, best)
            worn = {at: np.where(wins, at in other, worn.get(at, ~everywhere)) for at in {*worn, *other}}
        for at in yielding:
            worn[at] = ~self.together.shut_out(at, best.took_effect)
            order = [one for one in (*steady, *yielding) if one in worn]
            best = self.walk(branch, order, worn)
        return best

    def walk(self, branch: int, order: Sequence[int], where: dict[int, Bools]) -> Priced:
        """The offers in order, each on the carts of its `where` (all if it has none), in one branch."""
        way = tuple((at, where[at].tobytes() if at in where else b"") for at in order)
        if (branch, way) not in self.priced:
            checkout = Checkout(self._through_goods(way, order, where), self.branches[branch])
            for at in order:
                if self.together.offers[at].works_on_delivery:
                    checkout.delivery_turn(at, where.get(at))
            self.priced[branch, way] = checkout.done()
        return self.priced[branch, way]

    def _through_goods(self, way: _Way, order: Sequence[int], where: dict[int, Bools]) -> Walk:
        if way not in self.walked:
            walk = self.walked[way] = self.new_walk()
            for at in order:
                if self.together.offers[at].works_on_goods:
                    walk.goods_turn(at, where.get(at))
        return self.walked[way]

    def first(self, branch: int, available: Sequence[int]) -> Priced:
        """Goods offers, then delivery offers, in order; one that took effect shuts out those it conflicts with."""
        walk = self.walked.get(())
        if walk is None:
            walk = self.walked[()] = self.new_walk()
            for at in available:
                if self.together.offers[at].works_on_goods:
                    walk.goods_turn(at, ~self.together.shut_out(at, walk.took_effect()))
        checkout = Checkout(walk, self.branches[branch])
        for at in available:
            if self.together.offers[at].works_on_delivery:
                checkout.delivery_turn(at, ~self.together.shut_out(at, checkout.took_effect()))
        return checkout.done()


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
