"""Leaks: carts a sharp-eyed shopper could build that lose money under a plan; those the mix holds are for `losing`.

The search looks at single goods and at pairs of them over quantities and zones, by everybody an offer is for, with
every set of codes, and refines the worst it found by small changes. A leak is a cart of at most MOST_UNITS of each
good that keeps less than nothing, and less than today by an amount the merchant sets.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from yellow_abacus.core.advice.built import Bench, Bunch, Worst, bunched
from yellow_abacus.core.advice.trial_carts import trial_carts
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.core.pricing.pricing import alike

MOST_UNITS = 12
SINGLES = (1, 2, 3, 4, 5, 6, 8, 10, 12)
PAIRED = (1, 2, 3, 6, 12)
MOST_PAIRED = 60
"""So many goods are paired with each other: those that lose most by themselves, and those that sell best."""
AT_ONCE = 12_000
ROUNDS = 8
MOST_LINES = 4
SEEDS = 5
"""So many carts of each way to leak are refined at a time."""
MOST_LEAKS = 8
MUCH_ALIKE = 0.9
"""A cart that loses so much of what one with more offers loses tells it by itself."""


@dataclass(frozen=True)
class Leak:
    """A cart that leaks. lines: index of the SKU and units. option: of delivery. kept, kept_today: minor units.

    guise, codes: by number, as the bench has them. offers: those that take effect, by number in the plan.
    """

    lines: tuple[tuple[int, int], ...]
    zone: int
    guise: int
    codes: tuple[str, ...]
    option: int
    offers: tuple[int, ...]
    kept: float
    kept_today: float


@dataclass(frozen=True)
class Searched:
    """How far a search is. leaks: the worst of each way to leak so far, the worst first."""

    share: float
    carts: int
    leaks: tuple[Leak, ...]


def search(bench: Bench, sold: Floats) -> Iterator[Searched]:
    """Looks for leaks, and tells how far it is; what it tells last is whole. sold: how well each SKU sells."""
    sellable = np.flatnonzero(bench.goods.is_sold & (bench.goods.standing_price > 0))
    if not len(sellable) or not bench.shop.zones or not bench.offers:
        yield Searched(1.0, 0, ())
        return
    held = _Held(bench)
    singles = everywhere(bench, _singles(sellable))
    made = everywhere(bench, _made_for(bench, sold))
    places = len(bench.shop.zones) * len(bench.guises)
    whole = len(singles) + len(made) + len(_pairs(sellable[:MOST_PAIRED])) * places
    least = np.full(len(bench.goods.skus), np.inf)
    for part in _parts(singles):
        worst = bench.worst(part)
        np.minimum.at(least, part.sku[:, 0], worst.kept)
        held.hold(part, worst)
        yield Searched(0.9 * held.carts / whole, held.carts, held.leaks())
    alone = sellable[np.lexsort((-sold[sellable], least[sellable]))]
    for bunch in (made, everywhere(bench, _pairs(alone[:MOST_PAIRED]))):
        for part in _parts(bunch):
            held.look(part)
            yield Searched(0.9 * held.carts / whole, held.carts, held.leaks())
    for number in range(ROUNDS):
        go_on()
        near = held.neighbours(alone)
        if near is None or not held.look(near):
            break
        yield Searched(0.9 + 0.1 * (number + 1) / ROUNDS, held.carts, held.leaks())
    yield Searched(1.0, held.carts, held.leaks())


# --- carts to look at


def everywhere(bench: Bench, bunch: Bunch) -> Bunch:
    """To every zone, by everybody."""
    zones, guises = len(bench.shop.zones), len(bench.guises)
    again = np.repeat(np.arange(len(bunch)), zones * guises)
    place = np.tile(np.arange(zones * guises), len(bunch))
    return Bunch(bunch.sku[again], bunch.units[again], place // guises, place % guises)


def nowhere(sku: Ints, units: Ints) -> Bunch:
    """Goods that are yet to be taken to `everywhere`."""
    return Bunch(sku, units, np.zeros(len(sku), dtype=np.int64), np.zeros(len(sku), dtype=np.int64))


def _singles(skus: Ints) -> Bunch:
    sku, units = np.meshgrid(skus, np.array(SINGLES), indexing="ij")
    return nowhere(sku.reshape(-1, 1), units.reshape(-1, 1))


def _pairs(skus: Ints) -> Bunch:
    pairs = np.array(list(combinations(skus.tolist(), 2)), dtype=np.int64).reshape(-1, 2)
    units = np.stack(np.meshgrid(np.array(PAIRED), np.array(PAIRED), indexing="ij"), axis=-1).reshape(-1, 2)
    return nowhere(np.repeat(pairs, len(units), axis=0), np.tile(units, (len(pairs), 1)))


def _made_for(bench: Bench, sold: Floats) -> Bunch:
    """Carts around what each offer asks for, as they are and with everything as often as may be."""
    parts = []
    for offer in bench.offers:
        for trial in trial_carts(offer, bench.goods, sold):
            sku = np.array([[at for at, _ in trial.units]], dtype=np.int64)
            units = np.minimum(np.array([[count for _, count in trial.units]], dtype=np.int64), MOST_UNITS)
            most = np.minimum(units * (MOST_UNITS // max(int(units.max()), 1)), MOST_UNITS)
            parts += [nowhere(sku, units), nowhere(sku, most)]
    return bunched(parts) if parts else nowhere(*(np.zeros((0, 1), dtype=np.int64) for _ in range(2)))


def _parts(bunch: Bunch) -> Iterator[Bunch]:
    """As many at once as memory is happy with."""
    for start in range(0, len(bunch), AT_ONCE):
        go_on()
        yield bunch.some(slice(start, start + AT_ONCE))


# --- what was found


class _Held:
    """The worst carts of each way to leak: of each set of offers that takes effect."""

    def __init__(self, bench: Bench) -> None:
        self.bench, self.carts = bench, 0
        self.of: dict[tuple[int, ...], tuple[Bunch, Worst]] = {}

    def look(self, bunch: Bunch) -> bool:
        """Whether something worse was found."""
        return self.hold(bunch, self.bench.worst(bunch))

    def hold(self, bunch: Bunch, worst: Worst) -> bool:
        """Carts and how they do at their worst; whether they are worse than those held."""
        self.carts += len(bunch)
        at = np.flatnonzero(np.isfinite(worst.kept))
        better = False
        for columns, among in alike(worst.offers[at].T):
            better |= self._take(tuple(among), bunch.some(at[columns]), worst.some(at[columns]))
        return better

    def _take(self, among: tuple[int, ...], bunch: Bunch, worst: Worst) -> bool:
        before = np.inf
        if among in self.of:
            known, told = self.of[among]
            before = float(told.kept[0])
            bunch, worst = bunched([known, bunch]), _end_to_end(told, worst)
        first = _unlike(bunch, np.argsort(worst.kept, kind="stable"))
        self.of[among] = bunch.some(first), worst.some(first)
        return float(worst.kept[first[0]]) < before

    def neighbours(self, skus: Ints) -> Bunch | None:
        """Carts one step from those held: more or fewer of a good, another good besides, elsewhere."""
        parts = [steps_from(bunch, skus[:MOST_PAIRED]) for bunch, _ in self.of.values()]
        if not parts:
            return None
        return bunched(parts)

    def leaks(self) -> tuple[Leak, ...]:
        found = [_leak(self.bench, bunch, worst, among) for among, (bunch, worst) in self.of.items()]
        found.sort(key=lambda one: one.kept)
        told: list[Leak] = []
        for one in sorted(found, key=lambda one: (len(one.offers), one.kept)):
            inside = (other for other in told if set(other.offers) <= set(one.offers))
            if all(other.kept > MUCH_ALIKE * one.kept for other in inside):
                told.append(one)
        return tuple(sorted(told, key=lambda one: one.kept)[:MOST_LEAKS])


def _unlike(bunch: Bunch, in_order: Ints) -> Ints:
    """The first few of them that are not of the same goods."""
    seen: set[bytes] = set()
    found = []
    for at in in_order.tolist():
        goods = np.sort(bunch.sku[at][bunch.units[at] > 0]).tobytes()
        if goods not in seen:
            seen.add(goods)
            found.append(at)
        if len(found) == SEEDS:
            break
    return np.array(found, dtype=np.int64)


def _end_to_end(one: Worst, other: Worst) -> Worst:
    return Worst(
        kept=np.concatenate((one.kept, other.kept)),
        kept_today=np.concatenate((one.kept_today, other.kept_today)),
        codes=np.concatenate((one.codes, other.codes)),
        option=np.concatenate((one.option, other.option)),
        offers=np.vstack((one.offers, other.offers)),
    )


def steps_from(bunch: Bunch, skus: Ints) -> Bunch:
    """Carts one step from some: a unit more or fewer of a good, as many as may be, or one or many of another good.

    skus: the goods that may come in.
    """
    sku = np.pad(bunch.sku, ((0, 0), (0, max(MOST_LINES - bunch.sku.shape[1], 0))))
    units = np.pad(bunch.units, ((0, 0), (0, max(MOST_LINES - bunch.units.shape[1], 0))))
    parts = []

    def with_units(line: int, changed: Ints, where: Bools, of: Ints | None = None) -> None:
        at = np.flatnonzero(where)
        new_sku, new_units = sku[at].copy(), units[at].copy()
        new_units[:, line] = changed[at]
        if of is not None:
            new_sku[:, line] = of[at]
        parts.append(Bunch(new_sku, new_units, bunch.zone[at], bunch.guise[at]))

    there = units > 0
    for line in range(units.shape[1]):
        now = units[:, line]
        for changed in (now + 1, now - 1, np.full_like(now, MOST_UNITS)):
            sound = there[:, line] & (changed >= 0) & (changed <= MOST_UNITS) & (changed != now)
            with_units(line, changed, sound & ((changed > 0) | (there.sum(axis=1) > 1)))
        free = ~there[:, line] & (there[:, :line].all(axis=1))
        for other in skus.tolist() if free.any() else ():
            for count in (1, MOST_UNITS):
                new = np.full_like(now, other)
                with_units(line, np.full_like(now, count), free & ~((sku == other) & there).any(axis=1), new)
    return bunched(parts)


def _leak(bench: Bench, bunch: Bunch, worst: Worst, among: tuple[int, ...]) -> Leak:
    lines = [(int(sku), int(units)) for sku, units in zip(bunch.sku[0], bunch.units[0], strict=True) if units]
    return Leak(
        lines=tuple(sorted(lines)),
        zone=int(bunch.zone[0]),
        guise=int(bunch.guise[0]),
        codes=bench.code_sets[int(worst.codes[0])],
        option=int(worst.option[0]),
        offers=among,
        kept=float(worst.kept[0]),
        kept_today=float(worst.kept_today[0]),
    )
