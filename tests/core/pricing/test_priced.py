"""Results of some rows put together, taken apart, and chosen from, row by row."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.single_carts import assert_alike, likeliest
from tests.worlds import unless_too_much_is_put_in, worlds
from yellow_abacus.core.pricing.priced import Priced, chosen, effective, end_to_end, joined

some = settings(max_examples=40)


def halves(world) -> tuple[Priced, Priced]:
    """The carts without offers, and with them."""
    bare = likeliest(
        world.shop, world.batch, world.offers, available=np.zeros((len(world.offers), 1), dtype=np.bool_)
    )
    return bare[1], likeliest(world.shop, world.batch, world.offers)[1]


@some
@given(worlds(), st.data())
@unless_too_much_is_put_in
def test_rows_taken_apart_and_put_back_are_the_rows(world, data):
    _, priced = halves(world)
    axes, every = world.batch.axes, np.arange(world.batch.axes.carts)
    mine = np.array([data.draw(st.booleans()) for _ in every], dtype=np.bool_)
    parts = [(at, priced.some(at, axes)) for at in (every[mine], every[~mine]) if len(at)]
    assert_alike(joined(axes, len(every), parts[::-1]), priced)


@some
@given(worlds(), st.data())
@unless_too_much_is_put_in
def test_row_by_row_the_one_that_wins(world, data):
    bare, priced = halves(world)
    wins = np.array([data.draw(st.booleans()) for _ in range(world.batch.axes.carts)], dtype=np.bool_)
    found = chosen(world.batch.axes, wins, priced, bare)
    assert found.total.tolist() == np.where(wins, priced.total, bare.total).tolist()
    on_line = world.batch.axes.spread(wins)
    assert found.by_line.net.tolist() == np.where(on_line, priced.by_line.net, bare.by_line.net).tolist()


@some
@given(worlds(most_carts=4))
@unless_too_much_is_put_in
def test_neighbours_end_to_end_are_one(world):
    _, priced = halves(world)
    cut = world.batch.axes.carts // 2
    parts = [priced.some(np.arange(*ends), world.batch.axes) for ends in ((0, cut), (cut, world.batch.axes.carts))]
    assert_alike(end_to_end(parts), priced)
    assert end_to_end([priced]) is priced


@some
@given(worlds())
@unless_too_much_is_put_in
def test_what_is_put_in_is_taken_off_the_total_and_counts_as_effect(world):
    _, priced = halves(world)
    standing = np.zeros_like(priced.total)
    for gift, units, choice in zip(priced.gifts, priced.put_in, priced.choice_by_row, strict=True):
        standing += gift.standing[choice] * units
        assert (priced.took_effect[gift.offer] | (units == 0)).all()
    assert priced.less_put_in.tolist() == (priced.total - standing).tolist()
    assert (priced.saved >= 0).all()


def test_an_offer_took_effect_that_lowered_an_amount():
    off, charge = np.array([[0, 1, 0]]), np.array([[0, 0, 5]])
    assert effective(off, charge, (), np.zeros((0, 3), dtype=np.int64)).tolist() == [[False, True, True]]
