"""Who comes without an offer that is dropped; whole plans that drop some are in test_today."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.forecast.plan import Dropped, Plan
from yellow_abacus.core.forecast.staying import those_that_stay

WORLD = world_of([{"A": 1}, {"B": 4}, {"C": 2}], [spend_offer(4000, 1000), spend_offer(4500, 500)])
DEAR, DEARER = (replace(one, runs=True) for one in WORLD.offers)


def shares(*dropped: Dropped, orders_before=(-1, -1, -1)) -> list[float]:
    facts = replace(WORLD.batch.facts, orders_before_by_cart=np.array(orders_before))
    room = forecaster(replace(WORLD, batch=replace(WORLD.batch, facts=facts)))
    today = (DEAR, DEARER)
    plan = Plan(FIRST, LAST, (), running=today, dropped=dropped)
    return those_that_stay(room.outlook, room.mix, plan, today).share_by_cart.tolist()


def test_of_orders_it_took_effect_on_those_stay_that_come_anyway():
    assert shares(Dropped(DEAR, 0.25)) == pytest.approx([1 / 3, 1 / 3 / 1.25, 1 / 3 / 1.25])
    assert shares(Dropped(DEAR, 0.25), Dropped(DEARER, 1.0)) == pytest.approx([1 / 3, 1 / 3 / 2.5, 1 / 3 / 1.25])


def test_first_orders_may_stay_away_more():
    told = shares(Dropped(DEAR, 0.25, 3.0), orders_before=(0, 0, 2))
    assert told == pytest.approx([1 / 3, 1 / 3 / 4, 1 / 3 / 1.25])


@pytest.mark.parametrize("dropped", [(), (Dropped(DEAR),)])
def test_all_stay_where_what_is_dropped_brought_none(dropped):
    assert shares(*dropped) == pytest.approx([1 / 3] * 3)
