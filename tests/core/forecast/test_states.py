"""What an order of a weekday comes to in each state; what whole courses come to is in test_course."""

import numpy as np
import pytest
from hypothesis import given, settings

from tests.core.forecast.test_forecast import forecaster, planned
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from tests.worlds import unless_too_much_is_put_in
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.chances import available_sets
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.states import by_cell, over_cells
from yellow_abacus.core.forecast.sums import AT


@settings(max_examples=30)
@given(planned())
@unless_too_much_is_put_in
def test_an_order_of_a_weekday_is_one_order_in_every_state(case):
    world, plan = case
    room = forecaster(world)
    drawn = room.drawn(plan)
    for span in room.spans(plan):
        assert len(span.days) == len(span.orders)
        for available in available_sets(span.opened, drawn):
            state = room.state(span, available, plan)
            assert state.numbers == [at for at, _ in available.offers]
            assert state.share_by_cell.sum(axis=1).tolist() == pytest.approx([1] * 7)
            assert by_cell(span.source, state.by_group) is by_cell(span.source, state.by_group)
            cells = over_cells(span.source, span.mix.groups)
            assert cells.shape == (14, len(span.mix.groups))
            of_cohort = span.mix.groups.cohort == np.arange(2)[:, None]
            assert not cells.reshape(7, 2, -1)[:, ~of_cohort].any()


@settings(max_examples=30)
@given(planned())
def test_the_carts_of_some_shoppers_alone_are_their_orders(case):
    world, plan = case
    room = forecaster(world)
    for span in room.spans(plan):
        homes = span.only(Whose(of="zone", name="home"))
        at_home = world.batch.zone_by_cart == world.shop.zone_names.index("home")
        share = homes.mix.share_by_cart
        if at_home.any():
            assert share.sum() == pytest.approx(1)
        assert not share[~at_home].any()
        assert span.share_of(None).tolist() == [span.source.share] * len(span.days)
        of_all = span.share_of(Whose(of="zone", name="home"))
        assert ((of_all >= 0) & (of_all <= 1 + 1e-9)).all()
        assert span.sold_out(0) is span


def test_a_state_knows_how_often_orders_lose_money():
    world = world_of([{"A": 1}, {"B": 1}], [spend_offer(1000, 9000)])
    room, plan = forecaster(world), Plan(FIRST, LAST, world.offers)
    (span,) = room.spans(plan)
    (available,) = available_sets(span.opened, room.drawn(plan))
    state = room.state(span, available, plan)
    assert state.sums.total[:, AT["losing"]].reshape(7, 2).sum(axis=1).tolist() == pytest.approx([0.5] * 7)
