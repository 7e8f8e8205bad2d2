"""What is wrong with a plan: every problem, with the path to the part and the mend.

The shapes (types, known kinds) are checked where plans are read; here is what makes sense.
"""

import re
import unicodedata
from collections.abc import Collection, Iterator

from yellow_abacus.core.offers import AmountOff, Offer
from yellow_abacus.core.plan import Plan
from yellow_abacus.core.problem import Path, Problem, amount_between, rate_between
from yellow_abacus.core.response import MOST_CODES
from yellow_abacus.core.scope import Scope

LONGEST_WINDOW = 366
MOST_OFFERS = 20
MOST_PARTS = 8
MOST_EXTRA_BP = 50_000
MOST_NAMES = 1000

Names = Collection[str]

SHORTEST_CODE, LONGEST_CODE = 4, 24


def check_plan(plan: Plan, zones: Names, categories: Names, skus: Names) -> list[Problem]:
    """Every problem of the plan in a shop with these zones and categories; none means it can be forecast."""
    problems = [*_window(plan), *_codes(plan)]
    for number, offer in enumerate(plan.offers):
        problems += [problem.inside("offers", number) for problem in check_offer(offer, zones, categories, skus)]
    return problems


def check_offer(offer: Offer, zones: Names, categories: Names, skus: Names) -> Iterator[Problem]:
    yield from _earned(offer)
    yield from _gives(offer, zones)
    yield from _scopes(offer, categories, skus)
    yield from _given(offer)
    yield from _when(offer)
    yield from _limits(offer)
    for problem in (
        *rate_between("uptake_bp", "The share of shoppers", offer.response.uptake_bp, 0),
        *rate_between("extra_bp", "The share of extra orders", offer.response.extra_bp, 0, MOST_EXTRA_BP),
    ):
        yield problem.inside("response")


def _window(plan: Plan) -> Iterator[Problem]:
    if plan.last_day < plan.first_day:
        yield Problem(("last_day",), "The plan ends before it starts.", "Choose a last day on or after the first.")
    elif plan.days > LONGEST_WINDOW:
        yield Problem(("last_day",), f"The plan runs {plan.days} days.", f"Plan {LONGEST_WINDOW} at most.")
    yield from _at_most(("offers",), "offers", len(plan.offers), MOST_OFFERS)


def _codes(plan: Plan) -> Iterator[Problem]:
    codes = {offer.given.key for offer in plan.offers} - {None}
    yield from _at_most(("offers",), "different codes", len(codes), MOST_CODES)


def _at_most(path: Path, what: str, count: int, most: int) -> Iterator[Problem]:
    if count > most:
        yield Problem(path, f"There are {count} {what}.", f"Keep {most} at most.")


def _earned(offer: Offer) -> Iterator[Problem]:
    conditions, repeat = offer.earned.conditions, offer.earned.repeat
    yield from _at_most(("earned", "conditions"), "conditions", len(conditions), MOST_PARTS)
    for at, condition in enumerate(conditions):
        yield from (problem.inside("earned", "conditions", at) for problem in condition.problems())
    if repeat == "each_time" and all(condition.bound == "at_most" for condition in conditions):
        yield Problem(("earned", "repeat"), "“Each time” has nothing to count.", "Say what must be reached.")
    if repeat == "each_time" and not any(isinstance(reward, AmountOff) for reward in offer.gives):
        yield Problem(("earned", "repeat"), "“Each time” changes nothing here.", "Use it with an amount off goods.")


def _gives(offer: Offer, zones: Names) -> Iterator[Problem]:
    if not offer.gives:
        yield Problem(("gives",), "The offer gives nothing.", "Say what shoppers get.")
    yield from _at_most(("gives",), "rewards", len(offer.gives), MOST_PARTS)
    for at, reward in enumerate(offer.gives):
        yield from (problem.inside("gives", at) for problem in reward.problems())
    for at, reward in enumerate(offer.gives):
        for zone in getattr(reward, "zones", ()):
            if zone not in zones:
                yield Problem(
                    ("gives", at, "zones"),
                    f"The shop does not deliver to “{zone}”.",
                    "Choose a zone from Delivery.",
                )


def _scopes(offer: Offer, categories: Names, skus: Names) -> Iterator[Problem]:
    scopes: list[tuple[Path, Scope]] = [(("on",), offer.on)]
    scopes += [(("earned", "conditions", at, "of"), one.of) for at, one in enumerate(offer.earned.conditions)]
    for path, scope in scopes:
        for clause, what, known in (
            ("categories", "category", categories),
            ("except_categories", "category", categories),
            ("skus", "SKU", skus),
            ("except_skus", "SKU", skus),
        ):
            names = getattr(scope, clause)
            yield from _at_most((*path, clause), "names in one list", len(names), MOST_NAMES)
            for name in set(names[:MOST_NAMES]).difference(known):
                yield Problem(
                    (*path, clause), f"The shop has no {what} “{name}”.", f"Choose a {what} that Goods has."
                )


def _limits(offer: Offer) -> Iterator[Problem]:
    limits = offer.limits
    for field, what, value in (
        ("times", "The number of times", limits.times),
        ("units", "The number of units", limits.units),
        ("amount", "The most it takes off", limits.amount),
    ):
        if value is not None:
            yield from (problem.inside("limits") for problem in amount_between(field, what, value, least=1))


def _given(offer: Offer) -> Iterator[Problem]:
    code = offer.given.code
    if offer.given.by == "code" and not _is_code(code):
        yield Problem(
            ("given", "code"),
            f"“{code}” cannot be a code." if code else "The code is empty.",
            "Use 4 to 24 letters and digits, with a dot or hyphen between them if you like.",
        )


def _is_code(text: str) -> bool:
    """Letters of any script (with their marks) and digits, dot or hyphen between them."""
    return SHORTEST_CODE <= len(text) <= LONGEST_CODE and all(
        part and unicodedata.category(part[0])[0] != "M" and all(unicodedata.category(ch)[0] in "LMN" for ch in part)
        for part in re.split("[-.]", text)
    )


def _when(offer: Offer) -> Iterator[Problem]:
    first, last = offer.when.first_day, offer.when.last_day
    if first and last and last < first:
        yield Problem(
            ("when", "last_day"),
            "The offer ends before it starts.",
            "Choose a last day on or after the first.",
        )
