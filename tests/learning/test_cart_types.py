"""Types of carts found in a history: the same whatever the order of its rows, and sorted by as plain loops would."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.worlds import CATEGORIES, worlds
from yellow_abacus.core.forecast.known_types import (
    UNITS_WEIGH,
    VALUE_WEIGHS,
    Centre,
    KnownType,
    KnownTypes,
    places,
    standing,
)
from yellow_abacus.counting import CountingRoom
from yellow_abacus.learning.cart_types import FEWEST, FEWEST_CARTS, MOST, find_types, split
from yellow_abacus.sorting_carts import kept_by_cart, types_seen

centres = st.builds(
    Centre,
    st.dictionaries(st.sampled_from(CATEGORIES), st.sampled_from([0.2, 0.5, 1.0]), max_size=2),
    st.sampled_from([1.0, 2.5, 8.0]),
    st.sampled_from([100.0, 2_000.0, 90_000.0]),
)
known = st.lists(st.lists(centres, min_size=1, max_size=2).map(tuple), min_size=1, max_size=4).map(
    lambda told: KnownTypes(tuple(KnownType(f"T{at}", one) for at, one in enumerate(told)))
)


@settings(max_examples=80)
@given(worlds(), known)
def test_a_cart_is_of_the_type_with_the_nearest_centre(world, types):
    batch, found = world.batch, types.sort(world.batch).type_by_cart
    goods, axes = batch.goods, batch.axes
    for cart in range(axes.carts):
        worth, units, inside = 0, 0, dict.fromkeys(goods.categories, 0.0)
        for line in range(*axes.first_line_by_cart[cart : cart + 2]):
            mine = [
                name for at, name in enumerate(goods.categories) if goods.in_category[at, batch.sku_by_line[line]]
            ]
            line_worth = int(batch.standing_by_line[line]) * int(batch.quantity_by_line[line])
            worth, units = worth + line_worth, units + int(batch.quantity_by_line[line])
            for name in mine:
                inside[name] += line_worth / len(mine)

        def apart(centre, inside=inside, worth=worth, units=units):
            named = {name for one in types.types for each in one.centres for name in each.shares}
            far = sum((inside.get(name, 0.0) / max(worth, 1) - centre.shares.get(name, 0.0)) ** 2 for name in named)
            far += (UNITS_WEIGH * (np.log2(max(units, 1)) - np.log2(centre.units))) ** 2
            return far + (VALUE_WEIGHS * (np.log2(max(worth, 1)) - np.log2(centre.value))) ** 2

        nearest = [min(map(apart, one.centres)) for one in types.types]
        assert nearest[found[cart]] == pytest.approx(min(nearest), abs=1e-9)


@pytest.fixture
def at(demo_shop):
    return CountingRoom(demo_shop).current()


def test_the_types_are_the_same_on_every_run_and_in_any_order_of_rows(at):
    batch, kept = at.loaded.batch, kept_by_cart(at)
    found = find_types(batch, kept)
    assert FEWEST <= len(found.types) <= MOST
    assert len({one.name for one in found.types}) == len(found.types)
    order = np.random.default_rng(5).permutation(batch.axes.carts)
    again = find_types(batch.some(order), kept[order])
    assert again == found
    assert np.array_equal(again.sort(batch.some(order)).type_by_cart, found.sort(batch).type_by_cart[order])


def test_they_stand_for_the_orders_better_than_main_categories_do(at):
    seen = types_seen(at)
    assert seen.orders.sum() == at.loaded.batch.axes.carts
    by_category = at.forecaster.mix.types["category"]
    where = places(at.loaded.batch, seen.known.categories)
    assert seen.standing.explained > 2 * standing(by_category, where, kept_by_cart(at)).explained
    assert seen.standing.kept == pytest.approx(kept_by_cart(at).mean())


def test_one_is_made_two_and_the_others_stay(at):
    known = at.loaded.known
    found = split(known, 0, at.loaded.batch)
    assert len(found.types) == len(known.types) + 1
    assert found.types[2:] == known.types[1:]
    assert not list(found.problems())


def test_few_carts_tell_no_types(at):
    few = np.arange(FEWEST_CARTS - 1)
    assert find_types(at.loaded.batch.some(few), kept_by_cart(at)[few]) is None
