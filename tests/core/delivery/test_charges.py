"""What an option asks for at the edges of its steps; whole carts are held against the slow pricer in test_pricing."""

import numpy as np
import pytest

from yellow_abacus.core.delivery.charges import (
    ChargeByValue,
    ChargeByWeight,
    ChargeStep,
    CostPlus,
    FlatCharge,
    ValueStep,
)
from yellow_abacus.core.ground.money import LARGEST_CHARGE

NOTHING = np.zeros(1, dtype=np.int64)


@pytest.mark.parametrize(
    ("value", "charge"), [(0, 490), (4999, 490), (5000, 290), (7499, 290), (7500, 0), (100_000, 0)]
)
def test_a_charge_by_value_holds_from_its_step_on(value, charge):
    by_value = ChargeByValue(490, (ValueStep(5000, 290), ValueStep(7500, 0)))
    assert by_value.asked(np.array([value]), np.zeros(1), np.zeros(1))[0] == charge


@pytest.mark.parametrize(
    ("grams", "charge"), [(0, 300), (2000, 300), (2000.5, 500), (5000, 500), (5001, 600), (6000, 600), (6000.1, 700)]
)
def test_a_charge_by_weight_holds_up_to_its_step(grams, charge):
    by_weight = ChargeByWeight((ChargeStep(2000, 300), ChargeStep(5000, 500)), per_kilogram=100)
    assert by_weight.asked(np.zeros(1, dtype=np.int64), np.array([round(grams * 1000)]), np.zeros(1))[0] == charge


def test_cost_plus_rounds_half_a_minor_unit_up():
    asked = CostPlus(markup_bp=1000, amount=50).asked(
        np.zeros(3, dtype=np.int64), np.zeros(3), np.array([1.0, 5.0, 2.2727])
    )
    assert asked.tolist() == [51, 56, 52]


def test_a_flat_charge_is_asked_whatever_is_in_the_cart():
    assert FlatCharge(490).asked(np.array([0, 99_999]), np.array([0, 5]), np.zeros(2)).tolist() == [490, 490]


@pytest.mark.parametrize(
    ("charge", "most"),
    [
        (FlatCharge(490), 490),
        (ChargeByValue(490, (ValueStep(5000, 690), ValueStep(7500, 0))), 690),
        (ChargeByWeight((ChargeStep(2000, 300), ChargeStep(5000, 500))), 500),
        (ChargeByWeight((ChargeStep(2000, 300),), per_kilogram=1), None),
        (CostPlus(amount=50), None),
    ],
)
def test_the_most_it_ever_asks(charge, most):
    assert charge.most == most


def test_no_charge_is_larger_than_the_sums_can_carry():
    heavy, dear = np.array([10**15]), np.array([1e15])
    assert ChargeByWeight((ChargeStep(1, 1),), per_kilogram=10**6).asked(NOTHING, heavy, dear)[0] == LARGEST_CHARGE
    assert CostPlus(markup_bp=1, amount=1).asked(NOTHING, heavy, dear)[0] == LARGEST_CHARGE


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (FlatCharge(-1), ("amount",)),
        (ChargeByValue(1, (ValueStep(5000, 0), ValueStep(5000, 1))), ("steps", 1, "value")),
        (ChargeByValue(1, (ValueStep(0, 0),)), ("steps", 0, "value")),
        (ChargeByWeight(()), ("steps",)),
        (ChargeByWeight((ChargeStep(500, 1), ChargeStep(400, 2))), ("steps", 1, "upto")),
        (ChargeByWeight((ChargeStep(500, 1),), per_kilogram=-1), ("per_kilogram",)),
        (CostPlus(markup_bp=100_001), ("markup_bp",)),
        (ChargeByWeight((ChargeStep(500, 1), ChargeStep(600, 0)), 9), None),
    ],
)
def test_charges_that_make_no_sense(told, path):
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)
