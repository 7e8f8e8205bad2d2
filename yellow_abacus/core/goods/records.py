"""What is known of one SKU and of one order, as files bring it in and the store keeps it."""

from dataclasses import dataclass
from datetime import date, datetime

COST_PARTS = ("purchase_cost", "freight_cost", "duty_cost", "packaging_cost", "other_cost")
"""The parts of a unit cost, in the order they are told."""


@dataclass(frozen=True)
class GoodRecord:
    """One SKU. Prices in minor units, costs with up to two decimals; weight in grams with up to three, sides in
    millimetres, rates in basis points.

    None stands for not known: no list price, no reduced price, a missing cost, weight or side, stock not counted.
    quantity_prices: (from units, price), units counted by SKU or by product. group_prices: (group, from units,
    price); one from 1 unit is the group's own price. kit: parts as (SKU, units); with any, cost,
    weight, size and stock follow from them.
    """

    sku: str
    product: str = ""
    option: str = ""
    list_price: int | None = None
    reduced_price: int | None = None
    reduced_from: date | None = None
    reduced_to: date | None = None
    quantity_prices: tuple[tuple[int, int], ...] = ()
    group_prices: tuple[tuple[str, int, int], ...] = ()
    counted_by_product: bool = False
    purchase_cost: float | None = None
    freight_cost: float | None = None
    duty_cost: float | None = None
    packaging_cost: float | None = None
    other_cost: float | None = None
    weight: float | None = None
    length: int | None = None
    width: int | None = None
    height: int | None = None
    categories: tuple[str, ...] = ()
    stock: int | None = None
    brand: str = ""
    tags: tuple[str, ...] = ()
    never_discounted: bool = False
    gift_only: bool = False
    tax_class: str = ""
    return_bp: int = 0
    commission_bp: int = 0
    insured: bool = False
    kit: tuple[tuple[str, int], ...] = ()
    assembly_cost: float | None = None


@dataclass(frozen=True)
class OrderLineRecord:
    """quantity: 1 or more. unit_price: minor units as paid, None where the file does not say."""

    sku: str
    quantity: int
    unit_price: int | None


@dataclass(frozen=True)
class OrderRecord:
    """placed_at: the shop's own clock. zone: empty where the file does not say. first_order: None if unknown."""

    number: str
    placed_at: datetime
    lines: tuple[OrderLineRecord, ...]
    zone: str = ""
    shopper: str = ""
    first_order: bool | None = None
    code: str = ""
    group: str = ""
    tags: tuple[str, ...] = ()
    channel: str = ""
    payment: str = ""
    currency: str = ""
    option: str = ""
