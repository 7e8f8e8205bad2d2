"""What a short test would tell of a figure that history says nothing of, in words."""

from collections.abc import Iterator

from pydantic import BaseModel

from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.files.words import count, share
from yellow_abacus.learning.how_long import least_told, missing_between, seen_between

DAYS, LONGER = 14, 28
FEWEST = 20
"""Orders of a test, below which it tells nothing."""
EARNING, NEAR, SENT = 100, 100, 500
SOME, HALF, QUARTER, FEW = 0.1, 0.5, 0.25, 0.05


class ShortTestDoc(BaseModel):
    """of: a figure of the response."""

    of: Ranging
    says: str


class ShortTestsDoc(BaseModel):
    tests: list[ShortTestDoc]


def short_tests(orders_a_day: float, first_a_day: float, spread: float, days_before: int) -> list[ShortTestDoc]:
    """orders_a_day: usual ones, of which first_a_day are shoppers' first. spread: of daily orders, in times what
    chance alone would have. days_before: to hold them against."""
    told = _told(orders_a_day, first_a_day, spread, days_before)
    return [ShortTestDoc(of=of, says=says) for of, says in told]


def _told(orders_a_day: float, first_a_day: float, spread: float, days_before: int) -> Iterator[tuple[Ranging, str]]:
    if days_before < 1:
        return
    yield from _of_all("uptake_bp", "extra_bp", "orders", orders_a_day, spread, days_before)
    yield from _of_all("uptake_first_bp", "extra_first_bp", "first orders", first_a_day, spread, days_before)
    half, few = seen_between(HALF, EARNING), seen_between(FEW, SENT)
    missing = missing_between(QUARTER, NEAR, DAYS, days_before)
    once = f"A test would tell it: half of {EARNING} orders that earn it"
    yield "take_up_bp", f"{once} would show as {_between(half)}."
    once = f"A test would tell it beside other days: a quarter of {NEAR} orders near the threshold"
    yield "top_up_bp", f"{once} would show as {_between(missing)}."
    once = f"A message to {SENT} shoppers would tell it: {share(FEW)} of them"
    yield "send_response_bp", f"{once} would show as {_between(few)}."
    yield "borrowed_bp", "The days right after a test tell it where many more came: leave as many without an offer."


def _of_all(
    uptake: Ranging, extra: Ranging, which: str, a_day: float, spread: float, days_before: int
) -> Iterator[tuple[Ranging, str]]:
    """Of a code, and of more orders, that everybody may use and bring. which: orders are counted."""
    orders = a_day * DAYS
    least, longer = (least_told(days, a_day, spread, days_before) for days in (DAYS, LONGER))
    if orders < FEWEST or least is None or longer is None:
        too_few = f"Too few {which} come in {DAYS} days for a short test to tell it."
        yield uptake, too_few
        yield extra, too_few
        return
    once = f"A test of {DAYS} days would tell it: {share(SOME)} of some {count(orders)} {which}"
    yield uptake, f"{once} would show as {_between(seen_between(SOME, orders))}."
    once = f"A test of {DAYS} days, open to everybody, would tell {share(least)} more {which} from none"
    yield extra, f"{once}, and one of {LONGER} days {share(longer)}."


def _between(ends: tuple[float, float]) -> str:
    low, high = ends
    return f"{share(low)} to {share(high)}"
