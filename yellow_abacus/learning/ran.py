"""Offers that ran, as a history knows them: on which days, on which orders they could take effect, which used them.

Orders are taken at the prices they were asked, not at those of today. An offer *works* on an order if it would take
effect there were it alone. docs/sums.md, "What history says".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, batch_of
from yellow_abacus.core.forecast.check_offer import check_offer
from yellow_abacus.core.forecast.expected import History
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.offers.free_lines import unexplained
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.shop.shop import Shop

MOST_PAST = 400


def past_problems(offers: Sequence[Offer], shop: Shop, goods: Goods) -> Iterator[Problem]:
    """What makes no sense of offers said to have run, with paths into the list of them."""
    if len(offers) > MOST_PAST:
        yield Problem((), f"There are {len(offers)} offers.", f"Keep the {MOST_PAST} that tell most.")
    seen: set[str] = set()
    for number, offer in enumerate(offers):
        yield from (problem.inside(number) for problem in check_offer(offer, shop, goods))
        if offer.when.first_day is None or offer.when.last_day is None:
            mend = "Say on which day it began and on which it ended."
            yield Problem((number, "when", "first_day"), "It does not say when it ran.", mend)
        if offer.id in seen:
            yield Problem((number, "id"), "Two offers have the same id.", "Give each an id of its own.")
        seen.add(offer.id)


@dataclass(frozen=True, eq=False)
class Past:
    """A history at the prices its orders were asked. batch: its carts. day_by_cart: ordinals.

    off_by_cart: what came off what each order was asked, or is usual, minor units; None where that was not told.
    put_in_by_cart: what of it was for things put in, which stand in no cart; None for none.
    delivery_paid: by each order, minor units, below 0 where it was not said; None where nothing is known of it.
    free_by_line: lines of `batch.raw`, of goods with a price, that nothing was paid for, beside others that were, and
    that no offer told put in; None where that was not told.
    """

    shop: Shop
    batch: CartBatch
    day_by_cart: Ints
    off_by_cart: Floats | None = None
    delivery_paid: Ints | None = None
    put_in_by_cart: Floats | None = None
    free_by_line: Bools | None = None

    @property
    def first_day(self) -> int:
        return int(self.day_by_cart.min())

    @property
    def last_day(self) -> int:
        return int(self.day_by_cart.max())

    @property
    def days(self) -> int:
        """From the first order's day to the last one's, both included."""
        return self.last_day - self.first_day + 1 if len(self.day_by_cart) else 0

    @cached_property
    def net_by_cart(self) -> Floats:
        """What each order's goods came to, less what came off them where that was told, minor units."""
        worth = self.batch.worth_by_cart.astype(np.float64)
        if self.put_in_by_cart is not None:
            worth += self.put_in_by_cart
        return worth if self.off_by_cart is None else worth - self.off_by_cart

    @cached_property
    def is_first(self) -> Bools:
        """Which orders are their shopper's first."""
        result: Bools = self.batch.facts.orders_before_by_cart == 0
        return result


def asked_by_line(batch: CartBatch) -> Ints:
    """What one unit of each raw line was asked, minor units: today's list price where that was not said."""
    raw = batch.raw
    assert raw is not None, "a part of a batch does not tell what was asked"
    return np.where(raw.asked > 0, raw.asked, np.maximum(batch.goods.list_price, 0)[raw.sku])


def usual_by_line(batch: CartBatch, usual: Ints | None) -> Ints:
    """What one unit of each raw line is usually sold at, minor units. usual: as in `past_of`."""
    asked = asked_by_line(batch)
    if usual is None or batch.raw is None:
        return asked
    return np.where(usual[batch.raw.sku] >= 0, usual[batch.raw.sku], asked)


def past_of(
    history: History,
    paid_by_line: Ints | None = None,
    before: int | None = None,
    delivery_paid: Ints | None = None,
    usual: Ints | None = None,
) -> Past:
    """paid_by_line: for all units of each raw line, after discounts, minor units, below 0 where that was not said.
    delivery_paid: as in `Past`, by cart of the history. usual: by SKU, what one is usually sold at where it is not
    what orders say they were asked, below 0 for others; what came off is told from it.
    before: the ordinal of a day from which on orders are left out; None for all orders."""
    batch, raw = history.batch, history.batch.raw
    assert raw is not None, "a part of a batch does not tell what was asked"
    goods, days = batch.goods, history.day_by_cart
    kept = np.ones(len(days), dtype=np.bool_) if before is None else days < before
    number = np.cumsum(kept) - 1
    mine = kept[raw.cart] if len(raw.cart) else np.zeros(0, dtype=np.bool_)
    asked = asked_by_line(batch)
    as_asked = replace(
        goods,
        list_price=np.full_like(goods.list_price, NO_PRICE),
        reduced_price=np.full_like(goods.reduced_price, NO_PRICE),
        prices=None,
        _of_days={},
    )
    carts = np.flatnonzero(kept)
    some = raw.some(np.flatnonzero(mine))
    lines = replace(some, cart=number[some.cart], asked=asked[mine])
    at_their_prices = batch_of(as_asked, batch.zone_by_cart[carts], lines, batch.facts.some(carts))
    at_their_prices = replace(at_their_prices, goods=goods)  # what is put in costs what Goods asks
    paid = None if delivery_paid is None else delivery_paid[carts]
    past = Past(history.shop, at_their_prices, days[carts], delivery_paid=paid)
    if paid_by_line is None:
        return past

    def by_cart(by_line: Ints) -> Floats:
        return summed_by(lines.cart, by_line[mine].astype(np.float64), len(carts))

    sold_at = usual_by_line(batch, usual) * raw.quantity
    off = np.where(paid_by_line >= 0, sold_at - paid_by_line, 0)
    put_in = None if raw.put_in is None else by_cart(np.where(raw.put_in, off, 0))
    free = unexplained(lines, paid_by_line[mine], lines.asked > 0, len(carts))
    return replace(past, off_by_cart=by_cart(off), put_in_by_cart=put_in, free_by_line=free)


@dataclass(frozen=True, eq=False)
class Ran:
    """An offer that ran. first_day, last_day: ordinals, the ends of the history where none is said."""

    past: Past
    offer: Offer
    first_day: int
    last_day: int

    @property
    def days(self) -> int:
        """Days of the history on which it ran."""
        past = self.past
        if not past.days:
            return 0
        return max(min(self.last_day, past.last_day) - max(self.first_day, past.first_day) + 1, 0)

    @cached_property
    def on_its_days(self) -> Bools:
        days = self.past.day_by_cart
        result: Bools = (self.first_day <= days) & (days <= self.last_day)
        return result

    @cached_property
    def on_any_day(self) -> Offer:
        """The offer as it holds on a day in the middle of its time."""
        when = self.offer.when
        return replace(
            self.offer, when=replace(when, first_day=None, last_day=None, first_minute=None, last_minute=None)
        )

    @cached_property
    def lets_in(self) -> Bools:
        """Orders whose shopper, place and hour pass its clauses, on whatever day."""
        batch, hours = self.past.batch, self.on_any_day.when.passes(self.past.batch.facts)
        kept = self.offer.where.lets_in(self.past.shop.zone_names, batch.zone_by_cart, batch.facts)
        result: Bools = np.logical_and.reduce(
            [hours, self.offer.who.passes(batch.facts), *(into for _, into in kept)]
        )
        return result

    @cached_property
    def open(self) -> Bools:
        """Orders it was open for."""
        return self.on_its_days & self.lets_in

    @cached_property
    def used(self) -> Bools:
        """Orders of its days on which it was used: with its code, or where it works if it needs none."""
        if self.offer.given.key is None:
            return self.open & self.works
        return self.on_its_days & self.past.batch.facts.code.among(self.offer.given.accepted)

    @cached_property
    def _alone(self) -> tuple[Floats, Bools]:
        """What it would take off each order it was open for, were it alone, and where it would take effect."""
        batch, carts = self.past.batch, np.flatnonzero(self.open)
        some, alone = batch.some(carts), self.on_any_day
        costed = costed_rows(self.past.shop, rows_of(self.past.shop, some, (alone,)), (alone,), "best")
        worth, works = np.zeros(batch.axes.carts), np.zeros(batch.axes.carts, dtype=np.bool_)
        worth[carts] = summed_by(costed.cart_by_row, costed.given[0] * costed.share_by_row, len(carts))
        works[carts] = costed.took_effect_by_cart(0, len(carts)) > 0
        return worth, works

    @property
    def worth_by_cart(self) -> Floats:
        """What it would take off each order it was open for, were it alone; 0 for others. Minor units."""
        return self._alone[0]

    @property
    def works(self) -> Bools:
        """Orders it was open for on which it would take effect."""
        return self._alone[1]


def all_ran(past: Past, offers: Sequence[Offer]) -> list[Ran]:
    """The offers over a history."""

    def one(offer: Offer) -> Ran:
        first, last = offer.when.first_day, offer.when.last_day
        return Ran(
            past,
            offer,
            first.toordinal() if first is not None else past.first_day if past.days else 0,
            last.toordinal() if last is not None else past.last_day if past.days else 0,
        )

    return [one(offer) for offer in offers]
