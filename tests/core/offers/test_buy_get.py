"""Buy x get y on single carts; whole ones are held against the slow pricer in test_pricing."""

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS, turn_on
from tests.core.single_carts import one_cart
from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.offers import AmountOffEach, BuyGet, PercentOff, UnitPrice

FREE = PercentOff(10_000)


def taken(reward: BuyGet, *lines: tuple[str, int], on=EVERYTHING, times=99, used=None):
    batch = one_cart(GOODS, *lines)
    turn = turn_on(batch, on, times)
    if used is not None:
        turn.used_by_line[:] = used
    found = reward.take(turn)
    return found.off_by_line.tolist(), found.used_by_line.tolist(), int(found.times_by_cart[0])


@pytest.mark.parametrize(("pots", "times"), [(2, 0), (3, 1), (5, 1), (6, 2), (9, 3)])
def test_of_every_three_one_is_free(pots, times):
    off, used, came = taken(BuyGet(2, 1, FREE), ("POT", pots))
    assert (off, used, came) == ([1000 * times], [3 * times], times)


def test_the_cheapest_are_given_and_the_dearest_earn():
    assert taken(BuyGet(1, 1, FREE), ("LAMP", 1), ("POT", 1), ("SEED", 2)) == ([0, 0, 600], [1, 1, 2], 2)
    dearest = BuyGet(1, 1, FREE, units_from="dearest")
    assert taken(dearest, ("LAMP", 1), ("POT", 1), ("SEED", 2)) == ([3000, 1000, 0], [1, 1, 2], 2)


def test_units_of_one_scope_earn_units_of_another():
    reward = BuyGet(1, 2, FREE, of=POTS)
    assert taken(reward, ("POT", 2), ("SEED", 5), on=SEEDS) == ([0, 1200], [2, 4], 2)
    assert taken(reward, ("POT", 2), ("SEED", 5), on=SEEDS, times=1) == ([0, 600], [1, 2], 1)
    assert taken(reward, ("POT", 2), ("SEED", 1), on=SEEDS)[2] == 0


def test_units_others_used_up_neither_earn_nor_are_given():
    assert taken(BuyGet(2, 1, FREE), ("POT", 6), used=[4]) == ([0], [0], 0)
    assert taken(BuyGet(2, 1, FREE), ("POT", 6), used=[3]) == ([1000], [3], 1)


@pytest.mark.parametrize(
    ("price", "off"), [(PercentOff(5000), 150), (AmountOffEach(80), 80), (UnitPrice(290), 10), (UnitPrice(400), 0)]
)
def test_free_or_cheaper(price, off):
    assert taken(BuyGet(0, 1, price), ("SEED", 4), times=1)[0] == [off]


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (BuyGet(-1, 1, FREE), ("buy",)),
        (BuyGet(1, 0, FREE), ("get",)),
        (BuyGet(1, 1, PercentOff(0)), ("price", "percent_bp")),
        (BuyGet(0, 1, UnitPrice(0)), None),
    ],
)
def test_what_makes_no_sense(told, path):
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)


def test_each_cart_by_itself():
    batch = one_cart(GOODS, ("POT", 3)).some(np.array([0, 0]))
    found = BuyGet(2, 1, FREE).take(turn_on(batch, times_by_cart=np.array([0, 1])))
    assert found.off_by_line.tolist() == [1000]
    assert found.at.tolist() == [1]
