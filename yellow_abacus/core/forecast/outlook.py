"""What plans come to over a mix of carts: each distinct set of offers, beside those of today, is priced once, summed,
and only weighed from then on.

A changed number prices anew only the carts the changed offer can reach, as it was or as it is: what every other
cart comes to is taken from a set that differs in that offer alone. Days with other prices are told from a plan's
first days, but for the carts that cost something else then.

One cart of a pot for 5.00 that costs 2.00, with no offer and with a tenth off:

>>> from yellow_abacus.core.carts.carts import make_batch
>>> from yellow_abacus.core.delivery.zones import Zone
>>> from yellow_abacus.core.forecast.mix import alike
>>> from yellow_abacus.core.goods.making_goods import make_goods
>>> from yellow_abacus.core.goods.records import GoodRecord
>>> from yellow_abacus.core.offers import PercentOff
>>> from yellow_abacus.core.shop.shop import Settings
>>> goods, zero = make_goods([GoodRecord("POT", list_price=500, purchase_cost=200.0)]), np.zeros(1, dtype=np.int64)
>>> shop = Shop(Settings(), (Zone("Home"),))
>>> mix = alike(shop, make_batch(goods, zero, zero, zero, zero + 1, zero))
>>> outlook = Outlook(shop, mix)
>>> outlook.sums(mix, ()).profit.tolist(), outlook.sums(mix, (Offer((PercentOff(1000),)),)).profit.tolist()
([300.0], [250.0])
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import cast

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch, Touched
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.costed import Costed, end_to_end, nothing_told
from yellow_abacus.core.forecast.former import BareFigures, Former, Key
from yellow_abacus.core.forecast.from_stock import Taking, together
from yellow_abacus.core.forecast.known_sets import (
    Basis,
    KnownSets,
    Offers,
    Wanted,
    key_of,
    priced_parts,
)
from yellow_abacus.core.forecast.mix import Mix, OtherDay
from yellow_abacus.core.forecast.pieced import Piece, Pieced
from yellow_abacus.core.forecast.sketched import is_sketched
from yellow_abacus.core.forecast.sums import AT, FIGURES, LEDGER, Sums
from yellow_abacus.core.forecast.variants import apart, at_once, differ_in, side_by_side
from yellow_abacus.core.ground.axes import Axes, summed_by
from yellow_abacus.core.ground.keeper import Found, Keeper
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import Rows, rows_of, rows_of_some
from yellow_abacus.core.shop.shop import Shop

ROWS_KEPT, SUMS_KEPT = 96_000_000, 16_000_000
"""Bytes of costed rows, from which the next changed number is told, and of sums."""
ROWS_A_CART = 2_200
"""And so many for each cart of a large mix: bare carts at several days' prices; and the rows of all sets of a plan
whose gifts and limits run out one after another, as the number was and as it is. With less, each forecast would
price most of them anew."""
TRIES_KEPT, TRIES = 48_000_000, 24
AHEAD_KEPT = 32_000_000
"""Bytes of rows of sets that are about to be asked for."""
NEARLY_ALL = 0.6
"""Where offers reach this share of all carts, all are priced: to take some apart costs more than to price all."""

NONE: Offers = ()


@dataclass(frozen=True, eq=False)
class Bare:
    """Carts with no offer, or as they are today, whatever their shares. mix: one that has them."""

    mix: Mix
    rows: Rows
    figures: BareFigures

    @property
    def profit(self) -> float:
        """What all the carts keep, each taken once, minor units."""
        return float(self.figures.by_cart[AT["kept"]].sum())

    def summed(self, mix: Mix, where: Bools) -> Sums:
        """The carts of `where` alone. mix: their shares."""
        at, by_cart = np.flatnonzero(where), self.figures.by_cart
        by_cart = by_cart if len(at) == len(where) else by_cart[:, at]
        nobody = np.zeros((0, len(at)))
        return Costed(at, np.ones(len(at)), by_cart, nobody > 0, nobody).summed(mix)

    def kept_by_row(self, carts: Ints, rows: Rows) -> Floats:
        """What rows of some carts keep, minor units. carts: which of all each of the rows' is."""
        at = self._axes.lines_of(carts)
        if len(at) != len(rows):  # some of them once for each thing that may be chosen
            return self.kept_as_they_were(carts, rows)
        return self.figures.kept[at]

    def kept_as_they_were(self, carts: Ints, rows: Rows) -> Floats:
        """As `kept_by_row`, of rows that need not be those of the carts: by option, or on average where the cart had
        none such."""
        options = 2 + max(int(one.option_by_row.max(initial=0)) for one in (self.rows, rows))
        key = self.figures.cart_by_row * options + self.rows.option_by_row + 1
        asked = carts[rows.cart_by_row] * options + rows.option_by_row + 1
        at = np.minimum(np.searchsorted(key, asked), max(len(key) - 1, 0))
        on_average = self.figures.by_cart[AT["kept_today"]][carts[rows.cart_by_row]]
        return np.where(key[at] == asked, self.figures.kept[at], on_average)

    @cached_property
    def _axes(self) -> Axes:
        """The rows of each cart."""
        mine = self.figures.cart_by_row
        return Axes(np.searchsorted(mine, np.arange(self.figures.by_cart.shape[1] + 1)))


@dataclass(frozen=True, eq=False)
class AsToday:
    """Carts under the offers that run today. took_effect: by offer and cart, on how many of the ways it may go.

    reaches: which carts any of them does. None of them: bare carts.
    """

    kept: Bare
    reaches: Bools
    took_effect: Floats


class Outlook:
    """Sums of sets of offers over one mix. Safe to share between threads."""

    def __init__(self, shop: Shop, mix: Mix, former: Former | None = None) -> None:
        """former: what was found when a few of the carts were otherwise."""
        self.shop, self.mix, self._former = shop, mix, former
        rows_kept = max(ROWS_KEPT, mix.batch.axes.carts * ROWS_A_CART)
        self._sums, self._bares, self._todays = Keeper(SUMS_KEPT), Keeper(rows_kept), Keeper(rows_kept)
        self.tries, self.tries_on = Keeper(TRIES_KEPT, TRIES), Keeper(TRIES_KEPT, TRIES)
        """What carts with something added came to, from which the next changed number is told; and those carts."""
        self.tries_ahead = Keeper(TRIES_KEPT)
        """What they come to under sets that are about to be asked for."""
        self.came_to_nothing = Keeper(TRIES_KEPT, TRIES)
        """Which carts (index) it did nothing for to add what they lacked, when that was last looked at."""
        self._ahead = Keeper(AHEAD_KEPT, weigh=lambda found: cast(Pieced, found).pieces[-1].rows.kept_bytes)
        self._sets = KnownSets(shop, former, rows_kept)

    def sums(self, mix: Mix, offers: Sequence[Offer], apply: Apply = "best", today: Offers = NONE) -> Sums:
        """The carts with these offers available, beside those that run today. mix: that of the outlook, at the prices
        of some day."""
        offers = tuple(offers)
        find = self._find_gone if mix.gone else self._find
        return self._sums.get(_weighed_key(mix, offers, apply, today), lambda: find(mix, offers, apply, today))

    def kept(self, key: object, find: Callable[[], Found]) -> Found:
        """What is made of sums, kept with them."""
        return self._sums.get(key, find)

    def keeps(self, key: object) -> bool:
        """Whether what is asked for under a key is kept."""
        return key in self._sums

    def bare(self, mix: Mix) -> Bare:
        """The carts with no offer running."""
        return self._bares.get(mix.key, lambda: self._find_bare(mix))

    def as_today(self, mix: Mix, today: Offers, apply: Apply) -> AsToday:
        """The carts of a mix that today's offers were branched for."""
        return self._todays.get(key_of(mix, (), apply, today), lambda: self._find_today(mix, today, apply))

    def _find_today(self, mix: Mix, today: Offers, apply: Apply) -> AsToday:
        bare, carts = self.bare(mix), mix.batch.axes.carts
        there = reached(today, self.shop, mix.batch)
        reaches: Bools = np.logical_or.reduce(there, axis=0) if today else np.zeros(carts, dtype=np.bool_)
        took_effect = np.zeros((len(today), carts))
        if not reaches.any():
            return AsToday(bare, reaches, took_effect)
        some = np.flatnonzero(reaches)
        rows = rows_of_some(self.shop, mix.batch, some, today, there[:, some])
        costed = costed_rows(self.shop, rows, today, apply, there[:, some])
        took_effect[:, some] = [costed.took_effect_by_cart(at, len(some)) for at in range(len(today))]
        return AsToday(
            replace(bare, figures=bare.figures.instead(some, costed, rows.option_by_row)), reaches, took_effect
        )

    def on_day(self, day: date) -> Bare:
        """The carts at the prices of a day, with no offer running."""
        return self.bare(self.mix.on_day(day))

    def _find_bare(self, mix: Mix) -> Bare:
        rows, former = rows_of(self.shop, mix.batch), self._former
        known = None if former is None else former.bares.get(mix.key)
        if former is not None and known is not None:
            otherwise = former.among(mix)
        elif mix.other_day is not None:
            known, otherwise = self.bare(mix.other_day.mix).figures, mix.other_day.otherwise
        else:
            return Bare(mix, rows, self._bare_figures(rows))
        some = rows.once(np.flatnonzero(otherwise))
        part = self._bare_figures(some)
        if some is not rows:
            some.batch.let_go()
        return Bare(mix, rows, known.with_carts(otherwise, rows.cart_by_row, part))

    def _bare_figures(self, rows: Rows) -> BareFigures:
        by_cart, by_row = np.zeros((len(FIGURES), rows.batch.axes.carts)), np.empty((3, len(rows)))

        def one_block(carts: slice, block: CartBatch) -> None:
            mine = rows if block is rows.batch else rows.block(block, carts)
            costed = costed_of(self.shop, mine, price(self.shop, mine, ()))
            told = (INDEX["delivery_charged"], INDEX["delivery_cost"], AT["kept_today"])
            by_row[:, rows.of_block(carts)] = costed.figures[list(told)]
            for figure, found in zip(costed.figures, by_cart[:, carts], strict=True):
                if _tells(figure):
                    found[:] = summed_by(mine.cart_by_row, figure * costed.share_by_row, block.axes.carts)

        each_block(rows.batch, one_block)
        charged, delivered, kept = by_row
        return BareFigures(rows.cart_by_row, by_cart, charged, -delivered, kept)

    def before(self, touched: Touched) -> Former:
        """What was found, for an outlook over the same carts in which some things are otherwise."""
        bares = {
            cast(Key, key): cast(Bare, one).figures
            for key, one in self._bares.newest_first()
            if not is_sketched(cast(Key, key))
        }
        if not bares and self._former is not None:
            return self._former.also(touched)
        nowhere = np.zeros(self.mix.batch.axes.carts, dtype=np.bool_)
        return Former(nowhere, frozenset(), bares, self._sets.handed_on()).also(touched)

    def find_together(self, mix: Mix, many: Sequence[Offers], apply: Apply = "best", today: Offers = NONE) -> None:
        """Find the sums of sets that differ from each other in one offer alone, in one walk, and keep them; and their
        rows, until `forget_together`.

        Each variant of the offer is there for its own copy of the carts it can reach. Sets that differ otherwise are
        left for `sums` to find.
        """
        fresh = [one for one in dict.fromkeys(many) if _weighed_key(mix, one, apply, today) not in self._sums]
        paid = [mix.branched((*one, *today)) for one in fresh]
        at = differ_in(fresh)
        if at is None or any(one.key != paid[0].key for one in paid):
            return
        from_other_day = {other_day_of(mix, (*one, *today)) is not None for one in fresh}
        if len(from_other_day) > 1:
            return
        find = self._side_by_side_on_other_day if True in from_other_day else self._side_by_side
        for offers, sums in find(mix, paid[0], fresh, at, apply, today):
            self._sums.put(_weighed_key(mix, offers, apply, today), sums)

    def forget_together(self) -> None:
        """Let go of what was found of sets that were to be asked for."""
        self._ahead.clear()
        self.tries_ahead.clear()

    def _side_by_side(
        self, asked: Mix, mix: Mix, many: Sequence[Offers], at: int, apply: Apply, today: Offers
    ) -> Iterator[tuple[Offers, Sums]]:
        """Sums of all of them: those of the first, and what changes on the carts that matter.

        mix: the one that is asked for, branched for the sets. at: what differs.
        """
        reaches = [reached(offers, self.shop, mix.batch) for offers in many]
        matters: Bools = np.logical_or.reduce([one[at] for one in reaches])
        carts = np.flatnonzero(matters)
        first = self.sums(asked, many[0], apply, today)
        known = self._sets.of(key_of(mix, many[0], apply, today))
        rest = None if known is None else known.on(~matters, tuple(range(len(many[0]))))
        part_of_first: Sums | None = None
        copies = self._copies(mix, many, at, apply, today, carts, [one[:, carts] for one in reaches])
        for offers, rows in zip(many, copies, strict=True):
            if rest is not None:
                self._put_ahead(key_of(mix, offers, apply, today), Pieced(offers, (*rest, Piece(rows))), len(many))
            part = rows.summed(mix)
            part_of_first = part if part_of_first is None else part_of_first
            yield offers, first + (part - part_of_first)

    def _side_by_side_on_other_day(
        self, asked: Mix, mix: Mix, many: Sequence[Offers], at: int, apply: Apply, today: Offers
    ) -> Iterator[tuple[Offers, Sums]]:
        """As `_find_by_other_day` finds them."""
        assert asked.other_day is not None, "it is told from that"
        assert mix.other_day is not None, "branches have what their carts have"
        then, otherwise = mix.other_day.mix, mix.other_day.otherwise
        carts = np.flatnonzero(otherwise)
        part = mix.batch.part(carts)
        reaches = [reached(offers, self.shop, part) for offers in many]
        for offers, now in zip(many, self._copies(mix, many, at, apply, today, carts, reaches), strict=True):
            known = self._set_at_hand(key_of(then, offers, apply, today))
            if known is not None:
                rest = known.on(~otherwise, tuple(range(len(offers))))
                self._put_ahead(key_of(mix, offers, apply, today), Pieced(offers, (*rest, Piece(now))), len(many))
            was = self.costed(then, offers, apply, carts, today)
            yield offers, self.sums(asked.other_day.mix, offers, apply, today) + now.less(was, mix)

    def _set_at_hand(self, key: Key) -> Pieced | None:
        return self._sets.of(key) or cast(Pieced | None, self._ahead.known(key))

    def _put_ahead(self, key: Key, found: Pieced, many: int) -> None:
        """Keep one of so many sets, if there is room for all of them."""
        if found.pieces[-1].rows.kept_bytes * many <= AHEAD_KEPT:
            self._ahead.put(key, found)

    def _copies(
        self,
        mix: Mix,
        many: Sequence[Offers],
        at: int,
        apply: Apply,
        today: Offers,
        carts: Ints,
        reaches: Sequence[Bools],
    ) -> Iterator[Costed]:
        """Rows of some carts under each of the sets, which differ in offer `at`. reaches: which of the carts each
        offer of each set does."""
        lines = max(int(mix.batch.axes.lines_by_cart[carts].sum()), 1)
        for some in at_once(len(many), lines):
            sets, one_copy = many[some], len(carts)
            offers, there = side_by_side(sets, at, reaches[some])
            every = np.tile(carts, len(sets))
            rows = rows_of_some(self.shop, mix.batch, every, offers, there)
            kept_today = self.as_today(mix, today, apply).kept.kept_by_row(every, rows)
            costed = costed_rows(self.shop, rows, offers, apply, there, kept_today)
            for copy in apart(costed, at, len(many[0]), [one_copy] * len(sets)):
                yield replace(copy, cart_by_row=carts[copy.cart_by_row])

    def costed(self, mix: Mix, offers: Offers, apply: Apply, carts: Ints, today: Offers = NONE) -> Costed:
        """Rows of some carts of a mix that offers were branched for, of which the sums were found; a cart that no
        offer reaches is one row."""
        known = self._set_at_hand(key_of(mix, offers, apply, today))
        if known is None and (offers or today):
            there = reached(offers, self.shop, mix.batch)[:, carts]
            return self._costed(mix, offers, apply, today, there, carts)
        asked = np.zeros(mix.batch.axes.carts, dtype=np.bool_)
        asked[carts] = True
        rows = [] if known is None else known.of_carts(asked)
        for part in rows:
            asked[part.cart_by_row] = False
        return end_to_end([*rows, self._as_bare(mix, offers, np.flatnonzero(asked))])

    def took_effect_by_cart(
        self, mix: Mix, offers: Offers, apply: Apply, at: Sequence[int], today: Offers = NONE
    ) -> list[Floats]:
        """On how many of the ways it may go each cart is one that some of the offers, by number, took effect on."""
        carts, found = mix.batch.axes.carts, self._sets.of(key_of(mix, offers, apply, today))
        if found is not None:
            return [found.took_effect_by_cart(one, carts) for one in at]
        reaches = np.logical_or.reduce(reached(offers, self.shop, mix.batch), axis=0)
        rows = self.costed(mix, offers, apply, np.flatnonzero(reaches), today)
        return [rows.took_effect_by_cart(one, carts) for one in at]

    def _find_gone(self, mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Sums:
        """While some goods are sold out: as if none were, and the carts that makes a difference to."""
        assert mix.origin is not None, "it was made of a mix in which nothing is gone"
        both, before = (*offers, *today), self._before_the_last(mix, offers, apply, today)
        known, whole = self.sums(before, offers, apply, today), mix.origin[0].branched(both)
        shares = mix.branched(both).share_by_cart - before.branched(both).share_by_cart
        return known + self.costed(whole, offers, apply, np.flatnonzero(shares), today).summed(whole, shares=shares)

    def _before_the_last(self, mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Mix:
        """While one of the goods that are gone was there yet, if that is known; else while all were."""
        assert mix.origin is not None
        enough, rest = mix.origin[0], key_of(mix, offers, apply, today)
        if enough.gone:  # some of its carts alone
            return enough
        fewer = [mix.gone & ~(1 << at) for at in range(len(mix.may_sell_out)) if mix.gone >> at & 1]
        known = (one for one in fewer if (enough.weights_while(one), *rest) in self._sums)
        return next((enough.sold_out(one) for one in known), enough)

    def _find_by_other_day(self, there: OtherDay, mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Sums:
        """From what the carts come to on another day, and those few that come to something else."""
        known = self.sums(there.mix, offers, apply, today)
        mix = mix.branched((*offers, *today))
        assert mix.other_day is not None, "branches have what their carts have"
        then, otherwise = mix.other_day.mix, mix.other_day.otherwise
        carts = np.flatnonzero(otherwise)
        was = self.costed(then, offers, apply, carts, today)
        reaches = reached(offers, self.shop, mix.batch.part(carts))
        touched: Bools = np.logical_or.reduce(reaches, axis=0)
        if today:
            touched = touched | self.as_today(mix, today, apply).reaches[carts]
        rows: list[Costed] = []
        if touched.any():
            rows.append(self._costed(mix, offers, apply, today, reaches[:, touched], carts[touched]))
        self._sets.put_as_on(key_of(then, offers, apply, today), key_of(mix, offers, apply, today), otherwise, rows)
        now = end_to_end([*rows, self._as_bare(mix, offers, carts[~touched])])
        return known + now.less(was, mix)

    def _as_bare(self, mix: Mix, offers: Offers, carts: Ints) -> Costed:
        """Carts that no offer reaches, one row each."""
        nobody = np.zeros((len(offers), len(carts)))
        figures = self.bare(mix).figures.by_cart[:, carts]
        return Costed(carts, np.ones(len(carts)), figures, nobody > 0, nobody)

    def _find(self, mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Sums:
        there = other_day_of(mix, (*offers, *today))
        if there is not None:
            return self._find_by_other_day(there, mix, offers, apply, today)
        enough = None if mix.enough is None else mix.enough.branched((*offers, *today))
        mix = mix.branched((*offers, *today))
        bare, reaches = self.bare(mix), reached(offers, self.shop, mix.batch)
        touched: Bools = np.logical_or.reduce(reaches, axis=0)
        if today:
            touched = touched | self.as_today(mix, today, apply).reaches
        wanted = Wanted(mix, offers, apply, today, reaches, touched, enough)
        basis = self._sets.basis(wanted) if touched.any() else None
        if basis is None and touched.sum() > NEARLY_ALL * len(touched):
            touched = np.ones_like(touched)  # what was found of all carts serves again
        untouched = self._untouched(mix, bare, touched).with_offers([None] * len(offers))
        if not touched.any():
            return untouched
        if basis is None:
            rows = self._costed(mix, offers, apply, today, reaches[:, touched], np.flatnonzero(touched))
            self._sets.put(wanted, rows)
            return untouched + rows.summed(mix)
        known = sum(self._rest(mix, basis), start=untouched)
        here = np.flatnonzero(basis.changed & touched)
        if not len(here):
            self._sets.put(wanted, None, basis)
            return known
        rows = self._costed(mix, offers, apply, today, reaches[:, here], here)
        self._sets.put(wanted, rows, basis)
        return known + rows.summed(mix)

    def _rest(self, mix: Mix, basis: Basis) -> tuple[Sums, ...]:
        """What does not change of a set."""
        key = ("rest", mix.weights, basis.told)
        return self._sums.get(key, lambda: tuple(piece.summed(mix) for piece in basis.pieces))

    def _untouched(self, mix: Mix, bare: Bare, touched: Bools) -> Sums:
        key = ("untouched", mix.key, mix.weights, np.packbits(touched).tobytes())
        return self._sums.get(key, lambda: bare.summed(mix, ~touched))

    def _costed(self, mix: Mix, offers: Offers, apply: Apply, today: Offers, there: Bools, carts: Ints) -> Costed:
        """Some of the carts of the mix, by rising index. there: where each offer reaches among them."""
        rows = rows_of_some(self.shop, mix.batch, carts, offers, there)
        same = priced_parts(offers) == priced_parts(today)
        kept_today = None if same else self.as_today(mix, today, apply).kept.kept_by_row(carts, rows)
        found = costed_rows(self.shop, rows, offers, apply, there, kept_today)
        if len(carts) == mix.batch.axes.carts:
            return found
        return replace(found, cart_by_row=carts[found.cart_by_row])


def other_day_of(mix: Mix, offers: Sequence[Offer]) -> OtherDay | None:
    """The day from which carts can be told under these offers and today's: none of them may put in what costs
    something else then, for that matters to carts that hold nothing of it."""
    there = mix.other_day
    if there is None or any(one.may_put_in(there.skus, mix.batch.goods) for one in offers):
        return None
    return there


def _weighed_key(mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Key:
    return (mix.weights, *key_of(mix, offers, apply, today))


def costed_rows(
    shop: Shop,
    rows: Rows,
    offers: Sequence[Offer],
    apply: Apply,
    there: Bools | None = None,
    kept_today: Floats | None = None,
) -> Costed:
    """Price and cost every row. there: where each offer takes part, if that is known already. kept_today: what each
    row keeps today, None where that is what it keeps here."""
    found = nothing_told(rows, len(offers))

    def one_block(carts: slice, block: CartBatch) -> Taking:
        mine = rows if block is rows.batch else rows.block(block, carts)
        here = None if there is None else there[:, carts]
        at = rows.of_block(carts)
        today = None if kept_today is None else kept_today[at]
        priced = price(shop, mine, offers, apply, there=here)
        return _tell(found.at(at), shop, mine, priced, today).from_row(at.start)

    return replace(found, taking=together(each_block(rows.batch, one_block)))


def costed_of(shop: Shop, rows: Rows, priced: Priced, kept_today: Floats | None = None) -> Costed:
    """What rows come to as they were priced. kept_today: as in `costed_rows`."""
    found = nothing_told(rows, len(priced.took_effect))
    return replace(found, taking=_tell(found, shop, rows, priced, kept_today))


def _tell(found: Costed, shop: Shop, rows: Rows, priced: Priced, kept_today: Floats | None) -> Taking:
    """Set what rows come to where nothing is told yet, and find what offers put in."""
    batch, ledger = rows.batch, cost(shop, rows, priced)
    kept = ledger.sum(axis=0)
    told = dict(zip(FIGURES[LEDGER], ledger, strict=True)) | {
        "tax": priced.goods_tax + priced.delivery_tax + priced.surcharge_tax + priced.chosen_tax,
        "goods_with_tax": priced.goods_by_row + (0 if shop.taxes.included else priced.goods_tax),
        "goods_off": priced.goods_off.sum(axis=0),
        "goods_before_offers": rows.of_carts(batch.worth_by_cart),
        "orders": np.ones(len(rows)),
        "units": rows.of_carts(batch.units_by_cart),
        "losing": kept < 0,
        "kept": kept,
        "kept_today": kept if kept_today is None else kept_today,
        "kept_squared": kept**2,
    }
    if kept_today is not None:
        told["change_squared"] = (kept - kept_today) ** 2
    for name, by_row in told.items():
        if _tells(by_row):  # figures that are 0 throughout are never written, and take no memory
            found.figures[AT[name]] = by_row
    found.took_effect[:] = priced.took_effect
    found.given[:] = priced.goods_off + priced.delivery_off + priced.saved
    return _put_in(priced)


def _tells(figure: NDArray[np.generic]) -> bool:
    """Whether a figure is not 0 throughout; mostly the first tells."""
    return bool(figure[:1].any() or figure.any())


def _put_in(priced: Priced) -> Taking:
    """What offers put in, by row."""
    parts = []
    for number, units in enumerate(priced.put_in):
        row = np.flatnonzero(units)
        parts.append(Taking(row, priced.sku_of(number)[row], units[row].astype(np.float64)))
    return together(parts)
