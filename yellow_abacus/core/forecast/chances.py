"""What shoppers do: which codes they hold, what they take, what they may use yet, as a distribution over sets of
available offers.

A priced result depends only on the cart and the set of available offers, so all of this weighs results and never
prices one twice. Figures may have one value or many at once (draws): every chance is told for each draw, and for
first orders and others apart. docs/sums.md, "States".

Three in ten shoppers hold a code, of first orders one in ten; the chances of all sets add up to 1.

>>> from yellow_abacus.core.offers import Given, Offer, PercentOff, Response
>>> held = Response(uptake_bp=3000, uptake_first_bp=1000)
>>> fern = Offer((PercentOff(1000),), given=Given("code", "FERN"), response=held)
>>> plan = Plan(date(2027, 3, 1), date(2027, 3, 7), (fern,))
>>> [(len(one.offers), one.chance.tolist()) for one in available_sets(((0, fern),), Drawn(plan))]
[(1, [[0.1, 0.3]]), (0, [[0.9, 0.7]])]
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from itertools import product

import numpy as np

from yellow_abacus.core.clauses.response import Following, Ranging
from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.forecast.groups import COHORTS
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.volume import Volume
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.ground.once import cached_property

MOST_CODES = 8
"""Most different codes a plan may have open on one day."""
MOST_TAKEN = 6
"""Most offers of a plan that shoppers have to take."""


@dataclass(frozen=True, eq=False)
class Drawn:
    """Response figures of a plan, each of one value or of one a draw.

    told: by offer's number and figure, the share, one entry a draw, in place of its likely value. not_used_up: by
    offer's number, of orders that are of a shopper who may use it yet, of first orders and others. following: by
    offer's number and figure, how many times what was said it is, as the offer gives more or less than then.
    orders: in times the likely, one entry a draw; None for that.
    """

    plan: Plan
    draws: int = 1
    told: Mapping[tuple[int, Ranging], Floats] = field(default_factory=dict)
    not_used_up: Mapping[int, tuple[float, float]] = field(default_factory=dict)
    following: Mapping[tuple[int, Following], float] = field(default_factory=dict)
    orders: Floats | None = None

    @property
    def volume(self) -> Floats:
        """Orders in times the likely, one entry a draw."""
        return np.ones(self.draws) if self.orders is None else self.orders

    def follows(self, at: int, figure: Following) -> float:
        return self.following.get((at, figure), 1.0)

    def of(self, at: int, figure: Ranging) -> Floats | None:
        """A share, one entry a draw; None where the merchant has not said."""
        told = self.told.get((at, figure))
        if told is not None:
            return told
        likely = self.plan.offers[at].response.likely(figure)
        return None if likely is None else np.full(self.draws, likely / WHOLE_BP)

    def uptake(self, at: int) -> Floats:
        """Who holds the code: [draw, cohort]."""
        return self._by_cohort(at, "uptake_bp", "uptake_first_bp", 1.0)

    def extra(self, at: int) -> Floats:
        """Extra orders, as a share of those reached: [draw, cohort]."""
        return self._by_cohort(at, "extra_bp", "extra_first_bp", 0.0)

    def extra_followed(self, at: int) -> Floats:
        """Extra orders as they follow what the offer gives: [draw, cohort]."""
        first: Following = "extra_bp" if self.of(at, "extra_first_bp") is None else "extra_first_bp"
        result: Floats = self.extra(at) * np.array([self.follows(at, first), self.follows(at, "extra_bp")])
        return result

    def extra_by_cell(self, at: int) -> Floats:
        """Extra orders as they follow what the offer gives: [draw, cell], a cell being a weekday and a cohort."""
        known = self._extras.get(at)
        if known is None:
            known = self._extras[at] = np.tile(self.extra_followed(at), (1, WEEKDAYS))
        return known

    @cached_property
    def _extras(self) -> dict[int, Floats]:
        return {}

    def _by_cohort(self, at: int, figure: Ranging, of_first: Ranging, unsaid: float) -> Floats:
        others, first = self.of(at, figure), self.of(at, of_first)
        others = np.full(self.draws, unsaid) if others is None else others
        return np.column_stack((others if first is None else first, others))

    def otherwise(self, at: int, figure: Ranging, value: Floats | float) -> "Drawn":
        """The same with another value of one figure."""
        told = {**self.told, (at, figure): np.broadcast_to(np.asarray(value, dtype=np.float64), (self.draws,))}
        return replace(self, told=told)

    def everybody_holds(self, key: str) -> "Drawn":
        """The same where every shopper holds the code."""
        found = self
        for at, offer in enumerate(self.plan.offers):
            if offer.asks_code == key:
                found = found.otherwise(at, "uptake_bp", 1.0).otherwise(at, "uptake_first_bp", 1.0)
        return found


@dataclass(frozen=True, eq=False)
class Available:
    """offers: there for a shopper, with their numbers in the plan. added: of those, by number, whose reward the
    shopper adds. chance: [draw, cohort]. sharp: whether these shoppers bring the cart they built."""

    offers: Opened
    added: tuple[int, ...]
    chance: Floats
    sharp: bool = False


def available_sets(opened: Opened, drawn: Drawn) -> list[Available]:
    """Each set of offers a shopper may have of those open, and its chance; the chances add up to 1.

    Codes are held independently of each other. Offers that share a code share its uptake: the first one's. What is
    taken goes by one willingness a shopper has: whoever takes what few take also takes what many do.
    """
    found: dict[tuple[int, ...], Available] = {}
    limited = [at for at, _ in opened if at in drawn.not_used_up]
    for held, of_codes in held_codes(opened, drawn):
        for left, of_uses in _left(limited, drawn):
            here = tuple(
                (at, offer)
                for at, offer in opened
                if (offer.asks_code is None or offer.asks_code in held) and (at not in limited or at in left)
            )
            for taken, of_taking in _taken(here, drawn):
                chance = of_codes * of_uses * of_taking
                if not chance.any():
                    continue
                asked = [at for at, _ in here if needs_taking(drawn, at)]
                some = tuple(one for one in here if one[0] in taken or one[0] not in asked)
                key, added = tuple(at for at, _ in some), tuple(at for at in asked if at in taken)
                known = found.get(key)
                whole = chance if known is None else known.chance + chance
                found[key] = Available(some, added, whole)
    return list(found.values())


def needs_taking(drawn: Drawn, at: int) -> bool:
    """Whether shoppers have to take what the offer gives."""
    return drawn.of(at, "take_up_bp") is not None


def _codes(opened: Opened, drawn: Drawn) -> Iterator[tuple[str, Floats]]:
    seen = set()
    for at, offer in opened:
        key = offer.asks_code
        if key is not None and key not in seen:
            seen.add(key)
            yield key, drawn.uptake(at)


def held_and_left(opened: Opened, drawn: Drawn) -> Iterator[tuple[tuple[frozenset[str], frozenset[int]], Floats]]:
    """Every set of codes a shopper may hold, and of offers that are not used up, with the chance: [draw, cohort]."""
    limited = [at for at, _ in opened if at in drawn.not_used_up]
    unlimited = frozenset(at for at, _ in opened if at not in drawn.not_used_up)
    for held, of_codes in held_codes(opened, drawn):
        for left, of_uses in _left(limited, drawn):
            yield (held, left | unlimited), of_codes * of_uses


def _held(codes: list[tuple[str, Floats]], drawn: Drawn) -> Iterator[tuple[frozenset[str], Floats]]:
    for holds in product((True, False), repeat=len(codes)):
        chance = np.ones((drawn.draws, COHORTS))
        for (_, uptake), has in zip(codes, holds, strict=True):
            chance = chance * (uptake if has else 1 - uptake)
        if chance.any():
            yield frozenset(key for (key, _), has in zip(codes, holds, strict=True) if has), chance


def _left(limited: list[int], drawn: Drawn) -> Iterator[tuple[frozenset[int], Floats]]:
    """What a shopper may use yet. Who has used up what many may use yet has used up what fewer may."""
    rising = sorted(limited, key=lambda at: drawn.not_used_up[at])
    bounds = [np.zeros(COHORTS), *(np.array(drawn.not_used_up[at]) for at in rising), np.ones(COHORTS)]
    for number in range(len(rising) + 1):
        chance = (bounds[number + 1] - bounds[number])[None, :]
        if chance.any():
            yield frozenset(rising[number:]), np.maximum(chance, 0.0)


def _taken(here: Opened, drawn: Drawn) -> Iterator[tuple[frozenset[int], Floats]]:
    """What a shopper takes of what has to be taken: with one willingness, all that at least so many take."""
    shares = [(at, share) for at, _ in here if (share := drawn.of(at, "take_up_bp")) is not None]
    for takes in product((True, False), repeat=len(shares)):
        least, most = np.ones(drawn.draws), np.zeros(drawn.draws)
        for (_, share), takes_it in zip(shares, takes, strict=True):
            if takes_it:
                least = np.minimum(least, share)
            else:
                most = np.maximum(most, share)
        chance = np.maximum(least - most, 0.0)
        if chance.any():
            yield frozenset(at for (at, _), one in zip(shares, takes, strict=True) if one), chance[:, None]


def open_sets(plan: Plan, days: Iterable[date], volume: Volume) -> list[tuple[Opened, Floats]]:
    """Each set of open offers, and the orders by weekday of the days on which it is."""
    return [(opened, volume.by_weekday(on)) for opened, on in plan.open_over(days)]


def held_codes(opened: Opened, drawn: Drawn) -> Iterator[tuple[frozenset[str], Floats]]:
    """Every set of codes a shopper may hold, and the chance of it: [draw, cohort]."""
    return _held(list(_codes(opened, drawn)), drawn)
