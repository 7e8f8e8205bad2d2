"""How a weekday's orders fall on groups of carts, against carts looked at one by one."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.carts.facts import UNKNOWN, nothing_known
from yellow_abacus.core.forecast.groups import ANY_DAY, DRAWN, FIRST, RETURNING, grouped

carts = st.lists(
    st.tuples(st.sampled_from([UNKNOWN, 0, 1, 5]), st.sampled_from([UNKNOWN, 0, 3])), min_size=1, max_size=9
)


def groups_of(told, drawn=None):
    weekday, before = np.array(told).T
    facts = replace(nothing_known(len(told)), weekday_by_cart=weekday, orders_before_by_cart=before)
    return grouped(facts, None if drawn is None else np.array(drawn))


@given(carts)
def test_carts_of_one_weekday_and_cohort_are_one_group(told):
    groups = groups_of(told)
    for at, (weekday, before) in enumerate(told):
        number = groups.number_by_cart[at]
        assert groups.day[number] == (ANY_DAY if weekday == UNKNOWN else weekday)
        assert groups.cohort[number] == (FIRST if before == 0 else RETURNING)
    assert len(groups) == len({(weekday, before == 0) for weekday, before in told})


@given(carts, st.booleans())
def test_an_order_of_each_weekday_is_one_order(told, told_apart):
    groups = groups_of(told)
    of_group = np.bincount(groups.number_by_cart) / len(told)
    weekday = np.array([day for day, _ in told])
    by_weekday = np.array([(weekday == day).mean() for day in range(7)])
    spread = groups.spreading(by_weekday, told_apart)
    assert (spread @ of_group).tolist() == pytest.approx([1] * 7)
    if told_apart and by_weekday[0] and by_weekday.sum() == 1:
        of_other_days = (groups.day != 0) & (groups.day < DRAWN)
        assert not spread[0, of_other_days].any()


def test_carts_that_stand_for_a_weekday_by_branching_come_on_that_day_alone():
    groups = groups_of([(UNKNOWN, 0)] * 7, drawn=range(7))
    assert groups.day.tolist() == [DRAWN + day for day in range(7)]
    assert np.array_equal(groups.spreading(np.zeros(7), told_apart=True), np.eye(7))
