"""Rows pieced together: what they come to, against the same rows copied."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_outlook import outlook_of
from tests.worlds import World, unless_too_much_is_put_in, worlds
from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.pieced import Piece, Pieced, rows_of_all
from yellow_abacus.core.forecast.sums import PLAIN, Sums


def assert_same(found: Sums, expected: Sums) -> None:
    differs = found - expected
    arrays = [getattr(differs, name) for name in PLAIN] + [differs.from_stock.units]
    arrays += [array for one in differs.by_type.values() for array in (one.total, one.given, one.kept_if_reached)]
    for array in arrays:
        np.testing.assert_allclose(array, 0, atol=1e-5)


def priced(world: World) -> tuple[Mix, Costed]:
    """All carts under the world's offers."""
    outlook = outlook_of(world)
    mix = outlook.mix.branched(world.offers)
    return mix, outlook.costed(mix, world.offers, "best", np.arange(mix.batch.axes.carts))


def some_of(mix: Mix) -> st.SearchStrategy[np.ndarray]:
    carts = mix.batch.axes.carts
    return st.lists(st.booleans(), min_size=carts, max_size=carts).map(lambda some: np.array(some, dtype=np.bool_))


@settings(max_examples=60, deadline=None)
@given(worlds(most_carts=8), st.data())
@unless_too_much_is_put_in
def test_a_piece_of_a_piece_comes_to_what_its_rows_do(world, data):
    offers, (mix, rows) = world.offers, priced(world)
    first = tuple(data.draw(st.permutations([None, *range(len(offers))])))  # all that took effect are named
    second = tuple(data.draw(st.permutations([None, *range(len(first))])))
    here, there = (data.draw(some_of(mix)) for _ in range(2))
    piece = Piece(rows).on(here, first).on(there, second)
    both = np.flatnonzero((here & there)[rows.cart_by_row])
    source = tuple(None if at is None else first[at] for at in second)
    copied = rows.some(both, source)
    assert_same(piece.summed(mix), copied.summed(mix))
    for at in range(len(second)):
        carts = mix.batch.axes.carts
        np.testing.assert_allclose(piece.took_effect_by_cart(at, carts), copied.took_effect_by_cart(at, carts))
    every = np.ones(mix.batch.axes.carts, dtype=np.bool_)
    assert_same(piece.of_carts(every).summed(mix), piece.summed(mix))


@settings(max_examples=40, deadline=None)
@given(worlds(most_carts=8), st.data())
@unless_too_much_is_put_in
def test_a_set_put_together_comes_to_the_same(world, data):
    offers, (mix, rows) = world.offers, priced(world)
    as_they_are, here = tuple(range(len(offers))), data.draw(some_of(mix))
    known = Pieced(
        offers, (*Pieced(offers, (Piece(rows),)).on(here, as_they_are), Piece(rows).on(~here, as_they_are))
    )
    (piece,) = known.whole(len(here)).pieces
    assert_same(piece.summed(mix), rows.summed(mix))
    for at in as_they_are:
        found, told = (one.took_effect_by_cart(at, len(here)) for one in (known, rows))
        np.testing.assert_allclose(found, told)
    assert rows_of_all([known, known]) == [rows]
