"""Trials sit where they say: below, at and above what an offer asks for."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.advice.trial_carts import trial_carts
from yellow_abacus.core.clauses.conditions import Earned, Products, Spend, Units
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import BuyGet, GoodsSet, Offer, Part, PercentOff, SetPrice, Step

GOODS = make_goods(
    [
        GoodRecord("POT", product="Pot", list_price=2500, categories=("Pots",)),
        GoodRecord("SOIL", product="Soil", list_price=700, categories=("Soils",)),
        GoodRecord("SEED", product="Seed", list_price=300, categories=("Seeds",)),
        GoodRecord("GIFT", product="Gift", list_price=100, gift_only=True),
    ]
)
SOLD = np.array([1.0 if sku != "POT" else 2.0 for sku in GOODS.skus])
TEN = PercentOff(1000)


def found(offer: Offer) -> dict[str, dict[str, int]]:
    return {
        one.label: {GOODS.skus[sku]: units for sku, units in one.units} for one in trial_carts(offer, GOODS, SOLD)
    }


def worth(units: dict[str, int]) -> int:
    return sum(int(GOODS.standing_price[GOODS.index_of(sku)]) * count for sku, count in units.items())


@given(st.integers(200, 60_000))
def test_spend_is_met_from_both_sides(n):
    told = found(Offer((TEN,), Earned((Spend(n),))))
    assert worth(told["just above"]) > n
    if "at what it asks for" in told:
        assert worth(told["at what it asks for"]) == n
    if n > 300:
        assert worth(told["just below"]) < n
        step = 300  # the cheapest of them
        assert n - worth(told["just below"]) <= step
        assert worth(told["just above"]) - n <= step
    assert all("GIFT" not in units for units in told.values())


def test_units_steps_and_other_goods():
    seeds = Scope(categories=("Seeds",))
    told = found(Offer((TEN,), Earned((Units(3, of=seeds),)), steps=(Step(6, (PercentOff(2000),)),), on=seeds))
    assert told == {
        "at what it asks for": {"SEED": 3},
        "just above": {"SEED": 4},
        "just below": {"SEED": 2},
        "at what it asks for, step 2": {"SEED": 6},
        "just above, step 2": {"SEED": 7},
        "just below, step 2": {"SEED": 5},
        "as much of other goods": {"POT": 1},
    }


def test_products_are_different_ones():
    told = found(Offer((TEN,), Earned((Products(2),))))
    assert {len(told[label]) for label in ("just below", "at what it asks for", "just above")} == {1, 2, 3}


def test_what_uses_units_up_is_tried_whole_short_and_several_times():
    pots = Scope(categories=("Pots",))
    told = found(Offer((BuyGet(2, 1, PercentOff(10_000), of=pots),), Earned(repeat="each_time"), on=pots))
    assert told["just what it asks for"] == {"POT": 3}
    assert told["one POT fewer"] == {"POT": 2}
    assert told["3 times as much"] == {"POT": 9}
    parts = (Part(1, pots), Part(2, Scope(categories=("Soils",))))
    told = found(Offer((GoodsSet(parts, SetPrice(3000)),), Earned(repeat="each_time")))
    assert told["just what it asks for"] == {"POT": 1, "SOIL": 2}
    assert told["one SOIL fewer"] == {"POT": 1, "SOIL": 1}


def test_an_offer_that_asks_for_nothing_is_tried_on_one_of_its_goods():
    told = found(Offer((TEN,), on=Scope(categories=("Soils",))))
    assert told == {"one of its goods": {"SOIL": 1}, "as much of other goods": {"POT": 1}}
