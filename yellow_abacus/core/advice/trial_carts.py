"""Carts just below, at and just above everything an offer asks for: what a careful merchant would fill by hand.

Each is a few goods by SKU, best sellers first; who brings them and when is for others to say.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.clauses.conditions import Measured, Spend
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import MILLIGRAMS, Bools, Floats, Ints
from yellow_abacus.core.offers import BuyGet, GoodsSet, Offer

LOOKED_AT = 25
"""So many best sellers are tried in pairs to meet a figure closely."""
MOST_UNITS = 12
TIMES = (2, 3)


@dataclass(frozen=True)
class TrialCart:
    """label: what it tries. units: by index of SKU, and how many."""

    label: str
    units: tuple[tuple[int, int], ...]


def trial_carts(offer: Offer, goods: Goods, sold: Floats) -> list[TrialCart]:
    """The base cart, which has just what the offer asks for, comes first. sold: how well each SKU sells."""
    maker = _Maker(offer, goods, sold)
    found: dict[tuple[tuple[int, int], ...], TrialCart] = {}
    for one in maker.carts():
        if one.units:
            found.setdefault(one.units, one)
    return list(found.values())


@dataclass(frozen=True)
class _Maker:
    offer: Offer
    goods: Goods
    sold: Floats

    def carts(self) -> Iterator[TrialCart]:
        first = next((one for one in self.offer.earned.conditions if one.bound != "at_most"), None)
        base = self._given(1)
        if isinstance(first, Measured):
            yield from self._around(first)
        elif base:
            yield TrialCart("just what it asks for", _sorted(base))
            yield from self._fewer(base)
            for times in TIMES:
                yield TrialCart(f"{times} times as much", _sorted(self._given(times)))
        elif (sku := self._best(self.offer.on)) is not None:
            yield TrialCart("one of its goods", ((sku, 1),))
        yield from self._wrong(first)

    # --- conditions

    def _around(self, condition: Measured) -> Iterator[TrialCart]:
        more = self._given(1)
        steps = [condition.n, *(step.n for step in self.offer.steps)]
        for number, n in enumerate(steps):
            step = "" if number == 0 else f", step {number + 1}"
            below, at, above = self._measured(condition, n)
            in_order = [("at what it asks for", at), ("just above", above), ("just below", below)]
            if at is None:
                in_order = in_order[1:]
            for words, units in in_order:
                if units:
                    yield TrialCart(f"{words}{step}", _sorted(_most(units, more)))
        if self.offer.earned.repeat == "each_time":
            for times in TIMES:
                _, at, above = self._measured(condition, condition.n * times)
                if units := at or above:
                    yield TrialCart(f"earned {times} times", _sorted(_most(units, self._given(times))))

    def _measured(
        self, condition: Measured, n: int
    ) -> tuple[dict[int, int] | None, dict[int, int] | None, dict[int, int] | None]:
        """Carts just below a figure, at it, and just above; None where goods do not come to such."""
        shelf = self._shelf(condition.of)
        kind = condition.kind  # type: ignore[attr-defined]
        if not len(shelf):
            return None, None, None
        if kind in ("units", "products"):
            many = [
                self._different(shelf, count) if kind == "products" else {int(shelf[0]): count}
                for count in (n - 1, n, n + 1)
            ]
            below, at, above = (one if one and all(one.values()) else None for one in many)
            return below, at, above
        each = self.goods.standing_price if isinstance(condition, Spend) else self.goods.milligrams
        return _pairs(shelf, each[shelf], n * (1 if isinstance(condition, Spend) else MILLIGRAMS))

    def _different(self, shelf: Ints, count: int) -> dict[int, int]:
        numbers = self.goods.product_number[shelf]
        first = np.sort(np.unique(numbers, return_index=True)[1])[:count]
        return {int(sku): 1 for sku in shelf[first]} if len(first) == count else {}

    # --- rewards that use units up

    def _given(self, times: int) -> dict[int, int]:
        """What units the rewards ask for, that many times; empty where they ask for none."""
        units: dict[int, int] = {}
        for reward in self.offer.gives:
            asked: Sequence[tuple[int, Scope]] = ()
            if isinstance(reward, BuyGet):
                asked = [(reward.buy, reward.of), (reward.get, self.offer.on)]
            elif isinstance(reward, GoodsSet):
                asked = [(part.count, part.of) for part in reward.parts]
            for count, scope in asked:
                sku = self._best(scope)
                if count and sku is not None:
                    units[sku] = units.get(sku, 0) + count * times
        return units

    def _fewer(self, base: dict[int, int]) -> Iterator[TrialCart]:
        for sku in base:
            less = {one: units - (one == sku) for one, units in base.items()}
            yield TrialCart(f"one {self.goods.skus[sku]} fewer", _sorted(less))

    def _wrong(self, condition: object) -> Iterator[TrialCart]:
        """As much of goods the offer does not ask for."""
        asked = condition.of if isinstance(condition, Measured) else self.offer.on
        if asked == EVERYTHING:
            return
        others = np.flatnonzero(~asked.holds(self.goods) & self._sellable)
        if not len(others):
            return
        others = others[np.argsort(-self.sold[others], kind="stable")]
        if isinstance(condition, Spend):
            _, at, above = _pairs(others[:LOOKED_AT], self.goods.standing_price[others[:LOOKED_AT]], condition.n)
            units = at or above
        else:
            units = {int(others[0]): max(sum(self._given(1).values()), 1)}
        if units:
            yield TrialCart("as much of other goods", _sorted(units))

    # --- goods

    @property
    def _sellable(self) -> Bools:
        return (self.goods.standing_price > 0) & self.goods.is_sold & self.goods.may_be_discounted

    def _shelf(self, scope: Scope) -> Ints:
        some = np.flatnonzero(scope.holds(self.goods) & self._sellable)
        found: Ints = some[np.argsort(-self.sold[some], kind="stable")][:LOOKED_AT]
        return found

    def _best(self, scope: Scope) -> int | None:
        shelf = self._shelf(scope)
        return int(shelf[0]) if len(shelf) else None


def _pairs(
    shelf: Ints, each: Ints, n: int
) -> tuple[dict[int, int] | None, dict[int, int] | None, dict[int, int] | None]:
    """Of two SKUs at most, as few units as may be, below, at and above `n`: the nearest to it there are."""
    dear = int(each.max(initial=1))
    most = max(MOST_UNITS, -(-n // dear) + 1)
    units = np.arange(most + 1)
    one, other = np.meshgrid(np.arange(len(shelf)), np.arange(len(shelf)), indexing="ij")
    pair = one < other
    a, b = one[pair][:, None, None], other[pair][:, None, None]
    if not a.size:
        a = b = np.zeros((1, 1, 1), dtype=np.int64)
    some = units[units <= MOST_UNITS]
    total = each[a] * units[None, :, None] + each[b] * some[None, None, :] * (len(shelf) > 1)
    count = np.broadcast_to(units[None, :, None] + some[None, None, :], total.shape)

    def nearest(fits: Bools, off: Ints) -> dict[int, int] | None:
        where = np.flatnonzero(fits)
        if not len(where):
            return None
        best = where[np.lexsort((count.ravel()[where], off.ravel()[where]))[0]]
        row, first, second = np.unravel_index(best, total.shape)
        told = {int(shelf[a[row, 0, 0]]): int(units[first])}
        if second and len(shelf) > 1:
            told[int(shelf[b[row, 0, 0]])] = int(some[second])
        return {sku: units for sku, units in told.items() if units}

    return (
        nearest((total < n) & (total > 0), n - total),
        nearest(total == n, total * 0),
        nearest(total > n, total - n),
    )


def _most(one: dict[int, int], other: dict[int, int]) -> dict[int, int]:
    return {sku: max(one.get(sku, 0), other.get(sku, 0)) for sku in (*one, *other)}


def _sorted(units: dict[int, int]) -> tuple[tuple[int, int], ...]:
    return tuple(sorted((sku, count) for sku, count in units.items() if count > 0))
