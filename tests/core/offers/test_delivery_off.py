import numpy as np
import pytest

from yellow_abacus.core.delivery.zones import Delivery, Option, Zone
from yellow_abacus.core.offers import DeliveryAmountOff, DeliveryLoweredTo, DeliveryPercentOff

DELIVERY = Delivery((Zone("Home", (Option("Post"), Option("Courier"))), Zone("Abroad", (Option("Post"),))), (), 0)


@pytest.mark.parametrize(
    ("reward", "lowered"),
    [
        (DeliveryPercentOff(5000), [245, 0, 2]),
        (DeliveryAmountOff(300), [190, 0, 0]),
        (DeliveryLoweredTo(200), [200, 0, 5]),
        (DeliveryLoweredTo(0), [0, 0, 0]),
    ],
)
def test_what_each_charge_becomes(reward, lowered):
    assert reward.lowered(np.array([490, 0, 5])).tolist() == lowered


@pytest.mark.parametrize(
    ("told", "served"),
    [
        ({}, [True, True, True, True]),
        ({"zones": ("Home",)}, [True, True, False, True]),
        ({"options": ("Post",)}, [True, False, True, False]),
        ({"zones": ("Abroad",), "options": ("Courier",)}, [False] * 4),
    ],
)
def test_which_zones_and_options_it_is_for(told, served):
    zones, options = np.array([0, 0, 1, 0]), np.array([0, 1, 2, -1])  # the last goes by none
    assert DeliveryLoweredTo(0, **told).serves(DELIVERY, zones, options).tolist() == served


def test_only_of_carts_below_a_weight():
    reward = DeliveryLoweredTo(0, below_weight=2000)
    assert reward.light_enough(np.array([1_999_999, 2_000_000])).tolist() == [True, False]
    assert DeliveryLoweredTo(0).light_enough(np.array([10**12])).all()


@pytest.mark.parametrize(
    ("told", "field"),
    [
        (DeliveryPercentOff(0), "percent_bp"),
        (DeliveryAmountOff(0), "amount"),
        (DeliveryLoweredTo(-1), "amount"),
        (DeliveryLoweredTo(0, below_weight=0), "below_weight"),
        (DeliveryPercentOff(10_000, below_weight=1), None),
    ],
)
def test_what_makes_no_sense(told, field):
    assert [problem.path for problem in told.problems()] == [(field,)] * (field is not None)
