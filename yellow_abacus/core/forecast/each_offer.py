"""What each offer of a plan does to it: the plan without it, and offers piled on one by one.

What the offers add need not add up to the impact: each is taken out of a plan that has all the others. docs/sums.md,
"Each offer".
"""

from dataclasses import dataclass, replace
from itertools import accumulate

from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Offer


@dataclass(frozen=True)
class Each:
    """adds: what the plan keeps more with it than without it; piled: what the offers up to this one keep more than
    today; both minor units over the window."""

    adds: float
    piled: float


def each_offer(forecaster: Forecaster, plan: Plan) -> tuple[Each, ...]:
    """One entry an offer of the plan, in order."""
    whole = forecaster.impact(plan)
    upto = accumulate(([one] for one in plan.offers), lambda before, one: [*before, *one])
    piled = [whole if len(some) == len(plan.offers) else forecaster.impact(_with(plan, some)) for some in upto]
    others = ([one for other, one in enumerate(plan.offers) if other != at] for at in range(len(plan.offers)))
    return tuple(
        Each(whole - forecaster.impact(_with(plan, rest)), so_far) for rest, so_far in zip(others, piled, strict=True)
    )


def _with(plan: Plan, offers: list[Offer]) -> Plan:
    """The plan with some of its offers alone. What those say of others they go on saying."""
    return replace(plan, offers=tuple(offers))
