"""How a shop prices, delivers, taxes and is paid, as JSON. Money is minor units; docs/files.md, "Shop"."""

from datetime import datetime
from typing import Annotated, Any, Literal

from babel.core import UnknownLocaleError
from babel.numbers import get_currency_precision, is_currency
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, field_validator, model_validator

from yellow_abacus.core.clauses.given import LONGEST_CODE, SHORTEST_CODE
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.delivery.zones import Option
from yellow_abacus.core.forecast.check import MOST_OFFERS
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP
from yellow_abacus.core.shop.check_shop import MOST_TAX_CLASSES
from yellow_abacus.core.shop.code_rules import Letters
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import MOST_CODES_PER_ORDER
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import TaxClass
from yellow_abacus.files.plan_json import OfferDoc
from yellow_abacus.learning.ran import MOST_PAST

Rate = Annotated[int, Field(ge=0, le=WHOLE_BP)]
Cost = Annotated[float, Field(ge=0, le=LARGEST_CHARGE, allow_inf_nan=False)]
Name = Annotated[str, Field(min_length=1, max_length=80)]

OPTION = TypeAdapter(Option)
TARIFF = TypeAdapter(Tariff)
SURCHARGE = TypeAdapter(Surcharge)


class SettingsDoc(BaseModel):
    """Costs in minor units, packaging_weight in grams, rates in basis points.

    delivery_tax_class: null to follow the goods. tax_said: false while a new shop's tax was not looked at.
    commission_channels: all where none is named.
    code_*: what codes the shop's software takes; code_marks: beside letters and digits, null for any.
    """

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)

    name: Annotated[str, Field(min_length=1, max_length=80)]
    currency: str
    prices_with_tax: bool
    tax_classes: Annotated[list[TaxClass], Field(min_length=1, max_length=MOST_TAX_CLASSES)]
    delivery_tax_class: str | None = None
    tax_said: bool = True
    payments: Annotated[list[PaymentMethod], Field(max_length=40)] = []
    picking_per_order: Cost = 0.0
    picking_per_unit: Cost = 0.0
    packaging_cost: Cost = 0.0
    packaging_weight: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] = 0.0
    return_postage: Cost = 0.0
    return_handling: Cost = 0.0
    resale_bp: Rate = 0
    commission_channels: list[str] = []
    commission_returned: bool = True
    codes_per_order: Annotated[int, Field(ge=1, le=MOST_CODES_PER_ORDER)] = 1
    self_applying: Literal["any", "one"] = "any"
    codes_with_self_applying: bool = True
    code_shortest: Annotated[int, Field(ge=SHORTEST_CODE, le=LONGEST_CODE)] = SHORTEST_CODE
    code_longest: Annotated[int, Field(ge=SHORTEST_CODE, le=LONGEST_CODE)] = LONGEST_CODE
    code_letters: Letters = "any"
    code_marks: Annotated[str, Field(max_length=20)] | None = None
    most_by_itself: Annotated[int, Field(ge=1, le=1000)] | None = None
    most_by_code: Annotated[int, Field(ge=1, le=1000)] | None = None
    zone_known: bool = True
    unknown_bp: Rate | None = None
    percent_of: Literal["net", "standing"] = "net"
    delivery_from: Literal["net", "standing"] = "net"

    @field_validator("currency")
    @classmethod
    def _known(cls, code: str) -> str:
        try:
            known = is_currency(code.upper(), "en")
        except UnknownLocaleError:
            known = False
        if not known:
            raise ValueError(f"“{code}” is not a currency. Use its three letters, like EUR.")
        return code.upper()

    @model_validator(mode="after")
    def _lengths(self) -> "SettingsDoc":
        if self.code_longest < self.code_shortest:
            raise ValueError("The longest code is shorter than the shortest.")
        return self

    @property
    def minor_digits(self) -> int:
        return get_currency_precision(self.currency)


class ZoneDoc(BaseModel):
    """places: countries and regions that orders may name instead. was: the name before, while it is renamed."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)

    name: Name
    places: Annotated[list[Name], Field(max_length=400)] = []
    options: Annotated[list[Option], Field(max_length=12)] = []
    was: Name | None = None

    def plain(self) -> dict[str, Any]:
        """As the store keeps it."""
        return self.model_dump(mode="json")


class TariffDoc(BaseModel):
    """source: where it was fetched; empty if it was written or read from a file."""

    tariff: Tariff
    source: str
    fetched_at: datetime | None


class ShopFileDoc(BaseModel):
    """A shop's settings, tariffs, zones, surcharges, the offers that run already and those that ran before, in one
    file.

    running, past: null to leave those as they are.
    """

    model_config = ConfigDict(extra="forbid")

    settings: SettingsDoc
    tariffs: Annotated[list[Tariff], Field(max_length=500)] = []
    zones: Annotated[list[ZoneDoc], Field(max_length=200)]
    surcharges: Annotated[list[Surcharge], Field(max_length=100)] = []
    running: Annotated[list[OfferDoc], Field(max_length=MOST_OFFERS)] | None = None
    past: Annotated[list[OfferDoc], Field(max_length=MOST_PAST)] | None = None


def terms_of(one: Tariff | Surcharge) -> tuple[str, dict[str, Any]]:
    """The name, and the rest as the store keeps it."""
    adapter: TypeAdapter[Any] = TARIFF if isinstance(one, Tariff) else SURCHARGE
    told = adapter.dump_python(one, mode="json")
    return told.pop("name"), told
