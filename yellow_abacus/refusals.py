"""How many orders were refused on the way, or not fetched, by the way to pay that they name, beside the share the
shop's settings say. docs/sums.md, "Refused on the way".
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.shop.payments import refused as expected_by_settings
from yellow_abacus.files.order_statuses import says_refused
from yellow_abacus.store.loading import LoadedShop

FEWEST_ORDERS = 30
"""Something is told of so many orders."""
ON_THE_WAY = 14
"""The last days, of which orders may be on the way yet."""
LAST_DAYS = 90
"""The days before those that are told of, where so many orders came in them."""
CLEARLY = 2.0
"""Standard errors from which on a share is told to be another than is said."""


@dataclass(frozen=True)
class Refusals:
    """Of orders paid one way; payment is empty for all of them, where none names one.

    days: the last of history that they are of, but for those of which orders may be on the way; None for all. orders:
    that tell how they went; refused: of those. said_bp: the share of them that settings say, None where the shop has
    no such way to pay; clearly: whether chance alone makes no such number of that.
    """

    payment: str
    days: int | None
    orders: int
    refused: int
    said_bp: int | None
    clearly: bool


def refused_orders(loaded: LoadedShop) -> Bools:
    """By cart, whether its status says so."""
    status = loaded.orders.status
    found: Bools = np.array([*map(says_refused, status.names), False], dtype=np.bool_)[status.number_by_cart]
    return found


def refusals(loaded: LoadedShop) -> list[Refusals]:
    """The way to pay most orders name first; empty where no order was ever refused, as its status says."""
    told = _Told(loaded)
    found = [told.paid_by(name, carts) for name, carts in told.by_payment() if len(carts) >= FEWEST_ORDERS]
    return sorted(found, key=lambda one: -one.orders)


def refused_otherwise(loaded: LoadedShop) -> tuple[float, float] | None:
    """The share of orders of late that were refused, and the one that settings say; None where it may be the same."""
    told = _Told(loaded)
    if len(told.carts) < FEWEST_ORDERS:
        return None
    _, late = told.of_late(told.carts)
    refused, expected = told.refused[late], told.expected(late)
    return (float(refused.mean()), float(expected.mean())) if _clearly(refused, expected) else None


class _Told:
    """The orders that tell how they went, where any was refused; by index of cart."""

    def __init__(self, loaded: LoadedShop) -> None:
        self.loaded, self.refused = loaded, refused_orders(loaded)
        tells = loaded.orders.status.number_by_cart != UNKNOWN
        self.carts = np.flatnonzero(tells & self.refused.any())

    def of_late(self, carts: Ints) -> tuple[int | None, Ints]:
        """Those of some carts, and of which last days they are."""
        day = self.loaded.orders.day
        last = day.max() - ON_THE_WAY
        late = carts[(day[carts] <= last) & (day[carts] > last - LAST_DAYS)]
        return (LAST_DAYS, late) if len(late) >= FEWEST_ORDERS else (None, carts)

    def by_payment(self) -> Iterator[tuple[str, Ints]]:
        payment = self.loaded.batch.facts.payment.some(self.carts).together()
        named = np.unique(payment.number_by_cart)
        for number in named[named != UNKNOWN].tolist():
            yield payment.names[number], self.carts[payment.number_by_cart == number]
        if not (named != UNKNOWN).any():
            yield "", self.carts

    def expected(self, carts: Ints) -> Floats:
        """How likely settings say each is refused."""
        return expected_by_settings(self.loaded.shop.payments, self.loaded.batch.facts.payment.some(carts))

    def paid_by(self, name: str, carts: Ints) -> Refusals:
        ours = [one for one in self.loaded.shop.payments if not name or folded(one.name) == folded(name)]
        days, late = self.of_late(carts)
        refused, expected = self.refused[late], self.expected(late)
        return Refusals(
            payment=name,
            days=days,
            orders=len(late),
            refused=int(refused.sum()),
            said_bp=round(float(expected.mean()) * WHOLE_BP) if ours else None,
            clearly=_clearly(refused, expected),
        )


def _clearly(refused: Bools, expected: Floats) -> bool:
    """Whether others are refused than chance makes of what is expected."""
    by_chance = np.sqrt((expected * (1 - expected)).sum())
    return bool(abs(refused.sum() - expected.sum()) > CLEARLY * by_chance)
