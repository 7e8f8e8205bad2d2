"""What sells together, against plain loops over carts."""

from datetime import timedelta
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings

from tests.core.forecast.test_expected import FIRST, histories
from yellow_abacus.core.forecast import sold_together as together
from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan

WINDOW = (FIRST, FIRST + timedelta(9))


@settings(max_examples=40)
@given(histories())
def test_pairs_and_threes_are_counted_as_they_are(case):
    _, told = case
    forecaster = Forecaster(expect(told))
    if not told.batch.axes.carts:
        return
    held: list[tuple[set[int], float]] = []
    for _, orders, mix in forecaster.available(Plan(*WINDOW, ())):
        batch = mix.batch
        for cart in range(batch.axes.carts):
            lines = range(*batch.axes.first_line_by_cart[cart : cart + 2])
            held.append(({int(batch.product_by_line[line]) for line in lines}, orders * mix.share_by_cart[cart]))
    whole = sum(weight for _, weight in held)
    found = {one.products: one for one in together.sold_together(forecaster, WINDOW, 1_000, 1_000)}

    def orders_with(*some: int) -> float:
        return sum(weight for mine, weight in held if mine.issuperset(some))

    products = sorted(set().union(*(mine for mine, _ in held)))
    for pair in combinations(products, 2):
        orders, chance = orders_with(*pair), float(np.prod([orders_with(one) / whole for one in pair]))
        lift = orders / whole / chance if chance else 0.0
        least = max(together.LEAST_ORDERS, together.LEAST_SHARE * whole)
        if abs(orders - least) > 1e-6 and abs(lift - together.LEAST_LIFT) > 1e-6:
            assert (pair in found) == (orders > least and lift > together.LEAST_LIFT)
    for some, one in found.items():
        assert one.orders == pytest.approx(orders_with(*some))
        chance = float(np.prod([orders_with(each) / whole for each in some]))
        assert one.lift == pytest.approx(one.orders / whole / chance)
