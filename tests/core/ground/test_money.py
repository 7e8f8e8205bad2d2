from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.slow import half_away
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import UNCHANGED, foot, foot_beside, rhu

cents = st.integers(-(10**15), 10**15)


@given(cents, st.integers(1, 10**9))
def test_rhu_rounds_half_away_from_zero(numerator, denominator):
    expected = half_away(Fraction(numerator, denominator))
    assert rhu(np.array([numerator]), denominator)[0] == expected


@given(st.lists(st.floats(-1e7, 1e7), max_size=12))
def test_shown_parts_add_up_to_the_shown_sum(values):
    shown = foot(values)
    assert sum(shown) == (half_away(Fraction(float(np.cumsum(values)[-1]))) if values else 0)
    assert all(abs(part - value) <= 1 for part, value in zip(shown, values, strict=True))


@given(st.lists(st.tuples(st.floats(-1e7, 1e7), st.floats(-1e7, 1e7), st.booleans()), min_size=1, max_size=12))
def test_what_did_not_change_shows_no_change_and_the_rest_still_adds_up(rows):
    before = [was for was, _, _ in rows]
    after = [was if stays else now for was, now, stays in rows]
    shown_before = foot(before)
    shown_after = foot_beside(after, before, shown_before)
    for was, now, told, shown in zip(before, after, shown_before, shown_after, strict=True):
        assert abs(shown - now) <= 3  # what is shown is a cent off at most before it, and after it
        assert abs(now - was) > UNCHANGED or shown == told
    if any(abs(now - was) > UNCHANGED for was, now in zip(before, after, strict=True)):
        assert abs(sum(shown_after) - sum(after)) <= 0.501
    else:
        assert shown_after == shown_before


@given(
    st.lists(st.lists(st.integers(0, 2000), max_size=6), min_size=1, max_size=5),
    st.integers(0, 10_000),
)
def test_shares_add_up_and_none_exceeds_its_base(carts, rate):
    first = np.cumsum([0, *map(len, carts)])
    base = np.array([value for cart in carts for value in cart], dtype=np.int64)
    axes = Axes(first)
    amount = axes.sum_by_cart(base) * rate // 10_000
    shares = axes.share(amount, base)
    assert (shares >= 0).all()
    assert (shares <= base).all()
    assert (axes.sum_by_cart(shares) == amount).all()
    assert (axes.running_total(base) <= axes.spread(axes.sum_by_cart(base))).all()
