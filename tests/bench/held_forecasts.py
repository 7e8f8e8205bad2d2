"""What the first half of the demo shop's year teaches of its code, held against the fortnights of the second half."""

from dataclasses import replace
from datetime import date

from tests.bench.core_speed import demo_shop
from tests.bench.past_windows import GOES_BY, part
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.clauses.response import Ranged, Response
from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.outcome import outcome_of
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Offer, PercentOff, When
from yellow_abacus.learning.came import came
from yellow_abacus.learning.learned import Learned, in_bp, learn
from yellow_abacus.learning.ran import past_of

CODE, DAYS = "NEWLEAF", 14
HELD = ("orders", "sales", "off", "profit", "uses", "given away")


def run() -> None:
    loaded = demo_shop()
    days = loaded.orders.day
    middle = int(days.min() + days.max()) // 2
    offer = Offer(gives=(PercentOff(percent_bp=1000),), given=Given(by="code", code=CODE), id="leaf")
    response = _learned(loaded, offer, middle)
    plain = replace(offer, response=response)
    print(f"  learned before {date.fromordinal(middle)}: {response.uptake_bp} bp hold {CODE}, {response.ranges}")
    inside, windows = dict.fromkeys(HELD, 0), 0
    for first in range(middle, int(days.max()) - DAYS + 2, DAYS):
        window = date.fromordinal(first), date.fromordinal(first + DAYS - 1)
        plan = Plan(*window, (plain,))
        expects = outcome_of(Forecaster(expect(part(loaded, days < first), GOES_BY, window)), plan)
        real = came(loaded.history, loaded.orders.charged, plan)
        pairs = (
            (expects.orders, len(real.carts)),
            (expects.sales, real.sales.sum()),
            (expects.off, real.off.sum()),
            (expects.profit, real.planned.sum()),
            (expects.offers[0].uses, real.used[0].sum()),
            (expects.offers[0].given_away, real.given[0].sum()),
        )
        windows += 1
        for name, (expected, value) in zip(HELD, pairs, strict=True):
            inside[name] += expected.holds(float(value))
    for name, held in inside.items():
        print(f"  {name:12} inside its range in {held:2} of {windows} fortnights")


def _learned(loaded, offer: Offer, before: int) -> Response:
    past = past_of(loaded.history, loaded.orders.charged, before)
    ran = replace(offer, when=When(date.fromordinal(past.first_day), date.fromordinal(past.last_day)))
    found = next(one for one in learn(past, [ran]) if isinstance(one, Learned))
    of_uptake = (one for one in found.figures if one.of.startswith("uptake"))
    told = {one.of: said for one in of_uptake if (said := in_bp(one)) is not None}
    others, first = told["uptake_bp"], told["uptake_first_bp"]
    return Response(
        uptake_bp=others[0],
        uptake_first_bp=first[0],
        ranges=(Ranged("uptake_bp", *others[1:]), Ranged("uptake_first_bp", *first[1:])),
    )
