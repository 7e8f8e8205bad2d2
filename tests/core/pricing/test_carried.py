"""What carriers ask with what is put in; that each row's costs are right is in test_pricing."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.worlds import worlds
from yellow_abacus.core.delivery.zones import Carriage
from yellow_abacus.core.pricing.carried import carriage_of, load_with
from yellow_abacus.core.pricing.rows import rows_of


@settings(max_examples=60)
@given(worlds(), st.data())
def test_what_was_put_in_before_does_not_matter(world, data):
    rows, delivery = rows_of(world.shop, world.batch, world.offers), world.shop.delivery
    units, size = st.integers(0, 2), len(rows.gifts) * len(rows)
    for _ in range(3):
        told = data.draw(st.lists(units, min_size=size, max_size=size))
        put_in = np.array(told, dtype=np.int64).reshape(len(rows.gifts), len(rows))
        at_once = delivery.carriage(load_with(rows, put_in), rows.option_by_row)
        assert _told(carriage_of(delivery, rows, put_in)) == _told(at_once)


def _told(found: Carriage) -> list[list[float]]:
    return [found.cost.tolist(), found.parcels.tolist(), found.tariff.tolist()]
