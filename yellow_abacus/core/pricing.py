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

_Way = tuple[int, ...]
"""Which offers walk."""


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
        return [pricer.walk(number, tuple(range(len(there))), there) for number in range(len(branches))]
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
        """The set of steady offers that is best for the shopper; those that yield, and any on delivery, follow."""
        steady = self.together.steady(available)
        sets = self.together.largest_sets(steady)
        kept = self._best_set(branch, steady, sets)
        if all(at in one for at in self._following(available) for one in sets):
            return kept  # all had their turn, at the charge as it stands
        return self._followed(branch, available, kept)

    def _following(self, available: Sequence[int]) -> list[int]:
        """Offers that may still apply once the best set is found: on delivery alone, or yielding."""
        offers = self.together.offers
        return [at for at in available if not offers[at].works_on_goods or offers[at].alongside.yields_at_all]

    def _best_set(self, branch: int, steady: Sequence[int], sets: Sequence[_Way]) -> Priced:
        """Cart by cart, of the sets formed last the one with the least total, less what is put in at standing prices.

        Ties go to the set whose effective offers come earlier in the plan.
        """
        priced = [self.walk(branch, one) for one in sets]
        if len(priced) == 1:
            return priced[0]
        formed = self._formed_last(steady, sets, [one.took_effect for one in priced])
        best, held = priced[0], formed[0]
        for challenger, is_formed in zip(priced[1:], formed[1:], strict=True):
            best = chosen(self.batch, is_formed & (~held | _beats(challenger, best)), challenger, best)
            held = held | is_formed
        return best

    def _formed_last(self, steady: Sequence[int], sets: Sequence[_Way], took_effect: Sequence[Bools]) -> list[Bools]:
        """On which carts each set stands once offers that take effect in none of them are left out.

        Leaving an offer out may make another set one that can grow, which then goes too; what is left of a set that
        stays is priced as the set itself, for what it lost took no effect in it.
        """
        formed = [np.ones(self.batch.axes.carts, dtype=np.bool_) for _ in sets]
        while True:
            works = np.logical_or.reduce([took & on for took, on in zip(took_effect, formed, strict=True)])
            stays = [np.zeros_like(on) for on in formed]
            for carts, working in _alike(works):
                left = {tuple(at for at in one if at in working) for one in sets}
                largest = left & set(self.together.largest_sets([at for at in steady if at in working]))
                for one, stay in zip(sets, stays, strict=True):
                    stay[carts] = tuple(at for at in one if at in working) in largest
            stays = [stay & on for stay, on in zip(stays, formed, strict=True)]
            if all((stay == on).all() for stay, on in zip(stays, formed, strict=True)):
                return formed
            formed = stays

    def _followed(self, branch: int, available: Sequence[int], kept: Priced) -> Priced:
        """After the kept set: offers on goods that yield, in plan order; then the charge is found anew.

        To that go all that took effect, then every other offer on delivery, in plan order. Each applies only if it
        may stand with all that took effect so far, also with what later left nothing to lower.
        """
        offers, stood = self.together.offers, kept.took_effect
        walk = self.new_walk()
        for at in self.together.steady(available):
            if offers[at].works_on_goods:
                walk.goods_turn(at, kept.took_effect[at])
        for at in self.together.yielding(available):
            if offers[at].works_on_goods:
                walk.goods_turn(at, ~self.together.shut_out(at, stood))
                stood = stood | walk.took_effect()
        checkout = Checkout(walk, self.branches[branch])
        on_delivery = [at for at in available if offers[at].works_on_delivery]
        first = stood
        for at in on_delivery:
            checkout.delivery_turn(at, first[at])
        for at in self._following(on_delivery):
            checkout.delivery_turn(at, ~first[at] & ~self.together.shut_out(at, stood))
            stood = stood | checkout.took_effect()
        return checkout.done(stood)

    def walk(self, branch: int, order: _Way, there: Bools | None = None) -> Priced:
        """The offers in order, each on the carts of its row in `there` (all if that is None), in one branch."""
        if (branch, order) not in self.priced:
            checkout = Checkout(self._through_goods(order, there), self.branches[branch])
            for at in order:
                if self.together.offers[at].works_on_delivery:
                    checkout.delivery_turn(at, None if there is None else there[at])
            self.priced[branch, order] = checkout.done()
        return self.priced[branch, order]

    def _through_goods(self, order: _Way, there: Bools | None) -> Walk:
        if order not in self.walked:
            walk = self.walked[order] = self.new_walk()
            for at in order:
                if self.together.offers[at].works_on_goods:
                    walk.goods_turn(at, None if there is None else there[at])
        return self.walked[order]

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
    costs, least = challenger.less_put_in, best.less_put_in
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
