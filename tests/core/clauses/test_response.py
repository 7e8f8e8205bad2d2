import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.clauses.response import AlsoAt, Ranged, Response, Sends


def test_what_nobody_said_is_everybody_for_codes_and_none_for_extra_orders():
    assert Response().uptake == (1.0, 1.0)
    assert Response().extra == (0.0, 0.0)
    assert Response(extra_first_bp=500).extra == (0.05, 0.0)
    assert Response(uptake_bp=2500).uptake == (0.25, 0.25)


@given(st.integers(1, 6), st.integers(1, 8), st.booleans())
def test_all_who_answer_come_while_it_is_open_and_none_before_they_are_told(over, days, daily):
    sends = Sends(size=200, response_bp=500, cost=7, days=over, daily=daily)
    expected = [0.0] * days
    for day in range(days if daily else 1):
        last = min(day + over, days)
        for when in range(day, last):
            expected[when] += 1 / (last - day)
    assert sends.coming(days).tolist() == pytest.approx(expected)
    assert sends.coming(days).sum() == pytest.approx(days if daily else 1)
    assert sends.sent(days) == 200 * (days if daily else 1)
    assert sends.paid(days) == 7 * sends.sent(days)
    assert Response(fixed_cost=90, sends=sends).paid(days) == 90 + sends.paid(days)


@given(st.integers(1, 5000), st.floats(0, 1))
def test_it_follows_depth_in_proportion_to_twice_what_was_said(depth_bp, depth):
    times = Response(extra_bp=800, depth_bp=depth_bp).times_at("extra_bp", depth)
    assert times == pytest.approx(min(depth * 10_000 / depth_bp, 2.0))


@pytest.mark.parametrize(
    ("depth", "extra"), [(0.0, 0.0), (0.05, 0.04), (0.10, 0.08), (0.15, 0.14), (0.2, 0.2), (0.9, 0.2)]
)
def test_or_along_lines_through_what_was_said_at_other_depths(depth, extra):
    response = Response(extra_bp=800, depth_bp=1000, also_at=(AlsoAt("extra_bp", 2000, 2000),))
    assert 0.08 * response.times_at("extra_bp", depth) == pytest.approx(extra)
    assert response.times_at("top_up_bp", depth) == pytest.approx(min(depth * 10, 2.0))


def test_what_stays_follows_nothing():
    assert Response(extra_bp=800).times_at("extra_bp", 0.5) == 1.0


def test_a_range_counts_where_its_figure_is_said():
    ranges = (Ranged("extra_bp", 100, 900), Ranged("uptake_bp", 10, 20), Ranged("send_response_bp", 1, 5))
    response = Response(extra_bp=500, ranges=ranges, sends=Sends(size=9, response_bp=3))
    assert response.range_of("extra_bp") == (100, 900)
    assert response.range_of("uptake_bp") is None
    assert response.range_of("send_response_bp") == (1, 5)
    assert (response.likely("send_response_bp"), response.likely("top_up_bp")) == (3, None)


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (Response(extra_bp=50_001), ("extra_bp",)),
        (Response(top_up_bp=100), ("top_up_reach",)),
        (Response(partner_bp=-1), ("partner_bp",)),
        (Response(sends=Sends(size=0, response_bp=1)), ("sends", "size")),
        (Response(extra_bp=500, ranges=(Ranged("extra_bp", 600, 900),)), ("ranges", 0)),
        (Response(extra_bp=500, ranges=(Ranged("extra_bp", 1, 900),) * 2), ("ranges", 1)),
        (Response(extra_bp=500, also_at=(AlsoAt("extra_bp", 100, 100),)), ("also_at", 0)),
        (Response(extra_bp=500, depth_bp=100, also_at=(AlsoAt("extra_bp", 100, 100),)), ("also_at", 0)),
        (
            Response(extra_bp=500, depth_bp=9, also_at=tuple(AlsoAt("extra_bp", 10 + n, 100) for n in range(3))),
            ("also_at", 2),
        ),
    ],
)
def test_what_makes_no_sense_is_told_where_it_stands(told, path):
    assert [problem.path for problem in told.problems()] == [path]


def test_what_makes_sense_has_no_problem():
    told = Response(2500, 100, 9000, 3000, 800, True, ("A",), 700, 600, 1000, 50, 500, 9900, 400, depth_bp=900)
    assert not list(told.problems())
    assert np.isfinite(told.times_at("top_up_bp", 0.2))
