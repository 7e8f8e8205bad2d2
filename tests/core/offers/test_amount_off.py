import numpy as np
import pytest

from tests.core.offers.test_turn import BATCH, POTS, turn_on
from yellow_abacus.core.offers import AmountOff, AmountOffEach, UnitPrice

# The first cart: a lamp at 30.00, two pots at 10.00, four seeds at 3.00; the second: a card, and a pot at 10.00.


@pytest.mark.parametrize(
    ("reward", "times", "off"),
    [
        (AmountOff(620), 1, [300, 200, 120, 620]),
        (AmountOff(620), 3, [900, 600, 360, 1000]),
        (AmountOffEach(350), 1, [350, 700, 1200, 350]),
        (UnitPrice(800), 1, [2200, 400, 0, 200]),
        (UnitPrice(0), 1, [3000, 2000, 1200, 1000]),
    ],
)
def test_what_comes_off_each_line(reward, times, off):
    assert reward.take(turn_on(BATCH, times=times)).off_by_line.tolist() == off


def test_no_more_than_the_room_there_is():
    for reward in (AmountOff(620), AmountOffEach(350), UnitPrice(800)):
        taken = reward.take(turn_on(BATCH, POTS, room_by_cart=np.array([100, 30])))
        assert taken.off_by_line.tolist() == [100, 30]


def test_an_amount_off_each_set_is_no_more_than_the_set():
    assert AmountOff(500).off_sets(np.array([400, 900])).tolist() == [400, 500]


@pytest.mark.parametrize(
    ("told", "is_wrong"),
    [
        (AmountOff(0), True),
        (AmountOffEach(0), True),
        (UnitPrice(-1), True),
        (UnitPrice(0), False),
        (AmountOff(1), False),
    ],
)
def test_amounts_that_make_no_sense(told, is_wrong):
    assert [problem.path for problem in told.problems()] == [("amount",)] * is_wrong
