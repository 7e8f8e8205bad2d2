"""Offers that only lower prices, as reduced prices."""

from datetime import date

import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from yellow_abacus.core.advice.reduced import lowers_prices_alone, reduced_prices
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import (
    AmountOff,
    AmountOffEach,
    Given,
    Limits,
    Offer,
    PercentOff,
    Step,
    UnitPrice,
    When,
    Where,
    Who,
)
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home", (Option("Post"),)),))
TENTH = (PercentOff(1000),)
FIRST, LAST = date(2027, 3, 1), date(2027, 3, 7)


@pytest.mark.parametrize(
    "offer",
    [
        Offer(TENTH),
        Offer((AmountOffEach(50), UnitPrice(900)), on=POTS),
        Offer(TENTH, when=When(first_day=FIRST, last_day=LAST)),
    ],
)
def test_what_reduced_prices_would_do_as_well(offer):
    assert lowers_prices_alone(offer)


@pytest.mark.parametrize(
    "offer",
    [
        Offer((AmountOff(50),)),
        Offer((PercentOff(1000, with_delivery=True),)),
        Offer(TENTH, earned=Earned((Spend(100),))),
        Offer(TENTH, earned=Earned((Spend(100),)), steps=(Step(200, TENTH),)),
        Offer(TENTH, limits=Limits(units=1)),
        Offer(TENTH, given=Given("code", "FERN")),
        Offer(TENTH, when=When(weekdays=(0,))),
        Offer(TENTH, when=When(first_day=FIRST, first_minute=600)),
        Offer(TENTH, who=Who(groups=("trade",))),
        Offer(TENTH, where=Where(zones=("Home",))),
    ],
)
def test_what_they_would_not(offer):
    assert not lowers_prices_alone(offer)


def test_a_unit_comes_to_what_it_does_in_a_cart_of_its_own():
    plan = Plan(FIRST, LAST, ())
    offers = (Offer((PercentOff(1500),), on=SEEDS, id="one"), Offer((UnitPrice(950),), on=POTS, id="two"))
    found = dict(zip(GOODS.skus, reduced_prices(SHOP, GOODS, offers, plan).tolist(), strict=True))
    assert found == {"CARD": -1, "LAMP": -1, "POT": 950, "SEED": 255}
    whole = dict(zip(GOODS.skus, reduced_prices(SHOP, GOODS, (Offer(TENTH),), plan).tolist(), strict=True))
    assert whole == {"CARD": -1, "LAMP": 2700, "POT": 900, "SEED": 270}  # of a card nothing may come off
    assert set(reduced_prices(SHOP, GOODS, (), plan).tolist()) == {-1}
