"""Figures of carts that became otherwise in the place of what they were, against loops over carts."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.offers.test_turn import GOODS
from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.carts import Touched
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.former import BareFigures, Former
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.forecast.sums import AT, FIGURES
from yellow_abacus.core.offers import Offer, PercentOff, PutIn
from yellow_abacus.core.shop.shop import Settings, Shop

rows = st.lists(st.integers(1, 3), min_size=1, max_size=6)


def figures(rows_by_cart: list[int], start: float) -> BareFigures:
    """Every row and cart with a figure of its own."""
    cart = np.repeat(np.arange(len(rows_by_cart)), rows_by_cart)
    by_row = start + np.arange(len(cart)) / 100
    by_cart = np.tile(start + np.arange(len(rows_by_cart)), (len(FIGURES), 1))
    return BareFigures(cart, by_cart, by_row, by_row + 10, by_row + 20)


@given(rows, st.data())
def test_carts_that_are_otherwise_come_to_what_is_said_of_them(before, data):
    otherwise = np.array([data.draw(st.booleans()) for _ in before], dtype=np.bool_)
    now = [data.draw(st.integers(1, 3)) if other else rows for rows, other in zip(before, otherwise, strict=True)]
    part = [rows for rows, other in zip(now, otherwise, strict=True) if other]
    cart = np.repeat(np.arange(len(now)), now)
    old, new = figures(before, 1000.0), figures(part, 5000.0)
    found = old.with_carts(otherwise, cart, new)
    assert (
        found.by_cart[0].tolist() == np.where(otherwise, 5000.0 + np.cumsum(otherwise) - 1, old.by_cart[0]).tolist()
    )
    for mine, was, theirs in ((found.charged, old.charged, new.charged), (found.kept, old.kept, new.kept)):
        for number in range(len(now)):
            among = int(otherwise[:number].sum())
            of_cart = theirs[new.cart_by_row == among] if otherwise[number] else was[old.cart_by_row == number]
            assert mine[cart == number].tolist() == of_cart.tolist()


def test_what_a_cart_comes_to_today_is_the_average_of_each_option():
    bare = figures([2, 1], 100.0)
    cart, share = np.array([0, 0, 0]), np.array([0.3, 0.3, 0.4])  # by the first option with a choice of two gifts
    told = np.zeros((len(FIGURES), 3))
    told[INDEX["delivery_charged"]] = [4.0, 8.0, 9.0]
    told[INDEX["delivery_cost"]] = [-1.0, -1.0, -2.0]
    told[AT["kept"]] = [10.0, 20.0, 50.0]
    nobody = np.zeros((0, 3))
    found = bare.instead(np.array([0]), Costed(cart, share, told, nobody > 0, nobody), np.array([0, 0, 1]))
    assert found.charged.tolist() == pytest.approx([6, 9, bare.charged[2]])
    assert found.delivery_cost.tolist() == pytest.approx([1, 2, bare.delivery_cost[2]])
    assert found.kept.tolist() == pytest.approx([15, 50, bare.kept[2]])
    assert found.by_cart[AT["kept"]].tolist() == pytest.approx([0.3 * 10 + 0.3 * 20 + 0.4 * 50, 101])


MIX = alike(Shop(Settings(), (Zone("Home"),)), carts_of(GOODS, [("POT", 1)], [("SEED", 1)], [("LAMP", 1)]))
FORMER = Former(np.array([True, False, False]), frozenset({"POT"}), {}, {})


def test_which_carts_are_otherwise_of_those_made_of_the_mix():
    assert FORMER.among(MIX).tolist() == [True, False, False]
    branched = replace(MIX, origin=(MIX, np.array([2, 0, 0, 1])))
    assert FORMER.among(branched).tolist() == [False, True, True, False]
    assert FORMER.among(replace(MIX, origin=(MIX, None))).tolist() == [True, False, False]
    more = FORMER.also(Touched(frozenset({"LAMP"}), np.array([2])))
    assert (more.among(MIX).tolist(), more.skus) == ([True, False, True], {"POT", "LAMP"})


@pytest.mark.parametrize(
    ("reward", "puts_in"),
    [
        (PutIn(("POT",)), True),
        (PutIn(("SEED",)), False),
        (PutIn(("SEED",), substitute="POT"), True),
        (PutIn(categories=("Any",)), True),
        (PercentOff(100), False),
    ],
)
def test_what_is_otherwise_may_be_put_in_carts_that_hold_nothing_of_it(reward, puts_in):
    assert FORMER.puts_in(Offer((reward,)), GOODS) is puts_in
