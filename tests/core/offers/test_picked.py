"""How an amount comes off the units picked: pooled, line by line, or as a percentage; always within its room."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.slow import half_away, shared
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.offers.picked import Picked, carried, pick, within

lines = st.lists(st.tuples(st.integers(1, 5), st.integers(0, 3000)), min_size=1, max_size=5)


def picked(*nets: int, room: int = LARGEST_CART, percent_from="net", prices=None) -> Picked:
    """All of one cart's lines, one unit each."""
    net, ones = np.array(nets), np.ones(len(nets), dtype=np.int64)
    standing = net if prices is None else np.array(prices)
    axes = Axes(np.array([0, len(nets)]))
    return Picked(axes, np.arange(len(nets)), net, ones, net, standing, np.array([1]), np.array([room]), percent_from)


def test_one_amount_is_shared_over_what_the_units_carry():
    assert picked(1000, 500, 500).pooled(np.array([101])).tolist() == shared(101, [1000, 500, 500])
    assert picked(1000, 500).pooled(np.array([9999])).tolist() == [1000, 500]
    assert picked(1000, 500, room=150).pooled(np.array([900])).tolist() == [100, 50]


def test_amounts_by_line_are_cut_to_the_room_in_proportion():
    assert picked(1000, 500).line_by_line(np.array([300, 60])).tolist() == [300, 60]
    assert picked(1000, 500, room=120).line_by_line(np.array([300, 60])).tolist() == [100, 20]


@pytest.mark.parametrize(("percent_from", "off"), [("net", [100, 50]), ("standing", [160, 100])])
def test_a_percentage_is_of_what_units_carry_or_of_their_standing_price(percent_from, off):
    told = picked(1000, 500, percent_from=percent_from, prices=[1600, 1000])
    assert told.percentage(1000).tolist() == off


def test_no_percentage_of_standing_prices_takes_off_more_than_a_line_still_costs():
    assert picked(100, 900, percent_from="standing", prices=[1000, 1000]).percentage(5000).tolist() == [100, 500]


@given(lines, st.data())
def test_units_are_taken_in_line_order_or_from_its_end(told, data):
    quantity = [units for units, _ in told]
    most = data.draw(st.integers(0, sum(quantity) + 2))
    axes, first = Axes(np.array([0, len(told)])), data.draw(st.sampled_from(["dearest", "cheapest"]))
    left, expected = most, {}
    for at in range(len(told)) if first == "dearest" else reversed(range(len(told))):
        expected[at] = min(left, quantity[at])
        left -= expected[at]
    found = pick(axes, np.array(quantity), np.array([most]), first)
    assert found.tolist() == [expected[at] for at in range(len(told))]


@given(lines, st.data())
def test_each_unit_of_a_line_carries_its_part_rounded_half_up(told, data):
    units = [data.draw(st.integers(0, quantity)) for quantity, _ in told]
    quantity, net = np.array(told).T
    expected = [half_away(Fraction(n * u, q)) for (q, n), u in zip(told, units, strict=True)]
    assert carried(net, np.array(units), quantity).tolist() == expected


@given(st.lists(st.integers(0, 900), min_size=1, max_size=5), st.integers(0, 3000))
def test_what_is_within_its_room_stays_as_it_is(off, room):
    found = within(Axes(np.array([0, len(off)])), np.array(off), np.array([room]))
    assert found.tolist() == (off if sum(off) <= room else shared(room, off))
