"""What each offer of a plan does to it: the plan without it, and offers piled on one by one.

What the offers add need not add up to the impact: each is taken out of a plan that has all the others. docs/sums.md,
"Each offer".
"""

from dataclasses import dataclass, replace
from itertools import accumulate

from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.offers import Offer


@dataclass(frozen=True)
class Each:
    """adds: what the plan keeps more with it than without it; piled: what the offers up to this one keep more than
    today; if_everybody: what the plan keeps more than today if everybody had the offer's code, None where it has none
    or that is what is expected. Minor units over the window."""

    adds: float
    piled: float
    if_everybody: float | None = None


def each_offer(forecaster: Forecaster, plan: Plan) -> tuple[Each, ...]:
    """One entry an offer of the plan, in order."""
    whole = forecaster.impact(plan)
    upto = accumulate(([one] for one in plan.offers), lambda before, one: [*before, *one])
    piled = [whole if len(some) == len(plan.offers) else forecaster.impact(_with(plan, some)) for some in upto]
    others = ([one for other, one in enumerate(plan.offers) if other != at] for at in range(len(plan.offers)))
    return tuple(
        Each(whole - forecaster.impact(_with(plan, rest)), so_far, _if_everybody(forecaster, plan, offer))
        for offer, rest, so_far in zip(plan.offers, others, piled, strict=True)
    )


def _if_everybody(forecaster: Forecaster, plan: Plan, offer: Offer) -> float | None:
    key = offer.asks_code
    if key is None or offer.response.uptake_bp in (None, WHOLE_BP):
        return None
    return forecaster.impact(_with(plan, [_held(one) if one.asks_code == key else one for one in plan.offers]))


def _held(offer: Offer) -> Offer:
    """The offer with a code that everybody holds, of which nothing is uncertain."""
    response = offer.response
    sure = tuple(one for one in response.ranges if one.of not in ("uptake_bp", "uptake_first_bp"))
    return replace(offer, response=replace(response, uptake_bp=WHOLE_BP, uptake_first_bp=None, ranges=sure))


def _with(plan: Plan, offers: list[Offer]) -> Plan:
    """The plan with some of its offers alone. What those say of others they go on saying."""
    return replace(plan, offers=tuple(offers))
