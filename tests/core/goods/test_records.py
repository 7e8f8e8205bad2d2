from datetime import datetime

from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.goods.records import ManyOrders, OrderLineRecord, OrderRecord, in_columns

lines = st.builds(
    OrderLineRecord,
    st.sampled_from(["A", "B", "C"]),
    st.integers(1, 9),
    st.one_of(st.none(), st.integers(0, 900)),
    paid=st.one_of(st.none(), st.integers(0, 900)),
    returned=st.integers(0, 2),
)
orders = st.builds(
    OrderRecord,
    st.text("0123456789", min_size=1, max_size=4),
    st.datetimes(datetime(2026, 1, 1), datetime(2026, 12, 31)),
    st.lists(lines, max_size=3).map(tuple),
    zone=st.sampled_from(["", "Home"]),
    first_order=st.sampled_from([None, True, False]),
    tags=st.sampled_from([(), ("gift",)]),
    delivery_paid=st.one_of(st.none(), st.integers(0, 900)),
)


@given(st.lists(orders, max_size=5))
def test_orders_in_columns_are_the_records_they_were_made_of(records):
    many = in_columns(records)
    assert isinstance(many, ManyOrders)
    assert list(many) == records
    assert many[1:3] == records[1:3]
    assert len(many.lines.skus) == len({line.sku for record in records for line in record.lines})


def test_what_is_in_columns_already_stays_as_it_is():
    many = in_columns([OrderRecord("1", datetime(2026, 1, 1), (OrderLineRecord("A", 1, None),))])
    assert in_columns(many) is many
    assert many[-1].lines[0].unit_price is None
