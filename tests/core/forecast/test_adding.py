"""What shoppers add, on single carts; whole carts with something added are in test_topping_up."""

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from tests.core.single_carts import carts_of
from yellow_abacus.core.clauses.conditions import Earned, Products, Spend, Units
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.adding import (
    Added,
    best_sellers,
    lacking,
    near,
    rewards_held,
    rewards_missing,
    shelf_of,
    short_of,
    units_sold,
    with_added,
)
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.offers import AmountOff, BuyGet, Limits, Offer, PercentOff, Response, Step
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home", (Option("Post"),)),))
MIX = alike(SHOP, carts_of(GOODS, [("POT", 1)], [("SEED", 4)], [("POT", 3), ("SEED", 1)], [("CARD", 1)]))
TENTH, FREE = (PercentOff(1000),), PercentOff(10_000)


def added_to(offer: Offer, reach: int = 10**6) -> dict[int, tuple[str, int, int]]:
    found = near(MIX, offer, short_of(SHOP, MIX.batch, (offer,), 0, reach))
    skus = [GOODS.skus[sku] for sku in found.sku]
    return dict(
        zip(
            found.cart.tolist(),
            zip(skus, found.units.tolist(), found.spend.tolist(), strict=True),
            strict=True,
        )
    )


def test_what_goes_most_comes_first_and_what_never_goes_not_at_all():
    assert units_sold(MIX)[GOODS.skus.index("SEED")] == 1.25
    assert [GOODS.skus[at] for at in best_sellers(MIX, EVERYTHING)] == ["SEED", "POT", "CARD"]
    assert [GOODS.skus[at] for at in best_sellers(MIX, EVERYTHING, discounted=True)] == ["SEED", "POT"]
    named = Offer(TENTH, response=Response(top_up_skus=("LAMP", "POT")))
    assert [GOODS.skus[at] for at in shelf_of(MIX, named, POTS)] == ["POT"]


def test_the_least_spend_of_one_sku_that_closes_the_gap():
    assert added_to(Offer(TENTH, earned=Earned((Spend(1900),)))) == {0: ("SEED", 3, 900), 1: ("SEED", 3, 900)}
    assert added_to(Offer(TENTH, earned=Earned((Spend(1950),)))) == {0: ("POT", 1, 1000), 1: ("SEED", 3, 900)}
    assert added_to(Offer(TENTH, earned=Earned((Spend(1900),))), reach=800) == {1: ("SEED", 3, 900)}


@pytest.mark.parametrize(
    ("offer", "added"),
    [
        (Offer(TENTH, earned=Earned((Units(4, of=POTS),))), {0: ("POT", 3, 3000), 2: ("POT", 1, 1000)}),
        (
            Offer(TENTH, earned=Earned((Products(2),))),
            {0: ("SEED", 1, 300), 1: ("SEED", 1, 300), 3: ("SEED", 1, 300)},
        ),
        (
            Offer((AmountOff(100),), earned=Earned((Units(2, of=SEEDS),), "each_time"), limits=Limits(times=3)),
            {1: ("SEED", 2, 600), 2: ("SEED", 1, 300)},
        ),
        (
            Offer(TENTH, earned=Earned((Units(1),)), steps=(Step(4, (PercentOff(2000),)),)),
            {0: ("SEED", 3, 900), 3: ("SEED", 3, 900)},
        ),
        (Offer((BuyGet(2, 1, FREE, of=POTS),), on=SEEDS), {0: ("POT", 1, 1000)}),
    ],
)
def test_what_is_short_of_units_of_a_step_or_of_another_time(offer, added):
    found = added_to(offer)
    assert found == added


def test_a_reward_that_has_to_be_added():
    offer = Offer((BuyGet(2, 1, FREE, of=POTS),), on=SEEDS)
    assert rewards_missing(SHOP, MIX, offer) is not None
    held, has = rewards_held(SHOP, MIX.batch, offer)
    assert held.tolist() == has.tolist() == [False, False, True, False]
    on_pots = Offer((BuyGet(3, 1, FREE, of=POTS),), on=POTS)
    found = rewards_missing(SHOP, MIX, on_pots)
    assert (found.cart.tolist(), found.units.tolist()) == ([2], [1])
    assert rewards_missing(SHOP, MIX, Offer(TENTH)) is None


def test_carts_with_more_in_them_are_made_like_any_other():
    more = with_added(MIX.batch, Added(np.array([0]), np.array([GOODS.skus.index("LAMP")]), np.array([2])))
    assert more.worth_by_cart.tolist() == [7000, 1200, 3300, 2500]
    assert more.units_by_cart.tolist() == [3, 4, 4, 1]


def test_what_any_cart_lacks_of_whatever_shelf():
    offer = Offer(TENTH, earned=Earned((Spend(5000),)))
    lamps = np.array([GOODS.skus.index("LAMP")])
    found = lacking(SHOP, MIX.batch, (offer,), 0, lambda _: lamps, 4000)
    assert dict(zip(found.cart.tolist(), found.units.tolist(), strict=True)) == {0: 2, 1: 2, 2: 1, 3: 1}
    assert not len(lacking(SHOP, MIX.batch, (offer,), 0, lambda _: lamps[:0], 4000).cart)
