"""What a plan's days are expected to come to, each figure with its range, so that it can be held against what came.

Draws are those of the impact's range, and where the merchant gives the number of orders no range, as far off as it
was for such days before (`volume_before`); on top is the chance that orders come or do not, each for itself, and
for what is given away that some orders are worth more than others. docs/sums.md, "Afterwards".
"""

from dataclasses import dataclass, replace

import numpy as np
from scipy.special import ndtri

from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, parts_of
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import EVEN, HIGH, LOW, ORDERS, many_draws, shuffled
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.takings import Takings, takings_of
from yellow_abacus.core.forecast.volume_before import off_before
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer, PutIn


@dataclass(frozen=True)
class Expectation:
    """The likely value of a figure, and its 5 and 95 % points."""

    likely: float
    low: float
    high: float

    def holds(self, value: float) -> bool:
        return self.low <= value <= self.high


@dataclass(frozen=True)
class OfferOutcome:
    """uses: orders that use it, extra ones and those of messages included. given_away: minor units."""

    uses: Expectation
    given_away: Expectation


@dataclass(frozen=True)
class Outcome:
    """orders: of all. sales: goods with tax after offers; off: what came off goods; delivery: charged for it, without
    tax; put_in: what things put in cost; profit: all in minor units.

    today_each, planned_each, besides: as in `Averages`.
    """

    orders: Expectation
    sales: Expectation
    off: Expectation
    delivery: Expectation
    put_in: Expectation
    profit: Expectation
    offers: tuple[OfferOutcome, ...]
    today_each: float
    planned_each: float
    besides: float


@dataclass(frozen=True)
class Averages:
    """What an order keeps, minor units: as things stand, and under the plan without what that costs once and what is
    paid for messages and to win orders (`besides`); and the variance of the second."""

    today_each: float
    planned_each: float
    besides: float
    variance_each: float


def averages_of(forecaster: Forecaster, plan: Plan) -> Averages:
    """What an order of the plan's days should keep, without the draws an outcome takes."""
    likely = forecaster.drawn(plan)
    course = forecaster.course(plan, likely)
    return _averages(forecaster, plan, takings_of(course, likely), _squares(course, likely))


def _averages(forecaster: Forecaster, plan: Plan, one: Takings, squares: float) -> Averages:
    """one: the plan's, of the likely values. squares: see `_squares`."""
    now = forecaster.now(plan).takings
    coming, orders = (float(side.all_orders[0, AT["orders"]]) for side in (now, one))
    besides = float(one.winning[0] + one.borrowed[0] + one.fixed[0])
    planned = (float(one.profit[0]) + besides) / orders if orders else 0.0
    return Averages(
        today_each=float(now.profit[0]) / coming if coming else 0.0,
        planned_each=planned,
        besides=besides,
        variance_each=max(squares / orders - planned**2, 0.0) if orders else 0.0,
    )


def outcome_of(forecaster: Forecaster, plan: Plan) -> Outcome:
    """What the plan's days should come to."""
    likely = forecaster.drawn(plan)
    many = many_draws(forecaster, plan, likely)
    if many.orders is None and (before := off_before(forecaster.expected, plan.days)):
        many = replace(many, orders=np.exp(before.off * ndtri(EVEN)[shuffled(ORDERS)]))
    course = forecaster.course(plan, likely)
    one, drawn = takings_of(course, likely), takings_of(forecaster.course(plan, many), many)
    orders, squares = float(one.all_orders[0, AT["orders"]]), _squares(course, likely)
    averages, spread = _averages(forecaster, plan, one, squares), 1 + _unlike(forecaster) ** 2

    def of(figure: str, per_order: float, times: int = 1) -> Expectation:
        """per_order: the mean square of the figure of an order, in squares of its mean. times: 1, or -1 for what is
        below 0 in the ledger."""
        said, draws = times * one.all_orders[0, AT[figure]], times * drawn.all_orders[:, AT[figure]]
        return _expected(said, draws, per_order / max(orders, 1e-9))

    delivery_each = float(one.all_orders[0, AT["delivery_charged"]]) / max(orders, 1e-9)
    putting = sum(float(one.uses[0, at]) for at, offer in enumerate(plan.offers) if _puts_in(offer))

    return Outcome(
        orders=of("orders", 1.0),
        sales=of("goods_with_tax", spread),
        off=of("goods_off", spread * _rarely(one.any_reached[0], orders)),
        delivery=of("delivery_charged", _unlike_charges(forecaster, delivery_each)),
        put_in=of("put_in_cost", _rarely(putting, orders), -1),
        profit=_within(float(one.profit[0]), drawn.profit, np.sqrt(squares)),
        offers=tuple(
            OfferOutcome(
                _expected(one.uses[0, at], drawn.uses[:, at], 1 / max(float(one.uses[0, at]), 1e-9)),
                _expected(_all_given(one, at)[0], _all_given(drawn, at), spread / max(float(one.uses[0, at]), 1e-9)),
            )
            for at in range(len(plan.offers))
        ),
        today_each=averages.today_each,
        planned_each=averages.planned_each,
        besides=averages.besides,
    )


def _all_given(takings: Takings, at: int) -> Floats:
    """What an offer gives away on all orders that use it: those it reaches, as often as it is used."""
    reached = takings.reached[:, at] + takings.topped[:, at]
    each = np.divide(takings.given[:, at], reached, out=np.zeros_like(reached), where=reached > 0)
    result: Floats = each * takings.uses[:, at]
    return result


def _expected(likely: float, draws: Floats, relative_variance: float) -> Expectation:
    """relative_variance: of chance alone, in squares of the likely value."""
    return _within(float(likely), draws, float(abs(likely)) * np.sqrt(relative_variance))


def _within(likely: float, draws: Floats, by_chance: float) -> Expectation:
    whole = draws + ndtri(EVEN)[shuffled("luck")] * by_chance
    low, high = np.quantile(whole, [LOW, HIGH])
    return Expectation(likely, float(min(low, likely)), float(max(high, likely)))


def _rarely(reached: float, orders: float) -> float:
    """How many times the squares a figure has that only so many of all orders have at all."""
    return orders / reached if reached else 1.0


def _puts_in(offer: Offer) -> bool:
    return any(isinstance(one, PutIn) for one in offer.rewards())


def _unlike_charges(forecaster: Forecaster, each: float) -> float:
    """The mean square of what an order is charged for delivery, in squares of its mean, which is `each`: as without
    offers where it is charged at all."""
    mix = forecaster.mix
    bare = forecaster.outlook.bare(mix)
    weight = bare.rows.share_by_row * mix.share_by_cart[bare.rows.cart_by_row]
    charged = bare.figures.charged
    mean = float(weight @ charged)
    return float(weight @ charged**2) / (mean * each) if mean > 0 and each > 0 else 1.0


def _unlike(forecaster: Forecaster) -> float:
    """How unlike carts are in value: the standard deviation in means."""
    mix = forecaster.mix
    worth, weight = mix.batch.worth_by_cart.astype(np.float64), mix.share_by_cart
    mean = float(worth @ weight)
    return float(np.sqrt(max(float((worth**2) @ weight) - mean**2, 0.0)) / mean) if mean else 0.0


def _squares(course: Course, drawn: Drawn) -> float:
    """Of all orders, the squares of what each keeps: the variance of what they keep by chance."""
    found = 0.0
    for flow in course.flows:
        for sums, share, _ in parts_of(flow.state, drawn):
            orders = flow.orders[0] * share[0]
            found += float(orders @ sums.total[:, AT["kept_squared"]])
            if flow.wins:
                for here, at in enumerate(flow.state.numbers):
                    extra = orders * drawn.extra_by_cell(at)[0]
                    found += float(extra @ sums.reached[:, here][:, AT["kept_squared"]])
    return max(found, 0.0)
