"""Payments, deliveries, codes and discounts of orders, told in tables of their own."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.files.facts_apart import with_facts
from yellow_abacus.files.tables import Table, read_tables


def table(name: str, *lines: str, separator: str = ",") -> Table:
    (one,) = read_tables("\n".join(line.replace(",", separator) for line in lines).encode(), name)
    return one


ORDERS = table(
    "orders",
    "Id,Order,Day,SKU,Units",
    "71,A-1,2027-03-01,POT,1",
    "71,A-1,2027-03-01,FERN,2",
    "72,A-2,2027-03-02,POT,1",
)


def told(orders: Table, *others: Table) -> dict[str, list[str]]:
    """What the columns that are more than those of orders tell, row by row."""
    width = len(orders.header)
    for other in others:
        both = with_facts(orders, other)
        assert both is not None
        orders = both
    return {
        heading: [row.cells[at] for row in orders.rows] for at, heading in enumerate(orders.header) if at >= width
    }


def test_each_stands_on_the_first_row_of_its_order():
    paid = table("payments", "Order,Method,Amount,Status", "a-2,card,9.00,paid", "#A-1,wallet,20.00,paid")
    sent = table("shipments", "Order,Carrier,Shipping method", "A-1,Heron,Express", "A-2,Heron,To the door")
    assert told(ORDERS, paid, sent) == {
        "Payment method: Method": ["wallet", "", "card"],
        "Delivery option: Shipping method": ["Express", "", "To the door"],
    }


def test_the_payment_that_went_through_counts():
    paid = table(
        "payments",
        "Order,Payment method,Status",
        "A-1,card,declined",
        "A-1,invoice,paid",
        "A-2,card,paid",
        "A-2,wallet,void",
    )
    assert told(ORDERS, paid) == {"Payment method: Payment method": ["invoice", "", "card"]}


def test_two_codes_of_an_order_both_count_and_what_they_take_off_is_added_up():
    off = table("discounts", "Order,Code,Amount", "A-1,FERN,1.50", "A-1,MAY,-0.75", "A-1,FERN,1", "A-9,FERN,5")
    assert told(ORDERS, off) == {
        "Code used: Code": ["FERN, MAY", "", ""],
        "Discount on the order: Amount": ["3.25", "", ""],
    }


@pytest.mark.parametrize(
    ("lines", "column"),
    [
        (["Order,Discount", "A-1,10%", "A-2,5%", "A-1,2.5%"], ["12.5%", "", "5%"]),
        (["Order,Discount", "A-1,€10.00", "A-2,€5", "A-1,€2.50"], ["12.50", "", "€5"]),
        (["Order,Type,Discount amount", "A-1,percentage,1.25", "A-2,fixed,5"], ["1.25", "", "5"]),
    ],
)
def test_rates_stay_rates_and_amounts_may_have_a_currency(lines: list[str], column: list[str]):
    assert list(told(ORDERS, table("discounts", *lines)).values()) == [column]


@pytest.mark.parametrize(
    "lines",
    [
        ["Order,Code,Amount", "A-1,FERN,some", "A-2,MAY,1"],
        ["Order,Discount", "A-1,10%", "A-2,5.00"],
        ["Order,Type,Value", "A-1,percentage,10", "A-2,fixed,5"],
    ],
)
def test_what_may_be_amounts_or_not_is_not_guessed_at(lines: list[str]):
    assert with_facts(ORDERS, table("discounts", *lines)) is None


@given(st.lists(st.tuples(st.sampled_from(["A-1", "A-2"]), st.integers(0, 9_999_99)), min_size=1, max_size=12))
def test_amounts_are_added_up_to_the_cent_whichever_mark_they_have(amounts: list[tuple[str, int]]):
    rows = [f"{order};{cents // 100},{cents % 100:02}" for order, cents in amounts]
    (off,) = read_tables("\n".join(["Order;Discount", *rows]).encode(), "rebates")
    column = told(ORDERS, off)["Discount on the order: Discount"]
    for cell, order in zip(column, ["A-1", "", "A-2"], strict=True):
        expected = sum(cents for one, cents in amounts if one == order)
        assert Decimal(cell.replace(",", ".") or "0") * 100 == expected
        assert bool(cell) == any(one == order for one, _ in amounts)


def test_orders_may_be_known_there_by_another_number_of_theirs():
    both = with_facts(
        Table(ORDERS.header, ORDERS.rows, "utf-8", ",", of_orders=frozenset({0, 1, 2})),
        table("payments", "order_id,gateway", "71,card", "72,wallet"),
    )
    assert both is not None
    assert [row.cells[-1] for row in both.rows] == ["card", "", "wallet"]
    assert both.of_orders == {0, 1, 2, 5}
    assert both.says == ("What payments tells of orders goes with them, by order_id: gateway.",)


def test_of_money_given_back_only_how_much_counts():
    back = table("refunds", "Order,Amount,Payment", "A-2,4.00,card", "A-2,5.00,card")
    assert told(ORDERS, back) == {"Given back: Amount": ["", "", "9.00"]}


@pytest.mark.parametrize(
    ("name", "lines"),
    [
        ("payments of others", ["Order,Payment", "B-1,card", "B-2,card", "B-3,wallet"]),
        ("lines", ["Order,SKU,Payment", "A-1,POT,card", "A-2,POT,card"]),
        ("Cancelled orders", ["Order,Payment", "A-1,card", "A-2,card"]),
        ("Refunds", ["Order,Payment", "A-1,card", "A-2,card"]),
        ("notes", ["Order,Note", "A-1,late", "A-2,gift"]),
    ],
)
def test_what_is_of_other_orders_or_tells_nothing_of_them_is_left(name: str, lines: list[str]):
    assert with_facts(ORDERS, table(name, *lines)) is None


def test_what_orders_tell_themselves_is_not_told_again():
    orders = table("orders", "Order,Day,SKU,Units,Payment", "A-1,2027-03-01,POT,1,card", "A-2,2027-03-02,POT,1,")
    assert with_facts(orders, table("payments", "Order,Payment", "A-1,wallet", "A-2,wallet")) is None
