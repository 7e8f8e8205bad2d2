"""Carts somebody could build: any goods, anywhere, by whoever an offer is for, priced at their worst for the shop.

A *bunch* is many such carts as arrays; a *bench* prices bunches under a plan's offers, every option of delivery,
every choice of a gift and every set of codes tried, and says of each cart which way it keeps least.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.guise import NOON, Guise, facts_of
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.forecast.plan import both_sides
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.shop.shop import Shop


def guises_of(offers: Sequence[Offer]) -> list[Guise]:
    """Somebody whom nothing is known of, and whoever each offer is for."""
    found = [Guise()]
    for offer in offers:
        who, where, when = offer.who, offer.where, offer.when
        found.append(
            Guise(
                weekday=when.weekdays[0] if when.weekdays else 0,
                minute=NOON if when.from_minute is None else when.from_minute,
                orders_before=0 if who.first_order else max((who.nth_order or 2) - 1, 1),
                days_since=UNKNOWN if who.days_since is None or who.first_order else who.days_since,
                shopper=who.shoppers[0] if who.shoppers else "",
                group=who.groups[0] if who.groups else "",
                tag=who.tags[0] if who.tags else "",
                channel=where.channels[0] if where.channels else "",
                payment=where.payments[0] if where.payments else "",
            )
        )
    return list(dict.fromkeys(found))


@dataclass(frozen=True, eq=False)
class Bunch:
    """sku, units: one row a cart, one column a line; 0 units for no line. zone, guise: one entry a cart."""

    sku: Ints
    units: Ints
    zone: Ints
    guise: Ints

    def __len__(self) -> int:
        return len(self.zone)

    def some(self, at: Ints | slice) -> "Bunch":
        return Bunch(self.sku[at], self.units[at], self.zone[at], self.guise[at])


def bunched(parts: Sequence[Bunch]) -> Bunch:
    """Bunches one after another, as wide as the widest."""
    widest = max(one.sku.shape[1] for one in parts)

    def wide(columns: Ints) -> Ints:
        return np.pad(columns, ((0, 0), (0, widest - columns.shape[1])))

    return Bunch(
        np.vstack([wide(one.sku) for one in parts]),
        np.vstack([wide(one.units) for one in parts]),
        np.concatenate([one.zone for one in parts]),
        np.concatenate([one.guise for one in parts]),
    )


@dataclass(frozen=True, eq=False)
class Worst:
    """Of each cart the way it keeps least while it keeps less than today: one entry a cart, minor units.

    kept: inf where there is no such way. codes: which of the bench's sets of codes. option: of delivery. offers:
    one row a cart, one column an offer, which took effect.
    """

    kept: Floats
    kept_today: Floats
    codes: Ints
    option: Ints
    offers: Bools

    def some(self, at: Ints) -> "Worst":
        return Worst(self.kept[at], self.kept_today[at], self.codes[at], self.option[at], self.offers[at])


@dataclass(frozen=True, eq=False)
class Bench:
    """goods: at the prices of the plan. least: a way counts that keeps below 0, and so much less than today.

    running: the offers that run today, under the plan or not.
    """

    shop: Shop
    goods: Goods
    offers: tuple[Offer, ...]
    apply: Apply
    least: float
    running: tuple[Offer, ...] = ()

    @cached_property
    def guises(self) -> list[Guise]:
        return guises_of(self.offers)

    @cached_property
    def code_sets(self) -> list[tuple[str, ...]]:
        """No code, and as many together as one order takes."""
        keys = list(dict.fromkeys(one.given.key for one in self.offers if one.given.key is not None))
        most = min(self.shop.settings.codes_per_order, len(keys))
        return [some for size in range(most + 1) for some in combinations(keys, size)]

    def with_offers(self, offers: tuple[Offer, ...]) -> "Bench":
        return replace(self, offers=offers)

    def worst(self, bunch: Bunch) -> Worst:
        batch, both = self._batch(bunch), both_sides(self.offers, self.running)
        there = reached(both, self.shop, batch)
        rows = rows_of(self.shop, batch, both, there)
        carts, own = len(bunch), np.arange(len(both)) < len(self.offers)
        runs = np.array([one in self.running for one in both], dtype=np.bool_)
        found = Worst(
            np.full(carts, np.inf),
            np.zeros(carts),
            np.zeros(carts, dtype=np.int64),
            np.zeros(carts, dtype=np.int64),
            np.zeros((carts, len(self.offers)), dtype=np.bool_),
        )
        for number, codes in enumerate(self.code_sets):
            held = np.array([one.given.key is None or one.given.key in codes for one in both], dtype=np.bool_)
            mine = there & held[:, None]
            if number == 0 or runs.any():
                bare = price(self.shop, rows, both, self.apply, there=mine & runs[:, None])
                today = cost(self.shop, rows, bare).sum(axis=0)
            priced = price(self.shop, rows, both, self.apply, there=mine & own[:, None])
            kept = cost(self.shop, rows, priced).sum(axis=0)
            counts = (kept < 0) & (kept <= today - self.least)
            in_order = np.lexsort((np.where(counts, kept, np.inf), rows.cart_by_row))
            first = in_order[np.searchsorted(rows.cart_by_row[in_order], np.arange(carts))]
            better = np.flatnonzero(counts[first] & (kept[first] < found.kept))
            row = first[better]
            found.kept[better], found.kept_today[better] = kept[row], today[row]
            found.codes[better], found.option[better] = number, rows.option_by_row[row]
            found.offers[better] = priced.took_effect[: len(self.offers), row].T
        batch.let_go()
        return found

    def _batch(self, bunch: Bunch) -> CartBatch:
        cart, line = np.nonzero(bunch.units)
        sku, units = bunch.sku[cart, line], bunch.units[cart, line]
        return make_batch(
            self.goods, bunch.zone, cart, sku, units, np.zeros_like(sku), facts_of(self.guises, bunch.guise)
        )
