"""Orders told above their goods come to what the same orders come to with a row a line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.files.rows import in_columns
from yellow_abacus.files.tables import Table, read_table
from yellow_abacus.files.told_above import in_words, told_above

SKUS = {"pot-1", "fern 5 l", "bulb: red"}
Line = tuple[str, int, str]
ORDERS = st.lists(
    st.lists(
        st.tuples(
            st.sampled_from(["POT-1", "Fern 5 l", "Bulb: red", "unknown"]), st.integers(1, 99), st.just("3.50")
        ),
        min_size=1,
        max_size=4,
    ),
    min_size=2,
    max_size=6,
)


@pytest.mark.parametrize(
    ("cells", "told"),
    [
        (["Rechnung Nr. 1001 vom 01.03.2026 14:05"], {"number": "1001", "date": "01.03.2026 14:05"}),
        (["Order #A-7 (2026-03-01)"], {"number": "A-7", "date": "2026-03-01"}),
        (
            ["Facture n° 7 du 01/03/2026", "Client : Durand"],
            {"number": "7", "date": "01/03/2026", "shopper": "Durand"},
        ),
        (
            ["Order: 7 Date: 1 March 2026 Customer: Ann Lee"],
            {"number": "7", "date": "1 March 2026", "shopper": "Ann Lee"},
        ),
        (["Order no", "", "7", "Order date", "2026-03-01"], {"number": "7", "date": "2026-03-01"}),
        (["注文番号: 7", "注文日: 2026年3月1日"], {"number": "7", "date": "2026年3月1日"}),
        (["Tilaus 7 / 1.3.2026 / käteinen"], {"number": "7", "date": "1.3.2026"}),
        (["Page: https://hollow.example/orders"], {}),
        (["Orders of March 2026"], {}),
        (["Order", "Date", "Customer"], {}),
        (["Fern mix 5 l", "2", "7.90"], {}),
        (["46082", "3"], {}),
    ],
)
def test_what_words_tell_of_an_order(cells, told):
    found = in_words(cells)
    assert {key: found.get(key) for key in ("number", "date", "shopper") if key in found} == told


def plain(orders: list[list[Line]]) -> list[list[str]]:
    """Number, day, SKU, units, price; the first two on the first row of each order."""
    return [
        [*((str(number), f"2026-03-{number:02}") if at == 0 else ("", "")), sku, str(units), price]
        for number, lines in enumerate(orders, start=1)
        for at, (sku, units, price) in enumerate(lines)
    ]


def found(table: Table) -> list[list[str]]:
    return [[cell.strip() for cell in row.cells] for row in table.rows]


def table_of(rows: list[list[str]]) -> Table:
    numbered = enumerate(rows[1:], start=2)
    return Table(rows[0], in_columns(numbered, len(rows[0])), "utf-8", "comma")


@given(ORDERS, st.booleans(), st.sampled_from(["Order {} - {}", "Order no: {} Date: {}", "Order no|{}|Date|{}"]))
def test_orders_in_words_are_the_same_orders(orders, headed_each, words):
    heads, rows = ["SKU", "Qty", "Price"], []
    for number, lines in enumerate(orders, start=1):
        rows.append([*words.format(number, f"2026-03-{number:02}").split("|")])
        rows += [heads] if headed_each or number == 1 else []
        rows += [[sku, str(units), price] for sku, units, price in lines]
        rows.append(["Subtotal", "", "9.99"])
    assert found(told_above(table_of(rows), SKUS)) == plain(orders)


@given(ORDERS, st.sampled_from([[], [""]]))
def test_orders_of_a_table_with_goods_below_are_the_same_orders(orders, indent):
    rows = [["Order", "Date"]]
    for number, lines in enumerate(orders, start=1):
        rows += [[str(number), f"2026-03-{number:02}"], [*indent, "SKU", "Qty", "Price"]]
        rows += [[*indent, sku, str(units), price] for sku, units, price in lines]
    told = found(told_above(table_of(rows), SKUS))
    assert [[*row[:2], *row[2 + len(indent) :]] for row in told] == plain(orders)


@pytest.mark.parametrize(
    "text",
    [
        "Orders 2026\nSKU,Qty,Price\nPOT-1,2,12.00\n",  # a title above goods without an order
        "Order,SKU,Qty\n1,POT-1,2\n2,Order 7,1\n",
        "SKU,Price\nPOT-1,12.00\n",
        "Order,Date,Goods\n1,2026-03-01,2 x POT-1\n",
        "Order,Date\n1,2026-03-01\nSKU,Qty\n",  # an order without goods
    ],
)
def test_other_tables_stay_as_they_are(text):
    table = read_table(text.encode())
    assert told_above(table, SKUS) is table


def test_a_line_of_goods_that_nobody_knows_is_not_passed_over():
    text = "SKU,Qty,Price,Maker\nOrder: 1,,\nSeed: red,2,3.50,Total\nNote: none,,\nOrder: 2,,\nPOT-1,1,12.00\n"
    told = told_above(read_table(text.encode()), SKUS)
    assert found(told) == [["1", "Seed: red", "2", "3.50", "Total"], ["2", "POT-1", "1", "12.00", ""]]
    assert [row.number for row in told.rows] == [3, 6]
