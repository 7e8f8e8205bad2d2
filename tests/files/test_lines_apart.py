"""Orders told in two tables come to what the same orders come to with a row a line."""

import random
from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.files.lines_apart import orders_with_lines
from yellow_abacus.files.rows import in_columns
from yellow_abacus.files.tables import Table

SKUS = {"pot", "fern", "soil"}
LINE = st.tuples(st.sampled_from(["POT", "Fern", "SOIL", "unknown"]), st.integers(1, 99).map(str))
ORDERS = st.lists(st.lists(LINE, min_size=1, max_size=4), min_size=1, max_size=8)


def table(name: str, header: str, rows: list[list[str]]) -> Table:
    headings = header.split(",")
    return Table(headings, in_columns(enumerate(rows, start=2), len(headings)), "utf-8", "comma", name=name)


def joined(orders: Table, lines: Table) -> Table:
    both = orders_with_lines([lines, orders], SKUS)
    assert both is not None
    assert (both.orders, both.lines) == (1, 0)
    return both.table


def cells(told: Table) -> list[list[str]]:
    return [row.cells for row in told.rows]


@given(ORDERS, st.randoms(use_true_random=False))
def test_orders_and_their_lines_are_those_they_were(orders: list[list[tuple[str, str]]], dice: random.Random):
    """In any order; lines that another order's stand between, and numbers spelt otherwise."""
    heads = [[str(1001 + at), f"2027-03-{at + 1:02}"] for at in range(len(orders))]
    dice.shuffle(heads)
    lines = [[f"#{1001 + at}", sku, units] for at, some in enumerate(orders) for sku, units in some]
    dice.shuffle(lines)
    both = joined(table("o", "Order,Day", heads), table("l", "Order,SKU,Units", lines))
    expected = []
    for number, day in heads:
        mine = [line for line in lines if line[0] == f"#{number}"]
        expected += [[line[0], day if at == 0 else "", *line[1:]] for at, line in enumerate(mine)]
    assert cells(both) == expected
    assert {lines[row.number - 2][1] for row in both.rows} == {row.cells[2] for row in both.rows}


def test_orders_may_have_a_number_of_their_own_beside_that_of_their_lines():
    orders = table("o", "id,order_number,date", [["7", "A-1", "2027-03-01"], ["9", "A-2", "2027-03-02"]])
    lines = table(
        "l", "id,order_id,SKU,quantity", [["1", "9", "POT", "1"], ["2", "7", "FERN", "2"], ["3", "7", "POT", "1"]]
    )
    both = joined(orders, lines)
    assert [row[1] for row in cells(both)] == ["A-1", "A-1", "A-2"]
    assert both.header == ["id", "order_number", "date", "id", "SKU", "quantity"]
    assert both.of_orders == {0, 1, 2}


def test_lines_may_tell_their_order_on_the_first_of_them_alone():
    orders = table("o", "Order,Day", [["1", "2027-03-01"], ["2", "2027-03-02"]])
    lines = table("l", "Order,SKU,Units", [["2", "POT", "1"], ["", "FERN", "2"], ["1", "POT", "3"]])
    both = cells(joined(orders, lines))
    assert both == [["1", "2027-03-01", "POT", "3"], ["2", "2027-03-02", "POT", "1"], ["2", "", "FERN", "2"]]


def test_what_both_tell_numbers_orders_whatever_it_is_headed():
    orders = table("o", "Vorgang,Day", [["A-1", "2027-03-01"], ["A-2", "2027-03-02"]])
    lines = table("l", "Vorgang,SKU,Units", [["A-1", "POT", "1"], ["A-2", "FERN", "2"]])
    assert joined(orders, lines).header == ["Order number: Vorgang", "Day", "SKU", "Units"]


def test_lines_of_no_order_and_orders_without_lines_are_told():
    orders = table("Orders", "Order,Day", [["1", "2027-03-01"], ["2", "2027-03-02"], ["3", "2027-03-03"]])
    lines = table("Lines", "Order,SKU,Units", [["1", "POT", "1"], ["8", "FERN", "2"]])
    both = joined(orders, lines)
    assert cells(both) == [["1", "2027-03-01", "POT", "1"], ["8", "", "FERN", "2"]], "not those of the order above"
    assert both.says[1:] == (
        "2 orders have no line and are passed over.",
        "1 line is of no order of Orders.",
    )


@pytest.mark.parametrize(
    ("orders", "header"),
    [
        ([["1", "2025-01-01", "Ann"], ["2", "2025-02-01", "Ben"]], "id,created_at,name"),
        ([["1", "2025-01-01", "POT"], ["2", "2025-02-01", "FERN"]], "id,created_at,SKU"),
        ([["1", "2025-01-01", "x"], ["1", "2025-02-01", "y"]], "Order,Day,Note"),
        ([["11", "2025-01-01", "x"], ["12", "2025-02-01", "y"]], "Order,Day,Note"),
    ],
    ids=["shoppers", "goods", "no number is of one order", "others"],
)
def test_tables_of_anything_else_stay_apart(orders, header):
    whole = table("l", "Order,Date,SKU,Units", [["1", "2027-03-01", "POT", "1"], ["2", "2027-03-01", "FERN", "2"]])
    assert orders_with_lines([table("o", header, orders), whole], SKUS) is None


def test_of_several_tables_those_that_tell_most_of_orders_and_their_lines_are_taken():
    sent = table("shipments", "order_id,carrier", [["1", "Heron"], ["2", "Heron"]])
    packed = table("packed", "order_id,SKU,quantity", [["1", "POT", "1"], ["2", "FERN", "2"]])
    orders = table("orders", "id,date", [["1", "2027-03-01"], ["2", "2027-03-02"]])
    lines = table("lines", "order_id,SKU,quantity,price", [["1", "POT", "1", "9"], ["2", "FERN", "2", "9"]])
    for tables in permutations([sent, packed, orders, lines]):
        both = orders_with_lines(tables, SKUS)
        assert both is not None
        assert (tables[both.orders].name, tables[both.lines].name) == ("orders", "lines")
