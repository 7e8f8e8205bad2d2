"""Who brings a cart and when, as far as offers ask: one of some guises for each cart.

>>> facts_of([Guise(), Guise(group="trade")], np.array([1, 0])).group.names
('\\x000', 'trade')
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN, Facts, Labels, Tags, nothing_known
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.ground.shape import CLOSED

NOON = 12 * 60


@dataclass(frozen=True)
class Guise:
    """`Facts` says what each field is; empty and UNKNOWN are not known."""

    weekday: int = 0
    minute: int = NOON
    orders_before: int = 1
    days_since: int = UNKNOWN
    shopper: str = ""
    group: str = ""
    tag: str = ""
    channel: str = ""
    payment: str = ""

    __pydantic_config__ = CLOSED


def facts_of(guises: Sequence[Guise], number_by_cart: Ints) -> Facts:
    """The facts of carts, each brought by one of the guises."""

    def known(name: str) -> Ints:
        return np.array([getattr(one, name) for one in guises], dtype=np.int64)[number_by_cart]

    def named(name: str) -> Labels:
        """A name nobody can give stands for none."""
        return Labels(tuple(getattr(one, name) or f"\0{at}" for at, one in enumerate(guises)), number_by_cart)

    tags = tuple(one.tag or f"\0{at}" for at, one in enumerate(guises))
    return replace(
        nothing_known(len(number_by_cart)),
        weekday_by_cart=known("weekday"),
        minute_by_cart=known("minute"),
        orders_before_by_cart=known("orders_before"),
        days_since_by_cart=known("days_since"),
        shopper=named("shopper"),
        group=named("group"),
        tags=Tags(tags, np.arange(len(guises))[:, None] == number_by_cart),
        channel=named("channel"),
        payment=named("payment"),
    )
