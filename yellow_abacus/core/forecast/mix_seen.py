"""What a mix of carts to expect comes to before any offer, and what each correction in it adds.

Corrections are made one after another in the order they are written, so what they add adds up. docs/sums.md, "The
carts to expect".
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import date

from yellow_abacus.core.forecast.expected import MixTerms
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan

PARTS = (
    "counted",
    "left_out",
    "orders_a_day",
    "weekday_bp",
    "month_bp",
    "named",
    "growth_bp",
    "segments",
    "sketched",
)
GOES_BY = ("counted", "last_days", "first_day", "last_day")
"""The fields that say which part of the history to go by: one correction together."""


@dataclass(frozen=True)
class MixSeen:
    """Over some days with no offer running. goods: with tax, and kept: minor units.

    first_share: of orders that are their shopper's first, among those of which that is known; None where it is of
    none.
    """

    orders: float
    goods: float
    kept: float
    first_share: float | None


@dataclass(frozen=True)
class Correction:
    """What one part of the terms adds: orders, goods with tax and kept, minor units."""

    part: str
    orders: float
    goods: float
    kept: float


def seen(forecaster: Forecaster, window: tuple[date, date]) -> MixSeen:
    plan = Plan(*window, ())
    today = forecaster.forecast(plan).today
    first = known = 0.0
    for _, orders, mix in forecaster.available(plan):
        before = mix.batch.facts.orders_before_by_cart
        first += orders * float(mix.share_by_cart @ (before == 0))
        known += orders * float(mix.share_by_cart @ (before >= 0))
    return MixSeen(today.orders, today.goods_with_tax, today.profit, first / known if known else None)


def corrections(
    terms: MixTerms, window: tuple[date, date], expecting: Callable[[MixTerms], Forecaster]
) -> list[Correction]:
    """expecting: a forecaster of the carts that some terms expect."""
    found, before = [], None
    for part, so_far in one_by_one(terms):
        now = seen(expecting(so_far), window)
        if before is not None:
            found.append(
                Correction(part, now.orders - before.orders, now.goods - before.goods, now.kept - before.kept)
            )
        before = now
    return found


def one_by_one(terms: MixTerms) -> Iterator[tuple[str, MixTerms]]:
    """The terms part by part, from those of the whole history on; parts that say nothing are left out."""
    so_far = MixTerms()
    yield "", so_far
    for part in PARTS:
        names = GOES_BY if part == "counted" else (part,)
        further = replace(so_far, **{name: getattr(terms, name) for name in names})
        if _says_more(further, so_far, part):
            yield part, further
        so_far = further


def _says_more(one: MixTerms, other: MixTerms, part: str) -> bool:
    if part == "counted":
        return one.counted != "all"
    return bool(getattr(one, part) != getattr(other, part))
