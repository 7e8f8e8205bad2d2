"""Lines that offers put in are found by what they put in, on their days, beside something else."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from yellow_abacus.core.carts.carts import RawLines, batch_of
from yellow_abacus.core.carts.facts import nothing_known
from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import PutIn, Terms
from yellow_abacus.core.offers.free_lines import put_in_on_its_days

GOODS = make_goods([GoodRecord("POT", list_price=2000), GoodRecord("SEED", list_price=300)])
POT, SEED = 0, 1
MAY = date(2026, 5, 10)
GIFT = Terms(gives=(PutIn(("SEED",)),), when=When(date(2026, 5, 1), date(2026, 5, 31)))


def found(offer: Terms, *lines: tuple[int, int, int], day: date = MAY) -> list[bool]:
    """lines: cart, SKU, paid."""
    cart, sku, paid = np.array(lines).T
    told = put_in_on_its_days([offer], GOODS, cart, sku, paid, np.full(3, day.toordinal()))
    return [False] * len(lines) if told is None else told.tolist()


def test_what_paid_nothing_was_put_in_and_what_was_paid_for_was_not():
    assert found(GIFT, (0, POT, 2000), (0, SEED, 0), (1, POT, 2000), (1, SEED, 300)) == [False, True, False, False]


def test_not_where_an_order_has_nothing_else():
    assert found(GIFT, (0, SEED, 0), (1, POT, 2000), (1, SEED, 0)) == [False, False, True]


@pytest.mark.parametrize(
    ("offer", "day"),
    [
        (GIFT, date(2026, 4, 30)),
        (GIFT, date(2026, 6, 1)),
        (replace(GIFT, gives=(PutIn(("POT",)),)), MAY),
        (replace(GIFT, gives=(PutIn(("SEED",), amount=100),)), MAY),
    ],
)
def test_not_on_other_days_nor_other_goods_nor_at_a_price(offer, day):
    assert found(offer, (0, POT, 2000), (0, SEED, 0), day=day) == [False, False]


def test_an_offer_without_days_runs_on_all():
    assert found(replace(GIFT, when=When()), (0, POT, 2000), (0, SEED, 0)) == [False, True]


def test_goods_that_are_only_put_in_are_so_on_any_day():
    goods = make_goods([GoodRecord("POT", list_price=2000), GoodRecord("WRAP", list_price=300, gift_only=True)])
    cart, sku, paid = np.array([[0, POT, 2000], [0, 1, 0], [1, POT, 2000], [1, 1, 300]]).T
    assert put_in_on_its_days([], goods, cart, sku, paid, np.zeros(2)).tolist() == [False, True, False, False]


def test_they_stand_in_no_cart_on_any_day_and_at_any_prices():
    free = np.array([False, True, False])
    raw = RawLines(np.array([0, 0, 1]), np.array([POT, SEED, SEED]), np.ones(3, dtype=np.int64), np.zeros(3), free)
    batch = batch_of(GOODS, np.zeros(2, dtype=np.int64), raw, nothing_known(2))
    dearer = make_goods([GoodRecord("POT", list_price=2500), GoodRecord("SEED", list_price=300)])
    for one, price in (
        (batch, 2000),
        (batch.on_day(MAY), 2000),
        (batch.remade(np.arange(2), dearer), 2500),
        (batch.with_goods(dearer, np.array([0])), 2500),
    ):
        assert one.worth_by_cart.tolist() == [price, 300]
        assert one.raw.put_in.tolist() == free.tolist()
