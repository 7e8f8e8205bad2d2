"""What an offer must pass, and what it met at its turn, each on a cart made for it; all of them over generated carts
are in test_why."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.facts import codes, labels, nothing_known
from yellow_abacus.core.clauses.conditions import Earned, Only, Products, Spend, Units, Weight
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import (
    BuyGet,
    DeliveryLoweredTo,
    Given,
    GoodsSet,
    Offer,
    Part,
    PercentOff,
    PutIn,
    SetPrice,
    When,
    Where,
    Who,
)
from yellow_abacus.core.pricing.reasons import MEASURES, NUMBER, REASONS, delivers, gates, takes_part, verdict
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home", (Option("Post"), Option("Courier"))),))
TENTH, FREE = (PercentOff(1000),), PercentOff(10_000)
FACTS = replace(
    nothing_known(2),
    weekday_by_cart=np.array([0, 5]),
    minute_by_cart=np.array([600, 1300]),
    orders_before_by_cart=np.array([0, 3]),
    channel=labels(["web", "market"]),
    code=codes(["FERN", ""]),
)
BATCH = carts_of(GOODS, [("POT", 2), ("SEED", 3)], [("SEED", 1)], facts=FACTS)


@pytest.mark.parametrize(
    ("offer", "reason", "passes"),
    [
        (Offer(TENTH), None, [True, True]),
        (Offer(TENTH, when=When(weekdays=(0,))), "wrong_hours", [True, False]),
        (Offer(TENTH, who=Who(nth_order=2)), "not_this_shopper", [False, True]),
        (Offer(TENTH, where=Where(except_zones=("Home",))), "not_this_destination", [False, False]),
        (Offer(TENTH, where=Where(channels=("market",))), "not_this_channel", [False, True]),
        (Offer(TENTH, given=Given("code", "fern"), runs=True), "no_code", [True, False]),
        (Offer(TENTH, given=Given("code", "fern")), None, [True, True]),
        (Offer((PutIn(("NONE",)),)), "gift_out_of_stock", [False, False]),
    ],
)
def test_what_keeps_an_offer_out(offer, reason, passes):
    told = gates(offer, SHOP, BATCH)
    assert {name for name, here in told if not here.all()} == ({reason} if reason else set())
    assert takes_part([offer], SHOP, BATCH).tolist() == [passes]


@pytest.mark.parametrize(
    ("offer", "reason", "short"),
    [
        (Offer(TENTH, earned=Earned((Spend(3000),))), "short", (100, "spend")),
        (Offer(TENTH, earned=Earned((Spend(2900, "over"),))), "short", (1, "spend")),
        (Offer(TENTH, earned=Earned((Units(4, of=SEEDS),))), "short", (1, "units")),
        (Offer(TENTH, earned=Earned((Products(3),))), "short", (1, "products")),
        (Offer(TENTH, earned=Earned((Units(9, "at_most"), Spend(9000)))), "short", (6100, "spend")),
        (Offer(TENTH, earned=Earned((Units(4, "at_most"),))), "over", None),
        (Offer(TENTH, earned=Earned((Only(POTS),))), "over", None),
        (Offer((DeliveryLoweredTo(0, below_weight=1),)), "nothing_left", None),
        (Offer(TENTH, earned=Earned((Units(1, of=Scope(skus=("LAMP",))),))), "nothing_in_scope", None),
        (Offer(TENTH, on=Scope(skus=("LAMP",)), earned=Earned((Units(1),))), "reward_not_in_cart", None),
        (Offer((BuyGet(5, 1, FREE, of=SEEDS),), on=POTS), "short", (2, "units")),
        (Offer((GoodsSet((Part(3, POTS), Part(1, SEEDS)), SetPrice(1)),)), "short", (1, "units")),
        (Offer(TENTH), "nothing_left", None),
    ],
)
def test_what_it_met_at_its_turn(offer, reason, short):
    one = carts_of(GOODS, [("POT", 2), ("SEED", 3)])
    told = verdict(offer, one, one.worth_by_line)
    assert REASONS[told.reason[0]] == reason
    if short is not None:
        assert (int(told.short_by[0]), MEASURES[told.short_of[0]]) == short


def test_what_weighs_too_much_is_over():
    heavy = carts_of(make_goods([GoodRecord("STONE", list_price=500, weight=900.0)]), [("STONE", 2)])
    told = verdict(Offer((DeliveryLoweredTo(0, below_weight=1800),)), heavy, heavy.worth_by_line)
    assert told.reason.tolist() == [NUMBER["over"]]
    short = verdict(Offer(TENTH, earned=Earned((Weight(2000),))), heavy, heavy.worth_by_line)
    assert (int(short.short_by[0]), MEASURES[short.short_of[0]]) == (200, "weight")


def test_a_gift_whose_stock_ended_at_the_step_reached():
    goods = make_goods([GoodRecord("GONE", list_price=1, stock=0), GoodRecord("POT", list_price=900)])
    cart = carts_of(goods, [("POT", 1)])
    told = verdict(Offer((PutIn(("GONE",)),)), cart, cart.worth_by_line)
    assert told.reason.tolist() == [NUMBER["gift_out_of_stock"]]


def test_which_rows_an_offer_on_delivery_alone_can_serve():
    zones, options = np.zeros(3, dtype=np.int64), np.array([0, 1, -1])
    courier = Offer((DeliveryLoweredTo(0, options=("Courier",)),))
    assert delivers(courier, SHOP, zones, options).tolist() == [False, True, False]
    assert delivers(Offer(TENTH), SHOP, zones, options).all()
