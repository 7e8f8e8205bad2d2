import numpy as np
import pytest

from yellow_abacus.core.carts.facts import labels
from yellow_abacus.core.shop.payments import PaymentMethod, costs, paid_by, refused, shares

CARD = PaymentMethod("Card", cost_bp=200, fixed=25.0, share_bp=6000)
INVOICE = PaymentMethod("Invoice", cost_bp=0, fixed=150.0, share_bp=2000, refused_bp=500)
KNOWN = labels(["card", "", "Invoice", "barter"])


def test_how_a_cart_is_paid_that_does_not_say_goes_by_shares():
    assert shares([CARD, INVOICE], KNOWN).T.tolist() == [[1, 0], [0.75, 0.25], [0, 1], [0.75, 0.25]]


def test_methods_nobody_is_said_to_use_are_used_alike():
    told = [PaymentMethod(name, share_bp=0) for name in ("A", "B")]
    assert shares(told, labels([""])).tolist() == [[0.5], [0.5]]


def test_what_it_costs_is_expected_over_the_ways_to_pay():
    rate, fixed = costs([CARD, INVOICE], KNOWN)
    assert rate.tolist() == pytest.approx([0.02, 0.015, 0, 0.015])
    assert fixed.tolist() == pytest.approx([25, 0.75 * 25 + 0.25 * 150, 150, 56.25])
    assert [one.tolist() for one in costs([], labels(["card"]))] == [[0], [0]]


def test_some_ways_to_pay_are_refused_more_often():
    assert refused([CARD, INVOICE], KNOWN).tolist() == pytest.approx([0, 0.0125, 0.05, 0.0125])
    assert not refused([CARD], KNOWN).any()


def test_carts_that_do_not_say_may_be_taken_to_be_paid_by_one():
    found = paid_by(KNOWN, "Invoice")
    assert found.among(["invoice"]).tolist() == [False, True, True, False]
    assert found.among(["card"]).tolist() == [True, False, False, False]
    assert np.array_equal(paid_by(found, "Card").among(["card"]), found.among(["card"]))
