"""What carriers asked for parcels: the prices by weight that most of them cost to the cent, or what they cost on
average from one weight to the next. docs/sums.md, "What orders cost to deliver".

>>> weight = np.array([400, 900, 1_800, 2_600, 3_900, 4_700] * 5) * 1_000
>>> found = parcel_cost(weight, np.where(weight <= 2_000_000, 3_90, 4_70))
>>> found.steps, found.exact
((WeightStep(upto=2000, amount=390.0), WeightStep(upto=None, amount=470.0)), 30)
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from yellow_abacus.core.delivery.charges import ChargeByWeight
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.ground.money import MILLIGRAMS, Floats, Ints
from yellow_abacus.learning.charges_paid import most_paid

MOST_STEPS = 12
FEWEST, SHARE = 5, 0.02
"""Parcels a step is of at least, and which share of all."""
ENDS = np.unique(
    [
        *range(50, 1_000, 50),
        *range(1_000, 10_000, 500),
        *range(10_000, 30_000, 1_000),
        *range(30_000, 1_000_001, 5_000),
    ]
)
"""Grams up to which a step of averages may be."""
CLEARLY = 3.0
"""Two steps are one, unless their averages differ by so many times the error of that."""
EXACT, NEAR = 0.5, 0.01
"""What such a share cost just so is believed, where it comes so near to what all cost."""


@dataclass(frozen=True)
class ParcelCost:
    """steps, per_kilogram: as a tariff has them. exact: how many parcels cost just that; None where the steps are
    what they cost on average."""

    steps: tuple[WeightStep, ...]
    per_kilogram: float | None
    exact: int | None

    def tariff(self, name: str) -> Tariff:
        return Tariff(name, steps=self.steps, per_kilogram=self.per_kilogram)

    def asked(self, weight: Ints) -> Floats:
        """For each parcel, as in `parcel_cost`: minor units."""
        return self.tariff("").price_of_parcel(weight.astype(np.float64))


def parcel_cost(weight: Ints, cost: Ints) -> ParcelCost:
    """weight: as billed, milligrams; cost: minor units, up to LARGEST_CHARGE. One entry a parcel, at least one."""
    if len(np.unique(cost)) > (1 - EXACT) * len(cost) + 1:  # so few cost the same that no prices can be exact
        return ParcelCost(tuple(_on_average(weight, cost)), None, None)
    by_weight = most_paid(weight, cost)
    if isinstance(by_weight, ChargeByWeight):
        *steps, last = (WeightStep(one.upto, float(one.amount)) for one in by_weight.steps)
        more = by_weight.per_kilogram or None
        found = ParcelCost((*steps, last if more else WeightStep(None, last.amount)), more, None)
    else:
        found = ParcelCost((WeightStep(None, float(by_weight.amount)),), None, None)
    exact = how_many_exact(found.asked(weight), cost)
    return ParcelCost(tuple(_on_average(weight, cost)), None, None) if exact is None else replace(found, exact=exact)


def how_many_exact(told: Floats, cost: Ints, within: int = 0) -> int | None:
    """How many cost just what is told of each, give or take so many minor units; None where those are too few, or all
    together did not.

    >>> cost = np.array([490, 490, 495])
    >>> how_many_exact(np.full(3, 490.0), cost), how_many_exact(np.full(3, 300.0), cost)
    (2, None)
    """
    exact = int((np.abs(told - cost) <= within).sum())
    is_believed = exact >= EXACT * len(cost) and abs(told.sum() - cost.sum()) <= NEAR * cost.sum()
    return exact if is_believed else None


def _on_average(weight: Ints, cost: Ints) -> Iterator[WeightStep]:
    """What parcels cost from one weight to the next, never less for heavier ones."""
    from sklearn.tree import DecisionTreeRegressor  # takes a second and 100 MB to load, and is asked for seldom

    rank = np.searchsorted(ENDS * MILLIGRAMS, weight)
    fewest = max(FEWEST, round(SHARE * len(cost)))
    tree = DecisionTreeRegressor(
        max_leaf_nodes=MOST_STEPS, min_samples_leaf=fewest, monotonic_cst=[1], random_state=0
    )
    tree.fit(rank.reshape(-1, 1), cost)
    first = sorted({int(at) + 1 for at in tree.tree_.threshold[tree.tree_.children_left >= 0]})
    cuts = _that_matter(first, rank, cost)
    ends = [int(ENDS[at - 1]) for at in cuts]
    for end, some in zip([*ends, None], _parts(cuts, rank, cost), strict=True):
        yield WeightStep(end, round(float(some.mean()), 2))


def _parts(cuts: list[int], rank: Ints, cost: Ints) -> list[Ints]:
    """The costs between two cuts each."""
    part = np.searchsorted(cuts, rank, side="right")
    return [cost[part == at] for at in range(len(cuts) + 1)]


def _that_matter(cuts: list[int], rank: Ints, cost: Ints) -> list[int]:
    """Those behind which parcels clearly cost more, taken away one by one, the least clear first."""
    while cuts:
        clear = [_clearly_more(one, other) for one, other in pairwise(_parts(cuts, rank, cost))]
        at = clear.index(min(clear))
        if clear[at] >= CLEARLY:
            break
        cuts = cuts[:at] + cuts[at + 1 :]
    return cuts


def _clearly_more(one: Ints, other: Ints) -> float:
    """By how many times the error of it the other costs more on average."""
    more = float(other.mean() - one.mean())
    error = float(np.sqrt(one.var() / len(one) + other.var() / len(other)))
    return more / error if error else np.inf * np.sign(more) if more else 0.0
