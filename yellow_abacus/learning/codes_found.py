"""Offers that orders tell of, and nobody told the shop: codes that were used, when, and how much came off."""

from collections.abc import Sequence
from dataclasses import dataclass

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.learning.ran import Past, Ran


@dataclass(frozen=True)
class FoundCode:
    """A code as it stands in orders. first_day, last_day: ordinals, of the first and the last use. off: of what the
    goods were asked; None where the orders do not tell."""

    code: str
    first_day: int
    last_day: int
    orders: int
    off: float | None


def codes_found(past: Past, ran: Sequence[Ran]) -> list[FoundCode]:
    """Codes that no offer knows, the most used first. ran: the offers told."""
    known = {code for one in ran for code in one.offer.given.accepted}
    found = []
    for name, orders in past.batch.facts.code.carts_by_code.items():
        if len(orders) and folded(name) not in known:
            days, worth = past.day_by_cart[orders], float(past.batch.worth_by_cart[orders].sum())
            off = 0.0 if past.off_by_cart is None else float(past.off_by_cart[orders].sum())
            share = off / worth if off > 0 and worth > 0 else None
            found.append(FoundCode(name, int(days.min()), int(days.max()), len(orders), share))
    return sorted(found, key=lambda one: (-one.orders, folded(one.code)))
