"""What the merchant sets once for the whole shop, and the delivery zones."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.money import Floats, Ints


@dataclass(frozen=True)
class Settings:
    """Rates in basis points; `payment_fixed` and `picking_per_order` in minor units, costs and so doubles.

    codes_per_order, self_applying, codes_with_self_applying: which offers one order may combine at all.
    """

    prices_with_tax: bool = True
    tax_bp: int = 0
    payment_bp: int = 0
    payment_fixed: float = 0.0
    picking_per_order: float = 0.0
    codes_per_order: int = 1
    self_applying: Literal["any", "one"] = "any"
    codes_with_self_applying: bool = True
    percent_of: Literal["net", "standing"] = "net"
    delivery_from: Literal["net", "standing"] = "net"


@dataclass(frozen=True)
class Zone:
    """Delivery in its simplest form.

    name: as orders name it. charge: minor units the shopper pays. free_from: goods value in minor units from
    which the charge is 0, None for never. cost: minor units the shop pays for each order.
    """

    name: str
    charge: int
    free_from: int | None
    cost: float


@dataclass(frozen=True)
class Shop:
    settings: Settings
    zones: tuple[Zone, ...]

    def charge(self, goods_value_by_cart: Ints, zone_by_cart: Ints) -> Ints:
        """The delivery charge of each cart before delivery offers."""
        never = np.iinfo(np.int64).max
        charge = np.array([zone.charge for zone in self.zones], dtype=np.int64)
        free_from = np.array(
            [never if zone.free_from is None else zone.free_from for zone in self.zones], dtype=np.int64
        )
        result: Ints = np.where(goods_value_by_cart >= free_from[zone_by_cart], 0, charge[zone_by_cart])
        return result

    def delivery_cost(self, zone_by_cart: Ints) -> Floats:
        """What delivering each cart costs the shop."""
        cost: Floats = np.array([zone.cost for zone in self.zones], dtype=np.float64)[zone_by_cart]
        return cost
