"""What orders paid beside what Goods asks, against plain loops over lines."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.worlds import worlds
from yellow_abacus.core.carts.paid import prices_paid
from yellow_abacus.core.goods.goods import NO_PRICE


@settings(max_examples=60)
@given(worlds(most_carts=8), st.integers(1, 5000))
def test_lines_that_tell_are_summed_as_they_are(world, threshold):
    batch = world.batch
    raw, goods = batch.raw, batch.goods
    asked, paid = np.zeros(batch.axes.carts), np.zeros(batch.axes.carts)
    told = np.where(raw.asked > 0, raw.asked * raw.quantity - 1, -1)
    for cart, sku, quantity, price in zip(raw.cart, raw.sku, raw.quantity, told, strict=True):
        listed, reduced = goods.list_price[sku], goods.reduced_price[sku]
        if price < 0 or listed == NO_PRICE:
            continue
        one = min(listed, reduced) if reduced != NO_PRICE else listed
        asked[cart] += one * quantity
        paid[cart] += price
    found = prices_paid(batch, told)
    assert (found.asked, found.paid) == (asked.sum(), paid.sum())
    assert found.less == pytest.approx(1 - paid.sum() / asked.sum() if asked.sum() else 0)
    assert found.reaching(threshold, batch.axes.carts) == ((asked >= threshold).sum(), (paid >= threshold).sum())
    by_sku = found.summed(found.sku, len(goods.skus))
    assert by_sku[0].sum() == pytest.approx(asked.sum())
