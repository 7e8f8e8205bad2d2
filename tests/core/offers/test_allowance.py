import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS
from tests.core.single_carts import carts_of
from yellow_abacus.core.clauses.conditions import Earned, Spend, Units
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.offers import AmountOff, Limits, Offer, Step
from yellow_abacus.core.offers.allowance import Allowance, earned, portions, room_left

BATCH = carts_of(GOODS, [("POT", 5), ("SEED", 2)], [("SEED", 3)])
OFF = (AmountOff(100),)


def test_what_an_offer_may_do_yet_as_its_turn_goes_on():
    left = Allowance(Offer(OFF, limits=Limits(times=3, units=4, amount=500)), 2)
    assert left.allowed(np.array([9, 2])).tolist() == [3, 2]
    left.times_done(np.array([2, 2]))
    assert left.allowed(np.array([9, 9])).tolist() == [1, 1]
    assert left.room(np.array([120, 500])).tolist() == [380, 0]
    assert left.units((0, 0)).tolist() == [4, 4]
    left.units_picked((0, 0), np.array([3, 0]))
    assert (left.units((0, 0)).tolist(), left.units((0, 1)).tolist()) == ([1, 4], [4, 4])


def test_without_limits_it_may_do_what_a_cart_can_hold():
    free = Allowance(Offer(OFF), 1)
    assert free.allowed(np.array([LARGEST_CART])).tolist() == [LARGEST_CART]
    assert free.units((0, 0)) is None
    assert room_left(Limits(), np.array([5])).tolist() == [LARGEST_CART - 5]


@pytest.mark.parametrize(
    ("offer", "times", "step"),
    [
        (Offer(OFF), [1, 1], [0, 0]),
        (Offer(OFF, earned=Earned((Units(3),), "each_time")), [2, 1], [0, 0]),
        (Offer(OFF, earned=Earned((Spend(1000),))), [1, 0], [0, 0]),
        (Offer(OFF, earned=Earned((Units(1),)), steps=(Step(3, OFF), Step(7, OFF))), [1, 1], [2, 1]),
    ],
)
def test_how_often_it_is_earned_and_which_step_is_reached(offer, times, step):
    found = earned(offer, BATCH, BATCH.worth_by_line, None)
    assert [one.tolist() for one in found] == [times, step]


def test_each_product_by_itself_one_after_another():
    by_sku = Offer(OFF, earned=Earned((Units(3),), counted="by_sku"))
    first, second = portions(by_sku, BATCH)
    assert (first.tolist(), second.tolist()) == ([True, False, True], [False, True, False])
    assert earned(by_sku, BATCH, BATCH.worth_by_line, first)[0].tolist() == [1, 1]
    assert earned(by_sku, BATCH, BATCH.worth_by_line, second)[0].tolist() == [0, 0]
    assert portions(Offer(OFF), BATCH) == [None]


def test_a_cart_with_nothing_at_a_turn_has_earned_nothing_there():
    always = Offer(OFF, earned=Earned(counted="by_sku"))
    _, second = portions(always, BATCH)
    assert earned(always, BATCH, BATCH.worth_by_line, second)[0].tolist() == [1, 0]
