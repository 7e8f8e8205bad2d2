"""Messages while a plan runs: those whose shoppers have come are not waited for again."""

import pytest

from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.still_to_come import sends_left

ONCE = Sends(size=100, response_bp=500, cost=8, days=4)
DAILY = Sends(size=100, response_bp=500, cost=8, days=4, daily=True)


@pytest.mark.parametrize(
    ("gone", "left"),
    [
        (0, ONCE),
        (2, Sends(size=50, response_bp=500, cost=0, days=2)),
        (3, Sends(size=25, response_bp=500, cost=0, days=1)),
        (4, None),
        (9, None),
    ],
)
def test_of_messages_sent_once_those_are_left_whose_shoppers_have_not_come(gone, left):
    assert sends_left(ONCE, gone, 14) == left


def test_daily_messages_go_on():
    assert sends_left(DAILY, 5, 14) == DAILY
