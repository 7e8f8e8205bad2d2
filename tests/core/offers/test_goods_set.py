"""Sets on single carts; whole ones are held against the slow pricer in test_pricing."""

import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS, turn_on
from tests.core.single_carts import one_cart
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.offers import AmountOff, GoodsSet, Part, PercentOff, SetPrice

POT_AND_SEEDS = (Part(1, POTS), Part(2, SEEDS))


def taken(reward: GoodsSet, *lines: tuple[str, int], times=99, **otherwise):
    found = reward.take(turn_on(one_cart(GOODS, *lines), times=times, **otherwise))
    return found.off_by_line.tolist(), found.used_by_line.tolist(), int(found.times_by_cart[0])


@pytest.mark.parametrize(
    ("price", "off_a_set"),
    [(SetPrice(1280), 320), (SetPrice(1600), 0), (AmountOff(100), 100), (PercentOff(2500), 400)],
)
def test_what_a_set_saves(price, off_a_set):
    off, used, sets = taken(GoodsSet(POT_AND_SEEDS, price), ("POT", 2), ("SEED", 5))
    assert sum(off) == 2 * off_a_set
    assert (used, sets) == (([2, 4], 2) if off_a_set else ([0, 0], 0))


def test_an_amount_is_shared_over_the_parts_by_what_they_carry():
    assert taken(GoodsSet(POT_AND_SEEDS, SetPrice(800)), ("POT", 1), ("SEED", 2))[0] == [500, 300]


@pytest.mark.parametrize(("units_from", "off"), [("dearest", [2000, 0, 0]), ("cheapest", [0, 0, 0])])
def test_which_units_join_first(units_from, off):
    two = GoodsSet((Part(2, EVERYTHING),), SetPrice(2000), units_from)
    found = taken(two, ("LAMP", 1), ("POT", 1), ("SEED", 2), times=1)[0]
    assert sum(found) == sum(off)


def test_sets_form_until_one_would_save_nothing():
    three = GoodsSet((Part(1, Scope(skus=("LAMP", "POT"))), Part(1, SEEDS)), SetPrice(1300))
    assert taken(three, ("LAMP", 1), ("POT", 1), ("SEED", 2)) == ([1818, 0, 182], [1, 0, 1], 1)


def test_no_more_than_the_limit_leaves_and_room_allows():
    reward = GoodsSet(POT_AND_SEEDS, AmountOff(100))
    assert taken(reward, ("POT", 3), ("SEED", 9), times=1)[2] == 1
    batch = one_cart(GOODS, ("POT", 3), ("SEED", 9))
    found = reward.take(turn_on(batch, times=9, room_by_cart=turn_on(batch).room_by_cart * 0 + 30))
    assert found.off_by_line.sum() == 30


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (GoodsSet((), SetPrice(1)), ("parts",)),
        (GoodsSet((Part(0, POTS), Part(2, SEEDS)), SetPrice(1)), ("parts", 0, "count")),
        (GoodsSet((Part(1, POTS),), SetPrice(1)), ("parts",)),
        (GoodsSet(POT_AND_SEEDS, SetPrice(-1)), ("price", "amount")),
        (GoodsSet(POT_AND_SEEDS, SetPrice(0)), None),
    ],
)
def test_sets_that_make_no_sense(told, path):
    found = [problem.path for problem in told.problems()]
    assert (path in found) if path else not found
