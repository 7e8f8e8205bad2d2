"""Records as columns, and goods made of them; kits are in test_kits."""

from dataclasses import replace
from datetime import date

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.goods.making_goods import make_goods, table_of
from yellow_abacus.core.goods.records import GoodRecord

records = st.builds(
    GoodRecord,
    st.sampled_from(["A", "B", "C", "D"]),
    product=st.sampled_from(["", "Fern", "Pot"]),
    list_price=st.one_of(st.none(), st.integers(0, 9000)),
    weight=st.one_of(st.none(), st.just(12.5)),
    stock=st.one_of(st.none(), st.integers(0, 9)),
)
many = st.lists(records, max_size=5)


@given(many)
def test_a_table_has_the_later_record_of_each_sku_in_order(told):
    table = table_of(told)
    by_sku = {one.sku: one for one in told}
    assert dict(table) == by_sku
    assert table.skus == sorted(by_sku)


@given(many, many, st.sets(st.sampled_from(["A", "B", "C", "D"])))
def test_a_changed_table_is_the_one_made_of_what_it_holds(told, changed, gone):
    found = table_of(told).with_records(changed, without=gone)
    names = {one.sku for one in changed}
    left = {one.sku: one for one in told if one.sku not in gone - names}
    assert dict(found) == left | {one.sku: one for one in changed}


def test_only_columns_that_say_something_new_are_made_again():
    table = table_of([GoodRecord("A", list_price=1), GoodRecord("B", list_price=2)])
    found = table.with_records([GoodRecord("B", list_price=3)])
    assert found.columns["weight"] is table.columns["weight"]
    assert (table.columns["list_price"], found.columns["list_price"]) == ([1, 2], [1, 3])
    assert table.differing(found) == {"B"}


def test_it_matters_to_the_sku_the_rest_of_its_product_and_kits_it_is_in():
    before = table_of(
        [
            GoodRecord("A", "Fern"),
            GoodRecord("B", "Fern"),
            GoodRecord("C", "Pot"),
            GoodRecord("KIT", kit=(("A", 1),)),
            GoodRecord("D"),
        ]
    )
    after = before.with_records([replace(before["A"], list_price=5)])
    assert [after.skus[at] for at in after.touched_by({"A"}, before)] == ["A", "B", "KIT"]


def test_what_is_not_known_stays_unknown_and_what_is_asked_is_the_going_price():
    goods = make_goods(
        [
            GoodRecord("A", list_price=900, going_price=850, purchase_cost=100.0, freight_cost=20.0, weight=0.0015),
            GoodRecord("B", reduced_price=300, reduced_to=date(2027, 3, 1), freight_cost=20.0),
        ]
    )
    assert goods.list_price.tolist() == [850, NO_PRICE]
    assert goods.unit_cost[0] == 120
    assert np.isnan(goods.unit_cost[1])
    assert goods.milligrams.tolist() == [2, 0]
    assert goods.on_day(date(2027, 3, 1)).reduced_price.tolist() == [NO_PRICE, 300]
    assert goods.on_day(date(2027, 3, 2)).reduced_price.tolist() == [NO_PRICE, NO_PRICE]
