"""The answer: what the plan keeps, what it needs to break even, and where it leaks, in plain words.

Words and figures alternate, so that every screen and file writes the money with its own formatter.
"""

from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.forecast.cart_types import BY_TYPE, OTHERS
from yellow_abacus.core.forecast.forecast import Forecast


@dataclass(frozen=True)
class Words:
    text: str
    kind: Literal["words"] = "words"


@dataclass(frozen=True)
class MoneyFigure:
    """amount: minor units, without sign; `after` says which way. about: what working it opens to."""

    amount: float
    after: str
    about: Literal["impact", "leak"]
    lost: bool
    kind: Literal["money"] = "money"


@dataclass(frozen=True)
class ShareFigure:
    """share: 1.0 = 100 %."""

    share: float
    after: str
    about: Literal["more_orders"] = "more_orders"
    kind: Literal["share"] = "share"


@dataclass(frozen=True)
class CountFigure:
    """count: of orders, over the window."""

    count: float
    after: str
    kind: Literal["count"] = "count"


Part = Words | MoneyFigure | ShareFigure | CountFigure

LEAST_LEAK = 0.005
"""What a type of cart loses is told from this share of the impact on."""

LEAST_SHARE = 0.001
"""The smallest share that is told; less is told as less than it."""


def answer(forecast: Forecast, impact: int, unit: int) -> tuple[Part, ...]:
    """impact: as it is shown, minor units. unit: to how many of them it is rounded."""
    return (*_keeps(forecast, impact, unit), *_needs(forecast))


def aside(forecast: Forecast, unit: int) -> tuple[Part, ...]:
    """What it sells more, and where it loses most against today: by types of carts, or else their main category.
    unit: as in `answer`."""
    more = forecast.planned.orders - forecast.today.orders
    by_type = forecast.rods.get(BY_TYPE, ())
    types = [rod for rod in by_type or forecast.rods["category"] if rod.label != OTHERS]
    worst = min(types, key=lambda rod: rod.change, default=None)
    told: list[Part] = []
    if more >= 0.05:
        told += [Words("It sells "), CountFigure(more, " more order" if round(more, 1) == 1 else " more orders")]
    if worst is not None and worst.change <= -max(unit / 2, LEAST_LEAK * abs(forecast.impact)):
        kind = f"“{worst.label}”" if by_type else worst.label[0].lower() + worst.label[1:]
        told.append(
            Words(f", and leaks most on carts of {kind}: " if told else f"It leaks most on carts of {kind}: ")
        )
        told.append(MoneyFigure(-worst.change, " less than today", "leak", lost=True))
    return (*told, Words(".")) if told else ()


def _keeps(forecast: Forecast, impact: int, unit: int) -> tuple[Part, ...]:
    days = forecast.plan.days
    span = "On this one day" if days == 1 else f"Over these {days} days"
    if any(offer.asks_code and offer.response.uptake_bp is None for offer in forecast.plan.offers):
        span += ", if everybody uses the code,"  # nobody has said how many will
    lost = forecast.impact < 0
    if abs(forecast.impact) < 0.5:
        return (Words(f"{span} the plan keeps just what today keeps."),)
    if impact == 0:
        keeps = Words(f"{span} the plan keeps, to within ")
        return (keeps, MoneyFigure(unit, "", "impact", lost), Words(", what today keeps."))
    return (
        Words(f"{span} the plan keeps "),
        MoneyFigure(abs(impact), " less" if lost else " more", "impact", lost),
        Words(" than today."),
    )


def _needs(forecast: Forecast) -> tuple[Part, ...]:
    needed = forecast.more_orders
    if forecast.reached == 0:
        return (Words(" No order gets anything from it."),)
    if needed.value is None:
        return (
            Words(
                {
                    "always": " It would break even without one extra order.",
                    "never": " No number of extra orders would make it break even.",
                }.get(needed.verdict, " Extra orders make no difference to it.")
            ),
        )
    if needed.verdict == "at_most":
        return (
            Words(" It breaks even only up to "),
            ShareFigure(needed.value, " more orders"),
            Words(": each extra one loses money."),
        )
    opening = " It needs " if forecast.impact < 0 else " It breaks even at "
    closing = " to break even." if forecast.impact < 0 else "."
    if needed.value < LEAST_SHARE / 2:
        opening += "less than "
    return (Words(opening), ShareFigure(max(needed.value, LEAST_SHARE), " more orders"), Words(closing))
