"""The carts to expect, and the only holder of their weights.

A mix says of each cart how likely an order is to be it, and of which type it is: its weights add up to 1, what is
summed over it is what one order comes to on average. How many orders there are is for `volume`. docs/sums.md, "The
carts to expect".

>>> share_of_each(4)
array([0.25, 0.25, 0.25, 0.25])
"""

from collections.abc import Callable, Collection
from dataclasses import dataclass, replace
from datetime import date
from functools import partial
from typing import Any

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.left_out import left_out
from yellow_abacus.core.forecast.cart_types import BY_TYPE, WAYS, CartTypes, largest
from yellow_abacus.core.forecast.groups import Groups, grouped
from yellow_abacus.core.ground.keeper import Apart, Keeper
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.by_time import EVENLY, Times, by_time
from yellow_abacus.core.pricing.rows import by_payment
from yellow_abacus.core.shop.shop import Shop

OTHERS_KEPT = 40
MOST_OTHERWISE = 0.1
"""Carts are told from another day's prices where no more than this share of them cost something else then: all that
any offer reaches of those is priced for a changed number, whatever the changed offer reaches."""


@dataclass(frozen=True, eq=False)
class Missing:
    """What may be missing from the carts of a mix: holds, lacks: as in `LeftOut`. share_by_cart: how likely an order
    is to be each cart where just that is missing."""

    holds: Ints
    lacks: Ints
    share_by_cart: Floats


@dataclass(frozen=True, eq=False)
class OtherDay:
    """The same carts at another day's prices, each as likely. skus: what costs something else then; otherwise: which
    carts hold any of it."""

    mix: "Mix"
    skus: frozenset[str]
    otherwise: Bools


@dataclass(frozen=True, eq=False)
class Mix(Apart):
    """share_by_cart: how likely an order is to be each cart.

    key: what tells its carts and their prices from those of other mixes of the same shop and orders; weights: what
    tells its shares. origin: the mix this one was made of, and which of its carts each one is, None for the same.
    times: when those carts come of which that is not known. drawn_by_cart: the weekday a cart stands for by
    branching, UNKNOWN for none; None where none does. typed: sorts the carts by the types there are, None where
    none are known. watched: SKUs (index) of which it counts how many carts hold. may_sell_out: those whose stock may
    end, and with it kits they are parts of; missing: what is missing then from which carts, None where none may, or
    these are carts by what was not known of them. enough: then too, the mix nothing is missing from, whose carts come
    first. gone: which of the SKUs are sold out, as in `sold_out`; then shares add up to less than 1. other_day: from
    what the carts come to then it may be told what they do now; None where that is not known.
    """

    shop: Shop
    batch: CartBatch
    share_by_cart: Floats
    key: tuple[object, ...] = ()
    weights: bytes = b""
    origin: "tuple[Mix, Ints | None] | None" = None
    times: Times = EVENLY
    drawn_by_cart: Ints | None = None
    typed: Callable[[CartBatch], CartTypes] | None = None
    watched: tuple[int, ...] = ()
    may_sell_out: tuple[int, ...] = ()
    missing: Missing | None = None
    enough: "Mix | None" = None
    gone: int = 0
    other_day: OtherDay | None = None

    @cached_property
    def types(self) -> dict[str, CartTypes]:
        """Ways to sort the carts, by name. A cart is of one type whatever the prices of the day."""
        if self.origin is None:
            by_type = {} if self.typed is None else {BY_TYPE: self.typed(self.batch)}
            return by_type | {way: largest(sort(self.shop, self.batch)) for way, sort in WAYS.items()}
        whole, cart = self.origin
        if cart is None:
            return whole.types
        return {way: CartTypes(one.labels, one.type_by_cart[cart]) for way, one in whole.types.items()}

    @cached_property
    def groups(self) -> Groups:
        """Whose orders the carts are, and which weekdays' they stand for."""
        if self.origin is not None and self.origin[1] is None and self.origin[0].drawn_by_cart is self.drawn_by_cart:
            return self.origin[0].groups
        return grouped(self.batch.facts, self.drawn_by_cart)

    def on_day(self, day: date) -> "Mix":
        """The carts at the prices of that day."""
        batch = self.batch.on_day(day)
        if batch is self.batch:
            return self
        key = (*self.key, batch.goods.price_key)
        return self._others.get(key, lambda: self._made(batch=batch, key=key, enough=None))

    def beside(self, other: "Mix") -> "Mix":
        """The same, told that these are the carts of another mix as well, but at its day's prices; where few of them
        cost something else then."""
        batch, goods = self.batch, other.batch.goods
        differs = batch.goods.reduced_price != goods.reduced_price
        if other.weights != self.weights or not differs.any():
            return self

        def find() -> Bools:
            return batch.axes.sum_by_cart(differs[batch.sku_by_line].astype(np.int64)) > 0

        otherwise = batch.kept(("otherwise", goods.price_key), find)
        if otherwise.sum() > MOST_OTHERWISE * len(otherwise):
            return self
        skus = frozenset(batch.goods.skus[at] for at in np.flatnonzero(differs).tolist())
        key = (self.key, self.weights, "beside", other.key)
        return self._others.get(
            key, lambda: self._made(enough=self.enough, other_day=OtherDay(other, skus, otherwise))
        )

    def weighed(self, weights: bytes, find: Callable[[], Floats], times: Times) -> "Mix":
        """The same carts with other shares, which `find` finds. weights: what tells them, and the times."""
        return self._others.get(
            (self.key, weights),
            lambda: self._made(share_by_cart=find(), weights=weights, times=times),
        )

    def only(self, told: bytes, find: Callable[[], Bools]) -> "Mix":
        """Some of the carts alone, which `find` finds: how likely an order of those is to be each. told: what tells
        which."""
        weights = self.weights + told

        def make() -> Mix:
            here, missing = find(), self.missing
            shares = self.share_by_cart if missing is None else missing.share_by_cart
            whole = float(shares[here].sum()) or 1.0
            some = None if missing is None else replace(missing, share_by_cart=missing.share_by_cart * here / whole)
            share_by_cart = self.share_by_cart * here / whole
            return self._made(share_by_cart=share_by_cart, weights=weights, missing=some)

        return self._others.get((self.key, weights), make)

    def watching(self, stocks: Collection[int]) -> "Mix":
        """The same, counting what carts take from the stock of some SKUs (index)."""
        watched = self._watching(stocks)
        if watched == self.watched:
            return self
        weights = self.weights + b"watched %r" % (watched,)
        return self._others.get((self.key, weights), lambda: self._made(weights=weights, watched=watched))

    def _watching(self, stocks: Collection[int]) -> tuple[int, ...]:
        """What is watched already, and all that carts hold and that is taken from those stocks."""
        if not stocks:
            return self.watched
        goods, sku_by_line = self.batch.goods, self.batch.sku_by_line
        taken = {sku for stock in stocks for sku in goods.taken_from(stock)}
        lines = self.batch.kept("lines by SKU", lambda: np.bincount(sku_by_line, minlength=len(goods.skus)))
        return tuple(sorted({*self.watched, *(sku for sku in taken if lines[sku])}))

    def selling_out(self, skus: tuple[int, ...], lost: float) -> "Mix":
        """The carts, each also without some of these goods, which are all there yet. lost: of the orders that miss
        something, the share that is not placed at all."""
        key, weights = (*self.key, "selling out", skus), self.weights + b"lost %r" % lost

        def make() -> Mix:
            found = self.batch.kept(("left out", skus), lambda: left_out(self.batch, np.array(skus)))
            shares = self.share_by_cart[found.cart] * np.where(found.lacks > 0, 1 - lost, 1.0)
            drawn = None if self.drawn_by_cart is None else self.drawn_by_cart[found.cart]
            again = partial(Mix.selling_out, skus=skus, lost=lost)
            made = self._each_as(found.batch, found.cart, shares * (found.lacks == 0), key, drawn, again)
            missing = Missing(found.holds, found.lacks, shares)
            watched = self._watching(skus)
            return replace(made, weights=weights, watched=watched, may_sell_out=skus, missing=missing, enough=self)

        return self._others.get((key, weights), make)

    def sold_out(self, gone: int) -> "Mix":
        """The carts as orders come while some of the goods that may sell out have. gone: bits of `may_sell_out`."""
        missing = self.missing
        assert missing is not None, "it is not known what is missing from which carts"
        weights = self.weights_while(gone)

        def make() -> Mix:
            shares = missing.share_by_cart * (missing.lacks == missing.holds & gone)
            return self._made(share_by_cart=shares, weights=weights, gone=gone)

        return self._others.get((self.key, weights), make)

    @property
    def gone_skus(self) -> frozenset[int]:
        """The SKUs (index) that are sold out, kits whose parts are among them."""
        ended = [sku for at, sku in enumerate(self.may_sell_out) if self.gone >> at & 1]
        return frozenset(sku for stock in ended for sku in self.batch.goods.taken_from(stock))

    def weights_while(self, gone: int) -> bytes:
        """What tells the shares of `sold_out`."""
        return self.weights + b"gone %d" % gone

    @cached_property
    def bought(self) -> dict[int, Floats]:
        """Units of each SKU that is watched, by cart."""
        sku_by_line, units = self.batch.sku_by_line, self.batch.quantity_by_line
        return {
            sku: self.batch.axes.sum_by_cart(units * (sku_by_line == sku)).astype(np.float64) for sku in self.watched
        }

    def branched(self, offers: tuple[Offer, ...]) -> "Mix":
        """The carts by all that is not known of them and changes what these offers do."""
        return self._timed(offers)._paid(offers)

    def _timed(self, offers: tuple[Offer, ...]) -> "Mix":
        found = by_time(self.batch, offers)
        if found is None:
            return self
        key = (*self.key, "timed", found.starts, bool((found.weekday >= 0).any()))
        shares = self.share_by_cart[found.cart] * found.shares(self.times)
        drawn = found.weekday if (found.weekday >= 0).any() else None
        again = partial(Mix._timed, offers=offers)
        return self._others.get(key, lambda: self._each_as(found.batch, found.cart, shares, key, drawn, again))

    def _paid(self, offers: tuple[Offer, ...]) -> "Mix":
        """The carts by the way they are paid, where that changes a price under these offers."""
        found = by_payment(self.shop, self.batch, offers)
        if found.batch is self.batch:
            return self
        shares = self.share_by_cart[found.cart] * found.share
        key = (*self.key, "paid")
        drawn = None if self.drawn_by_cart is None else self.drawn_by_cart[found.cart]
        again = partial(Mix._paid, offers=offers)
        return self._others.get(key, lambda: self._each_as(found.batch, found.cart, shares, key, drawn, again))

    def _made(self, other_day: OtherDay | None = None, **otherwise: Any) -> "Mix":
        """A mix of the same carts, one by one."""
        return replace(self, origin=(self, None), other_day=other_day, **otherwise)

    def _each_as(
        self,
        batch: CartBatch,
        cart: Ints,
        shares: Floats,
        key: tuple[object, ...],
        drawn: Ints | None,
        again: "Callable[[Mix], Mix]",
    ) -> "Mix":
        """The carts by what was not known of them. cart: which of them each is. drawn: as in `drawn_by_cart`. again:
        makes the same of those of another day."""
        there = self.other_day
        return replace(
            self,
            batch=batch,
            share_by_cart=shares,
            key=key,
            origin=(self, cart),
            drawn_by_cart=drawn,
            missing=None,
            enough=None,
            other_day=None if there is None else OtherDay(again(there.mix), there.skus, there.otherwise[cart]),
        )

    def let_go(self) -> None:
        """Forget what was made of it, so that nothing outlasts its last use."""
        self._others.clear()
        self.batch.let_go()

    @cached_property
    def _others(self) -> Keeper:
        """Mixes made of this one, so that what was found of them is found once."""
        return Keeper(most=1_000_000_000, things=OTHERS_KEPT)


def alike(shop: Shop, batch: CartBatch, typed: Callable[[CartBatch], CartTypes] | None = None) -> Mix:
    """Every cart as likely as any other."""
    return Mix(shop, batch, share_of_each(batch.axes.carts), typed=typed)


def share_of_each(carts: int) -> Floats:
    return np.full(carts, 1 / max(carts, 1))
