"""Conditions at their very edges, where generated carts come seldom."""

import pytest

from tests import slow
from tests.worlds import make_world, plain_shop
from yellow_abacus.core.clauses.conditions import Earned, Products, Spend, Units, Weight
from yellow_abacus.core.goods.scope import Scope


@pytest.fixture(scope="module")
def batch():
    """One cart: 2 large and 1 small pot of one product, 3 seeds at their reduced price; €10.20, 6 units, 630 g."""
    goods = {
        "POT-L": slow.SlowGood(300, None, None, {"pots"}, weight=200, product="Pot"),
        "POT-S": slow.SlowGood(240, None, None, {"pots"}, weight=200, product="Pot"),
        "SEED": slow.SlowGood(90, 60, None, {"seeds"}, weight=10, product="Seeds"),
    }
    shop = plain_shop(goods, far=(0,), home=(0,))
    units = [(sku, 0) for sku, many in (("POT-L", 2), ("POT-S", 1), ("SEED", 3)) for _ in range(many)]
    return make_world(shop, [slow.SlowCart(units, "home")], []).batch


def times(batch, *conditions, **how) -> int:
    return int(Earned(conditions, **how).times_by_cart(batch, batch.worth_by_line)[0])


@pytest.mark.parametrize(
    ("kind", "size"),
    [(Spend, 1020), (Units, 6), (Weight, 630), (Products, 2)],
    ids=lambda one: getattr(one, "__name__", ""),
)
def test_each_bound_at_its_edge(batch, kind, size):
    assert [times(batch, kind(n, "at_least")) for n in (size - 1, size, size + 1)] == [1, 1, 0]
    assert [times(batch, kind(n, "over")) for n in (size - 1, size, size + 1)] == [1, 0, 0]
    assert [times(batch, kind(n, "at_most")) for n in (size - 1, size, size + 1)] == [0, 1, 1]


def test_each_time_counts_whole_thresholds(batch):
    each = {"repeat": "each_time"}
    assert [times(batch, Units(n), **each) for n in (1, 2, 4, 7)] == [6, 3, 1, 0]
    assert [times(batch, Units(n, "over"), **each) for n in (3, 5, 6)] == [2, 1, 0]


def test_all_takes_the_least_and_any_the_greatest_and_at_most_has_nothing_to_count(batch):
    each = {"repeat": "each_time"}
    assert times(batch, Units(2), Spend(100), **each) == 3
    assert times(batch, Units(2), Spend(100), need="any", **each) == 10
    assert times(batch, Units(2), Spend(2000, "at_most"), **each) == 3
    assert times(batch, Units(2), Spend(1000, "at_most"), **each) == 0
    assert times(batch, Units(9), Spend(2000, "at_most"), need="any", **each) == 1
    assert times(batch, Units(9), Spend(1000, "at_most"), need="any", **each) == 0
    assert times(batch, Units(6, "at_most")) == 1
    assert times(batch) == 1


@pytest.mark.parametrize(
    ("scope", "units"),
    [
        (Scope(categories=("pots",)), 3),
        (Scope(skus=("SEED",)), 3),
        (Scope(categories=("pots",), skus=("SEED",)), 6),
        (Scope(categories=("pots",), except_skus=("POT-L",)), 1),
        (Scope(except_categories=("pots",)), 3),
        (Scope(reduced="out"), 3),
        (Scope(skus=("GONE",)), 0),
        (Scope(except_skus=("GONE",)), 6),
    ],
)
def test_scopes_unite_their_lists_and_outs_win(batch, scope, units):
    assert times(batch, Units(1, of=scope), repeat="each_time") == units
