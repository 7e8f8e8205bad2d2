"""Where delivery makes or loses money: what an option charges and costs by weight and by value, and what it did.

docs/sums.md, "Delivery, seen".
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import nothing_known
from yellow_abacus.core.delivery.parcels import Load, load_of
from yellow_abacus.core.delivery.zones import Option
from yellow_abacus.core.forecast.outlook import Bare
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import MILLIGRAMS, Floats, Ints
from yellow_abacus.core.shop.shop import Shop

POINTS = 160
SHARE_SHOWN = 0.985
"""The curves reach as far as this share of the orders."""


@dataclass(frozen=True)
class OfOption:
    """One option over all orders counted. charged: net of tax; charged, cost: minor units; orders: expected."""

    zone: int
    option: Option
    orders: float
    charged: float
    cost: float


@dataclass(frozen=True, eq=False)
class Curve:
    """By weight (grams) or by value of goods (minor units): what is charged, net of tax, and what it costs."""

    at: Floats
    charged: Floats
    cost: Floats


@dataclass(frozen=True, eq=False)
class Going:
    """Rows that go by an option: grams, minor units (charged: net of tax), share: how likely their cart is to go by
    it, and how many orders of each there are."""

    weight: Floats
    volume: Floats
    value: Ints
    insured: Floats
    charged: Floats
    cost: Floats
    share: Floats
    orders: Floats

    @classmethod
    def by(cls, bare: Bare, orders: Floats, number: int) -> "Going":
        rows, load = bare.rows, load_of(bare.mix.batch)
        here = np.flatnonzero((rows.option_by_row == number) & (orders[rows.cart_by_row] > 0))
        some = rows.cart_by_row[here]
        return cls(
            load.weight[some] / MILLIGRAMS,
            load.volume[some],
            bare.mix.batch.worth_by_cart[some],
            load.insured[some],
            bare.figures.charged[here],
            bare.figures.delivery_cost[here],
            rows.share_by_row[here],
            rows.share_by_row[here] * orders[some],
        )


@dataclass(frozen=True, eq=False)
class Seen:
    """An option's two curves, and the carts that may go by it."""

    by_weight: Curve
    by_value: Curve
    going: Going


def by_option(shop: Shop, parts: Sequence[tuple[Bare, Floats]]) -> list[OfOption]:
    """Every option of every zone. parts: the carts orders are of, with no offer running, and how many of each there
    are."""
    options = shop.delivery.options
    sums = np.zeros((3, len(options) + 1))
    for bare, orders in parts:
        rows, number = bare.rows, bare.rows.option_by_row + 1  # 0 for none
        weight = rows.share_by_row * orders[rows.cart_by_row]
        for at, one in enumerate((np.ones(len(rows)), bare.figures.charged, bare.figures.delivery_cost)):
            sums[at] += np.bincount(number, weights=weight * one, minlength=len(options) + 1)
    return [
        OfOption(zone, option, *(float(one[at + 1]) for one in sums)) for at, (zone, option) in enumerate(options)
    ]


def seen(shop: Shop, parts: Sequence[tuple[Bare, Floats]], number: int) -> Seen | None:
    """One option, by its number; None where no order goes by it. parts: as for `by_option`."""
    every = [Going.by(bare, orders, number) for bare, orders in parts]
    if not any(len(one.orders) for one in every):
        return None
    going = Going(*(np.concatenate([getattr(one, each.name) for one in every]) for each in fields(Going)))
    typical = _Typical(parts[0][0].mix.batch, shop.delivery.options[number][0], going)
    top_weight, top_value = (_quantile(of, going.orders, SHARE_SHOWN) for of in (going.weight, going.value))
    return Seen(
        by_weight=_curve(shop, number, np.linspace(1, max(top_weight, 1), POINTS), None, typical),
        by_value=_curve(shop, number, None, np.linspace(1, max(top_value, 1), POINTS), typical),
        going=going,
    )


def _quantile(of: Floats | Ints, orders: Floats, at: float) -> float:
    return float(np.quantile(of, at, weights=orders, method="inverted_cdf"))


class _Typical:
    """What an order of an option is like: its median weight and value, and how bulk and worth go with those."""

    def __init__(self, batch: CartBatch, zone: int, going: Going) -> None:
        orders = going.orders
        self.weight, self.value = (_quantile(of, orders, 0.5) for of in (going.weight, going.value))
        self.volume_a_gram = (going.volume @ orders) / ((going.weight @ orders) or 1.0)
        self.insured_part = (going.insured @ orders) / ((going.value @ orders) or 1.0)
        self.batch, self.zone = batch, zone


def _curve(shop: Shop, number: int, weights: Floats | None, values: Floats | None, typical: _Typical) -> Curve:
    at = weights if weights is not None else values
    assert at is not None
    weight = weights if weights is not None else np.full_like(at, typical.weight)
    value = values if values is not None else np.full_like(at, typical.value)
    load = Load(
        batch=_bare(typical.batch, typical.zone, len(at)),
        cart=np.arange(len(at)),
        weight=np.rint(weight * MILLIGRAMS).astype(np.int64),
        volume=weight * typical.volume_a_gram,
        heaviest_unit=np.zeros(len(at), dtype=np.int64),
        longest=np.zeros_like(at),
        worth=np.rint(value).astype(np.int64),
        insured=value * typical.insured_part,
        nothing=np.zeros(len(at), dtype=np.bool_),
    )
    option = np.full(len(at), number)
    carriage = shop.delivery.carriage(load, option)
    charge = shop.delivery.charge(np.rint(value).astype(np.int64), load, option, carriage)
    rate = max((one.rate_in(shop.zone_names[typical.zone]) for one in shop.taxes.classes[:1]), default=0)
    net = charge * shop.taxes.without(np.full(len(at), rate))
    return Curve(at, net, carriage.cost)


def _bare(batch: CartBatch, zone: int, carts: int) -> CartBatch:
    """Carts without lines, for loads that are made up."""
    nothing = np.zeros(0, dtype=np.int64)
    axes = Axes(np.zeros(carts + 1, dtype=np.int64))
    reduced = np.zeros(0, dtype=np.bool_)
    zones = np.full(carts, zone)
    return CartBatch(batch.goods, axes, nothing, nothing, nothing, reduced, zones, nothing_known(carts))
