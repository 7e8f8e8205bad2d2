"""Sheets of a file, and files brought in together: what becomes one table, and what is left and said."""

import pytest

from tests.files.workbooks import workbook
from yellow_abacus.files.fields import GOODS, ORDERS, SURCHARGES
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.several_tables import one_table
from yellow_abacus.files.tables import Table, read_tables

HEADER = ["Order", "Day", "SKU", "Units"]
MARCH = [HEADER, ["1", "2027-03-01", "POT", 1], [None, None, "FERN", 2], ["2", "2027-03-02", "POT", 3]]
APRIL = [HEADER, ["3", "2027-04-01", "POT", 1], ["4", "2027-04-02", "FERN", 5]]


def book(hidden: str = "", **sheets: list[list[object]]) -> list[Table]:
    return read_tables(workbook(hidden, **sheets), "book.xlsx")


def cells(table: Table) -> list[list[str]]:
    return [row.cells for row in table.rows]


def test_a_sheet_a_month_is_one_table_whose_rows_are_numbered_on():
    table = one_table([book(March=MARCH, April=APRIL)], ORDERS)
    assert [row[2:] for row in cells(table)] == [
        ["POT", "1"],
        ["FERN", "2"],
        ["POT", "3"],
        ["POT", "1"],
        ["FERN", "5"],
    ]
    assert [row.number for row in table.rows] == [2, 3, 4, 6, 7]
    assert table.says == ("April stands below March: its rows are numbered from 6.",)


def test_a_column_more_or_at_another_place_is_no_other_heading():
    wider = [["SKU", "Order", "Day", "Units", "Code"], ["POT", "3", "2027-04-01", 1, "SPRING"]]
    table = one_table([book(March=MARCH, April=wider)], ORDERS)
    assert table.header == [*HEADER, "Code"]
    assert cells(table)[-1] == ["3", "2027-04-01", "POT", "1", "SPRING"]
    assert cells(table)[0][-1] == ""


def test_orders_that_stand_on_two_sheets_just_the_same_count_once():
    table = one_table([book(March=MARCH, All=[*MARCH, *APRIL[1:]])], ORDERS)
    assert len(table.rows) == 5
    assert table.says[-1] == "2 orders of All are on March just the same and count once."


def test_lines_without_a_number_are_of_the_order_above_them():
    """Else the fern of order 1 would be that of order 2."""
    one = [HEADER, ["1", "2027-03-01", "POT", 1], [None, None, "FERN", 2], ["2", "2027-03-02", "POT", 3]]
    other = [HEADER, ["1", "2027-03-01", "POT", 1], ["2", "2027-03-02", "POT", 3], [None, None, "FERN", 2]]
    assert "told otherwise" in one_table([book(One=one, Other=other)], ORDERS).says[0]


def test_sheets_that_tell_the_same_orders_otherwise_are_not_added_and_that_is_said():
    again = [HEADER, ["1", "2027-03-01", "POT", 1], ["2", "2027-03-02", "POT", 9]]
    table = one_table([book(March=MARCH, Again=again)], ORDERS)
    assert len(table.rows) == 3
    assert table.says == ("Sheet not read, as orders of “March” are told otherwise there: “Again”.",)


@pytest.mark.parametrize("name", ["Cancelled", "Test orders", "Retouren", "Refunds"])
def test_what_is_called_cancelled_or_sent_back_is_no_more_orders(name):
    """Neither below others nor before them, unless its units say that they came back."""
    for sheets in ({name: APRIL, "March": MARCH}, {"March": MARCH, name: APRIL}):
        table = one_table([book(**sheets)], ORDERS)
        assert (table.name, len(table.rows)) == ("March", 3)
        assert table.says == (f"Sheet not read, by its name of orders that do not count or came back: “{name}”.",)
    assert len(one_table([book(March=MARCH, Returning=APRIL)], ORDERS).rows) == 5, "shoppers that came again"
    back = [HEADER, ["3", "2027-04-01", "POT", -1]]
    assert len(one_table([book(**{"March": MARCH, name: back})], ORDERS).rows) == 4


def test_units_sent_back_go_with_their_orders_and_are_no_lines_of_them():
    returns = [["Order", "SKU", "Units"], ["1", "FERN", 2], ["2", "POT", 1]]
    alike = [HEADER, ["1", "2027-03-09", "FERN", 2], ["2", "2027-03-09", "POT", 1]]
    for sheets in ({"March": MARCH, "Returns": returns}, {"Returns": alike, "March": MARCH}):
        assert [row[4] for row in cells(one_table([book(**sheets)], ORDERS))] == ["", "2", "1"]
    orders = [["Order", "Day"], ["1", "2027-03-01"], ["2", "2027-03-02"]]
    assert one_table([book(Returns=returns, Orders=orders)], ORDERS).header == ["Order", "Day"]


def test_orders_alone_that_by_their_name_are_none_say_that_they_count():
    (says,) = one_table([book(Returns=MARCH)], ORDERS).says
    assert says.startswith("By its name, Returns is of orders that do not count or came back. What it tells counts")
    assert one_table([book(Orders=MARCH)], ORDERS).says == ()
    assert one_table([book(Returns=[HEADER, ["1", "2027-03-09", "POT", -1]])], ORDERS).says == ()


def test_sums_below_and_units_sent_back_are_no_orders_told_otherwise():
    total = ["Total", None, None, 6]
    back = [HEADER, ["1", "2027-03-20", "POT", -1]]
    table = one_table([book(March=[*MARCH, total], April=[*APRIL, total], Back=back)], ORDERS)
    assert [row[0] for row in cells(table)] == ["1", "", "2", "Total", "3", "4", "Total", "1"]


def test_hidden_sheets_are_read_only_where_no_other_has_a_table():
    assert [one.name for one in book(hidden="March", March=MARCH, April=APRIL)] == ["April"]
    assert [one.name for one in book(hidden="March", March=MARCH, Title=[["Orders"]])] == ["March"]


def test_the_first_sheet_that_tells_all_that_is_needed_is_taken():
    summary = [["Month", "Orders", "Sales"], ["March", 2, 99.5], ["April", 2, 88.5]]
    table = one_table([book(Summary=summary, March=MARCH)], ORDERS)
    assert (table.name, table.says) == ("March", ("Sheet not read: “Summary”.",))


def test_where_shoppers_are_stands_beside_their_orders_and_nothing_else_of_theirs():
    orders = [
        ["Order", "Day", "Customer"],
        ["1", "2027-03-01", "C1"],
        ["2", "2027-03-02", "C2"],
        ["3", "2027-03-03", "C1"],
    ]
    lines = [["Order", "SKU", "Units"], ["1", "POT", 1], ["1", "FERN", 1], ["2", "POT", 3], ["3", "POT", 2]]
    shoppers = [["id", "Name", "Country", "Status", "Created"], ["C2", "Ume", "Islands", "cancelled", "2020-01-01"]]
    shoppers.append(["C1", "Oto", "Home", "active", "2020-01-01"])
    table = one_table([book(Shoppers=shoppers, Orders=orders, Lines=lines)], ORDERS)
    assert table.header == ["Order", "Day", "Customer", "SKU", "Units", "Country"]
    assert [row[-1] for row in cells(table)] == ["Home", "", "Islands", "Home"]
    assert table.of_orders == {0, 1, 2, 5}
    told = [*orders[0], "Country"], *([*row, "Far"] for row in orders[1:])
    assert "Country" not in one_table([book(Orders=list(told), Lines=lines, Shoppers=shoppers)], ORDERS).header[4:]


def test_goods_stand_below_each_other_too():
    goods = [["SKU", "Price"], ["POT", 12]]
    table = one_table([book(Pots=goods, Ferns=[["SKU", "Price"], ["FERN", 9]])], GOODS)
    assert cells(table) == [["POT", "12"], ["FERN", "9"]]


def test_what_sheets_tell_of_the_same_goods_stands_beside_them():
    stock = [["SKU", "Stock"], ["FERN", 3], ["POT", 7]]
    prices = [["SKU", "Price"], ["POT", 12], ["FERN", 9], ["SOIL", 7]]
    costs = [["SKU", "Price", "Cost"], ["POT", 11, 5], ["OLD", 1, 1], ["SOIL", 7, 2]]
    table = one_table([book(Stock=stock, Prices=prices, Costs=costs)], GOODS)
    assert table.header == ["SKU", "Price", "Stock", "Cost"]
    assert cells(table) == [["POT", "12", "7", "5"], ["FERN", "9", "3", ""], ["SOIL", "7", "", "2"]]
    assert table.says == (
        "What Stock tells goes with the goods of Prices, by SKU.",
        "What Costs tells goes with the goods of Prices, by SKU.",
        "1 SKU of Costs is not on Prices and is passed over.",
        "Left out, as Prices tells it: Price.",
    )


def test_options_stand_with_their_products_and_not_with_their_suppliers():
    products = [["id", "Title", "Category"], [1, "Clay pot", "Pots"], [2, "Fern", "Ferns"], [3, "Vase", "Pots"]]
    options = [
        ["SKU", "product_id", "supplier_id", "Price"],
        *([f"S{at}", at % 3 + 1, at % 2 + 1, 9] for at in range(6)),
    ]
    suppliers = [["id", "Name"], [1, "Oto"], [2, "Ume"]]
    table = one_table([book(Suppliers=suppliers, Products=products, Options=options)], GOODS)
    assert table.header == ["SKU", "product_id", "supplier_id", "Price", "Title", "Category"]
    assert [row[4] for row in cells(table)] == ["Clay pot", "Fern", "Vase"] * 2
    assert table.says[-1] == "Sheet not read: “Suppliers”."


def test_files_that_do_not_belong_together_are_refused():
    one = read_tables(b"Order,Day,SKU,Units\n1,2027-03-01,POT,1\n", "march.csv")
    other = read_tables(b"SKU,Price\nPOT,12\n", "goods.csv")
    with pytest.raises(UnreadableFileError, match=r"“goods\.csv” and “march\.csv” are not headed alike"):
        one_table([one, other], ORDERS)
    with pytest.raises(UnreadableFileError, match=r"do not tell of the same goods\. Bring them in one after another"):
        one_table([other, read_tables(b"Name,Town\nOto,Arne\n", "others.csv")], GOODS)
    with pytest.raises(UnreadableFileError, match="they are not headed alike"):
        one_table([one, other], SURCHARGES)
