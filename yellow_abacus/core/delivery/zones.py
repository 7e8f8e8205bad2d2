"""Zones, the options a shopper can choose there, and what each order is charged and costs. docs/sums.md, "Delivery".

An order goes by one option. Where it is not known which, each able option is a branch, weighed by its share.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.delivery.charges import NO_CHARGE, Charge
from yellow_abacus.core.delivery.parcels import ANYTHING, Carries, Load, able, holding, lighter, load_of, parcels
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import MILLIGRAMS, WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.shape import CLOSED


@dataclass(frozen=True)
class Preferred:
    """Orders that hold goods `of` go by `tariff`, where it can carry them.

    from_weight, from_value: only those of so many grams, and of so many minor units at standing prices, or more.
    """

    tariff: str
    of: Scope = EVERYTHING
    from_weight: int | None = None
    from_value: int | None = None

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Option:
    """A way to have an order delivered. free_from: value of goods in minor units from which the charge is 0.

    share_bp: share of the zone's shoppers who choose it. from_weight: grams of goods from which it is used at all,
    None for any. tariffs: by name; the cheapest able one serves, unless a
    preferred one does. Without any, the order costs nothing to deliver.
    """

    name: str
    charge: Charge = NO_CHARGE
    free_from: int | None = None
    share_bp: int = WHOLE_BP
    carries: Carries = ANYTHING
    from_weight: int | None = None
    tariffs: tuple[str, ...] = ()
    preferred: tuple[Preferred, ...] = ()

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Zone:
    """name: as orders name it, unless they name one of its `places`: countries, or regions of one."""

    name: str
    options: tuple[Option, ...] = ()
    places: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False)
class Carriage:
    """What carriers ask for each row, minor units, in how many parcels, and by which tariff (index, -1 for none)."""

    cost: Floats
    parcels: Floats
    tariff: Ints

    def some(self, rows: Ints) -> "Carriage":
        """Of some rows, by index."""
        return Carriage(self.cost[rows], self.parcels[rows], self.tariff[rows])

    def put(self, rows: Ints, other: "Carriage") -> None:
        """Have it otherwise on some rows, by index."""
        self.cost[rows], self.parcels[rows], self.tariff[rows] = other.cost, other.parcels, other.tariff

    def with_rows(self, rows: Ints, other: "Carriage") -> "Carriage":
        """The same, otherwise on some rows, by index."""
        found = Carriage(self.cost.copy(), self.parcels.copy(), self.tariff.copy())
        found.put(rows, other)
        return found


@dataclass(frozen=True, eq=False)
class Delivery:
    """All zones and tariffs of a shop. packaging_weight: milligrams of a parcel's packaging.

    Options of all zones are numbered through, zone by zone: `option_by_cart` holds such numbers, UNKNOWN in a zone
    without options.
    """

    zones: tuple[Zone, ...]
    tariffs: tuple[Tariff, ...]
    packaging_weight: int

    @cached_property
    def options(self) -> tuple[tuple[int, Option], ...]:
        """Every option, with the number of its zone."""
        return tuple((number, option) for number, zone in enumerate(self.zones) for option in zone.options)

    def name_of(self, option: int) -> str:
        """The name of an option by its number; empty for UNKNOWN."""
        return "" if option == UNKNOWN else self.options[option][1].name

    # --- which option

    def able(self, batch: CartBatch) -> Bools:
        """One row an option, one column a cart: it is one of the cart's zone and can carry it.

        Where no option of a zone can, all of them count as able.
        """
        rows = self._carried(batch).copy()
        stuck = self.stuck(batch)
        for at, (zone, _) in enumerate(self.options):
            rows[at] |= stuck & (batch.zone_by_cart == zone)
        return rows

    def stuck(self, batch: CartBatch) -> Bools:
        """Whether each cart's zone has options and none of them can carry it."""
        anywhere = np.array([bool(zone.options) for zone in self.zones] or [False], dtype=np.bool_)
        result: Bools = ~self._carried(batch).any(axis=0) & anywhere[batch.zone_by_cart]
        return result

    def _carried(self, batch: CartBatch) -> Bools:
        return batch.kept(("can carry", self), lambda: self._find_carried(batch))

    def _find_carried(self, batch: CartBatch) -> Bools:
        load, everything = load_of(batch), np.arange(batch.axes.carts)
        rows = np.zeros((len(self.options), batch.axes.carts), dtype=np.bool_)
        for at, (zone, option) in enumerate(self.options):
            carts = everything[batch.zone_by_cart == zone]
            if len(carts):
                rows[at, carts] = self.can_carry(option, load.some(carts))
        return rows

    def can_carry(self, option: Option, load: Load) -> Bools:
        """Whether the option can carry each row."""
        found = able(option.carries, load, self.packaging_weight)
        if option.from_weight is not None:
            found &= load.weight >= option.from_weight * MILLIGRAMS
        tariffs = self._tariffs_of(option)
        if not tariffs:
            return found
        by_tariff = [self._takes(option, tariff, load) for _, tariff in tariffs]
        result: Bools = found & np.logical_or.reduce(by_tariff)
        return result

    def shares(self, batch: CartBatch) -> Floats:
        """One row an option, one column a cart: how likely the cart goes by it; 1 where that is known."""
        return batch.kept(("option shares", self), lambda: self._shares(batch))

    def _shares(self, batch: CartBatch) -> Floats:
        able = self.able(batch)
        wanted = np.array([option.share_bp for _, option in self.options], dtype=np.float64).reshape(-1, 1) * able
        nobody = wanted.sum(axis=0) == 0
        wanted[:, nobody] = able[:, nobody]
        chosen = batch.facts.option
        for at, (_, option) in enumerate(self.options):
            known = chosen.among([option.name]) & able[at]
            if known.any():
                wanted[:, known] = 0
                wanted[at, known] = 1
        whole = wanted.sum(axis=0)
        result: Floats = wanted / np.where(whole > 0, whole, 1)
        return result

    def likeliest(self, batch: CartBatch) -> Ints:
        """The option each cart goes by most likely; the first of those alike."""
        shares = self.shares(batch)
        if not self.options:
            return np.full(batch.axes.carts, UNKNOWN)
        return np.where(shares.any(axis=0), shares.argmax(axis=0), UNKNOWN)

    # --- what it is charged and costs

    def charge(self, value: Ints, load: Load, option_by_row: Ints, carriage: Carriage) -> Ints:
        """The delivery charge of each row before delivery offers. value: of goods, minor units."""
        charge, cost = np.zeros_like(value), carriage.cost
        for option, rows in self._in_turn(option_by_row):
            worth = value[rows]
            asked = option.charge.asked(worth, load.weight[rows], cost[rows])
            charge[rows] = asked if option.free_from is None else np.where(worth >= option.free_from, 0, asked)
        charge[load.nothing] = 0
        return charge

    def carriage(self, load: Load, option_by_row: Ints) -> Carriage:
        """What carriers ask of the shop for each row."""
        size = len(option_by_row)
        found = Carriage(np.zeros(size), np.where(load.nothing, 0.0, 1.0), np.full(size, UNKNOWN))
        for option, rows in self._in_turn(option_by_row):
            found.put(rows, self._carriage(option, load.some(rows)))
        return found

    def _in_turn(self, option_by_row: Ints) -> Iterator[tuple[Option, Ints]]:
        """Each option that rows go by, and which rows."""
        for at, (_, option) in enumerate(self.options):
            rows = np.flatnonzero(option_by_row == at)
            if len(rows):
                yield option, rows

    def _carriage(self, option: Option, load: Load) -> Carriage:
        tariffs = self._tariffs_of(option)
        if not tariffs:
            count = parcels(load, option.carries.heaviest, self.packaging_weight)
            return Carriage(np.zeros(len(count)), count, np.full(len(count), UNKNOWN))
        quotes = [self._cost(option, tariff, load) for _, tariff in tariffs]
        costs = np.array([cost for cost, _ in quotes])
        wins = costs.argmin(axis=0)
        settled = np.zeros(len(wins), dtype=np.bool_)
        names = [tariff.name for _, tariff in tariffs]
        for rule in option.preferred:
            if rule.tariff in names:
                at = names.index(rule.tariff)
                here = ~settled & np.isfinite(costs[at]) & _asks_for(rule, load)
                wins[here] = at
                settled |= here
        every = np.arange(len(wins))
        cost = costs[wins, every]
        numbers = np.array([number for number, _ in tariffs], dtype=np.int64)
        return Carriage(
            cost=np.where(np.isfinite(cost), cost, self._anyhow(tariffs, load)),
            parcels=np.array([count for _, count in quotes])[wins, every],
            tariff=numbers[wins],
        )

    def _tariffs_of(self, option: Option) -> list[tuple[int, Tariff]]:
        return [(number, tariff) for number, tariff in enumerate(self.tariffs) if tariff.name in option.tariffs]

    def _takes(self, option: Option, tariff: Tariff, load: Load) -> Bools:
        """Whether the tariff can take each row."""
        priced = tariff.takes(load, self._parcels(option, tariff, load), self.packaging_weight)
        return able(tariff.limits, load, self.packaging_weight) & priced

    def _parcels(self, option: Option, tariff: Tariff, load: Load) -> Floats:
        return parcels(load, lighter(option.carries.heaviest, tariff.limits.heaviest), self.packaging_weight)

    def _cost(self, option: Option, tariff: Tariff, load: Load) -> tuple[Floats, Floats]:
        """Cost and parcels of each row by one tariff; infinite where the tariff cannot take it."""
        count = self._parcels(option, tariff, load)
        cost = tariff.cost(load, count, self.packaging_weight)
        return np.where(able(tariff.limits, load, self.packaging_weight), cost, np.inf), count

    def _anyhow(self, tariffs: Sequence[tuple[int, Tariff]], load: Load) -> Floats:
        """What carts that no tariff can take are counted at: the dearest price the first tariff has, for each parcel
        its last step would take."""
        _, tariff = tariffs[0]
        heaviest = max((step.upto or 0 for step in tariff.steps), default=0)
        count = parcels(load, heaviest or None, 0)
        dearest = max((step.amount for step in tariff.steps), default=0.0)
        return count * dearest * (1 + tariff.fuel_bp / WHOLE_BP)


def _asks_for(rule: Preferred, load: Load) -> Bools:
    """Whether each row is one the rule is about."""
    found = np.ones(len(load.weight), dtype=np.bool_)
    if rule.of != EVERYTHING:
        found = holding(load.batch, rule.of)[load.cart]
    if rule.from_weight is not None:
        found = found & (load.weight >= rule.from_weight * MILLIGRAMS)
    if rule.from_value is not None:
        found = found & (load.worth >= rule.from_value)
    return found
