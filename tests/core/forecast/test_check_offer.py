"""Every sentence that cannot work says where; those that can have no problem."""

import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from yellow_abacus.core.clauses.conditions import Earned, Products, Spend, Units
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.check_offer import MOST_NAMES, MOST_PARTS, MOST_STEPS, check_offer
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import (
    AmountOff,
    BuyGet,
    DeliveryLoweredTo,
    GoodsSet,
    Limits,
    Offer,
    Part,
    PercentOff,
    PutIn,
    Response,
    SetPrice,
    Step,
    UnitPrice,
    Where,
)
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home", (Option("Post"),)), Zone("Abroad")))
TENTH, FREE = (PercentOff(1000),), PercentOff(10_000)
EACH = "each_time"
FROM_20 = Earned((Spend(2000),))
NO_BRAND = Scope(brands=("none",))
TOO_MANY_STEPS = tuple(Step(2001 + at, TENTH) for at in range(MOST_STEPS + 1))
SET = GoodsSet((Part(1, POTS), Part(1, SEEDS)), SetPrice(100))


def paths(offer: Offer) -> list[tuple]:
    found = list(check_offer(offer, SHOP, GOODS))
    assert all(problem.message and problem.mend for problem in found)
    return [problem.path for problem in found]


@pytest.mark.parametrize(
    ("offer", "path"),
    [
        (Offer(()), ("gives",)),
        (Offer((PercentOff(0),)), ("gives", 0, "percent_bp")),
        (Offer(TENTH * (MOST_PARTS + 1)), ("gives",)),
        (Offer((DeliveryLoweredTo(0, zones=("Moon",)),)), ("gives", 0, "zones")),
        (Offer((PutIn(("NONE",)),)), ("gives", 0, "skus")),
        (Offer((PutIn(("SEED",), substitute="NONE"),)), ("gives", 0, "substitute")),
        (Offer((PutIn(categories=("Trees",)),)), ("gives", 0, "categories")),
        (Offer((PutIn(("SEED",), amount=10**9, quantity=9),)), ("gives", 0, "quantity")),
        (Offer((GoodsSet((Part(1, POTS), Part(1, POTS)), SetPrice(1)),)), ("gives", 0, "parts", 1, "of")),
        (Offer(TENTH, earned=Earned((Spend(0),))), ("earned", "conditions", 0, "n")),
        (Offer(TENTH, earned=Earned((Spend(1),) * (MOST_PARTS + 1))), ("earned", "conditions")),
        (Offer((AmountOff(1),), earned=Earned((Spend(1, "at_most"),), EACH)), ("earned", "repeat")),
        (Offer(TENTH, earned=Earned((Spend(1),), EACH)), ("earned", "repeat")),
        (Offer(TENTH, earned=Earned((Spend(1),), counted="by_sku")), ("earned", "counted")),
        (Offer(TENTH, steps=(Step(5, TENTH),)), ("steps",)),
        (Offer(TENTH, earned=Earned((Spend(9), Units(1)), need="any"), steps=(Step(10, TENTH),)), ("steps",)),
        (Offer((AmountOff(9),), earned=Earned((Spend(9),), EACH), steps=(Step(10, TENTH),)), ("earned", "repeat")),
        (Offer(TENTH, earned=FROM_20, steps=(Step(2000, (PercentOff(2000),)),)), ("steps", 0, "n")),
        (Offer(TENTH, earned=FROM_20, steps=(Step(3000, (PercentOff(900),)),)), ("steps", 0, "gives")),
        (Offer((UnitPrice(5),), earned=FROM_20, steps=(Step(3000, (UnitPrice(6),)),)), ("steps", 0, "gives")),
        (
            Offer(TENTH, earned=FROM_20, steps=tuple(Step(2001 + at, TENTH) for at in range(MOST_STEPS + 1))),
            ("steps",),
        ),
        (Offer(TENTH, every_step=True), ("every_step",)),
        (Offer(TENTH, on=Scope(tags=("none",))), ("on", "tags")),
        (Offer(TENTH, on=Scope(skus=("pot",))), ("on", "skus")),
        (Offer(TENTH, on=Scope(except_skus=tuple("POT" for _ in range(MOST_NAMES + 1)))), ("on", "except_skus")),
        (
            Offer(TENTH, earned=Earned((Units(1, of=Scope(brands=("none",))),))),
            ("earned", "conditions", 0, "of", "brands"),
        ),
        (Offer((BuyGet(1, 1, FREE, of=Scope(products=("none",))),)), ("gives", 0, "of", "products")),
        (Offer(TENTH, where=Where(zones=("Moon", "Home"))), ("where", "zones")),
        (Offer(TENTH, where=Where(except_zones=("Home", "Abroad"))), ("where", "zones")),
        (Offer(TENTH, limits=Limits(uses=0)), ("limits", "uses")),
        (Offer((AmountOff(500),), limits=Limits(amount=499)), ("limits", "amount")),
        (Offer((SET,), limits=Limits(units=1)), ("limits", "units")),
        (Offer((PutIn(("SEED",)),), limits=Limits(amount=1)), ("limits", "amount")),
        (Offer(TENTH, returned_bp=-1), ("returned_bp",)),
        (Offer(TENTH, response=Response(extra_bp=-1)), ("response", "extra_bp")),
        (Offer(TENTH, response=Response(top_up_skus=("NONE",))), ("response", "top_up_skus", 0)),
        (Offer(TENTH, response=Response(sends=Sends(size=1, response_bp=1))), ("response", "sends")),
    ],
)
def test_what_cannot_work(offer, path):
    assert paths(offer) == [path]


@pytest.mark.parametrize(
    "offer",
    [
        Offer(TENTH),
        Offer((BuyGet(2, 1, FREE),), earned=Earned(repeat=EACH, counted="by_sku")),
        Offer((SET, PutIn(("SEED", "POT"), shares_bp=(4000, 6000)))),
        Offer(
            (PutIn(("SEED",)),), earned=Earned((Products(2),)), steps=(Step(3, (PutIn(("POT",)),)),), every_step=True
        ),
        Offer(TENTH, on=POTS, earned=Earned((Spend(5000, of=POTS),)), limits=Limits(amount=500)),
        Offer(TENTH, where=Where(zones=("Home", "Abroad"), except_zones=("Abroad",))),
    ],
)
def test_what_can(offer):
    assert paths(offer) == []


def test_a_limit_under_the_smallest_discount_decides_alone():
    told = {"on": POTS, "earned": Earned((Spend(5000, of=POTS),))}
    assert paths(Offer(TENTH, limits=Limits(amount=499), **told)) == [("limits", "amount")]
    assert paths(Offer(TENTH, limits=Limits(amount=499, units=3), **told)) == []
