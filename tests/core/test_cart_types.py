import numpy as np

from yellow_abacus.core.forecast.cart_types import MOST_TYPES, OTHERS, CartTypes, largest


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
