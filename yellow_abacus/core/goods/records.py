"""What is known of one SKU and of one order, as files bring it in and the store keeps it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields
from datetime import date, datetime
from typing import Any

import numpy as np

from yellow_abacus.core.ground.money import Ints

COST_PARTS = ("purchase_cost", "freight_cost", "duty_cost", "packaging_cost", "other_cost")
"""The parts of a unit cost, in the order they are told."""
COSTS = (*COST_PARTS, "assembly_cost")
PRICES = ("list_price", "going_price", "reduced_price", "least_advertised")
"""Of all that has one; those for quantities and groups stand in lists beside them."""


@dataclass(frozen=True)
class GoodRecord:
    """One SKU. Prices in minor units, costs with up to two decimals; weight in grams with up to three, sides in
    millimetres, rates in basis points.

    going_price: what it really sells at, which stands in the list price's place. None stands for not known: no list
    price, no reduced price, a missing cost, weight or side, stock not counted. quantity_prices: (from units, price),
    units counted by SKU or by product. group_prices: (group, from units, price); one from 1 unit is the group's own
    price. kit: parts as (SKU, units); with any, cost, weight, size and stock follow from them.
    """

    sku: str
    product: str = ""
    option: str = ""
    list_price: int | None = None
    going_price: int | None = None
    reduced_price: int | None = None
    reduced_from: date | None = None
    reduced_to: date | None = None
    least_advertised: int | None = None
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
    """quantity: 1 or more. unit_price: minor units asked for one; paid: for all of them, after discounts; None where
    that is not said. returned: units sent back."""

    sku: str
    quantity: int
    unit_price: int | None
    paid: int | None = None
    returned: int = 0


@dataclass(frozen=True)
class OrderRecord:
    """placed_at: the shop's own clock. zone: empty where the file does not say. first_order: None if unknown.

    delivery_paid; delivery_cost: what the carrier asked of the shop, without tax; payment_cost: what being paid cost
    it: minor units, None where that is not said. refunded: minor units given back.
    """

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
    status: str = ""
    delivery_paid: int | None = None
    delivery_cost: int | None = None
    payment_cost: int | None = None
    refunded: int = 0


OF_ORDER = tuple(one.name for one in fields(OrderRecord) if one.name != "lines")
ALL_OF_ORDERS = frozenset(OF_ORDER) | {"unit_price", "paid", "returned"}
"""What can be told of an order besides which goods it has, and of its lines."""
NOT_SAID = -1


@dataclass(frozen=True, eq=False)
class OrderLines:
    """Lines in columns, one entry each: index into `skus`; units; asked for one, and paid for all, NOT_SAID where
    that is not said; units sent back."""

    skus: Sequence[str]
    sku: Ints
    quantity: Ints
    unit_price: Ints
    paid: Ints
    returned: Ints

    @property
    def worth(self) -> Ints:
        """What was paid for each line, or asked for it; 0 where neither is said."""
        asked = np.maximum(self.unit_price, 0) * self.quantity
        return np.where(self.paid == NOT_SAID, asked, self.paid)

    def __getitem__(self, at: int) -> OrderLineRecord:
        asked, paid = int(self.unit_price[at]), int(self.paid[at])
        return OrderLineRecord(
            self.skus[self.sku[at]],
            int(self.quantity[at]),
            None if asked == NOT_SAID else asked,
            None if paid == NOT_SAID else paid,
            int(self.returned[at]),
        )


@dataclass(frozen=True, eq=False)
class ManyOrders(Sequence[OrderRecord]):
    """Orders in columns: a million lines take a twentieth of the room of as many records.

    of_order: for each name of OF_ORDER one entry an order. first_line: of each order, and one more at the end.
    """

    of_order: dict[str, list[Any]]
    first_line: Ints
    lines: OrderLines

    def __len__(self) -> int:
        return len(self.first_line) - 1

    def __getitem__(self, at: Any) -> Any:
        if isinstance(at, slice):
            return [self[one] for one in range(*at.indices(len(self)))]
        at = range(len(self))[at]
        lines = tuple(self.lines[line] for line in range(self.first_line[at], self.first_line[at + 1]))
        return OrderRecord(lines=lines, **{name: told[at] for name, told in self.of_order.items()})


def in_columns(records: Sequence[OrderRecord]) -> ManyOrders:
    if isinstance(records, ManyOrders):
        return records
    lines = [line for record in records for line in record.lines]
    skus = list(dict.fromkeys(line.sku for line in lines))
    number = {sku: at for at, sku in enumerate(skus)}

    def column(told: Iterator[int | None]) -> Ints:
        return np.array([NOT_SAID if one is None else one for one in told], dtype=np.int64)

    return ManyOrders(
        {name: [getattr(record, name) for record in records] for name in OF_ORDER},
        np.cumsum([0, *(len(record.lines) for record in records)], dtype=np.int64),
        OrderLines(
            skus,
            column(number[line.sku] for line in lines),
            column(line.quantity for line in lines),
            column(line.unit_price for line in lines),
            column(line.paid for line in lines),
            column(line.returned for line in lines),
        ),
    )
