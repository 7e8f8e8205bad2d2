"""Which lines an offer may work on at its turn, and which units it picks."""

from dataclasses import replace

import numpy as np

from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.offers.turn import Turn

GOODS = make_goods(
    [
        GoodRecord("CARD", list_price=2500, never_discounted=True),
        GoodRecord("LAMP", list_price=3000),
        GoodRecord("POT", list_price=1000),
        GoodRecord("SEED", list_price=300),
    ]
)
POTS, SEEDS = Scope(skus=("POT",)), Scope(skus=("SEED",))


def turn_on(batch: CartBatch, on: Scope = EVERYTHING, times: int = 1, **otherwise) -> Turn:
    """The first offer's turn, earned so many times on every cart."""
    carts = batch.axes.carts
    told = Turn(
        batch=batch,
        on=on,
        percent_from="net",
        units_from="cheapest",
        net_by_line=batch.worth_by_line.copy(),
        used_by_line=np.zeros(batch.axes.lines, dtype=np.int64),
        among=None,
        times_by_cart=np.full(carts, times),
        room_by_cart=np.full(carts, LARGEST_CART),
        units_by_cart=None,
    )
    return replace(told, **otherwise)


BATCH = carts_of(GOODS, [("LAMP", 1), ("POT", 2), ("SEED", 4)], [("CARD", 1), ("POT", 1)])


def test_only_lines_of_carts_it_was_earned_on():
    turn = turn_on(BATCH, POTS, times_by_cart=np.array([0, 1]))
    assert turn.lines_in(POTS).tolist() == [False, False, False, False, True]
    assert turn_on(BATCH).lines_in(SEEDS).tolist() == [False, False, True, False, False]
    held = turn_on(BATCH, among=np.array([True, False, True, True, True]))
    assert held.lines_in(Scope(skus=("POT", "SEED"))).tolist() == [False, False, True, False, True]


def test_nothing_comes_off_what_costs_nothing_yet_or_may_not_be_discounted():
    net = BATCH.worth_by_line.copy()
    net[1] = 0
    turn = turn_on(BATCH, net_by_line=net)
    assert turn.lines_to_take_from(EVERYTHING).tolist() == [True, False, True, False, True]


def test_as_many_units_as_its_limit_allows_from_the_end_it_says():
    limited = turn_on(BATCH, units_by_cart=np.array([5, 5]))
    assert limited.pick().units.tolist() == [0, 1, 4, 1]
    dearest = replace(limited, units_from="dearest").pick()
    assert dearest.units.tolist() == [1, 2, 2, 1]
    assert dearest.base.tolist() == [3000, 2000, 600, 1000]
    assert turn_on(BATCH).pick().units.tolist() == [1, 2, 4, 1]


def test_picked_units_carry_their_part_of_what_the_line_still_costs():
    net = BATCH.worth_by_line.copy()
    net[2] = 1001
    picked = turn_on(BATCH, SEEDS, net_by_line=net, units_by_cart=np.array([3, 3])).pick()
    assert (picked.base.tolist(), picked.standing.tolist()) == ([751], [900])
