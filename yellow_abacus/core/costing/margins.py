"""What one unit of each SKU leaves at a price, where the rest goes, and how deep a discount may be.

docs/sums.md, "Margins". Taken in the shop's first zone, paid as shoppers are expected to pay; a way to pay's fixed
cost is an order's, not a unit's, and so left out.
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.shop.shop import Shop


@dataclass(frozen=True, eq=False)
class Margins:
    """One entry a SKU, minor units: price = tax + cost + fees + kept. nan where price or cost is not known.

    fees: payment, commission and what returns take.
    """

    price: Floats
    tax: Floats
    cost: Floats
    fees: Floats
    kept: Floats


@dataclass(frozen=True, eq=False)
class _Parts:
    """What a unit keeps of a price p, as the shop states it, is `p * slope - fixed`. One entry a SKU."""

    rate: Floats
    slope: Floats
    fixed: Floats


def margins(shop: Shop, goods: Goods, price: Ints) -> Margins:
    """The margin of each SKU at `price`, minor units as the shop states prices, NO_PRICE for none."""
    parts = _parts(shop, goods)
    asked = np.where(price == NO_PRICE, np.nan, price.astype(np.float64))
    tax = asked * parts.rate / (1 + parts.rate) if shop.taxes.included else np.zeros_like(asked)
    kept = asked * parts.slope - parts.fixed
    return Margins(asked, tax, goods.unit_cost, asked - tax - goods.unit_cost - kept, kept)


def deepest_discount(shop: Shop, goods: Goods, price: Ints, beside: Floats | None = None) -> Floats:
    """The share of `price` that can be taken off before a unit loses money; below 0 where it does already.

    beside: what else a unit has to bear, minor units, such as its delivery. nan where something is not known.
    """
    parts = _parts(shop, goods)
    asked = np.where(price <= 0, np.nan, price.astype(np.float64))
    bears = parts.fixed if beside is None else parts.fixed + beside
    result: Floats = 1 - bears / (parts.slope * asked)
    return result


def _parts(shop: Shop, goods: Goods) -> _Parts:
    zone = shop.zone_names[0] if shop.zones else ""
    rate = np.array([one.rate_in(zone) for one in shop.taxes.classes])[shop.taxes.class_of_sku(goods)] / WHOLE_BP
    net = 1 / (1 + rate) if shop.taxes.included else np.ones_like(rate)
    paid = np.ones_like(rate) if shop.taxes.included else 1 + rate
    whole = sum(one.share_bp for one in shop.payments)
    payment = sum(one.cost_bp * one.share_bp for one in shop.payments) / (whole or 1) / WHOLE_BP
    back = goods.column("return_rate")
    commission = goods.column("commission_bp") / WHOLE_BP * (0.0 if shop.settings.commission_channels else 1.0)
    kept_commission = commission * (1 - back) if shop.settings.commission_returned else commission
    slope = net * (1 - back) - paid * (payment + kept_commission)
    fixed = goods.unit_cost * (1 - back * shop.settings.resale_bp / WHOLE_BP)
    return _Parts(rate, slope, fixed)


def delivery_of_units(batch: CartBatch, rows: Floats, orders_by_cart: Floats) -> tuple[Floats, Floats]:
    """Units of each SKU, and what delivering, picking and packing them costs beyond what shoppers pay for delivery.

    rows: the ledger of each cart. orders_by_cart: how many there are of each. A cart's amount is shared over its
    lines by weight, or by units where nothing weighs. Minor units.
    """
    gap = -(rows[INDEX["delivery_cost"]] + rows[INDEX["picking"]] + rows[INDEX["delivery_charged"]])
    axes = batch.axes
    weightless = batch.weight_by_cart == 0
    base = np.where(axes.spread(weightless), batch.quantity_by_line, batch.weight_by_line)
    whole = np.where(weightless, batch.units_by_cart, batch.weight_by_cart)
    by_line = axes.spread(gap / np.maximum(whole, 1e-9)) * base
    size = len(batch.goods.skus)
    orders = axes.spread(orders_by_cart)
    units: Floats = np.zeros(size)
    total: Floats = np.zeros(size)
    units += np.bincount(batch.sku_by_line, weights=batch.quantity_by_line * orders, minlength=size)
    total += np.bincount(batch.sku_by_line, weights=by_line * orders, minlength=size)
    return units, total


@dataclass(frozen=True)
class Level:
    """A price a SKU has. label: whose, or from how many units."""

    label: str
    price: int


def levels(goods: Goods, sku: int) -> list[Level]:
    """Every price a SKU has: list, reduced, quantity prices, each group's."""
    found = [("List price", int(goods.list_price[sku])), ("Reduced price", int(goods.reduced_price[sku]))]
    told = [Level(label, price) for label, price in found if price != NO_PRICE]
    groups = [("", goods.price_list.everybody), *goods.price_list.by_group.items()]
    for group, steps in groups:
        for units, price in zip(steps.units[:, sku], steps.price[:, sku], strict=True):
            if units == np.iinfo(np.int64).max:
                continue
            who = group.capitalize() if group else ""
            count = f"from {units} units" if units > 1 else ""
            told.append(Level(", ".join(filter(None, (who, count))).capitalize(), int(price)))
    return told
