"""Units sent back, told in a table of their own, come to those lines they were of."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.files.test_facts_apart import table
from yellow_abacus.files.returns_apart import with_returns
from yellow_abacus.files.tables import Table

ORDERS = table(
    "orders",
    "Order,Day,SKU,Units",
    "A-1,2027-03-01,POT,1",
    "A-1,2027-03-01,FERN,2",
    "A-2,2027-03-02,POT,1",
    "A-2,2027-03-02,POT,1",
)


def sent_back(back: Table, orders: Table = ORDERS, heading: str = "Units sent back") -> list[str]:
    both = with_returns(orders, back)
    assert both is not None
    return [row.cells[both.header.index(heading)] for row in both.rows]


def test_they_are_found_by_order_and_goods():
    back = table("returns", "Return,Order,SKU,Units", "R1,#a-1,fern,2", "R2,A-1,POT,1", "R3,A-1,POT,0")
    assert sent_back(back) == ["1", "2", "", ""]


def test_a_row_is_a_unit_where_none_is_told_and_lines_of_the_same_goods_share_them():
    back = table("Retouren", "Bestellnummer,Artikelnummer,Grund", "A-2,POT,klein", "A-2,POT,alt", "A-1,FERN,alt")
    assert sent_back(back) == ["", "1", "1", "1"]


def test_fewer_than_none_are_as_many_and_rejected_ones_do_not_count():
    back = table("refunds", "Order,SKU,Units,Status", "A-1,FERN,-1,received", "A-1,POT,1,rejected")
    assert sent_back(back) == ["", "1", "", ""]


def test_a_column_may_say_what_the_table_is_and_money_given_back_is_the_orders():
    back = table("parcels in", "Order,SKU,Units returned,Refund amount", "A-1,FERN,1,12.50", "A-1,POT,1,7.25")
    assert sent_back(back) == ["1", "1", "", ""]
    assert sent_back(back, heading="Given back") == ["19.75", "", "", ""]


def test_goods_may_be_told_by_name_and_option():
    orders = table("orders", "Order,Day,Product,Option,Units", "1,2027-03-01,Pot,small,1", "1,2027-03-01,Pot,large,2")
    back = table("returns", "Order,Product,Option,Units", "1,pot,large,1")
    assert sent_back(back, orders) == ["", "1"]
    assert with_returns(orders, table("returns", "Order,Product,Units", "1,pot,1")) is None


def test_what_is_found_nowhere_is_said():
    many = [f"B-{at},POT,1" for at in range(20)]
    orders = table("orders", "Order,SKU,Units", *many, "A-1,FERN,1")
    both = with_returns(orders, table("returns", "Order,SKU,Units", *many, "A-1,SOIL,1", "Z-9,FERN,1"))
    assert both is not None
    assert both.says == (
        "What returns tells of units sent back goes with their lines, by Order and SKU.",
        "1 row of returns is of no order here.",
        "1 time it tells of goods that their order does not have.",
    )


@pytest.mark.parametrize(
    ("name", "lines"),
    [
        ("picked", ["Order,SKU,Units", "A-1,FERN,1"]),
        ("returns", ["Order,SKU,Units", "A-1,SOIL,1", "A-2,SOIL,1"]),
        ("returns", ["Order,SKU,Units", "A-1,FERN,some"]),
        ("returns", ["Order,Amount", "A-1,12.50"]),
        ("returning shoppers", ["Order,SKU,Units", "A-1,FERN,1"]),
    ],
)
def test_what_tells_of_no_units_of_these_goods_that_came_back_is_left(name: str, lines: list[str]):
    assert with_returns(ORDERS, table(name, *lines)) is None


def test_what_orders_tell_themselves_is_not_told_again():
    orders = table("orders", "Order,Day,SKU,Units,Units returned", "A-1,2027-03-01,POT,2,1")
    assert with_returns(orders, table("returns", "Order,SKU,Units", "A-1,POT,1")) is None


BACK = st.lists(st.tuples(st.sampled_from(["A-1", "A-2"]), st.sampled_from(["POT", "FERN"]), st.integers(0, 5)))


@given(BACK)
def test_as_many_came_back_as_are_told(told: list[tuple[str, str, int]]):
    """Of goods of an order; A-2 has no fern."""
    told = [one for one in told if one[:2] != ("A-2", "FERN")]
    expected = Counter[tuple[str, str]]()
    for order, sku, units in told:
        expected[order, sku] += units
    both = with_returns(
        ORDERS, table("returns", "Order,SKU,Units", *(",".join(map(str, one)) for one in told), "A-1,POT,1")
    )
    expected["A-1", "POT"] += 1
    assert both is not None
    found = Counter[tuple[str, str]]()
    for row in both.rows:
        found[row.cells[0], row.cells[2]] += int(row.cells[-1] or 0)
    assert +found == +expected
