"""Shop settings and delivery zones as JSON. Money is minor units; docs/files.md, "Shop"."""

from typing import Annotated, Literal

from babel.core import UnknownLocaleError
from babel.numbers import get_currency_precision, is_currency
from pydantic import BaseModel, ConfigDict, Field, field_validator

from yellow_abacus.core.money import LARGEST_CART, LARGEST_CHARGE, WHOLE_BP

Rate = Annotated[int, Field(ge=0, le=WHOLE_BP)]
Cost = Annotated[float, Field(ge=0, le=LARGEST_CHARGE, allow_inf_nan=False)]
ZoneName = Annotated[str, Field(min_length=1, max_length=60)]


class SettingsDoc(BaseModel):
    """tax_bp and payment_bp in basis points; payment_fixed and picking_per_order in minor units."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)

    name: Annotated[str, Field(min_length=1, max_length=80)]
    currency: str
    prices_with_tax: bool
    tax_bp: Rate
    payment_bp: Rate
    payment_fixed: Cost
    picking_per_order: Cost
    codes_per_order: Annotated[int, Field(ge=1, le=8)] = 1
    self_applying: Literal["any", "one"] = "any"
    codes_with_self_applying: bool = True
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

    @property
    def minor_digits(self) -> int:
        return get_currency_precision(self.currency)


class ZoneDoc(BaseModel):
    """charge and cost are null until somebody says them; free_from is null where delivery is never free.

    was: the zone's name before, where it is being renamed.
    """

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)

    name: ZoneName
    charge: Annotated[int, Field(ge=0, le=LARGEST_CHARGE)] | None = None
    free_from: Annotated[int, Field(ge=1, le=LARGEST_CART)] | None = None
    cost: Cost | None = None
    was: ZoneName | None = None


class ShopFileDoc(BaseModel):
    """Settings and zones of a shop, in one file."""

    model_config = ConfigDict(extra="forbid")

    settings: SettingsDoc
    zones: Annotated[list[ZoneDoc], Field(max_length=200)]
