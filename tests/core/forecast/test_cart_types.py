"""Ways to sort carts into types."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings

from tests.worlds import worlds
from yellow_abacus.core.forecast.cart_types import MOST_TYPES, OTHERS, CartTypes, by_main_category, largest


def test_few_groups_stay_as_they_are():
    groups = CartTypes(("a", "b"), np.array([0, 1, 1]))
    assert largest(groups) is groups


def test_of_many_the_largest_stay_in_their_order_and_the_others_are_one():
    many = 300
    carts = np.repeat(np.arange(many), np.where(np.arange(many) % 30 == 0, 50, 1))
    groups = CartTypes(tuple(f"g{at}" for at in range(many)), carts)
    found = largest(groups)
    assert found.labels[:4] == ("g0", "g1", "g30", "g60")
    assert (len(found.labels), found.labels[-1]) == (MOST_TYPES, OTHERS)
    counts = np.bincount(found.type_by_cart)
    assert counts.sum() == len(carts)
    assert sorted(counts.tolist()) == [1, *[50] * 10, many - 11]


def in_one_each(batch):
    """The carts, of goods that are each in one category."""
    first = batch.goods.in_category.argmax(axis=0)
    alone = np.arange(len(batch.goods.categories))[:, None] == first
    return replace(batch, goods=replace(batch.goods, in_category=alone, _of_names={}))


@pytest.mark.parametrize("of", [lambda batch: batch, in_one_each])
@settings(max_examples=50)
@given(world=worlds())
def test_the_main_category_is_the_dearest_one_first_by_name(of, world):
    batch = of(world.batch)
    found, names = by_main_category(world.shop, batch), batch.goods.categories
    for cart in range(batch.axes.carts):
        first, last = batch.axes.first_line_by_cart[cart : cart + 2]
        worth = dict.fromkeys(names, 0)
        for line in range(first, last):
            for at, name in enumerate(names):
                inside = bool(batch.goods.in_category[at, batch.sku_by_line[line]])
                worth[name] += int(batch.worth_by_line[line]) * inside
        dearest = max(names, key=lambda name: (worth[name], [-ord(ch) for ch in name]))
        expected = f"Mostly {dearest}" if worth[dearest] > 0 else "No category"
        assert found.labels[found.type_by_cart[cart]] == expected
