"""Where delivery makes or loses money: what an option charges and costs by weight and by value, and what it did.

docs/sums.md, "Delivery, seen".
"""

from collections.abc import Sequence
from dataclasses import dataclass

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
class Seen:
    """An option's two curves, and its orders: weight, value, charged net of tax, cost, one entry each.

    share: how likely each of them went by the option.
    """

    by_weight: Curve
    by_value: Curve
    weight: Floats
    value: Ints
    charged: Floats
    cost: Floats
    share: Floats


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


def seen(shop: Shop, bare: Bare, number: int) -> Seen | None:
    """One option, by its number; None where no order went by it. bare: as for `by_option`."""
    batch, load = bare.mix.batch, load_of(bare.mix.batch)
    here = np.flatnonzero(bare.rows.option_by_row == number)
    some = bare.rows.cart_by_row[here]
    if not len(some):
        return None
    weight, value = load.weight[some] / MILLIGRAMS, batch.worth_by_cart[some]
    top_weight, top_value = (float(np.quantile(of, SHARE_SHOWN)) for of in (weight, value))
    typical = _Typical(batch, load, some)
    return Seen(
        by_weight=_curve(shop, number, np.linspace(1, max(top_weight, 1), POINTS), None, typical),
        by_value=_curve(shop, number, None, np.linspace(1, max(top_value, 1), POINTS), typical),
        weight=weight,
        value=value,
        charged=bare.figures.charged[here],
        cost=bare.figures.delivery_cost[here],
        share=bare.rows.share_by_row[here],
    )


class _Typical:
    """What an order of an option is like: its median weight and value, and how bulk, worth and tax go with those."""

    def __init__(self, batch: CartBatch, load: Load, carts: Ints) -> None:
        weight, value = load.weight[carts].sum() / MILLIGRAMS or 1.0, batch.worth_by_cart[carts].sum() or 1
        self.weight = float(np.median(load.weight[carts])) / MILLIGRAMS
        self.value = float(np.median(batch.worth_by_cart[carts]))
        self.volume_a_gram = load.volume[carts].sum() / weight
        self.insured_part = load.insured[carts].sum() / value
        self.zone = int(batch.zone_by_cart[carts[0]])
        self.batch = batch


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
