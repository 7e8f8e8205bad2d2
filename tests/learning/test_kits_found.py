"""Kits that orders tell of, found in made-up orders, and what looks like them."""

import numpy as np
import pytest

from yellow_abacus.core.carts.carts import RawLines
from yellow_abacus.learning.kits_found import FoundKit, kits_found

POT, SOIL, FERN, SET, DUO = range(5)
ASKED = {POT: 1200, SOIL: 800, FERN: 1500, SET: 3000, DUO: 1400}
Line = tuple[int, int, int]
"""SKU, units, paid for all of them."""


def found(carts: list[list[Line]], listed=ASKED, kits=(), put_in: int | None = None) -> list[FoundKit]:
    cart = np.array([at for at, lines in enumerate(carts) for _ in lines])
    sku, units, paid = np.array([line for lines in carts for line in lines]).T
    lines = RawLines(cart, sku, units, 0 * cart, None if put_in is None else (sku == put_in) & (paid == 0))
    prices, is_kit = np.array([listed.get(one, -1) for one in ASKED]), np.isin(np.arange(5), list(kits))
    return kits_found(lines, paid, prices, is_kit)


def set_(units: int = 1) -> list[Line]:
    return [(SET, units, 3000 * units), (POT, units, 0), (SOIL, units, 0), (FERN, units, 0)]


def duo(units: int = 1) -> list[Line]:
    return [(DUO, units, 1400 * units), (SOIL, 2 * units, 0)]


FOUND_SET, FOUND_DUO = ((POT, 1), (SOIL, 1), (FERN, 1)), ((SOIL, 2),)
OTHERS: list[list[Line]] = [[(POT, 1, 1200)], [(SOIL, 3, 2400), (FERN, 1, 1500)]]


def test_kits_that_share_a_part_those_of_most_orders_first():
    orders = [*[set_()] * 4, set_(2), *[duo()] * 2, duo(3), *OTHERS]
    assert found(orders) == [FoundKit(SET, FOUND_SET, 5), FoundKit(DUO, FOUND_DUO, 3)]


@pytest.mark.parametrize("unpaid", [0, -1])
def test_whether_nothing_is_told_or_not_told(unpaid):
    orders = [[(sku, units, paid or unpaid) for sku, units, paid in lines] for lines in [set_()] * 3]
    assert found(orders) == [FoundKit(SET, FOUND_SET, 3)]


def test_what_is_mostly_bought_with_a_kit_is_none():
    dear = [*set_(), (DUO, 1, 1400)]
    assert found([dear] * 5) == [FoundKit(SET, FOUND_SET, 5)]


@pytest.mark.parametrize(
    "orders",
    [
        pytest.param([set_()] * 2, id="two orders alone"),
        pytest.param([*[set_()] * 3, *[[(SET, 1, 3000)]] * 3], id="half of its orders without"),
        pytest.param([[(SET, 1, 3000), (POT, 1, 0)]] * 9, id="one unit, which may be a gift"),
        pytest.param([[(SET, 1, 3000), (POT, 3, 0)], [(SET, 2, 6000), (POT, 3, 0)]] * 5, id="not with each of them"),
        pytest.param([[(SET, 1, 3000), (POT, 1, 1200), (SOIL, 1, 800)]] * 5, id="paid for"),
        pytest.param([[(POT, 1, 0), (SOIL, 1, 0)]] * 5, id="nothing paid at all"),
    ],
)
def test_what_is_none(orders):
    assert found(orders) == []


def test_small_gifts_beside_something_dear_are_none_but_parts_without_a_price_may_be():
    assert found([set_()] * 5, ASKED | {SET: 9000}) == []
    assert found([set_()] * 5, {SET: 9000}) == [FoundKit(SET, FOUND_SET, 5)]
    assert found([set_()] * 5, ASKED | {SET: 9000, POT: 0}) == [FoundKit(SET, FOUND_SET, 5)]


def test_neither_what_goods_knows_nor_what_an_offer_put_in():
    assert found([set_()] * 5, kits=[SET]) == []
    assert found([set_()] * 5, ASKED | {SET: 2000}, put_in=FERN) == [FoundKit(SET, ((POT, 1), (SOIL, 1)), 5)]
