"""Where a line, or several joined, crosses 0; break-even of whole plans is in test_forecast and test_course."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.forecast.test_topping_up import FIRST, LAST
from yellow_abacus.core.forecast.break_even import BreakEven, along, figures_of, on_a_line, try_all
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Given, Offer, PercentOff, Response


@pytest.mark.parametrize(
    ("at_zero", "at_top", "verdict", "value"),
    [
        (-100.0, 100.0, "at_least", 0.5),
        (100.0, -100.0, "at_most", 0.5),
        (-100.0, -50.0, "never", None),
        (50.0, 100.0, "always", None),
        (0.0, 100.0, "always", None),
        (70.0, 70.0, "no_matter", None),
    ],
)
def test_verdicts(at_zero, at_top, verdict, value):
    assert on_a_line(at_zero, at_top, top=1.0) == BreakEven(verdict, value)


@given(st.lists(st.floats(-1000, 1000), min_size=3, max_size=8), st.floats(0, 1))
def test_along_joined_lines_it_is_the_root_nearest_the_likely_value(impacts, likely):
    values, told = np.linspace(0, 1, len(impacts)), np.array(impacts)
    found = along(values, told, likely)
    fine = np.linspace(0, 1, 4001)
    at = np.interp(fine, values, told)
    roots = fine[1:][np.diff(np.sign(at)) != 0]
    if found.value is None:
        assert np.ptp(told) < 1e-5 or not len(roots) or min(abs(told.max()), abs(told.min())) < 1e-5
        return
    assert np.interp(found.value, values, told) == pytest.approx(0, abs=1e-6)
    if len(roots):
        assert abs(found.value - likely) <= np.abs(roots - likely).min() + 1e-3


FERN = Given("code", "FERN")
OFFERS = (
    Offer((PercentOff(1000),), given=FERN, response=Response(top_up_bp=100, top_up_reach=5), id="a"),
    Offer((PercentOff(2000),), given=FERN, response=Response(uptake_first_bp=100), id="b"),
    Offer((PercentOff(3000),), response=Response(borrowed_bp=100), id="c"),
    Offer((PercentOff(3000),), runs=True, id="d"),
)


def test_what_can_be_moved():
    told = figures_of(OFFERS)
    assert list(told.values()).count("extra_bp") == 3  # of all but the one that runs already
    assert told[(2, "borrowed_bp"),] == "borrowed_bp"
    assert told[(0, "top_up_bp"),] == "top_up_bp"
    # who has the code is one figure of both offers; first orders follow where their offer says nothing else of them
    assert [figure for figure, name in told.items() if name == "uptake_bp"] == [
        ((0, "uptake_bp"), (1, "uptake_bp"), (0, "uptake_first_bp"))
    ]


@pytest.mark.parametrize(("curved", "root"), [(False, 5 * 305 / 5008), (True, 0.297)])
def test_every_figure_is_tried_over_its_bounds_the_others_held(curved, root):
    plan = Plan(FIRST, LAST, OFFERS[2:3])

    def impacts(drawn: Drawn) -> np.ndarray:
        extra, borrowed = drawn.extra(0)[:, 1], drawn.of(0, "borrowed_bp")
        return 1000 * (extra - 0.3) - 500 * borrowed + 40 * np.minimum(extra, 0.2)

    tried = try_all(Drawn(plan), [((0, "extra_bp"),), ((0, "borrowed_bp"),)], impacts, curved)
    extra, borrowed = tried.values()
    assert extra.even.verdict == "at_least"
    assert extra.even.value == pytest.approx(root)
    assert np.interp(extra.even.value, extra.values, extra.impacts) == pytest.approx(0, abs=1e-6)
    assert borrowed.even == BreakEven("never")
    assert (extra.likely, borrowed.likely) == (0.0, 0.01)
    assert (borrowed.values.min(), borrowed.values.max(), extra.values.max()) == (0.0, 1.0, 5.0)
