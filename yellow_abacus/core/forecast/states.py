"""What shoppers may meet while a plan runs: a set of offers there for them, and what an order comes to then.

docs/sums.md, "States".
"""

from dataclasses import dataclass, field, replace
from datetime import date

import numpy as np

from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.chances import Available
from yellow_abacus.core.forecast.expected import Source
from yellow_abacus.core.forecast.groups import COHORTS, Groups
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Opened
from yellow_abacus.core.forecast.segments import carts_of
from yellow_abacus.core.forecast.sums import AT, Sums
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.offers import Offer


@dataclass(frozen=True, eq=False)
class Span:
    """Days of a plan on which orders are of the same carts at the same prices, and the same offers are open.

    mix: the carts, by groups, each as often as it comes under the plan. opened: with their numbers in the plan.
    today: what is open today. days: ordinals, and orders: what each of them brings.
    """

    source: Source
    mix: Mix
    opened: Opened
    today: tuple[Offer, ...]
    days: Ints
    orders: Floats

    def only(self, whose: Whose) -> "Span":
        """The same, of the carts of some shoppers alone: what one of their orders is like."""
        mix = self.mix.only(repr(whose).encode(), lambda: carts_of(whose, self.mix))
        return replace(self, source=self.source.only(whose), mix=mix)

    def share_of(self, whose: Whose | None) -> Floats:
        """Of all orders by some shoppers, those that are of this span's carts, on each of its days; None: by all."""
        if whose is None:
            return np.full(len(self.days), self.source.share)
        expected = self.source.expected
        return np.array(
            [expected.shares_of(whose, date.fromordinal(day))[self.source.come] for day in self.days.tolist()]
        )

    def sold_out(self, gone: int) -> "Span":
        """The same while some goods are sold out: as in `Mix.sold_out`."""
        return self if not gone else replace(self, mix=self.mix.sold_out(gone))


@dataclass(frozen=True, eq=False)
class State:
    """A set of offers that shoppers of a span may have, and what their orders come to.

    by_group: as the outlook has them, what shoppers add not among it. sums: of an order of each weekday, by cohort:
    an axis of WEEKDAYS × COHORTS cells in front. topped_up: by the number of an offer, what changes where all who
    are near enough top up to it, each as much as the offer's reach says. shifted: by offer too, what changes where
    all who go by an option that still asks something go by one it frees. switched: by offer, what other goods lose of
    an order it takes effect on if all its units in scope are bought in their place, minor units by cell.
    """

    span: Span
    available: Available
    by_group: Sums
    sums: Sums
    topped_up: dict[int, Sums]
    shifted: dict[int, Sums]
    switched: dict[int, Floats] = field(default_factory=dict)

    @property
    def numbers(self) -> list[int]:
        """Of the offers there, in the plan."""
        return [at for at, _ in self.available.offers]

    @property
    def share_by_cell(self) -> Floats:
        """How likely an order of a weekday is of each cohort, those lost as something is sold out among them:
        [weekday, cohort]."""
        mix = self.span.mix
        by_cell = self.sums.total[:, AT["orders"]]
        if mix.missing is not None and not self.available.sharp:
            whole = np.where(mix.missing.lacks == 0, mix.missing.share_by_cart, 0.0)
            of_group = summed_by(mix.groups.number_by_cart, whole, len(mix.groups))
            by_cell = over_cells(self.span.source, mix.groups) @ of_group
        result: Floats = by_cell.reshape(WEEKDAYS, COHORTS)
        return result


def over_cells(source: Source, groups: Groups) -> Floats:
    """How an order of each weekday and cohort falls on groups of carts: [cell, group]."""
    of_cohort = groups.cohort == np.arange(COHORTS)[:, None]
    spread = source.spreading(groups)[:, None, :] * of_cohort
    result: Floats = spread.reshape(WEEKDAYS * COHORTS, -1)
    return result


def by_cell(source: Source, sums: Sums) -> Sums:
    """Sums by group as those of an order of each weekday, by cohort; kept with them."""
    found = sums.by_cell.get(source.key)
    if found is None:
        found = sums.by_cell[source.key] = sums.weighed(over_cells(source, sums.groups))
    return found
