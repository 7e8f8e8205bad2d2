"""Which column is which where headings mislead: what cells can be, and what their amounts show."""

import pytest

from yellow_abacus.files import keyed_cells
from yellow_abacus.files.columns import match_columns
from yellow_abacus.files.fields import GOODS
from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.keyed_cells import lines_in_cells
from yellow_abacus.files.order_shapes import a_row_a_unit
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.tables import read_table

PRICES = {"a": 12.0, "b": 3.5}
LINES = "1,2026-03-01,A,2\n1,2026-03-01,B,1\n2,2026-03-02,B,4\n3,2026-03-03,B,1\n3,2026-03-03,A,1\n"


def guessed(text, by_hand=None):
    table = read_table(text.encode())
    return {key: table.header[at] for key, (at,) in guess_columns(table, by_hand or {}, PRICES).items()}


def beside(heading, cells, others="order,date,sku,qty"):
    """A file of five lines, of three orders, with more columns."""
    rows = zip(LINES.splitlines(), cells, strict=True)
    return guessed(f"{others},{heading}\n" + "\n".join(f"{row},{cell}" for row, cell in rows))


@pytest.mark.parametrize(
    "heading",
    [
        *("Postal code", "Billing first name", "Time zone", "Payment reference", "Shipping tax", "Customer IP"),
        *("Order key", "Total quantity", "Compare at price", "Coupon amount off tax", "Item count", "Item weight"),
        *("Nota cliente", "Nom du client", "Naam klant", "Customer discount", "Customer refund"),
        *("Customer payment fee", "Kunde Gesamt", "Cash on delivery fee", "Cod delivery charge"),
    ],
)
def test_a_heading_with_words_of_something_else_beside_a_known_one_is_not_taken(heading):
    assert beside(heading, ["x1", "x1", "x2", "x3", "x3"]).keys() == {"number", "date", "sku", "quantity"}


@pytest.mark.parametrize(
    ("heading", "cells", "field"),
    [
        ("Price of one", ["12.00", "3.50", "€ 3,50", "3.50", "12.00"], "unit_price"),
        ("Price of one", ["low", "low", "high", "low", "high"], None),
        ("Price of one", [""] * 5, "unit_price"),  # the next file may tell it
        ("Quantity of each", [""] * 5, None),
        ("Price", ["low", "low", "high", "low", "high"], "unit_price"),
        ("Used coupon", ["", "", "MOSS", "", ""], "code"),
        ("Used coupon", ["0.00", "0.00", "1.50", "0.00", "0.00"], None),
        ("Is new customer", ["yes", "yes", "no", "no", "no"], "first_order"),
        ("Is new customer", ["Ann", "Ann", "Bob", "Cid", "Cid"], "shopper"),
        ("Tipo cliente", ["B2B", "B2B", "B2C", "B2C", "B2C"], "group"),
        ("Type de client", ["pro", "pro", "privé", "privé", "privé"], "group"),
        ("Customer type", ["New customer"] * 3 + ["Existing customer"] * 2, "first_order"),
        ("Delivery time", ["10:00", "10:00", "11:00", "09:00", "09:00"], None),
        ("Order time", ["10:00", "10:00", "11:00", "09:00", "09:00"], "time"),
        ("Shipping paid by customer", ["4.90", "4.90", "4.90", "0.00", "0.00"], "delivery_paid"),
    ],
)
def test_a_heading_is_believed_where_cells_can_be_what_it_says(heading, cells, field):
    found = beside(heading, cells)
    assert (next((key for key, name in found.items() if name == heading), None)) == field


@pytest.mark.parametrize(
    ("headings", "cells", "status"),
    [
        ("Stage", ["done", "done", "done", "Cancelled", "Cancelled"], "Stage"),
        ("Stage", ["done", "done", "done", "packed", "packed"], None),
        ("Stage", ["done", "done", "refunded", "Cancelled", "Cancelled"], None),  # it tells what came back
        ("Stage,Step", ["done,a", "done,a", "done,a", "void,a", "void,a"], "Stage"),
        ("Stage,Step", ["done,a", "done,a", "done,a", "void,void", "void,a"], None),
    ],
)
def test_statuses_that_leave_orders_out_are_told_by_their_cells(headings, cells, status):
    assert beside(headings, cells).get("status") == status


def test_skus_are_found_among_what_answers_and_by_themselves():
    rows = "1,2026-03-01,1001,{},2\n2,2026-03-02,1002,{},1\n"
    assert guessed("order,date,item no,article ref,qty\n" + rows.format("A", "B"))["sku"] == "article ref"
    assert guessed("order,date,item no,which one,qty\n" + rows.format("A", "B"))["sku"] == "which one"
    assert guessed("order,date,item no,which one,qty\n" + rows.format("C", "D"))["sku"] == "item no"
    chosen = guessed("order,date,item no,article ref,qty\n" + rows.format("A", "B"), {"sku": 2})
    assert chosen["sku"] == "item no"


@pytest.mark.parametrize(
    ("cells", "found"),
    [
        (["#1", "#1", "#2", "#3", "#3"], True),
        (["77-1", "77-1", "77-2", "77-3", "77-3"], True),
        (["77-1", "77-2", "77-3", "77-4", "77-5"], False),  # one a line: it may number anything
        (["77-1", "77-1", "77-2", "77-1", "77-1"], False),  # an order falls apart
        (["77-1", "77-1", "77-1", "77-3", "77-3"], False),  # and one has two days
        (["77-1", "77-1", "", "77-3", "77-3"], False),
        (["12.50", "12.50", "13.50", "14.50", "14.50"], False),
    ],
)
def test_orders_are_numbered_by_a_column_whose_cells_part_them(cells, found):
    rows = [row.split(",", 1)[1] for row in LINES.splitlines()]
    text = "date,sku,qty,called\n" + "\n".join(f"{row},{cell}" for row, cell in zip(rows, cells, strict=True))
    assert guessed(text).get("number") == ("called" if found else None)


@pytest.mark.parametrize(
    ("heading", "cells", "field"),
    [
        ("Item price", ["12.00", "3.50", "3.50", "3.50", "12.00"], "unit_price"),
        ("Line amount", ["24.00", "3.50", "14.00", "3.50", "12.00"], "line_total"),
        ("Line amount", ["11.00", "3.50", "3.50", "3.50", "12.00"], "line_total"),  # two lines do not tell
    ],
)
def test_what_an_amount_is_of_is_told_by_list_prices(heading, cells, field):
    assert beside(heading, cells)[field] == heading


def test_an_amount_for_all_units_under_the_heading_of_one():
    many = "".join(f"{at},2026-03-01,A,3,36.00,{at}\n" for at in range(1, 5))
    assert guessed("order,date,sku,qty,price,shelf\n" + many)["line_asked"] == "price"
    assert guessed("order,date,sku,qty,paid price,shelf\n" + many)["line_total"] == "paid price"
    one = many.replace("36.00", "12.00")
    assert guessed("order,date,sku,qty,amount,shelf\n" + one)["paid_price"] == "amount"


@pytest.mark.parametrize("factor", [0.84, 1.0, 25.0])  # without tax, as listed, in another currency
@pytest.mark.parametrize("power", [0, 1])
def test_an_amount_is_of_the_line_where_it_rises_with_the_units(factor, power):
    rows = [(sku, units) for sku in "AB" for units in (1, 1, 2, 3, 4)]
    told = "".join(
        f"{at},2026-03-01,{sku},{units},{PRICES[sku.lower()] * factor * units**power:.2f},{at}\n"
        for at, (sku, units) in enumerate(rows)
    )
    found = guessed("order,date,sku,qty,price,shelf\n" + told)
    assert found["line_asked" if power else "unit_price"] == "price"


def test_amounts_far_from_list_prices_tell_nothing():
    told = "".join(f"{at},2026-03-01,A,3,{each},{at}\n" for at, each in enumerate((90, 180, 270)))
    assert guessed("order,date,sku,qty,price,shelf\n" + told)["unit_price"] == "price"


@pytest.mark.parametrize(
    ("totals", "kept"),
    [
        (["24.00", "3.50", "14.00", "3.50", "12.00"], True),
        (["28.56", "4.17", "16.66", "4.17", "14.28"], True),  # with 19 % tax
        (["20.00", "3.00", "10.00", "3.50", "12.00"], True),
        (["25.68", "4.17", "16.66", "4.17", "12.84"], True),  # with 7 % or 19 %
        (["27.50", "27.50", "14.00", "15.50", "15.50"], False),  # of the order
    ],
)
def test_a_total_of_the_order_is_not_the_lines(totals, kept):
    prices = ["12.00", "3.50", "3.50", "3.50", "12.00"]
    cells = [f"{price},{total}" for price, total in zip(prices, totals, strict=True)]
    assert ("line_total" in beside("price,line total", cells)) == kept


@pytest.mark.parametrize(
    ("off", "is_the_orders"),
    [
        (["1.00", "", "2.00", "3.00", ""], True),
        (["1.00", "0.50", "2.00", "3.00", "1.00"], False),
        (["", "1.00", "2.00", "", "3.00"], False),  # on a later line alone
        (["10 %", "", "10 %", "10 %", ""], False),
        (["0.1", "", "0.1", "0.2", ""], False),
    ],
)
def test_a_discount_is_on_the_order_where_only_its_first_line_tells_it(off, is_the_orders):
    found = beside("discount", off)
    assert ("order_discount" in found, "line_discount" in found) == (is_the_orders, not is_the_orders)


@pytest.mark.parametrize(
    "cell",
    [
        "sku: A | name: Pot; large | qty: 2 || sku: B | name: Seeds | qty: 1",
        "SKU=A, Qty=2\nSKU=B, Qty=1",
        '[{"sku": "A", "qty": 2}, {"sku": "B", "qty": 1, "parts": [1]}]',
    ],
)
def test_lines_with_names_before_what_they_tell_become_rows(cell):
    quoted = cell.replace('"', '""')
    table = lines_in_cells(read_table(f'order,what\n1,"{quoted}"\n'.encode()))
    told = [[cell for cell in row.cells if cell in ("1", "2", "A", "B")] for row in table.rows]
    assert told == [["1", "A", "2"], ["1", "B", "1"]]


@pytest.mark.parametrize("cell", ["Pot: large", "[1, 2]", "[", "sku: A | name: Pot", "{}", "note: ring twice"])
def test_cells_that_tell_no_lines_stay(cell):
    table = read_table(f'order,what\n1,"{cell}"\n'.encode())
    assert lines_in_cells(table) is table


def test_a_discount_that_is_a_rate_of_its_line_is_the_lines_though_it_is_the_first_of_each():
    cells = ["12.00,2.40", "3.50,0", "3.50,0", "3.50,0", "12.00,1.20"]
    rows = [cells[0], cells[1], cells[2], cells[4], cells[3]]
    lines = [*LINES.splitlines()[:3], "3,2026-03-03,A,1", "3,2026-03-03,B,1", "4,2026-03-04,A,3", "4,2026-03-04,B,1"]
    rows += ["12.00,3.60", "3.50,0"]
    text = "\n".join(f"{line},{cell}" for line, cell in zip(lines, rows, strict=True))
    assert "line_discount" in guessed(f"order,date,sku,qty,price,discount\n{text}")
    on_orders = text.replace("2.40", "2.75").replace("1.20", "1.55").replace("3.60", "3.95")
    assert "order_discount" in guessed(f"order,date,sku,qty,price,discount\n{on_orders}")


def test_a_discount_alike_on_all_lines_is_the_orders_though_it_is_whole_percentages_of_some():
    """3 of 12 is 25 %, of 50 it is 6 %: of neither order is it a whole percentage."""
    lines = "".join(
        f"{number},2026-03-0{number},{sku},1,{price},3.00\n"
        for number in range(1, 5)
        for sku, price in (("A", "12.00"), ("B", "50.00"))
    )
    assert "order_discount" in guessed(f"order,date,sku,qty,price,discount\n{lines}")


def test_of_two_amounts_that_differ_in_tax_the_price_is_with_it_and_the_cost_without():
    found = match_columns(["SKU", "Preis netto", "Preis brutto", "EK brutto", "EK netto"], GOODS)
    assert (found["list_price"], found["purchase_cost"]) == ((2,), (4,))


@pytest.mark.parametrize(("more", "kept"), [("", True), ("6,2026-03-06,A,1,12.00,16.90\n", False)])
def test_a_total_is_the_lines_where_it_is_what_was_asked_in_nearly_all(more, kept):
    told = "".join(f"{at},2026-03-01,A,{at},12.00,{12 * at}.00\n" for at in range(1, 6))
    found = guessed("order,date,sku,qty,price,total\n" + told + more)
    assert ("line_total" in found) == kept


def without_prices(headings, cells):
    """A file of three orders of two lines each and three of one, without prices. cells: from the units and the list
    price of a line, what its order comes to, whether the line is its first, and which order it is."""
    rows = []
    for order in range(6):
        lines = [("A", order % 3 + 1), ("B", 2)][: 2 - order % 2]
        total = sum(units * PRICES[sku.lower()] for sku, units in lines)
        for at, (sku, units) in enumerate(lines):
            told = cells(units * PRICES[sku.lower()], total, not at, order)
            rows.append(f"{order},2026-03-0{order + 1},{sku},{units},{told}")
    found = guessed(f"order,date,sku,qty,{headings}\n" + "\n".join(rows))
    return {key: heading for key, heading in found.items() if key in ("line_total", "delivery_paid")}


@pytest.mark.parametrize("heading", ["Total", "Paid", "Amount paid", "Bezahlt", "Amount", "Line total"])
def test_without_prices_a_total_is_the_lines_where_list_prices_or_orders_of_several_show_it(heading):
    assert without_prices(heading, lambda line, *_: f"{line:.2f}") == {"line_total": heading}
    off = without_prices(heading, lambda line, total, first, order: f"{line - order % 2:.2f}")
    assert off == {"line_total": heading}
    assert without_prices(heading, lambda line, total, *_: f"{total + 4.9:.2f}") == {}
    assert without_prices(heading, lambda line, total, first, order: f"{total:.2f}" if first else "") == {}
    free = without_prices(heading, lambda line, total, first, order: f"{line:.2f}" if first else "0.00")
    assert free == {"line_total": heading}  # parts of a kit, as it may be


@pytest.mark.parametrize("heading", ["Total", "Paid", "Amount"])
def test_without_prices_a_total_that_holds_delivery_is_the_orders(heading):
    held = without_prices(f"Shipping,{heading}", lambda line, total, first, order: f"4.90,{line + 4.9:.2f}")
    assert held == {"delivery_paid": "Shipping"}
    beside_it = without_prices(
        f"Shipping,{heading}", lambda line, total, first, order: f"4.90,{line - order % 2:.2f}"
    )
    assert beside_it == {"delivery_paid": "Shipping", "line_total": heading}


def test_the_price_of_an_item_beside_another_price_is_no_product():
    found = beside("Item price,Price", ["12.00,24.00", "3.50,3.50", "3.50,14.00", "3.50,3.50", "12.00,12.00"])
    assert "product" not in found


def test_a_net_price_that_is_mostly_the_other_is_what_was_paid_and_no_price_without_tax():
    cells = ["12.00,10.80", "3.50,3.50", "3.50,3.50", "3.50,3.15", "12.00,12.00"]
    assert beside("Unit price,Net price", cells)["paid_price"] == "Net price"
    taxed = ["12.00,10.08", "3.50,2.94", "3.50,2.94", "3.50,2.94", "12.00,10.08"]
    assert "paid_price" not in beside("Unit price,Net price", taxed)


def test_of_two_totals_of_lines_the_one_that_is_less_in_some_was_paid():
    cells = ["24.00,20.00", "3.50,3.50", "14.00,14.00", "3.50,3.00", "12.00,12.00"]
    assert beside("Item subtotal,Total", cells)["line_total"] == "Total"


def test_a_column_of_items_that_counts_them_lists_none():
    assert "items" not in beside("Items", ["2", "2", "1", "2", "2"])
    assert beside("Items", ["2 x A; B", "2 x A; B", "4 x B", "A; B", "A; B"])["items"] == "Items"


@pytest.mark.parametrize(
    ("off", "kept"),
    [
        (["3.90", "3.90"], "order_discount"),  # more than the second line is worth
        (["2.75", "2.75"], "order_discount"),  # 10 % of the order
        (["2.10", "2.10"], "line_discount"),
    ],
)
def test_a_discount_alike_on_the_lines_of_one_order_is_its_where_it_can_be_none_of_theirs(off, kept):
    prices = ["12.00", "3.50", "3.50", "3.50", "12.00"]
    assert kept in beside(
        "price,discount", [f"{price},{one}" for price, one in zip(prices, [*off, "0", "0", "0"], strict=True)]
    )


@pytest.mark.parametrize("cells", [["yes"] * 5, ["2026-03-01"] * 5])
def test_whether_and_when_an_order_was_paid_is_no_amount(cells):
    assert "line_total" not in beside("Price,Paid", [f"12.00,{one}" for one in cells])


def test_what_was_paid_is_taken_before_a_total_that_was_asked():
    prices = (24, 3.5, 14, 3.5, 12)
    cells = [
        f"{each:.2f},{total:.2f},{total - at % 2:.2f}"
        for at, (each, total) in enumerate(zip((12, 3.5, 3.5, 3.5, 12), prices, strict=True))
    ]
    assert beside("Price,Total,Amount paid", cells)["line_total"] == "Amount paid"


@pytest.mark.parametrize(("lines", "rows"), [(120, 1), (1, 120)])
def test_more_lines_in_cells_than_any_file_may_have_are_refused(monkeypatch, lines, rows):
    monkeypatch.setattr(keyed_cells, "MOST_LINES", 100)
    row = '1,"' + ";".join(["sku: A, qty: 1"] * lines) + '"\n'
    with pytest.raises(UnreadableFileError, match="Split"):
        lines_in_cells(read_table(("order,what\n" + row * rows).encode()))


@pytest.mark.parametrize(
    ("heading", "cells", "is_told"),
    [
        ("Bunches", "21112", True),  # a heading nobody knows over what may be units
        ("Bunches", "11111", False),
        ("Till", "77777", False),
        ("Row", "12112", False),
        ("Menge", "11111", True),
        ("Units ordered (boxes)", ("1.5", "2", "1", "1", "1"), True),  # to be refused, not taken for one each
        ("Prijs per stuk", ("9.00", "4.00", "4.00", "4.00", "9.00"), False),
        ("Rabat procentowy", ("0", "10", "5", "10", "0"), False),
        ("Shelf", "ABBAB", False),
    ],
)
def test_each_row_is_a_unit_where_nothing_tells_how_many(heading, cells, is_told):
    rows = zip(("1,A", "1,B", "2,B", "3,B", "3,A"), cells, strict=True)
    table = read_table((f"order,sku,{heading}\n" + "\n".join(f"{row},{cell}" for row, cell in rows)).encode())
    assert (a_row_a_unit(table, PRICES) is table) == is_told


def test_a_row_with_more_cells_than_the_header_is_told_as_such_where_each_row_is_a_unit():
    table = a_row_a_unit(read_table(b"order,sku,price\n1,A,12\n1,B,3,50\n"), PRICES)
    assert table.header[-1].startswith("Quantity")
    assert table.rows.extra == {1: ["50"]}


def test_rows_without_a_sku_are_no_units():
    table = a_row_a_unit(read_table(b"order,sku,price\n1,,15.50\n1,A,12\n1,B,3.50\n"), PRICES)
    quantity = table.rows.columns[-1]
    assert [quantity.texts[code] for code in quantity.codes] == ["", "1", "1"]


@pytest.mark.parametrize(
    ("heading", "cells", "is_more"),
    [
        ("Loyalty discount", ["1", "0", "1", ".5", "1"], True),
        ("Discount incl. tax", ["2.4", "0", "1.2", "0", "0"], False),  # the same discount once more
        ("Discount %", ["5", "0", "7", "14", "10"], False),
        ("Shipping discount", ["1", "0", "1", ".5", "1"], False),
        ("Loyalty points", ["1", "0", "1", ".5", "1"], False),
    ],
)
def test_discounts_that_add_up_to_what_was_paid_are_taken_together(heading, cells, is_more):
    paid = ["21", "3.5", "12", "3", "11"]
    told = zip(LINES.splitlines(), ["2", "0", "1", "0", "0"], cells, paid, strict=True)
    rows = "\n".join(",".join((line, "12" if ",A," in line else "3.5", *rest)) for line, *rest in told)
    table = read_table(f"order,date,sku,qty,price,discount,{heading},line total\n{rows}\n".encode())
    assert guess_columns(table, {}, PRICES)["line_discount"] == ((5, 6) if is_more else (5,))


@pytest.mark.parametrize(
    ("prices", "is_off"),
    [
        (["12", "3.5", "3.5", "3.5", "12"], True),
        (["11", "3.4", "3.4", "3.5", "11"], False),  # it has come off them already
    ],
)
def test_a_discount_by_some_other_name_is_one_where_prices_are_those_of_goods(prices, is_off):
    told = zip(LINES.splitlines(), prices, ["1", ".1", ".1", "", "1"], strict=True)
    rows = "\n".join(",".join(one) for one in told)
    found = guessed(f"order,date,sku,qty,price,Loyalty discount\n{rows}\n")
    assert found.get("line_discount") == ("Loyalty discount" if is_off else None)
    assert "line_discount" not in guessed(f"order,date,sku,qty,price,Loyalty points\n{rows}\n")


APART = ["1,0", "0,.1", "0,.2", "0,.3", "2,0", "1.5,0", "0,0"]


@pytest.mark.parametrize(
    ("more", "cells", "total", "taken"),
    [
        ("Loyalty discount", APART, "", True),
        ("Treuerabatt", APART, "", True),
        ("Versandrabatt", APART, "", False),
        ("Discount %", APART, "", False),
        ("Loyalty points", APART, "", False),
        ("Staff discount", ["1,1", "0,0", ".2,.1", ".3,0", "2,1", "1.5,0", "1,1"], "", False),  # a part of the other
        ("Savings", ["1,1", "0,.1", "0,.2", ".3,.3", "2,2", "1.5,1.5", "0,.1"], "", False),  # of which that is a part
        ("Loyalty discount", APART, "with", True),
        ("Loyalty discount", APART, "without", False),
    ],
)
def test_a_discount_that_comes_where_the_other_does_not_comes_off_besides(more, cells, total, taken):
    rows = []
    for number, told in enumerate(cells, 1):
        one, other = map(float, told.split(","))
        sums = {"with": [f"{12 - one - other:.2f}"], "without": [f"{12 - one:.2f}"]}.get(total, [])
        rows.append(",".join([str(number), "2026-03-01", "A", "1", "12", *told.split(","), *sums]))
    heading = ",".join(["order,date,sku,qty,price,discount", more, *(["order total"] if total else [])])
    found = guess_columns(read_table("\n".join([heading, *rows]).encode()), {}, PRICES)
    off = {at for key in ("line_discount", "order_discount") for at in found.get(key, ())}
    assert off == ({5, 6} if taken else {5})


def test_what_was_paid_in_some_way_is_no_way_to_pay():
    rows = "\n".join(f"{line},{told}" for line, told in zip(LINES.splitlines(), ["25.00", "0.00"] * 3, strict=False))
    assert "payment" not in guessed(f"order,date,sku,qty,Paid by gift card\n{rows}\n")


@pytest.mark.parametrize(
    ("cells", "field"),
    [
        (["SUMMER10", "WELCOME", "", ""], "code"),
        (["1.50", "", "2.00", "0"], "line_discount"),
        (["10 %", "", "5 %", ""], "line_discount"),
        (["EUR 1,50", "EUR 2,00", "", "0"], "line_discount"),
        (["SUMMER10 (-1.50)", "", "WELCOME (-2.00)", ""], "line_discount"),  # and is refused, for it tells both
    ],
)
def test_a_column_of_discounts_may_tell_their_codes(cells, field):
    rows = "\n".join(f'{at},2026-03-0{at},A,1,12.00,"{told}"' for at, told in enumerate(cells, 1))
    assert guessed(f"order,date,sku,qty,price,Discount\n{rows}\n").get(field) == "Discount"
    beside = guessed(
        f"order,date,sku,qty,price,Discount,Discount code\n{rows.replace(chr(10), ',NEW' + chr(10))},NEW\n"
    )
    assert beside["code"] == "Discount code"


@pytest.mark.parametrize(
    ("headings", "prices", "taken"),
    [
        ("Discount 1 (%),Discount 2 (%)", ["12", "3.5", "3.5", "3.5", "12"], (5, 6)),
        ("Discount %,Discount 2 %", ["12", "3.5", "3.5", "3.5", "12"], (5, 6)),
        ("Discount %,Margin %", ["12", "3.5", "3.5", "3.5", "12"], (5,)),
        ("Discount %,Extra discount %", ["12", "3.5", "3.5", "3.5", "12"], (5,)),
        ("Discount 1 (%),Discount 2 (%)", ["10.8", "3", "3", "3", "10"], None),  # they have come off prices already
    ],
)
def test_rates_headed_alike_come_off_one_after_another(headings, prices, taken):
    told = zip(LINES.splitlines(), prices, ["10", "5", "5", "20", "0"], ["5", "0", "0", "10", "0"], strict=True)
    rows = "\n".join(",".join(one) for one in told)
    found = guess_columns(read_table(f"order,date,sku,qty,price,{headings}\n{rows}\n".encode()), {}, PRICES)
    assert found.get("line_discount") == taken


@pytest.mark.parametrize(
    ("cost", "tells"), [(["4.90", "4.90", "4.90", "6", "6"], False), (["4.20", "", "3", "6", ""], True)]
)
def test_what_shoppers_paid_told_twice_is_not_what_carriers_asked(cost, tells):
    rows = [f"{paid},{asked}" for paid, asked in zip(["4.90", "4.90", "4.90", "6", "6"], cost, strict=True)]
    found = beside("Shipping,Shipping costs", rows)
    assert found["delivery_paid"] == "Shipping"
    assert found.get("delivery_cost") == ("Shipping costs" if tells else None)
