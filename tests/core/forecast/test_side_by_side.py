"""Plans held against each other; that draws are the same for all is in test_ranges."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.forecast.test_answer import plainly
from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import Impacts
from yellow_abacus.core.forecast.side_by_side import Asked, beside, keeps_most, over_two
from yellow_abacus.core.offers import Response


def test_each_against_each():
    found = beside([Impacts(0.0, np.array(draws), 0.0, 0.0) for draws in ([3.0, 3.0], [1.0, 3.0], [9.0, 9.0])])
    assert found.beats.tolist() == [[0.5, 0.75, 0], [0.25, 0.5, 0], [1, 1, 0.5]]


@pytest.mark.parametrize(
    ("impacts", "days", "sentence"),
    [
        ([10.0, 40.0], 14, "Over these 14 days “B” keeps 40 more than today, and 30 more than “A”, the next."),
        ([40.0, 40.0], 1, "On this one day “A” keeps 40 more than today, and “B” just as much."),
        ([-9.0], 2, "Over these 2 days nothing here keeps more than today: “A” keeps 9 less than today."),
        ([-9.0, -4.0], 2, "Over these 2 days nothing here keeps more than today: “B” keeps 4 less than today,"
         " and 5 more than “A”, the next."),
    ],
)  # fmt: skip
def test_which_keeps_most(impacts, days, sentence):
    assert plainly(keeps_most(["A", "B"], impacts, days)) == sentence


def test_over_two_figures_it_keeps_what_it_does_with_both():
    world = world_of([{"A": 4}, {"D": 1}, {"B": 4}], [spend_offer(3000, 1000)])
    room = forecaster(world)
    offer = replace(world.offers[0], id="tenth", response=Response(extra_bp=500, borrowed_bp=0))
    across, up = Asked("tenth", "extra_bp", (0.0, 0.2, 0.4)), Asked("tenth", "borrowed_bp", (0.0, 0.5))
    found = over_two(room, Plan(FIRST, LAST, (offer,)), across, up)
    assert found.shape == (2, 3)
    for row, borrowed in enumerate(up.values):
        for column, extra in enumerate(across.values):
            response = Response(extra_bp=round(extra * 10_000), borrowed_bp=round(borrowed * 10_000))
            plan = Plan(FIRST, LAST, (replace(offer, response=response),))
            assert found[row, column] == pytest.approx(room.impact(plan))
    alone = over_two(room, Plan(FIRST, LAST, (offer,)), across, Asked("gone", "borrowed_bp", (0.0, 0.5)))
    assert alone[0].tolist() == alone[1].tolist()
