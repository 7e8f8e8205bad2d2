"""What came off orders of which no column but their total tells it."""

from dataclasses import dataclass

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.order_totals import less_what_totals_lack, notes_of_totals
from yellow_abacus.files.tables import read_table

PRICES = {"a": 12.0, "b": 3.5, "c": 40.0}
DELIVERY = 4.9
HALVES = (("A", 2), ("B", 3)), (("C", 1),)


@dataclass
class Order:
    lines: tuple[tuple[str, int], ...]
    off: float = 0.0

    @property
    def goods(self):
        return sum(units * PRICES[sku.lower()] for sku, units in self.lines)


def orders(*off):
    return [Order(HALVES[at % 2], one) for at, one in enumerate(off)]


OFF = orders(0, 0, 3, 0, 0, 4, 0, 2.5, 0)


def table_of(orders, heading="Total", cells=lambda order: f"{order.goods - order.off:.2f}", price=True):
    """One row a line; the cells of the order on each of them. price: whether there is a column of prices."""
    rows = [
        ",".join(
            [f"{number},2026-03-{number % 28 + 1:02d},{sku},{units}"]
            + ([f"{PRICES[sku.lower()]:.2f}"] if price else [])
            + [cells(order)]
        )
        for number, order in enumerate(orders)
        for sku, units in order.lines
    ]
    head = ["order,date,sku,qty", *(["price"] if price else []), heading]
    return read_table("\n".join([",".join(head), *rows]).encode())


def off(table, by_hand=None):
    """What comes off each order, by number; None where the file is not taken to tell it."""
    columns = guess_columns(table, by_hand or {}, PRICES)
    if "order_total" not in columns:
        return None
    made, columns, many = less_what_totals_lack(table, columns, ".", PRICES, 2)
    if "order_discount" not in columns:
        return {}
    (number,), (discount,) = columns["number"], columns["order_discount"]
    told = [(row.cells[number], row.cells[discount]) for row in made.rows if row.cells[discount]]
    assert len(told) == len(dict(told)) == many
    return {int(number): float(text) for number, text in told}


EXPECTED = {2: 3, 5: 4, 7: 2.5}


@pytest.mark.parametrize("heading", ["Total", "Order total", "Grand total (EUR)", "Amount paid", "Gesamtbetrag"])
@pytest.mark.parametrize("price", [True, False])
def test_what_totals_lack_came_off_orders(heading, price):
    assert off(table_of(OFF, heading, price=price)) == EXPECTED


def test_totals_may_hold_delivery_and_tax():
    held = table_of(OFF, "shipping,total", lambda one: f"{DELIVERY},{one.goods - one.off + DELIVERY:.2f}")
    assert off(held) == EXPECTED
    beside = table_of(OFF, "shipping,total", lambda one: f"{DELIVERY},{one.goods - one.off:.2f}")
    assert off(beside) == EXPECTED

    def with_tax(one):
        paid = one.goods - one.off
        tax = round(paid * 0.2, 2)
        return f"{DELIVERY},{tax:.2f},{paid + tax + DELIVERY:.2f}"

    taxed = table_of(OFF, "shipping,tax,total", with_tax)
    assert off(taxed) == EXPECTED


def test_totals_may_hold_fees_that_columns_tell():
    fees = table_of(
        OFF,
        "shipping,tip,COD fee,total",
        lambda one: f"{DELIVERY},{one.off / 2},2,{one.goods - one.off / 2 + DELIVERY + 2:.2f}",
    )
    assert off(fees) == EXPECTED


def test_a_total_that_lacks_just_its_delivery_was_delivered_free():
    lacks = table_of(OFF, "shipping,total", lambda one: f"{DELIVERY},{one.goods + (0 if one.off else DELIVERY):.2f}")
    columns = guess_columns(lacks, {}, PRICES)
    made, columns, many = less_what_totals_lack(lacks, columns, ".", PRICES, 2)
    assert ("order_discount" in columns, many) == (False, len(EXPECTED))
    (at,) = columns["delivery_discount"]
    assert [row.cells[at] for row in made.rows if row.cells[at]] == ["4.90"] * len(EXPECTED)


def test_what_was_paid_by_a_gift_card_or_given_back_came_not_off_goods():
    card = table_of(OFF, "gift card,total", lambda one: f"{one.off},{one.goods - one.off:.2f}")
    assert off(card) is None
    back = table_of(OFF, "refunded,total", lambda one: f"{one.off},{one.goods - one.off:.2f}")
    assert off(back) is None
    some = [*OFF, *orders(0, 5, 0, 5)]
    both = table_of(some, "gift card,total", lambda one: f"{5 if one.off == 5 else 0},{one.goods - one.off:.2f}")
    assert off(both) == EXPECTED


@pytest.mark.parametrize(
    ("told", "cells"),
    [
        ("total", lambda one: f"{one.goods - one.off + (1.5 if one.off == 4 else 0) * 5:.2f}"),  # more in some
        ("total", lambda one: f"{one.goods * 0.9:.2f}"),  # less in all
        ("total", lambda one: f"{one.goods * 1.19:.2f}"),
        ("total", lambda one: f"{one.goods:.2f}"),
        ("total weight", lambda one: f"{one.goods - one.off:.2f}"),
        ("discount,total", lambda one: f"{one.off},{one.goods - one.off:.2f}"),
        ("total", lambda one: f"{(one.goods - one.off) * 100:.0f}"),
    ],
)
def test_totals_that_do_not_show_it_tell_nothing(told, cells):
    assert off(table_of(OFF, told, cells)) is None


def test_a_column_chosen_by_hand_tells_it_of_few_orders_too():
    few = table_of(orders(0, 0, 3), "what it came to", lambda one: f"{one.goods - one.off:.2f}")
    assert off(few) is None
    assert off(few, {"order_total": 5}) == {2: 3}
    taxed = table_of(orders(0, 0, 3), "what it came to", lambda one: f"{(one.goods - one.off) * 1.19:.2f}")
    assert off(taxed, {"order_total": 5}) == {}


LINE = st.tuples(st.sampled_from("ABC"), st.integers(1, 9))
LINES = st.lists(LINE, min_size=1, max_size=3, unique_by=lambda one: one[0])


@given(st.lists(st.tuples(LINES, st.integers(1, 90)), min_size=6, max_size=20), st.booleans(), st.booleans())
def test_all_that_orders_were_paid_is_found_again(told, delivery, price):
    every = [Order(tuple(lines), 0) for lines, _ in told]
    every += [Order(tuple(lines), round(Order(tuple(lines)).goods * share / 100, 2)) for lines, share in told[:6]]
    assume(not delivery or all(abs(one.off - DELIVERY) > 0.02 for one in every))  # which was delivered free
    charged = DELIVERY if delivery else 0
    heading = "shipping,total" if delivery else "total"

    def cells(one):
        return ("4.90," if delivery else "") + f"{one.goods - one.off + charged:.2f}"

    found = off(table_of(every, heading, cells, price))
    expected = {number: one.off for number, one in enumerate(every) if one.off}
    if found is None:  # one line an order: the total is the line's
        assert all(len(one.lines) == 1 for one in every)
        assert not delivery
    else:
        assert found == pytest.approx(expected, abs=0.011)


def test_how_many_orders_it_is_told_of_is_said():
    assert notes_of_totals(0) == []
    assert notes_of_totals(1) == [
        "1 order comes to less than goods and delivery: what the total lacks is a discount."
    ]
