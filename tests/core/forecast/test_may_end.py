"""What may end, by hand; whole courses until it does are in test_course and test_selling_out."""

from datetime import date

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_selling_out import stocked
from tests.core.forecast.test_topping_up import world_of
from yellow_abacus.core.forecast.may_end import limits_of, open_after, stocks_put_in
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Limits, Offer, PercentOff, PutIn

GIFT = Offer((PutIn(("A", "D"), substitute="C"),), id="gift")
TENTH = Offer((PercentOff(1_000),), id="tenth", limits=Limits(uses=5, spending=900))
WORLD = stocked(world_of([{"A": 4, "D": 1}], []), {"C": 8.0, "D": 20.0}, {"A": {"C": 2}})
A, C, D = (WORLD.batch.goods.skus.index(sku) for sku in "ACD")


def plan_of(*offers: Offer) -> Plan:
    return Plan(date(2026, 3, 1), date(2026, 3, 7), offers)


def test_limits_of_offers_and_the_stock_a_kit_takes_from():
    plan = plan_of(TENTH, GIFT)
    assert stocks_put_in(plan, WORLD.batch.goods) == [C, D]
    found = [(one.of, one.most, one.offer, one.sku) for one in limits_of(plan, forecaster(WORLD).spans(plan))]
    assert found == [("uses", 5, 0, -1), ("spending", 900, 0, -1), ("stock", 8, -1, C), ("stock", 20, -1, D)]
    assert limits_of(plan_of(TENTH), []) == limits_of(plan_of(TENTH), forecaster(WORLD).spans(plan_of(TENTH)))


def test_a_kit_goes_with_the_first_of_its_parts():
    plan = plan_of(TENTH, GIFT)
    spans = forecaster(WORLD).spans(plan)
    limits = limits_of(plan, spans)

    def left(*ended: int) -> list[tuple[int, tuple[str, ...]]]:
        return [
            (
                at,
                tuple(
                    sku
                    for one in offer.rewards()
                    if isinstance(one, PutIn)
                    for sku in one.all_skus(WORLD.batch.goods)
                ),
            )
            for at, offer in open_after(spans[0], limits, frozenset(ended))
        ]

    assert left() == [(0, ()), (1, ("A", "D"))]
    assert left(2) == [(0, ()), (1, ("D",))]
    assert left(0, 3) == [(1, ("A", "C"))]
    assert left(0, 2, 3) == []
