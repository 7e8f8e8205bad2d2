"""Goods offers in turn on single carts; whole ones are held against the slow pricer in test_pricing."""

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from tests.core.single_carts import carts_of
from yellow_abacus.core.clauses.conditions import Earned, Spend, Units
from yellow_abacus.core.offers import AmountOff, BuyGet, Funded, Limits, Offer, PercentOff, PutIn, Step
from yellow_abacus.core.offers.gifts import TooMuchPutInError
from yellow_abacus.core.pricing.trace import new_trace
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), ())
BATCH = carts_of(GOODS, [("POT", 2), ("SEED", 4)], [("POT", 1)])


def walked(*offers: Offer, where=None) -> Walk:
    walk = Walk(SHOP, BATCH, offers)
    for at in range(len(offers)):
        walk.goods_turn(at, None if where is None else np.array(where))
    return walk


def test_each_offer_meets_what_the_one_before_left():
    walk = walked(Offer((PercentOff(1000),)), Offer((PercentOff(1000),), on=POTS))
    assert walk.goods_off.tolist() == [[320, 100], [180, 90]]
    assert walk.net.tolist() == [1620, 1080, 810]
    assert walk.goods_by_cart.tolist() == [2700, 810]


def test_only_the_carts_it_has_its_turn_on():
    walk = walked(Offer((PercentOff(1000),)), where=[False, True])
    assert walk.goods_off.tolist() == [[0, 100]]
    assert walk.took_effect().tolist() == [[False, True]]


def test_the_amount_an_offer_takes_off_in_all_is_capped():
    walk = walked(Offer((PercentOff(1000), AmountOff(500)), limits=Limits(amount=400)))
    assert walk.goods_off.tolist() == [[400, 400]]


def test_units_used_up_are_used_up_for_all_that_follow():
    walk = walked(
        Offer((BuyGet(1, 1, PercentOff(10_000)),), on=POTS), Offer((BuyGet(1, 1, PercentOff(10_000)),), on=POTS)
    )
    assert walk.goods_off.tolist() == [[1000, 0], [0, 0]]


def test_the_step_reached_gives_what_it_gives_and_things_put_in_may_come_with_each():
    steps = (Step(4, (PutIn(("LAMP",)),)),)
    one = Offer((PutIn(("SEED",)),), earned=Earned((Units(1),)), steps=steps)
    every = Offer((PutIn(("SEED",)),), earned=Earned((Units(1),)), steps=steps, every_step=True)
    assert walked(one).put_in.tolist() == [[0, 1], [1, 0]]
    assert walked(every).put_in.tolist() == [[1, 1], [1, 0]]
    assert walked(one).step_of[0].tolist() == [2, 1]


def test_more_put_in_than_sums_can_carry_is_refused_by_the_offers_id():
    greedy = Offer((PutIn(("LAMP",), quantity=1000),), earned=Earned((Spend(1000),), "each_time"), id="greedy")
    assert walked(greedy).put_in.tolist() == [[3000, 1000]]
    walk = Walk(SHOP, carts_of(GOODS, [("POT", 500_000)]), (greedy,))
    with pytest.raises(TooMuchPutInError) as error:
        walk.goods_turn(0)
    assert error.value.offer == "greedy"


def test_what_suppliers_pay_and_what_comes_back_more():
    walk = walked(Offer((PercentOff(1000),), funded=Funded(5000, 10, SEEDS), returned_bp=20_000))
    assert walk.funded_by_cart.tolist() == [0.5 * 120 + 4 * 10, 0]
    assert walk.returned_by_line.tolist() == [2, 2, 2]


def test_a_walk_may_begin_where_another_ended():
    offers = Offer((PercentOff(1000, with_delivery=True),)), Offer((PutIn(("SEED",)),))
    first = Walk(SHOP, BATCH, offers[:1])
    first.goods_turn(0)
    rest = Walk(SHOP, BATCH, offers[::-1])
    rest.after(first, [1])
    rest.goods_turn(0)
    whole = walked(*offers)
    assert rest.goods_off.tolist() == whole.goods_off[::-1].tolist()
    assert rest.put_in.tolist() == whole.put_in.tolist()
    assert rest.percentage_base[1, 0, 0].tolist() == whole.percentage_base[0, 0, 0].tolist()


def test_what_it_saw_is_noted_where_somebody_asks():
    trace = new_trace(2, BATCH.worth_by_line)
    walk = Walk(SHOP, BATCH, (Offer((PercentOff(1000),)), Offer((AmountOff(90),), on=POTS)), trace)
    for at in (0, 1):
        walk.goods_turn(at)
    assert trace.met_by_line[1].tolist() == [1800, 1080, 900]
    assert trace.off_by_line.tolist() == [[200, 120, 100], [90, 0, 90]]
