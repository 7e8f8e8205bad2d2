"""What is known of one SKU and of one order, as files bring it in and the store keeps it."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class GoodRecord:
    """One SKU. Prices in minor units; unit_cost in minor units with up to two decimals; weight in grams.

    None stands for not known: no list price, no reduced price, a missing cost or weight, stock not counted.
    """

    sku: str
    product: str = ""
    option: str = ""
    list_price: int | None = None
    reduced_price: int | None = None
    unit_cost: float | None = None
    weight: float | None = None
    categories: tuple[str, ...] = ()
    stock: int | None = None
    brand: str = ""
    tags: tuple[str, ...] = ()
    never_discounted: bool = False


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
