"""What a next offer of a kind may bring, as those before it did: how often it is used, and what it gives away.

Of messages it depends on how many are sent: a few chosen shoppers answer otherwise than all of them. What an offer
gives away is what orders that used it were charged less, which a sentence alone often does not tell. docs/sums.md,
"What history says".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.learning.amounts import amounts_of_next
from yellow_abacus.learning.estimate import Estimate, between
from yellow_abacus.learning.learned import Learned
from yellow_abacus.learning.shares import DRAWS, SEED, Alike, alike
from yellow_abacus.learning.uptake import Kind, answered, kind_of, uses_of

FIGURE_OF: dict[Kind, Ranging] = {
    "sent": "send_response_bp",
    "to_few": "uptake_bp",
    "to_all": "uptake_bp",
    "code": "uptake_bp",
}
"""What a next offer of each kind is asked for."""


@dataclass(frozen=True)
class Before:
    """An offer that ran. used: so many, of messages or of orders it was open for. orders: all that used it, on which
    it gave away so much, minor units, of goods that would have cost so much; unlike: as in `Learned`."""

    used: int
    of: int
    orders: int
    given_away: float
    goods: float
    unlike: float


@dataclass(frozen=True)
class OfSent:
    """What a next one may do, sent to so many: the share who order, how many do, and what they get off in all,
    minor units; the last two with the chance that is in so many."""

    sent: int
    said: Estimate
    uses: Estimate
    given_away: Estimate | None


@dataclass(frozen=True, eq=False)
class Next:
    """What a next offer of a kind may do. before: at least one, what it rests on."""

    kind: Kind
    before: tuple[Before, ...]

    @property
    def of(self) -> Ranging:
        return FIGURE_OF[self.kind]

    @property
    def orders(self) -> int:
        """It rests on: those that answered, or that could have used it."""
        return sum(one.used if self.kind == "sent" else one.of for one in self.before)

    @cached_property
    def said(self) -> Estimate:
        """The share that uses it, where it is sent to as many as one of those before."""
        dice = np.random.default_rng(SEED)
        counted = dice.choice(np.array([one.of for one in self.before], dtype=np.float64), DRAWS)
        return _estimate(self._alike.shares(counted, dice))

    @cached_property
    def depth(self) -> Estimate | None:
        """What it gives away of the goods of an order that uses it, as a share; None where no offer tells."""
        drawn = self._drawn([one.given_away / one.goods for one in self._telling])
        return None if drawn is None else _estimate(np.minimum(drawn, 1.0))

    @cached_property
    def each(self) -> Estimate | None:
        """What it gives away on an order that uses it, minor units."""
        return None if self._each is None else _estimate(self._each)

    def sent_to(self, sent: int) -> OfSent:
        """sent: how many messages, at least 1; of the kind `sent` alone."""
        dice = np.random.default_rng(SEED)
        share = self._alike.shares(float(sent), dice)
        uses = dice.binomial(sent, share)
        given = None
        if self._each is not None:
            chance = np.sqrt(self._unlike / np.maximum(uses, 1))
            given = _estimate(uses * self._each * np.maximum(1 + chance * dice.standard_normal(DRAWS), 0.0))
        return OfSent(sent, _estimate(share), _estimate(uses.astype(np.float64)), given)

    @cached_property
    def _alike(self) -> Alike:
        used, of = ([one.used for one in self.before], [one.of for one in self.before])
        return alike(used, of, by_number=self.kind == "sent")

    @cached_property
    def _telling(self) -> list[Before]:
        """Those that tell what they gave away, a cent at least."""
        return [one for one in self.before if one.orders and min(one.goods, one.given_away) >= 1]

    @cached_property
    def _unlike(self) -> float:
        """How unlike what orders of one offer get is, of all offers together."""
        weights = [one.orders for one in self._telling]
        return float(np.average([one.unlike for one in self._telling], weights=weights)) if weights else 0.0

    @cached_property
    def _each(self) -> Floats | None:
        return self._drawn([one.given_away / one.orders for one in self._telling])

    def _drawn(self, means: Sequence[float]) -> Floats | None:
        return amounts_of_next(means, [self._unlike / one.orders for one in self._telling]) if means else None


def next_of_each(learned: Sequence[Learned]) -> list[Next]:
    """What the next offer of each kind may do. Messages whose answers are still to come tell nothing yet, unless
    there are no others."""
    found = []
    for kind in FIGURE_OF:
        mine = [one for one in learned if kind_of(one.ran) == kind and one.ran.days]
        if kind == "sent":
            mine = [one for one in mine if one.ran.last_day <= one.ran.past.last_day] or mine
        before = tuple(_before(kind, one) for one in mine)
        if told := tuple(one for one in before if one.of):
            found.append(Next(kind, told))
    return found


def _before(kind: Kind, learned: Learned) -> Before:
    if kind == "sent":
        used, of = answered(learned.ran)
    else:
        uses = uses_of(learned.ran)
        used, of = uses.all_used, uses.all_of
    return Before(used, of, learned.uses, learned.given_away, learned.goods, learned.unlike)


def _estimate(drawn: Floats) -> Estimate:
    return between(drawn, float(np.median(drawn)))
