"""Every kind of reward is one, and what it says of itself holds for it and for no other."""

from typing import get_args

import pytest

from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.offers import AmountOff, BuyGet, GoodsSet, Offer, Part, PercentOff, PutIn, SetPrice, UnitPrice
from yellow_abacus.core.offers.amount_off import AmountOffEach
from yellow_abacus.core.offers.delivery_off import DeliveryAmountOff, DeliveryLoweredTo, DeliveryPercentOff
from yellow_abacus.core.offers.rewards import DeliveryReward, GoodsReward, Reward, with_delivery

KINDS = get_args(get_args(Reward)[0])
ONE_OF_EACH = (
    PercentOff(1000),
    AmountOff(100),
    AmountOffEach(100),
    UnitPrice(100),
    BuyGet(1, 1, PercentOff(10_000)),
    GoodsSet((Part(2, EVERYTHING),), SetPrice(100)),
    PutIn(("SEED",)),
    DeliveryPercentOff(1000),
    DeliveryAmountOff(100),
    DeliveryLoweredTo(0),
)


def test_every_kind_is_known_by_a_name_of_its_own():
    assert {type(one) for one in ONE_OF_EACH} == set(KINDS)
    assert len({one.kind for one in KINDS}) == len(KINDS)


@pytest.mark.parametrize("reward", ONE_OF_EACH, ids=lambda one: one.kind)
def test_a_reward_works_on_goods_on_delivery_or_puts_something_in(reward):
    offer = Offer((reward,))
    ways = [isinstance(reward, GoodsReward), isinstance(reward, DeliveryReward), isinstance(reward, PutIn)]
    assert [offer.takes_off_goods, offer.works_on_delivery, offer.puts_in] == ways
    assert sum(ways) == 1
    assert offer.works_on_goods is not isinstance(reward, DeliveryReward)
    assert not list(reward.problems())


def test_a_percentage_may_have_the_charge_in_its_base():
    assert with_delivery(PercentOff(1000, with_delivery=True))
    assert not any(with_delivery(one) for one in ONE_OF_EACH)
    assert Offer((PercentOff(1000, with_delivery=True),)).works_on_delivery
