"""Every cart once for each choice of goods that may be missing, against carts made of what is left."""

from itertools import product

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.left_out import left_out
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

GOODS = make_goods(
    [
        GoodRecord("A", "Fern", list_price=500, quantity_prices=((3, 400),), counted_by_product=True),
        GoodRecord("B", "Fern", list_price=700),
        GoodRecord("C", "Pot", list_price=300),
        GoodRecord("KIT", "Fern in a pot", list_price=900, kit=(("A", 2), ("C", 1))),
    ]
)
MAY_SELL_OUT = ("A", "C")
PARTS = {"KIT": {"A", "C"}}

carts = st.lists(st.dictionaries(st.sampled_from(GOODS.skus), st.integers(1, 3), min_size=1), min_size=1, max_size=4)


def lines(batch, cart: int) -> list[tuple[int, ...]]:
    at = slice(*batch.axes.first_line_by_cart[cart : cart + 2])
    return list(
        zip(
            batch.sku_by_line[at].tolist(),
            batch.quantity_by_line[at].tolist(),
            batch.standing_by_line[at].tolist(),
            strict=True,
        )
    )


@given(carts)
def test_what_is_left_is_at_the_prices_of_what_is_left(told):
    batch = carts_of(GOODS, *[list(one.items()) for one in told])
    found = left_out(batch, np.array([GOODS.skus.index(sku) for sku in MAY_SELL_OUT]))
    expected = []
    for cart, units in enumerate(told):
        held = [sku for sku in MAY_SELL_OUT if any(sku in PARTS.get(one, {one}) for one in units)]
        for goes in product((False, True), repeat=len(held)):
            gone = {sku for sku, is_gone in zip(held, goes, strict=True) if is_gone}
            left = [(sku, count) for sku, count in units.items() if gone.isdisjoint(PARTS.get(sku, {sku}))]
            if left:
                bits = [sum(1 << MAY_SELL_OUT.index(sku) for sku in some) for some in (held, gone)]
                expected.append((cart, *bits, lines(carts_of(GOODS, left), 0)))
    told_of = zip(found.cart.tolist(), found.holds.tolist(), found.lacks.tolist(), strict=True)
    assert sorted((*one, lines(found.batch, at)) for at, one in enumerate(told_of)) == sorted(expected)
    assert found.cart[: len(told)].tolist() == list(range(len(told)))
    assert not found.lacks[: len(told)].any()
