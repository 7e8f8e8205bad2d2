from datetime import date

import pytest

from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

GOODS = make_goods(
    [
        GoodRecord("A", "Fern", list_price=500, reduced_price=400, categories=("Plants",), stock=0, tax_class="Food"),
        GoodRecord("B", "Fern", list_price=500, reduced_price=600, weight=2.5, purchase_cost=1.0, tags=("green",)),
        GoodRecord("C", reduced_price=300, categories=("Plants", "Pots"), gift_only=True, brand="Moss"),
        GoodRecord("ß", list_price=100, never_discounted=True),
    ]
)


def test_a_unit_stands_at_the_lesser_of_its_prices():
    assert GOODS.standing_price.tolist() == [400, 500, 300, 100]
    assert make_goods([GoodRecord("X")]).standing_price.tolist() == [NO_PRICE]


def test_days_with_the_same_prices_are_the_same_goods():
    march, april = GOODS.on_day(date(2027, 3, 1)), GOODS.on_day(date(2027, 4, 1))
    assert march is april
    assert march.price_key == april.price_key
    limited = make_goods([GoodRecord("A", list_price=5, reduced_price=4, reduced_from=date(2027, 3, 2))])
    before, after = limited.on_day(date(2027, 3, 1)), limited.on_day(date(2027, 3, 2))
    assert (before.standing_price[0], after.standing_price[0]) == (5, 4)
    assert before.price_key != after.price_key


@pytest.mark.parametrize(("text", "sku"), [("A", "A"), ("a", "A"), ("SS", "ß"), ("E", None)])
def test_somebody_may_write_a_sku_in_another_case(text, sku):
    at = GOODS.meant_by(text)
    assert (None if at is None else GOODS.skus[at]) == sku


def test_what_is_not_known_counts_as_nothing_and_is_told():
    assert GOODS.column("weight").tolist() == [0, 2500, 0, 0]
    assert GOODS.unknown.tolist() == [True, False, True, True]
    assert GOODS.unpriced.tolist() == [False, False, False, False]
    assert GOODS.is_sold.tolist() == [True, True, False, True]
    assert GOODS.may_be_discounted.tolist() == [True, True, True, False]


def test_stock_that_is_not_counted_never_ends():
    assert [GOODS.in_stock(sku) for sku in ("A", "B", "NONE")] == [False, True, False]


@pytest.mark.parametrize(
    ("kind", "wanted", "held"),
    [
        ("categories", ["plants"], [0, 2]),
        ("products", ["FERN"], [0, 1]),
        ("brands", ["moss"], [2]),
        ("tags", ["Green"], [1]),
        ("skus", ["A", "a"], [0]),
        ("tags", ["blue"], []),
    ],
)
def test_goods_are_named_by_what_they_are_known_by(kind, wanted, held):
    assert GOODS.with_any(kind, wanted).nonzero()[0].tolist() == held


def test_all_names_of_a_kind():
    assert set(GOODS.known("skus")) == {"A", "B", "C", "ß"}
    assert set(GOODS.known("products")) == {"Fern"}
    assert set(GOODS.known("categories")) == {"Plants", "Pots"}
    assert (set(GOODS.known("brands")), set(GOODS.known("tags"))) == ({"Moss"}, {"green"})


def test_skus_of_one_product_share_its_number_and_others_have_their_own():
    number = GOODS.product_number.tolist()
    assert number[0] == number[1]
    assert len(set(number)) == 3


def test_categories_and_tax_classes_by_sku():
    first, category = GOODS.categories_by_sku
    told = [{GOODS.categories[one] for one in category[first[at] : first[at + 1]]} for at in range(4)]
    assert told == [{"Plants"}, set(), {"Plants", "Pots"}, set()]
    names, of_sku = GOODS.by_tax_class
    assert [names[one] for one in of_sku] == ["Food", "", "", ""]
