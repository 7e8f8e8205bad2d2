"""Rows: one row a way a cart may go, by option of delivery and by the choice of what is put in.

Where a choice is not known, each is priced by itself and weighted by its share: the shares of a cart's rows add up
to 1. Goods are walked once a cart and gathered to its rows. Where it matters how a cart is paid and that is not
known, it is a cart of its own for each way to pay (`by_payment`). docs/sums.md, "Branches".

Three in four shoppers go by post, the rest by courier: one cart of one pot is two rows.

>>> from yellow_abacus.core.carts.carts import make_batch
>>> from yellow_abacus.core.delivery.zones import Option, Zone
>>> from yellow_abacus.core.goods.making_goods import make_goods
>>> from yellow_abacus.core.goods.records import GoodRecord
>>> from yellow_abacus.core.shop.shop import Settings, Shop
>>> by_post, by_courier = Option("Post", share_bp=7500), Option("Courier", share_bp=2500)
>>> shop, zero = Shop(Settings(), (Zone("Home", (by_post, by_courier)),)), np.zeros(1, dtype=np.int64)
>>> pot = make_batch(make_goods([GoodRecord("POT", list_price=500)]), zero, zero, zero, zero + 1, zero)
>>> found = rows_of(shop, pot)
>>> found.cart_by_row.tolist(), found.share_by_row.tolist()
([0, 0], [0.75, 0.25])
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import prod
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.carts.blocks import LINES_A_BLOCK, each_block
from yellow_abacus.core.carts.carts import LEAST_KEPT, CartBatch
from yellow_abacus.core.carts.facts import UNKNOWN, Labels
from yellow_abacus.core.delivery.parcels import Load, load_of
from yellow_abacus.core.delivery.zones import Carriage, Delivery
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.keeper import Found, Keeper
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer, PutIn
from yellow_abacus.core.offers.gifts import Gift, gifts_of
from yellow_abacus.core.shop.payments import shares
from yellow_abacus.core.shop.shop import Shop

MOST_WAYS = 64
"""Most ways things may be chosen that one set of offers puts in."""

BYTES_A_ROW, FEWEST = 240, 1000
"""How large rows count where they are kept, with what is found of them; and the fewest they count as."""
SETS_OF_ROWS = 3
"""So many times what they count is kept of what was found of rows: all of their blocks, and two sets of rows in which
something put in can be chosen."""

Number = TypeVar("Number", np.int64, np.float64, np.bool_)


@dataclass(frozen=True, eq=False)
class Rows:
    """Rows of a cart lie next to each other.

    cart_by_row: index into the batch. share_by_row: how likely the cart goes that way. option_by_row: of delivery
    (`Delivery`). choice_by_row: one row a gift of `gifts`, one column a row: which of its choices the shopper takes.
    source: the rows these are some of, and which of them each one is; None where they are not taken of others.
    """

    batch: CartBatch
    cart_by_row: Ints
    share_by_row: Floats
    option_by_row: Ints
    gifts: tuple[Gift, ...]
    choice_by_row: Ints
    source: "tuple[Rows, Ints] | None" = None

    def __len__(self) -> int:
        return len(self.cart_by_row)

    @property
    def kept_bytes(self) -> int:
        """How much rows that are kept count, with what is found of them."""
        return max(len(self), FEWEST) * BYTES_A_ROW

    @cached_property
    def one_a_cart(self) -> bool:
        """Whether each cart has one row, in the order of the carts."""
        return len(self) == self.batch.axes.carts and bool((np.diff(self.cart_by_row) == 1).all())

    def of_carts(self, by_cart: NDArray[Number]) -> NDArray[Number]:
        """Each cart's figures (one column a cart) on each of its rows."""
        return by_cart if self.one_a_cart else by_cart.take(self.cart_by_row, axis=-1, mode="clip")

    @cached_property
    def _keeper(self) -> Keeper:
        """Few rows keep as much as a small batch: parts of them, with choices of what is put in, for several sets."""
        return Keeper(max(self.kept_bytes * SETS_OF_ROWS, LEAST_KEPT))

    def kept(self, key: object, find: Callable[[], Found]) -> Found:
        return self._keeper.get(key, find)

    def let_go(self) -> None:
        """Forget what was found of them: rows that were taken of these name them in turn."""
        self._keeper.clear()

    def carriage(self, delivery: Delivery) -> Carriage:
        """What carriers ask for each row with nothing put in, kept: carts of a shop of one block are weighed once."""
        if self.gifts:
            return self.plain.carriage(delivery)
        if delivery not in self._carriage:
            if self.source is not None and self.source[0].batch.axes.lines <= LINES_A_BLOCK:
                rows, at = self.source
                found = rows.carriage(delivery).some(at)
            else:
                found = delivery.carriage(self.load, self.option_by_row)
            self._carriage[delivery] = found
        return self._carriage[delivery]

    @cached_property
    def _carriage(self) -> dict[Delivery, Carriage]:
        return {}

    @cached_property
    def carried(self) -> dict[Delivery, tuple[Ints, Carriage]]:
        """What was put in on each row when carriers were last asked of it, and what they asked."""
        return {}

    @cached_property
    def load(self) -> Load:
        """What each row puts on the scales, nothing put in."""
        return load_of(self.batch) if self.one_a_cart else load_of(self.batch).some(self.cart_by_row)

    @property
    def plain(self) -> "Rows":
        """The same rows with nothing to choose; what carts alone come to is kept there, for any offers."""
        return self._plain if self.gifts else self

    @cached_property
    def _plain(self) -> "Rows":
        if self.source is not None and np.array_equal(self.source[1], np.arange(len(self.source[0]))):
            return self.source[0].plain
        return replace(self, gifts=(), choice_by_row=self.choice_by_row[:0])

    def block(self, batch: CartBatch, carts: slice) -> "Rows":
        """The rows of neighbouring carts, kept; `batch` is those carts alone."""

        def find() -> Rows:
            at = self.of_block(carts)
            found = self._some(at, batch, self.cart_by_row[at] - carts.start)
            if not self.gifts:
                return found
            return replace(found, source=(self.plain.block(batch, carts), np.arange(len(found))))

        return self.kept(("block", carts.start, carts.stop), find)

    def of_block(self, carts: slice) -> slice:
        """Which rows are those of neighbouring carts."""
        first, last = np.searchsorted(self.cart_by_row, (carts.start, carts.stop))
        return slice(int(first), int(last))

    def of(self, carts: Ints) -> tuple[Ints, "Rows"]:
        """The rows of some carts, by rising index: which rows they are, and the rows by themselves; kept."""
        if len(carts) == self.batch.axes.carts:
            return np.arange(len(self)), self
        return self.kept(("of", carts.tobytes()), lambda: self._of(carts, self.batch.part(carts)))

    def once(self, carts: Ints) -> "Rows":
        """The rows of some carts, as `of`, not kept."""
        return self if len(carts) == self.batch.axes.carts else self._of(carts, self.batch.some(carts))[1]

    def _of(self, carts: Ints, batch: CartBatch) -> tuple[Ints, "Rows"]:
        by_cart = Axes(np.searchsorted(self.cart_by_row, np.arange(self.batch.axes.carts + 1)))
        at = by_cart.lines_of(carts)
        cart_by_row = np.repeat(np.arange(len(carts)), by_cart.lines_by_cart[carts])
        return at, replace(self._some(at, batch, cart_by_row), source=(self.plain, at))

    def apart(self, at: Ints | None = None) -> "Rows":
        """Rows (some, by index, or all) each with a cart of its own."""
        if at is None and self.one_a_cart:
            return self
        at = np.arange(len(self)) if at is None else at
        return self._some(at, self.batch.some(self.cart_by_row[at]), np.arange(len(at)))

    def _some(self, at: slice | Ints, batch: CartBatch, cart_by_row: Ints) -> "Rows":
        share, option = self.share_by_row[at], self.option_by_row[at]
        return Rows(batch, cart_by_row, share, option, self.gifts, self.choice_by_row[:, at])


def rows_of(shop: Shop, batch: CartBatch, offers: Sequence[Offer] = (), reached: Bools | None = None) -> Rows:
    """Every way the carts may go under these offers; kept with the batch.

    reached: one row an offer, one column a cart; where an offer is not to apply, its choices are not told apart. None
    for everywhere.
    """
    return _branched(batch.kept(("rows", shop.delivery), lambda: _by_option(shop, batch)), offers, reached)


def rows_of_some(shop: Shop, batch: CartBatch, carts: Ints, offers: Sequence[Offer], reached: Bools | None) -> Rows:
    """As `rows_of` a part of a batch, taken of the rows of all its carts. carts: by index, any of them several times.
    reached: of those carts."""
    part = batch.part(carts)
    rows = part.kept(("rows", shop.delivery), lambda: rows_of(shop, batch)._of(carts, part)[1])
    return _branched(rows, offers, reached)


def _branched(rows: Rows, offers: Sequence[Offer], reached: Bools | None) -> Rows:
    gifts = gifts_of(offers, rows.batch.goods).gifts
    if not gifts:
        return rows
    where = [b"" if reached is None else np.packbits(reached[gift.offer]).tobytes() for gift in gifts]
    key = tuple((gift.key, mask) for gift, mask in zip(gifts, where, strict=True))
    return rows.kept(key, lambda: _with_gifts(rows, gifts, reached))


def _with_gifts(rows: Rows, gifts: tuple[Gift, ...], reached: Bools | None) -> Rows:
    at, choice = _with_choices(rows, gifts, reached)
    share = rows.share_by_row[at]
    for gift, chosen in zip(gifts, choice, strict=True):
        share = share * np.where(chosen == UNKNOWN, 1.0, gift.shares[chosen])
    return Rows(
        rows.batch, rows.cart_by_row[at], share, rows.option_by_row[at], gifts, np.maximum(choice, 0), (rows, at)
    )


def likeliest_rows(shop: Shop, batch: CartBatch, offers: Sequence[Offer] = ()) -> Rows:
    """One row a cart: the option it goes by most likely, and the first choice of each thing put in."""
    carts, gifts = batch.axes.carts, gifts_of(offers, batch.goods).gifts
    option = shop.delivery.likeliest(batch)
    return Rows(batch, np.arange(carts), np.ones(carts), option, gifts, np.zeros((len(gifts), carts), dtype=np.int64))


def _by_option(shop: Shop, batch: CartBatch) -> Rows:
    """By rising number of the option; a cart whose zone has none has one row without."""

    def one_block(carts: slice, block: CartBatch) -> tuple[Ints, Floats, Ints]:
        shares = shop.delivery.shares(block)
        likely = np.vstack([shares > 0, ~shares.any(axis=0)])
        cart, option = np.nonzero(likely.T)
        nowhere = option == len(shares)
        share = np.where(nowhere, 1.0, np.vstack([shares, np.zeros(block.axes.carts)])[option, cart])
        return cart + carts.start, share, np.where(nowhere, UNKNOWN, option)

    cart, share, option = map(np.concatenate, zip(*each_block(batch, one_block), strict=True))
    return Rows(batch, cart, share, option, (), np.zeros((0, len(cart)), dtype=np.int64))


def _with_choices(rows: Rows, gifts: Sequence[Gift], reached: Bools | None) -> tuple[Ints, Ints]:
    """Each row as often as things can be chosen there: which row, and which choice of each gift, UNKNOWN for all."""
    at, chosen = np.arange(len(rows)), np.zeros((0, len(rows)), dtype=np.int64)
    for gift in gifts:
        many = len(gift.skus)
        if many == 1:
            chosen = np.vstack([chosen, np.zeros((1, len(at)), dtype=np.int64)])
            continue
        counts = np.full(len(at), many)
        if reached is not None:
            counts = np.where(reached[gift.offer, rows.cart_by_row[at]], many, 1)
        again = np.repeat(np.arange(len(at)), counts)
        number = np.arange(len(again)) - np.repeat(np.cumsum(counts) - counts, counts)
        number = np.where(np.repeat(counts, counts) == 1, UNKNOWN, number)
        at, chosen = at[again], np.vstack([chosen[:, again], number])
    return at, chosen


def count_ways(offers: Sequence[Offer], goods: Goods) -> int:
    """In how many ways things that are put in may be chosen, at most."""
    return prod(len(one.all_skus(goods)) for offer in offers for one in offer.rewards() if isinstance(one, PutIn))


# --- ways to pay


@dataclass(frozen=True, eq=False)
class ByPayment:
    """Carts of which it is not known how they are paid, once for each way to pay.

    batch: all of them, the way to pay known. cart: which of the carts each one is. share: how likely it is.
    """

    batch: CartBatch
    cart: Ints
    share: Floats


def by_payment(shop: Shop, batch: CartBatch, offers: Sequence[Offer]) -> ByPayment:
    """The carts by the way they are paid, where that changes a price; else as they are. Kept with the batch."""
    wheres = (*(one.where for one in offers), *(one.where for one in shop.surcharges))
    asked = any(where.payments for where in wheres)
    if not asked or not shop.payments or not (batch.facts.payment.number_by_cart == UNKNOWN).any():
        return batch.kept("as paid", lambda: ByPayment(batch, np.arange(batch.axes.carts), np.ones(batch.axes.carts)))
    return batch.kept(("by payment", shop), lambda: _by_payment(shop, batch))


def _by_payment(shop: Shop, batch: CartBatch) -> ByPayment:
    known = batch.facts.payment
    unknown = known.number_by_cart == UNKNOWN
    likely = np.where(unknown, shares(shop.payments, known), 0.0)
    likely[0] = np.where(unknown, likely[0], 1.0)
    cart, method = np.nonzero(likely.T > 0)
    names = (*known.names, *(one.name for one in shop.payments))
    number = np.where(unknown[cart], len(known.names) + method, known.number_by_cart[cart])
    some = batch.some(cart)
    paid = replace(some, facts=replace(some.facts, payment=Labels(names, number)))
    return ByPayment(paid, cart, likely[method, cart])
