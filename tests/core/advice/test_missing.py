"""What to add next so that an offer may apply."""

import pytest

from tests.core.forecast.test_adding import MIX, SHOP
from tests.core.offers.test_turn import GOODS, POTS, SEEDS
from tests.core.single_carts import one_cart
from yellow_abacus.core.advice.missing import missing
from yellow_abacus.core.clauses.conditions import Earned, Spend, Units
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import BuyGet, Offer, PercentOff, Response

TENTH, FREE = (PercentOff(1000),), PercentOff(10_000)


@pytest.mark.parametrize(
    ("offer", "reason", "added"),
    [
        (Offer(TENTH, earned=Earned((Spend(1900),))), "short", ("SEED", 3)),
        (Offer(TENTH, earned=Earned((Units(3, of=POTS),))), "short", ("POT", 2)),
        (
            Offer(TENTH, earned=Earned((Spend(9000),)), response=Response(top_up_skus=("LAMP",))),
            "short",
            ("LAMP", 3),
        ),
        (Offer(TENTH, earned=Earned((Units(2, of=SEEDS),))), "nothing_in_scope", ("SEED", 2)),
        (Offer(TENTH, on=SEEDS), "reward_not_in_cart", ("SEED", 1)),
        (Offer((BuyGet(1, 2, FREE, of=POTS),), on=SEEDS), "reward_not_in_cart", ("SEED", 2)),
        (Offer(TENTH, on=Scope(skus=("CARD",))), "reward_not_in_cart", None),
        (Offer(TENTH, earned=Earned((Spend(1900),))), "shut_out", None),
    ],
)
def test_the_least_to_add(offer, reason, added):
    found = missing(SHOP, MIX, one_cart(GOODS, ("POT", 1)), (offer,), 0, reason)
    assert (None if found is None else (GOODS.skus[found.sku], found.units)) == added
