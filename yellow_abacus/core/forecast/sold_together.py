"""Products that are bought together: pairs and threes, how often, and how much more often than by chance.

Lift is the share of orders that hold all of them over the product of the shares that hold each. docs/sums.md, "Sold
together".
"""

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Floats, Ints

MOST_PRODUCTS = 96
"""So many of the products most orders hold are looked at."""
MOST_PAIRS = 40
"""Threes are looked for around so many of the best pairs."""
LEAST_ORDERS, LEAST_SHARE = 5.0, 0.002
LEAST_LIFT = 1.2


@dataclass(frozen=True)
class Together:
    """products: their numbers (`Goods.product_number`). orders: expected ones that hold all of them."""

    products: tuple[int, ...]
    orders: float
    lift: float


def sold_together(forecaster: Forecaster, window: tuple[date, date], most: int, each: int) -> list[Together]:
    """The best of them over some days, those with the most orders beyond chance first; no product in more than
    `each`."""
    parts = [(mix.batch, orders * mix.share_by_cart) for _, orders, mix in forecaster.available(Plan(*window, ()))]
    goods = forecaster.batch.goods
    whole = float(sum(weight.sum() for _, weight in parts))
    if not whole:
        return []
    products = _most_held(goods, parts)
    pairs = _orders_that_hold(parts, goods, products, lambda held: held)
    chance = np.diag(pairs) / whole
    least = max(LEAST_ORDERS, LEAST_SHARE * whole)
    found = _pairs(products, pairs, chance, whole, least)
    best = found[:MOST_PAIRS]
    number = {product: at for at, product in enumerate(products.tolist())}
    places = np.array([[number[one] for one in pair.products] for pair in best], dtype=np.int64).reshape(-1, 2)
    threes = _orders_that_hold(parts, goods, products, lambda held: held[:, places[:, 0]] * held[:, places[:, 1]])
    found += _threes(products, best, places, threes, chance, whole, least)
    return _varied(sorted(found, key=lambda one: (-one.orders * (1 - 1 / one.lift), one.products)), most, each)


def _varied(found: list[Together], most: int, each: int) -> list[Together]:
    told: list[Together] = []
    seen: Counter[int] = Counter()
    for one in found:
        if len(told) < most and all(seen[product] < each for product in one.products):
            told.append(one)
            seen.update(one.products)
    return told


def _most_held(goods: Goods, parts: list[tuple[CartBatch, Floats]]) -> Ints:
    """The products that most orders hold lines of, by number."""
    counts = np.zeros(int(goods.product_number.max(initial=0)) + 1)
    for batch, weight in parts:
        counts += np.bincount(batch.product_by_line, weights=weight[batch.axes.cart_by_line], minlength=len(counts))
    most = np.argsort(-counts, kind="stable")[:MOST_PRODUCTS]
    return np.sort(most[counts[most] > 0])


def _orders_that_hold(
    parts: list[tuple[CartBatch, Floats]], goods: Goods, products: Ints, of: Callable[[Floats], Floats]
) -> Floats:
    """Orders by what `of` makes of what carts hold (one row each) and by product (one column each)."""
    place = np.full(int(goods.product_number.max(initial=0)) + 1, -1)
    place[products] = np.arange(len(products))

    def summed(batch: CartBatch, weight: Floats) -> Floats:
        def one_block(carts: slice, block: CartBatch) -> Floats:
            held = np.zeros((block.axes.carts, len(products)))
            column = place[block.product_by_line]
            here = column >= 0
            held[block.axes.cart_by_line[here], column[here]] = 1.0
            result: Floats = (of(held) * weight[carts][:, None]).T @ held
            return result

        found: Floats = np.sum(each_block(batch, one_block), axis=0)
        return found

    total: Floats = np.sum([summed(*part) for part in parts], axis=0)
    return total


def _pairs(products: Ints, pairs: Floats, chance: Floats, whole: float, least: float) -> list[Together]:
    one, other = np.triu_indices(len(products), k=1)
    orders = pairs[one, other]
    lift = orders / np.maximum(whole * chance[one] * chance[other], 1e-12)
    good = np.flatnonzero((orders >= least) & (lift >= LEAST_LIFT))
    found = [
        Together((int(products[one[at]]), int(products[other[at]])), float(orders[at]), float(lift[at]))
        for at in good
    ]
    return sorted(found, key=lambda pair: (-pair.orders * (1 - 1 / pair.lift), pair.products))


def _threes(
    products: Ints, pairs: list[Together], places: Ints, threes: Floats, chance: Floats, whole: float, least: float
) -> list[Together]:
    """Threes that come more often than a pair of them and the third by chance."""
    found: dict[tuple[int, ...], Together] = {}
    for at, pair in enumerate(pairs):
        for third in np.flatnonzero(threes[at] >= least).tolist():
            if third in places[at] or threes[at, third] < LEAST_LIFT * pair.orders * chance[third]:
                continue
            names = tuple(sorted((*pair.products, int(products[third]))))
            by_chance = whole * float(chance[places[at]].prod() * chance[third])
            found[names] = Together(names, float(threes[at, third]), float(threes[at, third]) / by_chance)
    return list(found.values())
