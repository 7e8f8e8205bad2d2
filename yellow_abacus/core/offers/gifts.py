"""What offers put in, and what of it a shopper may choose. docs/sums.md, "Put in"."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import LARGEST_CHARGE, Floats, Ints
from yellow_abacus.core.offers import Offer, PutIn


@dataclass(frozen=True, eq=False)
class Gift:
    """A reward that puts something in: the index of its offer, and what is asked for a unit, minor units.

    skus, standing, shares: one entry a choice: index of the SKU, its standing price (0 where it has none), and how
    many shoppers choose it.
    """

    offer: int
    asked: int
    skus: Ints
    standing: Ints
    shares: Floats

    @property
    def key(self) -> tuple[object, ...]:
        """All that tells it from others."""
        return (self.offer, self.asked, self.skus.tobytes(), self.standing.tobytes(), self.shares.tobytes())

    @property
    def saving(self) -> Ints:
        """What a shopper saves on a unit of each choice."""
        return np.maximum(self.standing - self.asked, 0)

    @property
    def worth(self) -> int:
        """A unit's standing price, or what is asked where that is more; at least 1; of the dearest choice."""
        return max(self.asked, int(self.standing.max()), 1)

    @property
    def most(self) -> int:
        """The most units of it in one cart that the sums can carry exactly."""
        return LARGEST_CHARGE // self.worth


@dataclass(frozen=True, eq=False)
class Gifts:
    """place: where each reward's gift is, by offer, step, and reward of the step; those of which nothing is left are
    not there."""

    gifts: tuple[Gift, ...]
    place: dict[tuple[int, int, int], int]


class TooMuchPutInError(ValueError):
    """An offer puts more in a cart than the sums can carry exactly. offer: its id."""

    def __init__(self, offer: str) -> None:
        super().__init__(f"offer {offer} puts in more than {LARGEST_CHARGE} minor units' worth")
        self.offer = offer


def gifts_of(offers: Sequence[Offer], goods: Goods) -> Gifts:
    found: list[Gift] = []
    places: dict[tuple[int, int, int], int] = {}
    for at, offer in enumerate(offers):
        for step, gives in enumerate(offer.gives_by_step):
            for number, reward in enumerate(gives):
                if isinstance(reward, PutIn) and (choices := reward.choices(goods)):
                    places[at, step, number] = len(found)
                    skus, shares = zip(*choices, strict=True)
                    standing = np.maximum(goods.standing_price[list(skus)], 0)
                    found.append(Gift(at, reward.amount, np.array(skus), standing, np.array(shares)))
    return Gifts(tuple(found), places)
