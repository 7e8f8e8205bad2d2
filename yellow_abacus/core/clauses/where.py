"""To which destinations, channels, ways of paying and currencies an offer or a surcharge is held."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.facts import Facts
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.shape import CLOSED

Kept = Literal["destination", "channel", "payment", "currency"]
"""By what a cart may be kept out, in the order that is told."""


@dataclass(frozen=True)
class Where:
    """Everywhere, unless something is named. zones win over by `except_zones`; the others name what is let in."""

    zones: tuple[str, ...] = ()
    except_zones: tuple[str, ...] = ()
    channels: tuple[str, ...] = ()
    payments: tuple[str, ...] = ()
    currencies: tuple[str, ...] = ()

    __pydantic_config__ = CLOSED

    def names_in(self, zones: Sequence[str]) -> list[str]:
        """The zones that are let in, of the shop's by name."""
        return [one for one in zones if (not self.zones or one in self.zones) and one not in self.except_zones]

    def without_zone(self, zone: str) -> "Where":
        """The same with a zone left out."""
        kept = tuple(one for one in self.zones if one != zone)
        return replace(self, zones=kept, except_zones=tuple(dict.fromkeys((*self.except_zones, zone))))

    def lets_in(self, zones: Sequence[str], zone_by_cart: Ints, facts: Facts) -> Iterator[tuple[Kept, Bools]]:
        """Each thing carts may be kept out by, and which of them are let in. zones: the shop's, by name."""
        into = [(not self.zones or zone in self.zones) and zone not in self.except_zones for zone in zones]
        yield "destination", np.array([*into, not self.zones], dtype=np.bool_)[zone_by_cart]
        everyone = np.ones(len(zone_by_cart), dtype=np.bool_)
        yield "channel", facts.channel.among(self.channels) if self.channels else everyone
        yield "payment", facts.payment.among(self.payments) if self.payments else everyone
        yield "currency", facts.currency.among(self.currencies) if self.currencies else everyone

    def passes(self, zones: Sequence[str], zone_by_cart: Ints, facts: Facts) -> Bools:
        """Which carts are let in by all of it."""
        result: Bools = np.logical_and.reduce([into for _, into in self.lets_in(zones, zone_by_cart, facts)])
        return result
