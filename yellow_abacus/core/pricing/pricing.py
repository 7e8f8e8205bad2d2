"""Carts priced under a set of offers, every way they may go.

Which offers take part is settled cart by cart, then which of them go together (`together`), then the carts walk
through those (`walk`), and their rows check out (`checkout`). Large batches are priced block by block, several at a
time: a block's arrays fit the processor's cache. docs/sums.md, "One cart, priced" and "Together".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.checkout import Checkout
from yellow_abacus.core.pricing.priced import Priced, chosen, end_to_end, joined
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.reasons import takes_part
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.core.pricing.trace import new_trace
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.shop import Shop

Apply = Literal["best", "first"]
"""Best for the shopper, or the first in order shuts out later ones."""


def price(
    shop: Shop,
    rows: Rows,
    offers: Sequence[Offer],
    apply: Apply = "best",
    available: Bools | None = None,
    *,
    there: Bools | None = None,
    traced: bool = False,
) -> Priced:
    """Price every row with `offers`, those that `rows` was made for; they apply as far as they go together.

    available: one row an offer, one column a cart, where not all offers are there for all carts. there: where each
    takes part, if that is known already (`reached`). traced: tell what
    became of each line, and of each offer also where it cannot take effect; each row must have a cart of its own.
    """

    def one_block(carts: slice, block: CartBatch) -> Priced:
        mine = rows if block is rows.batch else rows.block(block, carts)
        if there is not None:
            here = there[:, carts]
        else:
            here = takes_part(offers, shop, block) if traced else reached(offers, shop, block)
        if available is not None:
            here = here & available[:, carts]
        return _Pricer(shop, mine, Together(offers, shop.settings), traced).price(apply, here)

    return end_to_end(each_block(rows.batch, one_block))


@dataclass(frozen=True, eq=False)
class _Pricer:
    """Prices some carts. `there`: one row an offer, one column a cart, where the offers take part."""

    shop: Shop
    rows: Rows
    together: Together
    traced: bool

    @cached_property
    def offers(self) -> Sequence[Offer]:
        return self.together.offers

    @property
    def batch(self) -> CartBatch:
        return self.rows.batch

    def of(self, carts: Ints) -> tuple[Ints, "_Pricer"]:
        """Some carts alone: which rows are theirs, and their pricer."""
        at, rows = self.rows.of(carts)
        return at, _Pricer(self.shop, rows, self.together, self.traced)

    def price(self, apply: Apply, there: Bools) -> Priced:
        if self.together.all_go_together or not there.any():
            return self._walked(there)
        if apply == "first":
            return self._first(there)
        kept = self._best(there)
        late = self._late(there)
        if not late.any():
            return kept
        at = np.flatnonzero(self.rows.of_carts(late))
        rest = np.flatnonzero(~self.rows.of_carts(late))
        axes = self.batch.axes
        followed = self._followed(at, self.rows.of_carts(there)[:, at], kept.took_effect[:, at])
        return joined(axes, len(self.rows), [(at, followed), (rest, kept.some(rest, axes))])

    # --- walks

    def _new_walk(self, batch: CartBatch | None = None) -> Walk:
        batch = self.batch if batch is None else batch
        trace = new_trace(len(self.offers), batch.worth_by_line) if self.traced else None
        return Walk(self.shop, batch, self.offers, trace)

    def _walked(self, there: Bools) -> Priced:
        """All the offers in order, each on its carts."""
        walk = self._new_walk()
        turns = [at for at, one in enumerate(self.offers) if one.works_on_goods and (self.traced or there[at].any())]
        taking = [at for at in turns if self.offers[at].takes_off_goods]
        if turns[: len(taking)] == taking and self._serves_again(turns, taking):
            walk.after(self._taken(taking, there), taking)
            turns = turns[len(taking) :]
        for at in turns:
            walk.goods_turn(at, there[at])
        checkout, on_row = Checkout(walk, self.rows), self.rows.of_carts(there)
        for at, offer in enumerate(self.offers):
            if offer.works_on_delivery and (self.traced or there[at].any()):
                checkout.delivery_turn(at, on_row[at])
        return checkout.done()

    def _serves_again(self, turns: Sequence[int], taking: Sequence[int]) -> bool:
        """Whether what comes off goods is asked for with things put in and, once a gift has run out, without."""
        if self.traced or not taking or any(self.offers[at].puts_in for at in taking):
            return False
        return len(turns) > len(taking) or self.batch.has_newest

    def _taken(self, taking: Sequence[int], there: Bools) -> Walk:
        """The walk of some of the offers alone, of which none puts anything in."""
        offers, where = [self.offers[at] for at in taking], there[taking]

        def walked() -> Walk:
            walk = Walk(self.shop, self.batch, offers)
            for at, here in enumerate(where):
                walk.goods_turn(at, here)
            return walk

        parts = tuple(one.priced_part for one in offers)
        return self.batch.newest((self.shop, parts, where.tobytes()), walked)

    def _first(self, there: Bools) -> Priced:
        """Goods offers, then delivery offers, in order; one that took effect shuts out those it conflicts with."""
        walk, shut_out = self._new_walk(), self.together.shut_out
        for at, offer in enumerate(self.offers):
            if offer.works_on_goods and (self.traced or there[at].any()):
                walk.goods_turn(at, there[at] & ~shut_out(at, walk.took_effect()))
        checkout, on_row = Checkout(walk, self.rows), self.rows.of_carts(there)
        for at, offer in enumerate(self.offers):
            if offer.works_on_delivery and (self.traced or there[at].any()):
                checkout.delivery_turn(at, on_row[at] & ~shut_out(at, checkout.took_effect()))
        return checkout.done()

    # --- the best set

    @cached_property
    def _steady(self) -> list[int]:
        return self.together.steady(range(len(self.offers)))

    @cached_property
    def _sets(self) -> list[tuple[int, ...]]:
        return self.together.largest_sets(tuple(self._steady))

    def _best(self, there: Bools) -> Priced:
        """The set of steady offers that is best for the shopper, row by row.

        A largest set of the offers that take part in a cart is a largest set of all of them, less what takes no part
        there: so each of those is walked once, by the carts that may keep it.
        """
        there = there & among(self._steady, len(there))[:, None]
        if len(self._sets) <= 1 or not len(self.rows):
            return self._walked(there)
        may_keep = self._may_keep(there)
        several = may_keep.sum(axis=0) > 1
        carts = np.flatnonzero(several)
        parts: list[tuple[Ints, Priced]] = []
        contested: list[tuple[int, Priced]] = []
        for number, one in enumerate(self._sets):
            compared = bool(may_keep[number, carts].any())
            wanted = np.flatnonzero((may_keep[number] & ~several) | (several if compared else False))
            if not len(wanted):
                continue
            at, some = self.of(wanted)
            priced = some._walked(there[:, wanted] & among(one, len(there))[:, None])
            alone = some.rows.of_carts(~several[wanted])
            if compared:
                contested.append((number, priced.some(np.flatnonzero(~alone), some.batch.axes)))
                priced = priced.some(np.flatnonzero(alone), some.batch.axes)
            parts.append((at[alone], priced))
        if contested:
            at, some = self.of(carts)
            numbers = [number for number, _ in contested]
            held = some.rows.of_carts(may_keep[:, carts][numbers])
            parts.append((at, some._best_of([one for _, one in contested], held, numbers, there[:, carts])))
        return joined(self.batch.axes, len(self.rows), parts)

    def _may_keep(self, there: Bools) -> Bools:
        """One row a largest set, one column a cart: whether, less what takes no part there, it cannot grow."""
        found = np.zeros((len(self._sets), there.shape[1]), dtype=np.bool_)
        for carts, available in alike(there):
            largest = set(self.together.largest_sets(tuple(available)))
            for number, one in enumerate(self._sets):
                left = tuple(at for at in one if at in available)
                if left in largest:
                    largest.discard(left)  # the first of those that come to the same
                    found[number, carts] = True
        return found

    def _best_of(self, priced: Sequence[Priced], held: Bools, numbers: Sequence[int], there: Bools) -> Priced:
        """Of sets priced on the same rows, the one formed last with the least total less what is put in.

        held: one row a set, one column a row: whether it is one of the row's largest sets. Ties go to the set whose
        effective offers come earlier in the plan.
        """
        formed = self._formed_last(priced, held, [self._sets[number] for number in numbers], there)
        best, settled = priced[0], formed[0]
        for challenger, is_formed in zip(priced[1:], formed[1:], strict=True):
            best = chosen(self.batch.axes, is_formed & (~settled | _beats(challenger, best)), challenger, best)
            settled = settled | is_formed
        return best

    def _formed_last(
        self, priced: Sequence[Priced], held: Bools, sets: Sequence[tuple[int, ...]], there: Bools
    ) -> Bools:
        """On which rows each set stands once offers that take effect in none of them are left out.

        Leaving an offer out may make another set one that can grow, which then goes too; what is left of a set that
        stays is priced as the set itself, for what it lost took no effect in it.
        """
        took_effect, on_row = [one.took_effect for one in priced], self.rows.of_carts(there)
        formed, open_rows = held.copy(), np.arange(held.shape[1])
        while len(open_rows):
            works = np.logical_or.reduce(
                [took[:, open_rows] & on[open_rows] for took, on in zip(took_effect, formed, strict=True)]
            )
            idle = (on_row[:, open_rows] & ~works).any(axis=0)
            open_rows, works = open_rows[idle], works[:, idle]
            stays = np.zeros((len(sets), len(open_rows)), dtype=np.bool_)
            for rows, working in alike(works):
                largest = set(self.together.largest_sets(tuple(working)))
                for number, one in enumerate(sets):
                    stays[number, rows] = tuple(at for at in one if at in working) in largest
            stays &= formed[:, open_rows]
            moved = (stays != formed[:, open_rows]).any(axis=0)
            formed[:, open_rows] = stays
            open_rows = open_rows[moved]
        return formed

    # --- what follows

    def _late(self, there: Bools) -> Bools:
        """On which carts some offer has not had its turn in the best set: one that yields, or one on delivery alone
        that is not in every largest set."""
        late = np.zeros(there.shape[1], dtype=np.bool_)
        for at in self.together.yielding(range(len(self.offers))):
            late |= there[at]
        on_delivery = [at for at in self._steady if not self.offers[at].works_on_goods]
        if len(self._sets) > 1 and on_delivery:
            for carts, available in alike(there & among(self._steady, len(there))[:, None]):
                sets = self.together.largest_sets(tuple(available))
                late[carts] |= not all(at in one for at in on_delivery if at in available for one in sets)
        return late

    def _followed(self, at: Ints, there: Bools, kept: Bools) -> Priced:
        """After the kept set: offers on goods that yield, in plan order; then the charge is found anew.

        To that go all that took effect, then every other offer on delivery, in plan order. Each applies only if it
        may stand with all that took effect so far, also with what later left nothing to lower. at: which rows; there,
        kept: one row an offer, one column a row: where it takes part, and where it took effect in the kept set.
        """
        rows, offers, stood = self.rows.apart(at), self.offers, kept
        walk = self._new_walk(rows.batch)
        for number in self._steady:
            if offers[number].works_on_goods:
                walk.goods_turn(number, kept[number])
        yielding = self.together.yielding(range(len(offers)))
        for number in yielding:
            if offers[number].works_on_goods:
                walk.goods_turn(number, there[number] & ~self.together.shut_out(number, stood))
                stood = stood | walk.took_effect()
        checkout = Checkout(walk, rows)
        on_delivery = [number for number, one in enumerate(offers) if one.works_on_delivery]
        first = stood
        for number in on_delivery:
            checkout.delivery_turn(number, first[number])
        for number in on_delivery:
            if number in yielding or not offers[number].works_on_goods:
                may = there[number] & ~first[number] & ~self.together.shut_out(number, stood)
                checkout.delivery_turn(number, may)
                stood = stood | checkout.took_effect()
        done = checkout.done(stood)
        rows.batch.let_go()
        return done


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


def alike(there: Bools) -> Iterator[tuple[Ints, list[int]]]:
    """Columns in which the same rows hold: indices of the columns, and of those rows."""
    if not there.shape[1]:
        return
    kind = np.left_shift(1, np.arange(len(there)), dtype=np.int64) @ there
    order = np.argsort(kind, kind="stable")
    bounds = np.flatnonzero(np.diff(kind[order], prepend=-1))
    for first, last in zip(bounds, [*bounds[1:], len(kind)], strict=True):
        of = int(kind[order[first]])
        yield order[first:last], [at for at in range(len(there)) if of >> at & 1]
