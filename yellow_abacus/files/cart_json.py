"""Carts to be priced, and what they come to, as JSON. Money is minor units; docs/files.md, "Carts to price"."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, WithJsonSchema

from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.pricing.reasons import Measure, Reason

MOST_LINES = 1_000
MOST_UNITS = 1_000_000

Name = Annotated[str, Field(max_length=200)]
Moment = Annotated[
    datetime, WithJsonSchema({"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}", "maxLength": 40})
]
"""On the shop's own clock, so it names no time zone."""


class CartLineDoc(BaseModel):
    """unit_price: serves only where the SKU has no list price."""

    model_config = ConfigDict(extra="forbid")

    sku: Name
    quantity: Annotated[int, Field(ge=1, le=MOST_UNITS)] = 1
    unit_price: Annotated[int, Field(ge=0, le=LARGEST_CART)] | None = None


class ShopperDoc(BaseModel):
    """orders_before: earlier orders; days_since: since the last one. null where it is not known."""

    model_config = ConfigDict(extra="forbid")

    id: Name = ""
    group: Name = ""
    tags: Annotated[list[Name], Field(max_length=100)] = []
    orders_before: Annotated[int, Field(ge=0, le=1_000_000)] | None = None
    days_since: Annotated[int, Field(ge=0, le=1_000_000)] | None = None


class CartDoc(BaseModel):
    """time: on the shop's own clock; without it no offer is closed for its days. zone: the shop's first one if empty.

    option: of delivery; empty where it is not known.
    chooses: the SKU this shopper takes of what an offer puts in, by the offer's id.
    """

    model_config = ConfigDict(extra="forbid")

    id: Name = ""
    lines: Annotated[list[CartLineDoc], Field(max_length=MOST_LINES)]
    zone: Name = ""
    time: Moment | None = None
    shopper: ShopperDoc = ShopperDoc()
    channel: Name = ""
    payment: Name = ""
    option: Name = ""
    currency: Name = ""
    codes: Annotated[list[Name], Field(max_length=20)] = []
    chooses: dict[str, str] = {}


class TakenOffDoc(BaseModel):
    offer: str
    amount: int


class PricedLineDoc(BaseModel):
    """standing: unit price before offers. net: what the line comes to after them."""

    sku: str
    quantity: int
    standing: int
    net: int
    taken_off: list[TakenOffDoc]


class PutInDoc(BaseModel):
    """asked, saved: for all its units."""

    offer: str
    sku: str
    quantity: int
    asked: int
    saved: int


class ReasonDoc(BaseModel):
    """short_by: minor units, units, grams or products, as short_of says. shut_out_by: an offer's id."""

    offer: str
    reason: Reason
    text: str
    short_by: int | None = None
    short_of: Measure | None = None
    shut_out_by: str | None = None


class AmountDoc(BaseModel):
    """key: the ledger's row."""

    key: str
    label: str
    amount: int


class OutcomeDoc(BaseModel):
    """share: how many shoppers with this cart it stands for. goods: lines and what is asked for things put in.

    surcharges_by_choice: what is expected of those shoppers may take, not in the total. ledger: what it leaves the
    merchant, the rows adding up to kept.
    """

    share: float
    lines: list[PricedLineDoc]
    put_in: list[PutInDoc]
    goods: int
    delivery_before_offers: int
    delivery: int
    delivery_taken_off: list[TakenOffDoc]
    option: str
    surcharges: int
    surcharges_by_choice: float
    tax: int
    total: int
    reasons: list[ReasonDoc]
    ledger: list[AmountDoc]
    kept: int


class PricedCartDoc(BaseModel):
    """outcomes: one, or one for each option of delivery and thing put in that the shopper may choose."""

    id: str
    outcomes: list[OutcomeDoc]


class PricedCartsDoc(BaseModel):
    currency: str
    minor_digits: int
    carts: list[PricedCartDoc]
