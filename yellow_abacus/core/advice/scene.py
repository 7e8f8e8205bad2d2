"""What snags look at: a plan on the carts to expect, priced as if everybody had every code.

Large mixes are looked at by a part of their carts, each standing for as many more. Prices are those of the period
with most orders of the plan.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.margins import deepest_discount
from yellow_abacus.core.forecast.forecast import Forecaster, Period
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Plan, both_sides
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer, When
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import Rows, likeliest_rows, rows_of
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.core.shop.shop import Shop

LOOKED_AT = 12_000
"""So many carts at most are looked at."""
NAMED = 3
"""So many goods are named where many are meant."""


@dataclass(frozen=True, eq=False)
class Scene:
    """plan: with codes as they are typed (`Plan.typed`). names, notes: of its offers, in order. today: the day it is
    looked at. lowest: by SKU, the lowest price
    of a unit in the 30 days before the plan, minor units, below 0 where it is not known; None where nothing is."""

    forecaster: Forecaster
    plan: Plan
    names: Sequence[str]
    notes: Sequence[str]
    today: date
    lowest: Ints | None = None

    @property
    def shop(self) -> Shop:
        return self.forecaster.shop

    @property
    def goods(self) -> Goods:
        return self.batch.goods

    @cached_property
    def offers(self) -> tuple[Offer, ...]:
        """As they are on a day on which they are open."""
        return tuple(self._opened(offer) for offer in self.plan.offers)

    @cached_property
    def running(self) -> tuple[Offer, ...]:
        """The offers that run today, those too that the plan drops or puts others in place of."""
        return tuple(self._opened(offer) for offer in self.plan.running)

    @cached_property
    def both_sides(self) -> tuple[Offer, ...]:
        """The plan's offers, then those of today that it has not."""
        return both_sides(self.offers, self.running)

    def _opened(self, offer: Offer) -> Offer:
        opened = (offer.on_day(day) for day in self.plan.window())
        return next((one for one in opened if one is not None), replace(offer, when=When()))

    # --- carts

    @cached_property
    def _periods(self) -> list[tuple[float, Period]]:
        periods = self.forecaster.periods(self.plan)
        return [(sum(float(one.volume.on(day)) for day in one.days), one) for one in periods]

    @cached_property
    def orders(self) -> float:
        """Of the plan's days."""
        return sum(orders for orders, _ in self._periods)

    @cached_property
    def mix(self) -> Mix:
        _, period = max(self._periods, key=lambda one: one[0])
        whole = period.source.weighed(period.mix, period.volume.by_weekday(period.days))[1].branched(self.both_sides)
        carts = whole.batch.axes.carts
        if carts <= LOOKED_AT:
            return whole
        some = np.arange(0, carts, -(-carts // LOOKED_AT))
        share = whole.share_by_cart[some]
        return replace(whole, batch=whole.batch.some(some), share_by_cart=share / share.sum(), origin=(whole, some))

    @property
    def batch(self) -> CartBatch:
        return self.mix.batch

    @cached_property
    def orders_by_cart(self) -> Floats:
        return self.mix.share_by_cart * self.orders

    # --- rows: every way each cart may go

    @cached_property
    def _reached(self) -> Bools:
        """One row an offer of both sides, one column a cart."""
        return reached(self.both_sides, self.shop, self.batch)

    @cached_property
    def rows(self) -> Rows:
        return rows_of(self.shop, self.batch, self.both_sides, self._reached)

    @cached_property
    def orders_by_row(self) -> Floats:
        """If everybody had every code."""
        return self.orders_by_cart[self.rows.cart_by_row] * self.rows.share_by_row

    @cached_property
    def likely_by_row(self) -> Floats:
        """Orders that have the codes of all that took effect there, as far as it is said how many hold them."""
        held: Floats = np.ones(len(self.rows))
        for offer, took in zip(self.offers, self.took_effect, strict=True):
            uptake = offer.response.uptake_bp
            if offer.given.key is not None and uptake is not None:
                held = held * np.where(took, uptake / WHOLE_BP, 1.0)
        result: Floats = self.orders_by_row * held
        return result

    @cached_property
    def priced(self) -> Priced:
        """Under the plan; of what it has not, nothing takes effect."""
        return self._priced(np.arange(len(self.both_sides)) < len(self.offers))

    @cached_property
    def bare(self) -> Priced:
        """As today: with the offers that run already."""
        return self._priced(np.array([one in self.running for one in self.both_sides], dtype=np.bool_))

    def alone(self, at: int) -> Priced:
        """With one of the offers and none of the others."""
        if at not in self._alone:
            self._alone[at] = self._priced(np.arange(len(self.both_sides)) == at)
        return self._alone[at]

    @cached_property
    def _alone(self) -> dict[int, Priced]:
        return {}

    def _priced(self, among: Bools) -> Priced:
        there = self._reached & among[:, None]
        return price(self.shop, self.rows, self.both_sides, self.plan.apply, there=there)

    @cached_property
    def took_effect(self) -> Bools:
        """One row an offer, one column a row."""
        return self.priced.took_effect[: len(self.offers)]

    @property
    def stood(self) -> Bools:
        """The same, where an offer took effect on the way, though nothing is left of it (`Priced`)."""
        return self.priced.stood[: len(self.offers)]

    @cached_property
    def kept(self) -> Floats:
        """By row, minor units."""
        result: Floats = cost(self.shop, self.rows, self.priced).sum(axis=0)
        return result

    @cached_property
    def kept_today(self) -> Floats:
        result: Floats = cost(self.shop, self.rows, self.bare).sum(axis=0)
        return result

    @cached_property
    def turns_to_loss(self) -> Bools:
        """Rows that keep something today and lose money under the plan."""
        result: Bools = (self.kept < 0) & (self.kept_today >= 0)
        return result

    def given(self, at: int) -> Ints:
        """By row, what an offer gives away, minor units."""
        priced = self.priced
        result: Ints = priced.goods_off[at] + priced.delivery_off[at] + priced.saved[at]
        return result

    def given_on(self, at: int, where: Bools) -> tuple[float, float]:
        """What an offer gives away on some rows, minor units, and how many orders that are."""
        weight = self.likely_by_row * where
        return float((weight * self.given(at)).sum()), float(weight.sum())

    # --- lines: of each cart the way it most likely goes

    @cached_property
    def off_by_line(self) -> Ints:
        """One row an offer, one column a line, minor units."""
        rows = likeliest_rows(self.shop, self.batch, self.offers)
        there = self._reached[: len(self.offers)]
        return price(self.shop, rows, self.offers, self.plan.apply, there=there, traced=True).by_line.off

    def off_lines(self, at: int, lines: Bools) -> tuple[float, float]:
        """What an offer takes off some lines, minor units, and in how many orders such lines are."""
        off = float((self.off_by_line[at] * self.orders_by_line)[lines].sum())
        return off, float(self.orders_by_cart[self.batch.axes.sum_by_cart(lines.astype(np.int64)) > 0].sum())

    @cached_property
    def orders_by_line(self) -> Floats:
        return self.orders_by_cart[self.batch.axes.cart_by_line]

    def carts_of(self, by_row: Bools) -> Bools:
        """Which carts have such a row."""
        found: Bools = np.bincount(self.rows.cart_by_row, weights=by_row, minlength=self.batch.axes.carts) > 0
        return found

    # --- goods

    @cached_property
    def most_off(self) -> Floats:
        """By SKU, the share that may come off its price before a unit keeps nothing, below 0 where it does not
        already; 1 where that is not known."""
        found = deepest_discount(self.shop, self.goods, self.goods.standing_price)
        result: Floats = np.nan_to_num(found, nan=1.0)
        return result

    def sold_in(self, where: Bools) -> Ints:
        """SKUs of `where` that are ordered, those most ordered first."""
        some = np.flatnonzero(where & (self.units_by_sku > 0))
        found: Ints = some[np.argsort(-self.units_by_sku[some], kind="stable")]
        return found

    @cached_property
    def units_by_sku(self) -> Floats:
        batch = self.batch
        return summed_by(batch.sku_by_line, self.orders_by_line * batch.quantity_by_line, len(batch.goods.skus))

    def orders_with(self, where: Bools) -> float:
        """Orders that hold one of some SKUs."""
        return float(self.orders_by_cart[self.carts_with(where)].sum())

    def carts_with(self, where: Bools) -> Bools:
        """Carts that hold one of some SKUs."""
        batch = self.batch
        found: Bools = batch.axes.sum_by_cart(batch.quantity_by_line * where[batch.sku_by_line]) > 0
        return found

    def named(self, skus: Sequence[int] | Ints) -> str:
        """Some goods in words: the first few by product, and how many more."""
        names = list(dict.fromkeys(self.goods.products[at] or self.goods.skus[at] for at in skus))
        shown, more = names[:NAMED], len(names) - NAMED
        return ", ".join(shown) + (f" and {more} more" if more > 0 else "")

    # --- offers

    @cached_property
    def together(self) -> Together:
        return Together(self.offers, self.shop.settings)

    def thresholds(self, at: int) -> list[int]:
        """What each step of an offer asks for."""
        conditions = self.offers[at].earned.conditions
        return [conditions[0].n, *(step.n for step in self.offers[at].steps)] if conditions else []


def whole(scope: Scope) -> bool:
    """Whether a scope holds all goods."""
    return scope == Scope()


def without(scope: Scope, skus: Iterable[str]) -> Scope:
    """A scope with some SKUs left out."""
    return replace(scope, except_skus=tuple(dict.fromkeys((*scope.except_skus, *skus))))
