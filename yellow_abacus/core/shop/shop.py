"""What the merchant sets once for the whole shop: how it prices, delivers, taxes, and is paid."""

from dataclasses import dataclass, field
from typing import Literal

from yellow_abacus.core.clauses.given import LONGEST_CODE, SHORTEST_CODE
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.delivery.zones import Delivery, Zone
from yellow_abacus.core.ground.money import MILLIGRAMS
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.shop.code_rules import CodeRules, Letters
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import STANDARD, Taxes

MOST_CODES_PER_ORDER = 8


@dataclass(frozen=True)
class Settings:
    """Costs are minor units and so doubles; rates basis points; packaging_weight grams.

    codes_per_order, self_applying, codes_with_self_applying: which offers one order may combine at all. code_*: what
    codes the shop's software takes, as in CodeRules.
    most_by_itself, most_by_code: the most offers it holds open at once, None for any number. zone_known: whether it
    knows the zone before check-out. unknown_bp: the share of orders from shoppers without an account, or not signed
    in while they put the cart together; None for as many as the orders say.
    return_postage, return_handling: of an order of which something comes back. resale_bp: of returned goods' cost.
    commission_channels: which channels take it, all where none is named; commission_returned: what comes back does
    not pay it.
    """

    picking_per_order: float = 0.0
    picking_per_unit: float = 0.0
    packaging_cost: float = 0.0
    packaging_weight: float = 0.0
    return_postage: float = 0.0
    return_handling: float = 0.0
    resale_bp: int = 0
    commission_channels: tuple[str, ...] = ()
    commission_returned: bool = True
    codes_per_order: int = 1
    self_applying: Literal["any", "one"] = "any"
    codes_with_self_applying: bool = True
    code_shortest: int = SHORTEST_CODE
    code_longest: int = LONGEST_CODE
    code_letters: Letters = "any"
    code_marks: str | None = None
    most_by_itself: int | None = None
    most_by_code: int | None = None
    zone_known: bool = True
    unknown_bp: int | None = None
    percent_of: Literal["net", "standing"] = "net"
    delivery_from: Literal["net", "standing"] = "net"

    @property
    def code_rules(self) -> CodeRules:
        return CodeRules(self.code_shortest, self.code_longest, self.code_letters, self.code_marks)


@dataclass(frozen=True, eq=False)
class Shop:
    settings: Settings
    zones: tuple[Zone, ...]
    taxes: Taxes = field(default=STANDARD)
    tariffs: tuple[Tariff, ...] = ()
    payments: tuple[PaymentMethod, ...] = ()
    surcharges: tuple[Surcharge, ...] = ()

    @cached_property
    def zone_names(self) -> tuple[str, ...]:
        return tuple(zone.name for zone in self.zones)

    @cached_property
    def delivery(self) -> Delivery:
        return Delivery(self.zones, self.tariffs, round(self.settings.packaging_weight * MILLIGRAMS))
