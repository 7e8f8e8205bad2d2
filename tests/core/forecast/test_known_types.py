"""Carts by the type nearest to them, and how well types stand for carts; finding types is in test_cart_types."""

import numpy as np
import pytest

from tests.core.single_carts import carts_of
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.forecast.known_types import MOST_KNOWN, Centre, KnownType, KnownTypes, places, standing
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

GOODS = make_goods(
    [
        GoodRecord("BASKET", list_price=800, categories=("Pots", "Seeds")),
        GoodRecord("CARD", list_price=1000),
        GoodRecord("POT", list_price=4000, categories=("Pots",)),
        GoodRecord("SEED", list_price=300, categories=("Seeds",)),
    ]
)
SEEDS, POTS = Centre({"Seeds": 1.0}, units=4.0, value=1200.0), Centre({"Pots": 1.0}, units=1.0, value=4000.0)
KNOWN = KnownTypes((KnownType("Seeds", (SEEDS,)), KnownType("Pots", (POTS,))))
BATCH = carts_of(GOODS, [("SEED", 4)], [("POT", 1)], [("POT", 2), ("SEED", 1)], [("SEED", 30)], [])


def test_where_carts_stand():
    found = places(carts_of(GOODS, [("POT", 1), ("BASKET", 5)], [("CARD", 1), ("SEED", 1)]), ("Pots", "Seeds"))
    assert found[:, :2].tolist() == pytest.approx(np.array([[0.75, 0.25], [0, 300 / 1300]]))
    assert found[:, 2].tolist() == pytest.approx([0.2 * np.log2(6), 0.2])
    assert found[:, 3].tolist() == pytest.approx([0.5 * np.log2(8000), 0.5 * np.log2(1300)])


def test_a_cart_is_of_the_type_nearest_to_it_and_of_the_first_of_those_as_near():
    assert KNOWN.categories == ("Pots", "Seeds")
    assert KNOWN.sort(BATCH).type_by_cart.tolist()[:4] == [0, 1, 1, 0]
    twice = KnownTypes((KnownType("One", (POTS, SEEDS)), KnownType("Two", (SEEDS,))))
    assert twice.sort(BATCH).type_by_cart.tolist() == [0] * 5


@pytest.mark.parametrize(
    ("names", "path"),
    [
        (["Seeds", " "], ("types", 1, "name")),
        (["Seeds", "SEEDS "], ("types", 1, "name")),
        ([f"Type {at}" for at in range(MOST_KNOWN + 1)], ("types",)),
        (["Seeds", "Pots"], None),
    ],
)
def test_names_that_tell_nothing_apart(names, path):
    told = KnownTypes(tuple(KnownType(name, (SEEDS,)) for name in names))
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)


def test_types_of_carts_alike_explain_all_and_one_type_nothing():
    where = np.array([[0.0], [0.0], [9.0], [9.0]])
    kept = np.array([10.0, 10.0, 50.0, 50.0])
    good = standing(CartTypes(("A", "B"), np.array([0, 0, 1, 1])), where, kept)
    assert (good.explained, good.kept, good.kept_by_types) == pytest.approx((1, 30, 30))
    bad = standing(CartTypes(("A",), np.zeros(4, dtype=np.int64)), where, kept)
    assert bad.explained == pytest.approx(0)
    assert bad.kept_by_types in (10, 50)
    assert standing(CartTypes(("A",), np.zeros(4, dtype=np.int64)), where, np.full(4, 7.0)).explained == 1
