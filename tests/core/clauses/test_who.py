from dataclasses import replace

import numpy as np
import pytest

from yellow_abacus.core.carts.facts import UNKNOWN, labels, nothing_known, tags
from yellow_abacus.core.clauses.who import MOST_NAMES, Who

FACTS = replace(
    nothing_known(4),
    orders_before_by_cart=np.array([0, 1, 4, UNKNOWN]),
    days_since_by_cart=np.array([UNKNOWN, 20, 90, UNKNOWN]),
    group=labels(["", "Trade", "trade", ""]),
    tags=tags([["new"], [], ["green", "late"], []]),
    shopper=labels(["ann", "ben", "cy", ""]),
)


@pytest.mark.parametrize(
    ("clause", "carts"),
    [
        (Who(), [0, 1, 2, 3]),
        (Who(first_order=True), [0]),
        (Who(nth_order=2), [1, 2]),
        (Who(nth_order=5), [2]),
        (Who(days_since=90), [2]),
        (Who(days_since=20), [1, 2]),
        (Who(groups=("TRADE",)), [1, 2]),
        (Who(groups=("trade",), except_shoppers=("Cy",)), [1]),
        (Who(except_groups=("trade",)), [0, 3]),
        (Who(tags=("green", "new")), [0, 2]),
        (Who(tags=("green", "new"), except_tags=("late",)), [0]),
        (Who(shoppers=("ben",), nth_order=3), []),
    ],
)
def test_all_that_is_said_must_hold(clause, carts):
    assert clause.passes(FACTS).nonzero()[0].tolist() == carts


@pytest.mark.parametrize(
    ("told", "field"),
    [
        (Who(nth_order=0), "nth_order"),
        (Who(days_since=0), "days_since"),
        (Who(first_order=True, nth_order=2), "first_order"),
        (Who(first_order=True, days_since=9), "first_order"),
        (Who(groups=("a",), except_groups=("A", "b")), "except_groups"),
        (Who(shoppers=tuple(map(str, range(MOST_NAMES + 1)))), "shoppers"),
        (Who(first_order=True, nth_order=1, groups=("a", "b"), except_groups=("a",)), None),
    ],
)
def test_what_nobody_can_be(told, field):
    assert [problem.path for problem in told.problems()] == [(field,)] * (field is not None)
