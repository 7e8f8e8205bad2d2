"""Carts under one set of available offers, priced and costed in every branch, as far as sums over carts need it.

docs/sums.md, "Branches".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.branches import Branch, branches
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.costing import cost
from yellow_abacus.core.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.pricing import Apply, price_each
from yellow_abacus.core.shop import Shop

MOSTLY = 0.7
"""A branch that this share of the carts may take is worked out for all of them."""


@dataclass(frozen=True, eq=False)
class Result:
    """A batch under one set of available offers, in one branch. Minor units; of no meaning where `share` is 0.

    share: how likely the branch is, cart by cart. option_by_cart: of delivery (`Delivery`). rows: one row a row of
    the ledger, one column a cart. took_effect, given_away: one row an offer. worth_by_cart: goods before offers.
    Doubles throughout, for they are only weighted and summed.
    """

    share: Floats
    option_by_cart: Ints
    rows: Floats
    profit_by_cart: Floats
    took_effect: Bools
    given_away: Floats
    goods_off_by_cart: Floats
    goods_with_tax_by_cart: Floats
    tax_by_cart: Floats
    worth_by_cart: Floats


def kept_of(results: Sequence[Result]) -> float:
    """What all branches of one set of offers keep together, minor units."""
    return sum(float(result.share @ result.profit_by_cart) for result in results)


def find_results(shop: Shop, batch: CartBatch, offers: Sequence[Offer], apply: Apply) -> list[Result]:
    """Every branch. Where a branch is open to some carts only, no others are priced in it."""
    ways = branches(shop, batch, offers)
    found: dict[int, Result] = {}
    for carts, numbers in _open_to(ways):
        some = batch if carts is None else batch.part(carts)
        mine = [ways[number] if carts is None else ways[number].some(carts) for number in numbers]
        for number, way, priced in zip(numbers, mine, price_each(shop, some, mine, apply), strict=True):
            rows = cost(shop, some, priced, way.payment)
            found[number] = _result(shop, batch, ways[number], priced, rows, carts)
    return [found[number] for number in range(len(ways))]


def _open_to(ways: Sequence[Branch]) -> Iterator[tuple[Ints | None, list[int]]]:
    """Branches that the same carts may take, by number; None where those are all, or most of them."""
    found: dict[bytes, tuple[Ints | None, list[int]]] = {}
    for number, way in enumerate(ways):
        may = way.share_by_cart > 0
        carts = None if may.sum() >= MOSTLY * len(may) else np.flatnonzero(may)
        found.setdefault(b"" if carts is None else may.tobytes(), (carts, []))[1].append(number)
    yield from found.values()


def _double(figures: Ints) -> Floats:
    return figures.astype(np.float64)


def _result(shop: Shop, batch: CartBatch, way: Branch, priced: Priced, rows: Floats, carts: Ints | None) -> Result:
    def wide(figures: NDArray[np.generic]) -> NDArray[np.generic]:
        if carts is None:
            return figures
        found = np.zeros((*figures.shape[:-1], batch.axes.carts), dtype=figures.dtype)
        found[..., carts] = figures
        return found

    on_top = 0 if shop.taxes.included else priced.goods_tax
    figures = {
        "rows": rows,
        "profit_by_cart": rows.sum(axis=0),
        "took_effect": priced.took_effect,
        "given_away": _double(priced.goods_off + priced.delivery_off + priced.saved),
        "goods_off_by_cart": _double(priced.goods_off.sum(axis=0)),
        "goods_with_tax_by_cart": _double(priced.goods_by_cart + on_top),
        "tax_by_cart": priced.goods_tax + priced.delivery_tax + priced.surcharge_tax + priced.chosen_tax,
    }
    return Result(
        share=way.share_by_cart,
        option_by_cart=way.option_by_cart,
        worth_by_cart=batch.kept("worth as double", lambda: _double(batch.worth_by_cart)),
        **{name: wide(figure) for name, figure in figures.items()},  # type: ignore[arg-type]
    )
