"""Sums add up, are taken off, weighed, and told with other offers in view, whatever they are sums of."""

import numpy as np
import pytest
from hypothesis import given, settings

from tests.core.forecast.test_outlook import outlook_of
from tests.worlds import unless_too_much_is_put_in, worlds
from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.forecast.sums import AT, FIGURES, LEDGER, PLAIN, Sums

some = settings(max_examples=30)


def assert_same(one: Sums, other: Sums) -> None:
    for name in PLAIN:
        np.testing.assert_allclose(getattr(one, name), getattr(other, name), atol=1e-6)
    for way, mine in one.by_type.items():
        np.testing.assert_allclose(mine.total, other.by_type[way].total, atol=1e-6)
        np.testing.assert_allclose(mine.kept_if_reached, other.by_type[way].kept_if_reached, atol=1e-6)


def sums_of(world) -> tuple[Sums, Sums]:
    """Of the carts with the offers, and with none of them, as many in view."""
    outlook, offers = outlook_of(world), world.offers
    return outlook.sums(outlook.mix, offers), outlook.sums(outlook.mix, ()).with_offers([None] * len(offers))


def test_the_ledger_comes_first_and_each_figure_has_one_place():
    assert FIGURES[LEDGER] == tuple(row.key for row in ROWS)
    assert [AT[name] for name in FIGURES] == list(range(len(FIGURES)))


@some
@given(worlds())
@unless_too_much_is_put_in
def test_what_is_added_can_be_taken_off(world):
    found, bare = sums_of(world)
    assert_same(found + bare - bare, found)
    assert_same(found.times(2.0), found + found)
    assert_same(found - found, bare.times(0.0))


@some
@given(worlds())
@unless_too_much_is_put_in
def test_the_ledger_adds_up_to_what_is_kept(world):
    found, _ = sums_of(world)
    np.testing.assert_allclose(found.total[:, LEDGER].sum(axis=1), found.profit, atol=1e-6)
    np.testing.assert_allclose(found.reached[..., LEDGER].sum(axis=-1), found.kept_if_reached, atol=1e-6)
    assert found.total[:, AT["orders"]].sum() == pytest.approx(1)
    for one in found.by_type.values():
        if one.labels:
            np.testing.assert_allclose(one.total.sum(axis=1), found.total, atol=1e-6)
            np.testing.assert_allclose(one.kept_if_reached.sum(axis=-1), found.kept_if_reached, atol=1e-6)


@some
@given(worlds())
@unless_too_much_is_put_in
def test_groups_together_are_each_so_many_times(world):
    found, _ = sums_of(world)
    weights = np.arange(len(found.groups)) + 1.0
    whole = found.weighed(weights)
    np.testing.assert_allclose(whole.total, (found.total * weights[:, None]).sum(axis=0))
    np.testing.assert_allclose(whole.any_reached, found.any_reached @ weights)
    for way, one in found.by_type.items():
        np.testing.assert_allclose(whole.by_type[way].given, weights @ one.given)


@some
@given(worlds(most_offers=3))
@unless_too_much_is_put_in
def test_offers_in_another_order_or_beside_one_that_took_no_effect(world):
    found, _ = sums_of(world)
    many = len(world.offers)
    seen = found.with_offers([*reversed(range(many)), None])
    np.testing.assert_array_equal(seen.reached[:, :many], found.reached[:, ::-1])
    np.testing.assert_array_equal(seen.uses[:, :many, :many], found.uses[:, ::-1, ::-1])
    assert not seen.reached[:, many].any()
    assert not seen.uses[:, many].any()
    assert not seen.uses[..., many].any()
    np.testing.assert_array_equal(seen.from_stock.units[..., 1 : many + 1], found.from_stock.units[..., many:0:-1])
    assert_same(seen.with_offers(list(reversed(range(many)))), found)
