"""The kinds of reward, and steps: rising thresholds with rewards of their own. docs/sums.md, "Offers", "Steps"."""

from dataclasses import dataclass
from typing import Annotated

from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds
from yellow_abacus.core.offers.amount_off import AmountOff, AmountOffEach, UnitPrice
from yellow_abacus.core.offers.buy_get import BuyGet
from yellow_abacus.core.offers.delivery_off import DeliveryAmountOff, DeliveryLoweredTo, DeliveryPercentOff
from yellow_abacus.core.offers.goods_set import GoodsSet
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.offers.put_in import PutIn

GoodsReward = PercentOff | AmountOff | AmountOffEach | UnitPrice | BuyGet | GoodsSet
DeliveryReward = DeliveryPercentOff | DeliveryAmountOff | DeliveryLoweredTo
Reward = Annotated[GoodsReward | PutIn | DeliveryReward, OneOfKinds()]
"""The kinds of reward are listed here and nowhere else."""


def with_delivery(reward: Reward) -> bool:
    """Whether a goods reward has the delivery charge in its base too."""
    return isinstance(reward, PercentOff) and reward.with_delivery


@dataclass(frozen=True)
class Step:
    """From `n` of what the first condition measures on, the offer gives `gives` instead."""

    n: int
    gives: tuple[Reward, ...]

    __pydantic_config__ = CLOSED
