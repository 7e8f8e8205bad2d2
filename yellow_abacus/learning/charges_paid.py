"""What orders were asked for delivery: the charge that most of them paid to the cent, by the value or weight of their
goods. docs/sums.md, "What orders paid for delivery".

>>> value = np.array([10_00, 20_00, 30_00, 41_00, 52_00, 60_00] * 5)
>>> found = charge_paid(value, np.zeros_like(value), np.where(value < 40_00, 4_90, 0))
>>> found.charge, found.free_from, found.exact
(FlatCharge(amount=490, kind='flat'), 4000, 30)
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from yellow_abacus.core.delivery.charges import ChargeByValue, ChargeByWeight, ChargeStep, FlatCharge, ValueStep
from yellow_abacus.core.delivery.parcels import MILLIGRAMS_A_KILOGRAM
from yellow_abacus.core.ground.money import MILLIGRAMS, Bools, Ints
from yellow_abacus.learning.from_value import roundest

PaidCharge = FlatCharge | ChargeByValue | ChargeByWeight
MOST_CUTS = 15
FEWEST, SHARE = 3, 0.01
"""A cut stays, and a charge of more parts is taken for one of fewer, where so many orders more, and such a share of
them, pay just what is asked."""


@dataclass(frozen=True)
class ChargePaid:
    """free_from: value of goods, minor units. exact: how many orders paid just what these ask."""

    charge: PaidCharge
    free_from: int | None
    exact: int

    def asked(self, value: Ints, weight: Ints) -> Ints:
        """Of each order, as in `charge_paid`."""
        return _asked(self.charge, self.free_from, value, weight)


def charge_paid(value: Ints, weight: Ints, paid: Ints) -> ChargePaid:
    """value of goods and what was paid for their delivery: minor units, the latter up to LARGEST_CHARGE; weight:
    milligrams; one entry an order, at least one."""
    every = [
        ChargePaid(charge, free_from, int((_asked(charge, free_from, value, weight) == paid).sum()))
        for charge, free_from in _may_be(value, weight, paid)
        if not any(charge.problems())  # as steps of parts of a gram have
    ]
    best = max(one.exact for one in every)
    return next(one for one in every if one.exact > best - _needed(len(paid)))


def most_paid(weight: Ints, paid: Ints) -> FlatCharge | ChargeByWeight:
    """The charge by weight alone, as in `charge_paid`."""
    charge = charge_paid(np.zeros_like(weight), weight, paid).charge
    assert not isinstance(charge, ChargeByValue), "values are all alike"
    return charge


def _asked(charge: PaidCharge, free_from: int | None, value: Ints, weight: Ints) -> Ints:
    asked = charge.asked(value, weight, np.zeros(len(value)))
    return asked if free_from is None else np.where(value >= free_from, 0, asked)


def _may_be(value: Ints, weight: Ints, paid: Ints) -> Iterator[tuple[PaidCharge, int | None]]:
    """Charges, and from where on they are free, that come near: those of fewest parts first."""
    amounts, often = np.unique(paid, return_counts=True)
    yield FlatCharge(int(amounts[often.argmax()])), None
    cuts, charges = _steps(value, paid)
    from_value = [roundest(below, above) for below, above in cuts]
    free_from = from_value.pop() if cuts and charges[-1] == 0 else None
    steps = map(ValueStep, from_value, charges[1:])
    if cuts:
        yield ChargeByValue(charges[0], tuple(steps)) if from_value else FlatCharge(charges[0]), free_from
    if not weight.any():
        return
    ends, free = _steps(value, (paid > 0).astype(np.int64))
    goes_free = roundest(*ends[0]) if free == [1, 0] else None
    for free_from in dict.fromkeys((None, goes_free)):
        some: Bools = value < free_from if free_from is not None else np.ones(len(value), dtype=np.bool_)
        cuts, charges = _steps(weight[some], paid[some])
        upto = [_grams(below, above) for below, above in cuts]
        by_weight = list(map(ChargeStep, [*upto, _next_round(-(-int(weight.max()) // MILLIGRAMS))], charges))
        for number in range(1, len(by_weight) + 1):
            if (charge := _by_the_kilogram(by_weight[:number], weight[some], paid[some])) is not None:
                yield charge, free_from
        if cuts:
            yield ChargeByWeight(tuple(by_weight)), free_from


def _by_the_kilogram(steps: Sequence[ChargeStep], weight: Ints, paid: Ints) -> ChargeByWeight | None:
    """By these, and so much for each started kilogram beyond: None where no heavier ones than those of the last step
    paid more, or all of those the same, which may be a step of its own."""
    *before, last = steps
    in_last: Bools = weight > before[-1].upto * MILLIGRAMS if before else np.ones(len(weight), dtype=np.bool_)
    just, more = weight[in_last & (paid == last.amount)], in_last & (paid > last.amount)
    if more.sum() < FEWEST or len(np.unique(paid[more])) == 1 or not len(just) or weight[more].min() <= just.max():
        return None
    upto = _grams(int(just.max()), int(weight[more].min()))
    started = -((upto * MILLIGRAMS - weight[more]) // MILLIGRAMS_A_KILOGRAM)
    a_kilogram, often = np.unique((paid[more] - last.amount) // np.maximum(started, 1), return_counts=True)
    return ChargeByWeight((*before, ChargeStep(upto, last.amount)), int(a_kilogram[often.argmax()]))


def _steps(by: Ints, paid: Ints) -> tuple[list[tuple[int, int]], list[int]]:
    """What most paid, and where that changes: the last figure that paid the one and the first that paid the other."""
    from sklearn.tree import DecisionTreeClassifier  # takes a second and 100 MB to load, and is asked for seldom

    amounts, kind, often = np.unique(paid, return_inverse=True, return_counts=True)
    usual = often >= min(_needed(len(paid)), often.max())
    some = usual[kind]
    figures, rank = np.unique(by[some], return_inverse=True)
    tree = DecisionTreeClassifier(max_leaf_nodes=MOST_CUTS + 1, min_samples_leaf=FEWEST, random_state=0)
    tree.fit(rank.reshape(-1, 1), kind[some])
    first = sorted({int(at) + 1 for at in tree.tree_.threshold[tree.tree_.children_left >= 0]})
    counts = np.zeros((len(first) + 1, len(amounts)), dtype=np.int64)
    np.add.at(counts, (np.searchsorted(first, rank, side="right"), kind[some]), 1)
    first, counts = _that_matter(first, counts, _needed(len(paid)))
    charges = [int(amounts[at]) for at in counts.argmax(axis=1)]
    part = np.searchsorted(first, rank, side="right")
    told = [figures[rank[(part == at) & (paid[some] == charge)]] for at, charge in enumerate(charges)]
    return [(int(below.max()), int(above.min())) for below, above in pairwise(told)], charges


def _that_matter(first: list[int], counts: Ints, needed: int) -> tuple[list[int], Ints]:
    """The cuts without which so many orders less would pay just what is asked, taken away one by one, the least
    first. counts: of orders, one row between two cuts, one column an amount."""
    while first:
        most = counts.max(axis=1)
        lost = most[:-1] + most[1:] - (counts[:-1] + counts[1:]).max(axis=1)
        at = int(lost.argmin())
        if lost[at] >= needed:
            break
        first = first[:at] + first[at + 1 :]
        counts = np.concatenate([counts[:at], counts[at : at + 1] + counts[at + 1 : at + 2], counts[at + 2 :]])
    return first, counts


def _needed(orders: int) -> int:
    return max(FEWEST, round(SHARE * orders))


def _grams(last: int, first: int) -> int:
    """The roundest weight in grams from the last that paid one charge on and below the first that paid another,
    milligrams; where they lie in one gram, the next.

    >>> _grams(480_000, 530_000), _grams(5_000_200, 5_000_800)
    (500, 5001)
    """
    least = max(-(-last // MILLIGRAMS), 1)
    return roundest(least - 1, max(least, (first - 1) // MILLIGRAMS))


def _next_round(figure: int) -> int:
    """The next figure of two digits and zeros.

    >>> _next_round(17_310), _next_round(900)
    (18000, 900)
    """
    width = max(10 ** (len(str(figure)) - 2), 1)
    return -(-figure // width) * width
