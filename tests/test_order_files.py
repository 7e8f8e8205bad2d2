"""Order files of every shape: each way of telling orders has a file of its own, and comes to the orders it tells."""

import shutil
from dataclasses import replace
from datetime import datetime
from pathlib import Path

import pytest

from tests.test_bring_in import bring
from yellow_abacus import bring_in
from yellow_abacus.core.goods.records import OrderLineRecord
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.store.finding_orders import find_orders
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.imports import all_imports
from yellow_abacus.store.loading import load
from yellow_abacus.store.settings import shop_row
from yellow_abacus.store.shop_file import ShopFile

FILES = Path(__file__).parent / "order_files"
GOODS = b"sku,name,price,cost\nA,Pot,12.00,4\nB,Seeds,3.50,0.81\n"
Line = OrderLineRecord


@pytest.fixture(scope="module")
def path(empty_path, tmp_path_factory):
    shop = ShopFile(Path(shutil.copy(empty_path, tmp_path_factory.mktemp("goods") / "shop.sqlite")))
    bring(shop, "goods", GOODS)
    with shop.changing("Tax") as session:
        shop_row(session).tax_classes = [{"name": "Standard", "rate_bp": 1900, "zones": []}]
    shop.close()
    return shop.path


@pytest.fixture
def shop(path, tmp_path):
    shop = ShopFile(Path(shutil.copy(path, tmp_path / "shop.sqlite")))
    yield shop
    shop.close()


IN = {
    "czech_cut_short": "CZK",
    "in_bulgarian": "BGN",
    "in_chinese": "CNY",
    "in_russian": "RUB",
    "units_given_back": "USD",
}
"""The currency that some files tell beside their amounts."""


def counting_in(shop, currency):
    with shop.changing("Another currency") as session:
        shop_row(session).currency = currency


def read(shop, name, **reading):
    if name in IN:
        counting_in(shop, IN[name])
    data = (FILES / f"{name}.csv").read_bytes()
    checked = bring_in.check(shop, "orders", data)
    if reading:
        told = replace(checked.reading, **reading)
        checked = bring_in.check(shop, "orders", data, columns=checked.columns, reading=told)
    return checked


PLAIN = {"1": (Line("A", 2, 1200, 2400), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1400),)}
UNPRICED = {"1": (Line("A", 2, None), Line("B", 1, None)), "2": (Line("B", 4, None),)}


@pytest.mark.parametrize(
    ("name", "orders"),
    [
        ("several_rows_an_order", PLAIN),
        ("lines_side_by_side", PLAIN),
        ("lines_numbered_in_their_midst", PLAIN),
        (
            "a_row_a_unit",
            {"1": (*[Line("A", 1, 1200, 1200)] * 2, Line("B", 1, 350, 350)), "2": (Line("B", 1, 350, 350),) * 2},
        ),
        ("goods_in_one_cell", UNPRICED),
        ("a_discount_on_the_line", {"1": (Line("A", 2, 1200, 2160),), "2": (Line("B", 4, 350, 1260),)}),
        *(
            (
                name,
                {
                    "1": (Line("A", 2, 1200, 2150), Line("B", 1, 350, 315)),
                    "2": (Line("B", 4, 350, 1300),),
                    "3": (Line("B", 2, 350, 650), Line("A", 1, plain, 1200)),
                    "4": (Line("A", 1, 1200, 1000),),
                },
            )
            for name, plain in (("discounts_of_several_kinds", None), ("discounts_beside_prices", 1200))
        ),
        (
            "discounts_of_kinds_apart",
            {
                "1": (Line("A", 2, 1200, 2160),),
                "2": (Line("B", 4, 350, 1260),),
                "3": (Line("A", 1, 1200, 1080),),
                "4": (Line("A", 1, 1200, 1000),),
                "5": (Line("B", 2, 350, 650),),
                "6": (Line("A", 1, 1200, 1100),),
            },
        ),
        # 2.75 of 27.50: 2.40 of 24.00, and 0.35 of 3.50
        (
            "a_discount_on_the_order",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)), "2": (Line("B", 4, 350, 1400),)},
        ),
        ("list_price_beside_what_was_paid", {"1": (Line("A", 2, 1200, 2160),), "2": (Line("B", 4, 350, 1400),)}),
        ("what_the_line_came_to", {"1": (Line("A", 2, None, 2160),), "2": (Line("B", 4, None, 1333),)}),
        # 10.08 without tax is 12.00 with 19 %; 19.16 for two after the discount is 22.80
        ("german_net_prices", {"1": (Line("A", 2, 1200, 2280),)}),
        # 24.00 less 10 % less 5 % of that; 12.00 less 20 %, 10 % and 5 %
        (
            "rates_one_after_another",
            {
                "1": (Line("A", 2, 1200, 2052),),
                "2": (Line("B", 4, 350, 1400),),
                "3": (Line("A", 1, 1200, 821),),
                "4": (Line("B", 2, 350, 630),),
            },
        ),
        # 10.00 without tax is 11.90; 2.38 with tax is 2.00 without, of 20.00
        (
            "discounts_on_the_other_side_of_tax",
            {
                "1": (Line("A", 2, 1190, 2142),),
                "2": (Line("A", 1, 1190, 1071),) * 2,
                "3": (Line("B", 4, 357, 1309),),
            },
        ),
        (
            "totals_of_orders_alone",
            {
                "1": (Line("A", 2, 1200, 2400), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1260),),
                "3": (Line("A", 1, 1200, 1084), Line("B", 1, 350, 316)),
                "4": (Line("A", 3, 1200, 3600),),
                "5": (Line("B", 2, 350, 700),),
                "6": (Line("A", 1, 1200, 1080),),
                "7": (Line("B", 3, 350, 1050),),
                "8": (Line("A", 2, 1200, 2400),),
            },
        ),
        ("statuses", {"1": (Line("A", 2, 1200, 2400),), "4": (Line("B", 1, 350, 350),)}),
        ("statuses_in_two_columns", {"1": (Line("A", 2, 1200, 2400),), "2": (Line("B", 4, 350, 1400),)}),
        (
            "lines_cancelled",
            {
                "1": (Line("A", 2, 1200, 2400),),
                "2": (Line("B", 4, 350, 1400),),
                "3": (Line("B", 1, 350, 350),),
                "4": (Line("B", 3, 350, 1050),),
            },
        ),
        (
            "sent_back_below",
            {"1": (Line("A", 2, 1200, 2400, returned=1), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1400),)},
        ),
        ("sent_back", {"1": (Line("A", 2, 1200, 2400, returned=1),), "2": (Line("B", 4, 350, 1400),)}),
        ("a_column_of_rates", {"1": (Line("A", 2, 920, 1840),), "2": (Line("B", 4, 350, 1400),)}),
        (
            "a_row_for_the_order",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1400),)},
        ),
        (
            "swedish_under_a_title",
            {"1": (Line("A", 2, 1200, 2280), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1400),)},
        ),
        ("portuguese_with_statuses", {"1": (Line("A", 2, 1200, 2280),), "2": (Line("B", 4, 350, 1400),)}),
        ("french_with_tabs", {"1": (Line("A", 2, 1200, 2280),), "2": (Line("B", 4, 350, 1400),)}),
        ("goods_by_their_names", PLAIN),
        ("lists_in_cells", PLAIN),
        ("units_in_brackets", UNPRICED),
        ("sums_below", PLAIN),
        ("days_counted", PLAIN),
        ("czech_cut_short", PLAIN),
        # of order 3 nothing is left, and of 4 its second line; 2 tells what four units came to, 1 what three did
        (
            "units_cancelled",
            {
                "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1400),),
                "4": (Line("B", 2, 350, 700),),
            },
        ),
        *(
            (name, {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350))})
            for name in ("croatian", "czech_statuses", "slovak")
        ),
        *(
            (f"in_{language}", PLAIN)
            for language in (
                *("bulgarian", "chinese", "estonian", "greek", "hungarian", "japanese", "korean"),
                *("latvian", "lithuanian", "russian"),
            )
        ),
        # 2.75 of 27.50, as in a column
        (
            "delivery_and_discount_in_rows",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)), "2": (Line("B", 4, None, 1400),)},
        ),
        (
            "credit_notes",
            {
                "1": (Line("A", 2, 1200, 2400, returned=1), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1400, returned=3),),
            },
        ),
        (
            "told_by_its_cells",
            {"#1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)), "#2": (Line("B", 4, 350, 1400),)},
        ),
        ("named_in_cells", PLAIN),
        ("named_in_one_cell", PLAIN),
        ("json_in_cells", PLAIN),
        ("a_column_a_sku", UNPRICED),
        ("cancelled_apart", PLAIN),
        ("statuses_told_by_their_cells", PLAIN),
        ("headings_on_each_page", PLAIN),
        ("a_column_of_tests", PLAIN),
        # 12.00 of 24.00 is what was left once one of two came back
        (
            "sales_less_returns",
            {
                "#1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)),
                "#2": (Line("B", 4, 350, 1400),),
                "#3": (Line("A", 2, 1200, 2400, returned=1),),
                "#4": (Line("A", 1, 1200, 1200, returned=1),),
                "#5": (Line("B", 4, 350, 1400, returned=1),),
            },
        ),
        (
            "a_voucher_that_is_an_amount",
            {
                "1": (Line("A", 2, 1200, 2160),),
                "2": (Line("B", 4, None, 1400),),
                "3": (Line("A", 1, 1200, 0),),
                "4": (Line("A", 1, None, 1200),),
            },
        ),
        ("skus_in_brackets_behind_names", PLAIN),
        ("skus_before_names", PLAIN),
        ("swedish_receipts", {**PLAIN, "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350))}),
        (
            "units_given_back",
            {
                "#1": (Line("A", 2, 1200, 2160, returned=1), Line("B", 1, 350, 350)),
                "#2": (Line("B", 4, 350, 1400),),
            },
        ),
        ("orders_in_words_above", PLAIN),
        ("headings_below_each_order", PLAIN),
        ("orders_beside_their_names", PLAIN),
        ("goods_under_rows_of_orders", PLAIN),
        ("goods_under_headings_of_their_own", {**PLAIN, "2": (Line("B", 4, 350, 1330),)}),
        *(
            (name, {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, at_b)), "2": (Line("B", 4, 350, 1400),)})
            for name, at_b in (("totals_beside_their_orders", 350), ("vouchers_in_rows_by_name", 315))
        ),
        (
            "refunds_in_words",
            {
                "1": (Line("A", 2, 1200, 2400, returned=1), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1400, returned=3),),
            },
        ),
        # the unit price is without tax, as the net amount is: 19 % more
        (
            "net_and_gross_amounts",
            {"1": (Line("A", 2, 1428, 2570), Line("B", 1, 417, 417)), "2": (Line("B", 4, 417, 1666),)},
        ),
        (
            "off_each_unit",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1260),)},
        ),
        (
            "headings_in_two_rows",
            {"101": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)), "102": (Line("B", 4, 350, 1260),)},
        ),
        ("cents_and_days_in_parts", PLAIN),
        # what was asked is in Goods: 2.75 of 27.50
        *(
            (name, {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)), "2": (Line("B", 4, None),)})
            for name in ("a_discount_beside_goods_in_one_cell", "a_discount_beside_lists")
        ),
        (
            "a_price_for_all_units",
            {
                "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1400),),
                "3": (Line("B", 2, 350, 700), Line("A", 3, 1200, 3600)),
            },
        ),
        (
            "sums_of_the_order_on_each_line",
            {
                "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)),
                "2": (Line("B", 4, 350, 1400),),
                "3": (Line("B", 2, 350, 553), Line("A", 1, 1200, 947)),  # 1.47 and 2.53 of 4.00
                "4": (Line("A", 2, 1200, 2095), Line("B", 1, 350, 305)),  # 3.05 and 0.45 of 3.50
            },
        ),
        # 21.60 is a tenth less than 24.00, 11.20 a fifth less than 14.00
        (
            "discounts_as_shares",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, None, 350)), "2": (Line("B", 4, 350, 1120),)},
        ),
        ("cost_beside_price", PLAIN),
        (
            "prices_before_and_after",
            {
                "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)),
                "2": (Line("B", 4, 350, 1260),),
                "3": (Line("A", 1, 1200, 1200),),
            },
        ),
        ("codes_with_amounts", {"1": (Line("A", 2, 1200, 2160),), "2": (Line("B", 4, 350, 1400),)}),
        (
            "sales_before_and_after",
            {"1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1400),)},
        ),
        (
            "a_discount_the_lines_have_had",
            {
                "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 315)),
                "2": (Line("B", 4, 350, 1260),),
                "3": (Line("A", 1, 1200, 1080),),
            },
        ),
        # net of the discount, and with tax: that is what Goods asks
        (
            "net_of_a_discount",
            {**PLAIN, "1": (Line("A", 2, 1200, 2160), Line("B", 1, 350, 350)), "3": (Line("A", 1, 1200, 1200),)},
        ),
        # without tax, as all prices are that Goods asks with 19 %
        (
            "without_tax_and_not_said",
            {"1": (Line("A", 2, 1200, 2399), Line("B", 1, 350, 350)), "2": (Line("B", 4, 350, 1399),)},
        ),
    ],
)
def test_each_shape_comes_to_the_orders_it_tells(shop, name, orders):
    checked = read(shop, name)
    assert checked.rejected == []
    assert {one.number: one.lines for one in checked.records} == orders
    assert bring_in.save(shop, checked).new == len(orders)
    again = read(shop, name)
    assert again.remembered
    assert {one.number: one.lines for one in again.records} == orders
    saved = bring_in.save(shop, again)
    assert (saved.new, saved.changed, saved.unchanged) == (0, 0, len(orders))


@pytest.mark.parametrize(
    ("heading", "cells"),
    [
        ("Order discount %", ["10", "10", "5", "0"]),
        ("Order discount rate", ["10", "10", "5", ""]),
        ("Order discount", ["10%", "", "5%", ""]),
        ("Order discount", ["0.1", "0.1", "0.05", "0"]),
        ("Order discount", ["10 %", "", "0.60", "0"]),
    ],
)
def test_a_discount_on_the_order_may_be_a_rate(shop, heading, cells):
    lines = ["1,2026-03-01,A,2,12.00", "1,2026-03-01,B,1,3.50", "2,2026-03-02,A,1,12.00", "3,2026-03-02,B,2,3.50"]
    rows = [f"{line},{cell}" for line, cell in zip(lines, cells, strict=True)]
    checked = bring_in.check(shop, "orders", "\n".join([f"Order,Date,SKU,Qty,Price,{heading}", *rows]).encode())
    assert checked.rejected == []
    assert [[line.paid for line in one.lines] for one in checked.records] == [[2160, 315], [1140], [700]]


RATES = [1080, 297, 650, 1200, 525]


@pytest.mark.parametrize(
    ("heading", "discounts", "paid"),
    [
        ("Discount", "10 percentage,15 Percent_product,0.50 fixed, ,25 percentage", RATES),
        ("Coupon value", "10 %,15 %,0.50 fixed_cart, ,25 %", RATES),
        ("Discount", "1.20 percentage,0.35 percentage,0.50 fixed, ,1.75 percentage", [1080, 315, 650, 1200, 525]),
        ("Discount amount", "10 percentage,1 percentage,0.50 fixed, ,2 percentage", [200, 250, 650, 1200, 500]),
    ],
)
def test_what_a_column_beside_them_calls_percentages_are_rates(shop, heading, discounts, paid):
    """Unless they can be what percentages came to, or their heading says that they are amounts."""
    lines = ("A,1,12.00", "B,1,3.50", "B,2,3.50", "A,1,12.00", "B,2,3.50")
    told = (f"{line},{off.replace(' ', ',')}" for line, off in zip(lines, discounts.split(","), strict=True))
    rows = [f"{at},2026-03-01,{one}" for at, one in enumerate(told)]
    file = "\n".join([f"Order,Date,SKU,Qty,Price,{heading},Type of discount", *rows])
    checked = bring_in.check(shop, "orders", file.encode())
    assert [one.lines[0].paid for one in checked.records] == paid
    says = "What is told in “{}” is a percentage where “Type of discount” says so."
    assert (says.format(heading) in checked.notes) == (paid is RATES)


def test_percentages_are_no_amounts(shop):
    file = b"Order,Date,SKU,Qty,Price,Refund %,Delivery price %,Line total %\n1,2026-03-01,A,1,12.00,100,5,3\n"
    (one,) = bring_in.check(shop, "orders", file).records
    assert (one.refunded, one.delivery_paid, one.lines[0].paid) == (0, None, 1200)


def test_where_they_may_be_either_that_is_said(shop):
    file = b"Order,Date,SKU,Qty,Price,Discount,Discount type\n1,2026-03-01,A,1,12.00,3,percentage\n"
    checked = bring_in.check(shop, "orders", file)
    assert checked.records[0].lines[0].paid == 900
    assert any("“Discount” is read as amounts, though “Discount type” calls" in note for note in checked.notes)


def test_a_rate_is_the_orders_where_it_only_ever_stands_on_the_first_of_its_lines(shop):
    """In many orders; a line's otherwise."""
    for many, paid in ((9, [1080, 350]), (10, [1080, 315])):
        rows = [f"{at},2026-03-01,A,1,12.00,10\n{at},2026-03-01,B,1,3.50," for at in range(many)]
        checked = bring_in.check(shop, "orders", "\n".join(["Order,Date,SKU,Qty,Price,Discount %", *rows]).encode())
        assert [line.paid for line in checked.records[0].lines] == paid


def test_a_rate_on_the_order_is_not_taken_off_again_where_its_lines_had_it(shop):
    lines = ["1,2026-03-01,A,2,12.00,21.60,10", "1,2026-03-01,B,3,3.50,9.45,10", "2,2026-03-02,A,1,12.00,11.40,5"]
    lines += ["3,2026-03-02,B,2,3.50,7.00,0", "4,2026-03-03,A,1,12.00,10.80,10"]
    header = "Order,Date,SKU,Qty,Price,Line total,Order discount %"
    checked = bring_in.check(shop, "orders", "\n".join([header, *lines]).encode())
    assert [[line.paid for line in one.lines] for one in checked.records] == [[2160, 945], [1140], [700], [1080]]


def test_an_order_whose_status_says_that_it_came_back_is_sent_back_whole(shop):
    checked = read(shop, "refunded_by_their_status")
    assert [[(line.quantity, line.returned) for line in one.lines] for one in checked.records] == [
        [(2, 2), (1, 1)],
        [(4, 0)],
        [(1, 0)],
        [(1, 0)],
    ]


def test_it_is_where_all_that_was_paid_for_goods_was_given_back_if_that_is_told(shop):
    header = b"Order,Date,Status,SKU,Qty,Price,Delivery,Refund amount\n"
    rows = b"1,2026-03-01,Refunded,A,2,12.00,4.90,27.50\n1,2026-03-01,Refunded,B,1,3.50,,\n"
    rows += b"2,2026-03-02,Refunded,B,4,3.50,4.90,7.00\n3,2026-03-03,Paid,A,1,12.00,4.90,12.00\n"
    checked = bring_in.check(shop, "orders", header + rows)
    assert [[line.returned for line in one.lines] for one in checked.records] == [[2, 1], [0], [0]]
    assert [one.refunded for one in checked.records] == [2750, 700, 1200]


def test_a_column_of_hours_tells_the_time(shop):
    checked = read(shop, "days_and_hours")
    assert [one.placed_at for one in checked.records] == [datetime(2026, 3, 1, 9), datetime(2026, 3, 2, 21)]


@pytest.mark.parametrize(
    ("name", "option", "says"),
    [
        ("Fern pot", "Large", None),
        ("Fern Pot – large", "", None),
        ("Fern pot", "", "2 SKUs by the name"),
        ("Fern pod", "Large", "no product “Fern pod Large”. Did you mean “fern pot large”"),
    ],
)
def test_a_name_must_be_that_of_one_sku(empty_shop, name, option, says):
    bring(empty_shop, "goods", b"sku,product,option,price\nP-1,Fern pot,Small,9\nP-2,Fern pot,Large,12\n")
    told = f"order,date,product,option,qty\n1,2026-03-01,{name},{option},1\n".encode()
    checked = bring_in.check(empty_shop, "orders", told)
    if says is None:
        assert [one.lines for one in checked.records] == [(Line("P-2", 1, None),)]
    else:
        (one,) = checked.rejected
        assert (one.field, says in f"{one.message} {one.mend}") == ("Product", True)


TEN_NAMES = b"sku,product,price\n" + b"".join(
    b"P-%d,Pot %s,9\n" % (at, b"ABCDEFGHIJ"[at : at + 1]) for at in range(10)
)


@pytest.mark.parametrize(
    ("head", "cells", "lines"),
    [
        ("product,qty", lambda at: f"Pot {at},2", [("{}", 2)]),
        ("product", lambda at: f"pot-{at.lower()}", [("{}", 1)]),
        ("what", lambda at: f"2 x Pot {at}; Pot A", [("{}", 2), ("P-0", 1)]),
        ("product 1,qty 1,product 2,qty 2", lambda at: f"Pot {at},3,Pot A,1", [("{}", 3), ("P-0", 1)]),
    ],
)
def test_goods_are_found_by_names_alone_in_every_shape(empty_shop, head, cells, lines):
    bring(empty_shop, "goods", TEN_NAMES)
    rows = [f"{at},2026-03-01,{cells(name)}" for at, name in enumerate("ABCDEFGHIJ")]
    checked = bring_in.check(empty_shop, "orders", "\n".join([f"order,date,{head}", *rows]).encode())
    assert checked.notes == ["Goods are found by their names."]
    found = {one.number: [(line.sku, line.quantity) for line in one.lines] for one in checked.records}
    assert found == {str(at): [(sku.format(f"P-{at}"), units) for sku, units in lines] for at in range(10)}


def test_of_names_in_an_order_one_that_is_of_no_goods_is_refused(empty_shop):
    bring(empty_shop, "goods", TEN_NAMES)
    rows = [f"{at},2026-03-01,Pot {name},9" for at, name in enumerate("ABCDEFGHI")] + ["9,2026-03-01,Pod J,9"]
    checked = bring_in.check(empty_shop, "orders", "\n".join(["order,date,product,price", *rows]).encode())
    (one,) = checked.rejected
    assert (one.row, one.field, one.message) == (11, "Product", "Goods has no product “Pod J”.")
    assert not checked.missing_goods


def test_goods_that_are_not_known_are_no_sum(shop):
    told = b"order,date,sku,qty,maker\n1,2026-03-01,C,1,Total\n1,2026-03-01,A,1,Total\n"
    assert [one.field for one in bring_in.check(shop, "orders", told).rejected] == ["SKU", "Order number"]


def test_goods_that_are_not_known_are_no_delivery_though_they_went_so(shop):
    told = b"order,date,sku,qty,price,delivery option\n1,2026-03-01,A,1,12,Shipping\n1,2026-03-01,C,1,5,Shipping\n"
    rejected = bring_in.check(shop, "orders", told).rejected
    assert [one.field for one in rejected] == ["Order number", "SKU"]


def test_delivery_in_a_column_is_believed_before_rows_of_it(shop):
    told = (
        b"order,date,sku,qty,price,delivery paid\n1,2026-03-01,A,1,12,4.90\n1,2026-03-01,postage,1,3.90,4.90\n"
        b"2,2026-03-01,porto,1,3.90,4.90\n"
    )
    checked = bring_in.check(shop, "orders", told)
    assert [one.delivery_paid for one in checked.records] == [490]
    assert {(one.row, one.field) for one in checked.rejected} == {(4, "SKU")}


def test_an_order_that_says_throughout_that_it_came_back_stays_an_order(shop):
    told = b"order,date,customer,sku,qty,price,kind\n1,2026-03-01,S,A,2,12,sale\n2,2026-03-02,S,A,1,12,returned\n"
    checked = bring_in.check(shop, "orders", told)
    assert [one.lines for one in checked.records] == [(Line("A", 2, 1200, 2400),), (Line("A", 1, 1200, 1200),)]


def test_a_row_without_an_sku_that_adds_to_the_order_is_no_discount(shop):
    told = b"order,date,sku,name,qty,price\n1,2026-03-01,A,Pot,1,12\n1,2026-03-01,,Bulbs,1,3.50\n"
    rejected = bring_in.check(shop, "orders", told).rejected
    assert {(one.row, one.field) for one in rejected} == {(2, "Order number"), (3, "SKU")}


def test_units_sent_back_of_no_line_above_are_refused(shop):
    told = b"order,date,sku,qty,price\n1,2026-03-01,A,-1,12\n1,2026-03-01,A,2,12\n2,2026-03-02,B,-2,3.5\n"
    rejected = bring_in.check(shop, "orders", told).rejected
    assert {one.row for one in rejected if one.field == "Quantity"} == {2, 4}


def test_what_is_told_once_an_order_comes_along(shop):
    first, second = read(shop, "a_discount_on_the_order").records
    assert (first.delivery_paid, second.delivery_paid) == (490, 0)
    (german,) = read(shop, "german_net_prices").records
    assert (german.zone, german.status, german.delivery_paid) == ("Übersee", "bezahlt", 490)
    assert [one.refunded for one in read(shop, "sent_back").records] == [1200, 0]
    assert [one.delivery_paid for one in read(shop, "delivery_and_discount_in_rows").records] == [490, None]
    assert read(shop, "days_counted").records[0].placed_at.isoformat() == "2026-03-01T14:05:17"
    assert read(shop, "french_with_tabs").records[0].placed_at.isoformat() == "2026-03-01T10:05:00"


def test_what_a_heading_says_is_believed_where_the_cells_below_can_be_that(shop):
    checked = read(shop, "told_by_its_cells")
    told = {key: checked.table.header[at] for key, (at,) in checked.columns.items()}
    assert told == {
        "number": "Name",
        "date": "Created at",
        "sku": "Item ref",
        "quantity": "Quantity",
        "unit_price": "Item price",
        "order_discount": "Discount amount",
        "zone": "Shipping country",
        "shopper": "Customer email",
        "code": "Voucher",
        "delivery_paid": "Delivery charge",
        "product": "Product name",
    }
    first, second = checked.records
    assert (first.zone, first.code, first.delivery_paid, second.code, second.delivery_paid) == (
        "DE",
        "MOSS",
        490,
        "",
        0,
    )


def test_a_column_that_was_empty_in_the_first_file_is_read_in_the_next(shop):
    told = "order,date,sku,qty,price,codes used,receipt no\n{},2026-03-0{},A,2,12.00,{},\n"
    first = bring_in.check(shop, "orders", told.format(1, 1, "").encode())
    assert first.columns.keys() == {"number", "date", "sku", "quantity", "unit_price", "code"}
    bring_in.save(shop, first)
    second = bring_in.check(shop, "orders", told.format(2, 2, "MOSS").encode())
    assert second.remembered
    assert [one.code for one in second.records] == ["MOSS"]


@pytest.mark.parametrize("cell", ["B x 2 (A)", "A; B - Seeds", "A - 2", "A (x2)", "Pot - C"])
def test_a_cell_that_may_tell_something_else_is_not_taken_for_its_sku(shop, cell):
    checked = bring_in.check(shop, "orders", f"order,date,item,price\n1,2026-03-01,{cell},1\n".encode())
    assert checked.records == []


def test_headings_that_are_skus_by_chance_stay_as_they_are(shop):
    bring(shop, "goods", b"sku,price\nsku,1\nqty,2\nC,3\n")
    (order,) = bring_in.check(shop, "orders", b"order,date,sku,qty\n1,2026-03-01,C,2\n").records
    assert order.lines == (Line("C", 2, None),)


def test_delivery_told_in_parts_on_the_lines_is_added_up(shop):
    assert [one.delivery_paid for one in read(shop, "a_price_for_all_units").records] == [490, 490, 490]
    assert [one.delivery_paid for one in read(shop, "sums_of_the_order_on_each_line").records] == [490] * 4
    assert [one.delivery_paid for one in read(shop, "cents_and_days_in_parts").records] == [490, 490]


def test_delivery_told_on_one_line_of_an_order_is_the_orders(shop):
    assert [one.delivery_paid for one in read(shop, "delivery_on_one_line_of_an_order").records] == [490, 0, 590]


def test_what_came_off_delivery_is_taken_off_what_was_asked_for_it_once(shop):
    assert [one.delivery_paid for one in read(shop, "discounts_on_delivery").records] == [0, 490, 390]
    assert [one.delivery_paid for one in read(shop, "discounts_delivery_has_had").records] == [0, 490, 390]


@pytest.mark.parametrize(
    ("heading", "cells"), [("Shipping discount %", ["100", "50", "0"]), ("Delivery discount", ["100%", "50%", ""])]
)
def test_what_came_off_delivery_may_be_a_rate(shop, heading, cells):
    rows = [f"{at},2026-03-01,A,1,12.00,4.90,{cell}" for at, cell in enumerate(cells)]
    checked = bring_in.check(
        shop, "orders", "\n".join([f"Order,Date,SKU,Qty,Price,Shipping,{heading}", *rows]).encode()
    )
    assert [one.delivery_paid for one in checked.records] == [0, 245, 490]


def test_amounts_are_no_codes_and_no_way_to_pay(shop):
    checked = read(shop, "a_voucher_that_is_an_amount")
    assert {"code", "payment"}.isdisjoint(checked.columns)


def test_a_column_headed_payment_may_tell_statuses(shop):
    checked = read(shop, "statuses_under_payment")
    assert [one.number for one in checked.records] == ["1", "2", "4"]
    assert {(one.status, one.left_out) for one in checked.statuses} == {
        ("Paid", False),
        ("Pending", False),
        ("Cancelled", True),
    }


def test_currencies_are_told_by_their_signs_too(shop):
    told = "order,date,sku,qty,price,currency\n1,2026-03-01,A,2,12.00,€\n2,2026-03-01,A,2,12.00,£\n"
    checked = bring_in.check(shop, "orders", told.encode())
    assert [one.number for one in checked.records] == ["1"]
    assert checked.foreign == ("GBP",)
    assert [one.message for one in checked.rejected] == ["Order 2 is in GBP, and no rate is told."]


@pytest.mark.parametrize(
    ("heading", "one", "other", "foreign"),
    [
        ("price", "$12.00", "12.00 €", ("USD",)),
        ("price", "12,00 zł", "12,00", ("PLN",)),
        ("price (USD)", "12.00", "12.00 EUR", ("USD",)),
        ("price", "kr 12.00", "12.00", ("KR",)),
        ("price (EUR)", "12.00", "€ 12.00", ()),
    ],
)
def test_currencies_are_told_beside_amounts_and_in_their_headings_too(shop, heading, one, other, foreign):
    told = f"order;date;sku;qty;{heading}\n1;2026-03-01;A;2;{one}\n2;2026-03-01;A;2;{other}\n"
    checked = bring_in.check(shop, "orders", told.encode())
    assert checked.foreign == foreign
    assert [one.number for one in checked.records] == (["2"] if foreign else ["1", "2"])
    again = replace(checked.reading, rates=tuple((one, 0.5) for one in foreign))
    checked = bring_in.check(shop, "orders", told.encode(), columns=checked.columns, reading=again)
    assert [one.lines[0].unit_price for one in checked.records] == [600 if foreign else 1200, 1200]


def test_amounts_of_one_row_in_two_currencies_are_refused(shop):
    told = b"order,date,sku,qty,unit price (USD),line total (EUR)\n1,2026-03-01,A,2,12.00,22.08\n"
    checked = bring_in.check(shop, "orders", told)
    assert [one.message for one in checked.rejected] == ["The amounts of the row are in USD and EUR."]
    assert checked.foreign == ()


def test_how_many_orders_a_shopper_placed_is_not_who_it_was(shop):
    assert {one.shopper for one in read(shop, "a_column_of_tests").records} == {""}


def test_the_only_column_of_days_is_that_of_the_order_whatever_its_heading(shop):
    checked = read(shop, "days_told_by_their_cells")
    assert [(one.number, one.placed_at) for one in checked.records] == [
        ("Π-1001", datetime(2026, 3, 3, 14, 22)),
        ("Π-1002", datetime(2026, 3, 14, 9, 1)),
    ]
    two = "order,Eingang,Ausgang,sku,qty\n1,2026-03-01,2026-03-02,A,2\n2,2026-03-01,2026-03-02,A,2\n"
    assert "date" not in bring_in.check(shop, "orders", two.encode()).columns


def test_a_discount_without_a_price_comes_off_the_list_price_if_it_can(shop):
    told = "order,date,sku,qty,line discount\n1,2026-03-01,A,2,{}\n"
    for off, paid in (("2.40", 2160), ("10 %", 2160), ("24.01", None), ("", None), ("0", None)):
        (order,) = bring_in.check(shop, "orders", told.format(off).encode()).records
        assert (order.lines[0].unit_price, order.lines[0].paid) == ((None, None) if paid is None else (1200, paid))


def test_orders_are_left_out_by_their_status_and_the_rule_can_be_changed(shop):
    checked = read(shop, "statuses")
    assert [(one.status, one.orders, one.left_out) for one in checked.statuses] == [
        ("paid", 2, False),
        ("Cancelled", 1, True),
        ("test", 1, True),
    ]
    assert [(one.status, one.orders, one.left_out) for one in read(shop, "cancelled_apart").statuses] == [
        ("paid", 2, False),
        ("cancelled", 1, True),
        ("voided", 1, True),
    ]
    two = read(shop, "statuses_in_two_columns").statuses
    assert [(one.status, one.orders, one.left_out) for one in two] == [
        ("Paid", 2, False),
        ("Cancelled", 1, True),
        ("Voided", 1, True),
    ]
    bring_in.save(shop, checked)
    with shop.reading() as session:
        assert [one.left_out for one in all_imports(session)] == [2]
    otherwise = read(shop, "statuses", left_out=("PAID", "test"))
    assert [one.number for one in otherwise.records] == ["2"]
    assert [one.row for one in read(shop, "statuses", left_out=()).rejected] == [4]


def test_orders_in_other_currencies_need_a_rate_and_are_converted_by_it(shop):
    checked = read(shop, "other_currencies")
    assert checked.foreign == ("USD",)
    assert [(one.row, one.field) for one in checked.rejected] == [(2, "Currency")]
    assert "one USD is in EUR" in checked.rejected[0].mend
    told = read(shop, "other_currencies", rates=(("USD", 0.92),))
    assert [one.lines for one in told.records] == [(Line("A", 2, 920, 1840),), (Line("B", 4, 350, 1400),)]
    assert [one.currency for one in told.records] == ["USD", "EUR"]


def test_rates_are_told_either_way_round_and_can_be_said_to_be_the_other(shop):
    checked = read(shop, "rates_of_ours")
    assert checked.reading.rates_of == "ours"
    assert {one.number: one.lines for one in checked.records} == PLAIN | {"3": (Line("B", 1, 350, 350),)}
    (ten, *_), *_ = (one.lines for one in read(shop, "rates_of_ours", rates_of="theirs").records)
    assert ten.unit_price == 1728
    checked = read(shop, "rates_of_theirs")
    assert checked.reading.rates_of == "theirs"
    assert checked.records[0].lines == (Line("A", 2, 1224, 2448), Line("B", 1, 357, 357))


def test_amounts_finer_than_the_currency_are_rounded_and_counted(shop):
    assert read(shop, "what_the_line_came_to").rounded == 1


def test_prices_with_tax_become_prices_without_where_the_shop_has_those(shop):
    with shop.changing("Without tax") as session:
        shop_row(session).prices_with_tax = False
    assert read(shop, "french_with_tabs").records[0].lines == (Line("A", 2, 1008, 1916),)


@pytest.mark.parametrize(
    ("heading", "with_tax", "own_class", "paid"),
    [
        ("Shipping", True, None, 400),
        ("Shipping excl. tax", True, None, 456),  # goods of 17.00 come to 19.39
        ("Shipping excl. tax", True, "Low", 428),
        ("Shipping incl. tax", True, None, 400),
        ("Shipping incl. tax", False, None, 350),  # goods of 19.39 come to 22.18
    ],
)
def test_delivery_is_brought_to_the_shops_side_of_tax_where_its_heading_says(
    shop, heading, with_tax, own_class, paid
):
    with shop.changing("Tax") as session:
        row, low = shop_row(session), {"name": "Low", "rate_bp": 700, "zones": []}
        row.tax_classes, row.prices_with_tax, row.delivery_tax_class = [*row.tax_classes, low], with_tax, own_class
    bring(shop, "goods", b"sku,tax class\nB,Low\n")
    told = (
        f"order,date,sku,qty,paid for the line,{heading}\n1,2026-03-01,A,1,11.90,4.00\n1,2026-03-01,B,1,7.49,4.00\n"
    )
    (order,) = bring_in.check(shop, "orders", told.encode()).records
    assert order.delivery_paid == paid


@pytest.mark.parametrize(
    ("row", "field", "says"),
    [
        ("3,2026-03-01,A,1,12.00,13.00", "Discount on the line", "more than the line"),
        ("3,2026-03-01,A,1,12.00,120 %", "Discount on the line", "between 0 and 100"),
        ("3,2026-03-01,A,1,99999999999,", "Unit price", "larger than any price"),
        ("3,2026-03-01,A,1000000,19999999,", "Quantity", "worth more"),
    ],
)
def test_amounts_that_cannot_be_are_told(shop, row, field, says):
    data = (FILES / "a_discount_on_the_line.csv").read_bytes() + row.encode()
    rejected = bring_in.check(shop, "orders", data).rejected
    assert [one.field for one in rejected if says in one.message] == [field]


def test_a_later_file_takes_out_what_was_cancelled_since_and_leaves_what_it_does_not_tell(shop):
    def bring_orders(*rows):
        return bring_in.save(shop, bring_in.check(shop, "orders", "\n".join(rows).encode()))

    def codes():
        with shop.reading() as session:
            return {one.number: one.code for one in find_orders(session, "", 9).rows}

    bring_orders("order,date,sku,qty,code,status", "1,2026-03-01,A,2,LEAF,paid", "2,2026-03-01,B,1,LEAF,paid")
    again = bring_orders("order,date,sku,qty,status", "1,2026-03-01,A,2,paid", "2,2026-03-01,B,1,cancelled")
    assert (again, codes()) == (Saved(0, 1, 1), {"1": "LEAF"})
    cancelled = bring_in.check(shop, "orders", b"order,date,sku,qty,status\n1,2026-03-01,A,2,Cancelled\n")
    assert (cancelled.good, cancelled.rejected, cancelled.gone) == (0, [], {"1": "Cancelled"})
    assert (bring_in.save(shop, cancelled), codes()) == (Saved(0, 1, 0), {})
    assert bring_orders("order,date,sku,qty", "1,2026-03-01,A,1") == Saved(0, 0, 1)
    fewer = bring_orders("order,date,sku,qty,status", "1,2026-03-01,A,1,paid")
    assert (fewer, codes()) == (Saved(0, 1, 0), {"1": "LEAF"})
    assert bring_orders("order,date,sku,qty", "1,2026-03-01,B,1", "3,2026-03-02,B,1") == Saved(1, 1, 0)
    assert bring_orders("order,date,sku,qty", "3,2026-03-02,B,2") == Saved(0, 1, 0)
    assert bring_orders("order,date,sku,qty", "3,2026-03-02,B,1") == Saved(0, 1, 0, fewer=1)
    assert bring_orders("order,date,sku,qty", "1,2026-03-03,B,1", "3,2026-03-05,B,1") == Saved(0, 2, 0, redated=1)


def test_an_order_may_use_several_codes_told_in_one_cell_or_in_several_columns(shop):
    told = {name: read(shop, name).records for name in ("codes_with_amounts", "codes_in_two_columns")}
    assert [one.code for one in told["codes_with_amounts"]] == ["LEAF10, POST", ""]
    assert [one.code for one in told["codes_in_two_columns"]] == ["LEAF10, POST", "POST"]
    bring_in.save(shop, bring_in.check(shop, "orders", (FILES / "codes_in_two_columns.csv").read_bytes()))
    with shop.reading() as session:
        facts = load(session).batch.facts
        found = {code: find_orders(session, code, 9).found for code in ("leaf10", "Post", "10")}
    assert {code: len(carts) for code, carts in facts.code.carts_by_code.items()} == {"LEAF10": 1, "POST": 2}
    assert found == {"leaf10": 1, "Post": 2, "10": 0}


def test_a_type_of_customer_that_is_new_or_returning_tells_first_orders(shop):
    assert [one.first_order for one in read(shop, "codes_with_amounts").records] == [False, True]


@pytest.mark.parametrize(
    ("heading", "cells", "first"),
    [
        ("Returning customer", ("yes", "no", ""), [False, True, None]),
        ("Returning customer", ("Returning", "New", ""), [False, True, None]),
        ("Stammkunde", ("ja", "nein", "nein"), [False, True, True]),
        ("First order", ("yes", "no", ""), [True, False, None]),
    ],
)
def test_who_comes_again_has_no_first_order(shop, heading, cells, first):
    rows = [f"{number},2026-03-0{number},A,1,{cell}" for number, cell in enumerate(cells, 1)]
    data = "\n".join([f"Order,Date,SKU,Quantity,{heading}", *rows])
    assert [one.first_order for one in bring_in.check(shop, "orders", data.encode()).records] == first


def test_rows_that_are_no_goods_are_passed_over_as_their_names_say_or_as_it_is_chosen(shop):
    checked = read(shop, "rows_that_are_no_goods")
    assert [(one.name, one.rows, one.passed_over) for one in checked.no_goods] == [
        ("Tip", 1, True),
        ("Service fee", 1, True),
        ("Gift wrapping", 1, True),
        ("Card with a wish", 1, False),
    ]
    assert [(one.row, one.field) for one in checked.rejected if one.row in (8, 9)] == [(8, "SKU"), (9, "SKU")]
    assert {one.number: one.lines for one in checked.records} == {
        "1": (Line("A", 2, 1200, 2400),),
        "2": (Line("B", 4, 350, 1400),),
    }
    assert [(one.number, str(one.placed_at)[:10], one.delivery_paid) for one in checked.records] == [
        ("1", "2026-03-01", 490),
        ("2", "2026-03-02", 490),
    ]
    assert checked.missing_goods == []
    chosen = read(shop, "rows_that_are_no_goods", no_goods=(("CARD with a wish", True), ("tip", False)))
    assert [one.name for one in chosen.no_goods if not one.passed_over] == ["Tip"]
    assert {one.number: one.lines for one in chosen.records} == {
        "2": (Line("B", 4, 350, 1400),),
        "3": (Line("A", 1, 1200, 1200),),
    }


def test_rows_that_say_that_they_are_parts_of_a_kit_in_the_same_order_count_with_it(shop):
    checked = read(shop, "parts_of_kits")
    assert checked.says == ["2 rows are parts of kits in the same orders, and count with those."]
    assert checked.rejected == []
    assert {one.number: one.lines for one in checked.records} == {
        "1": (Line("A", 2, 1200, 2400), Line("B", 1, 350, 350)),
        "2": (Line("B", 4, 350, 1400),),
        "3": (Line("A", 1, 1200, 1200),),
        "4": (Line("A", 1, 1200, 1200),),
    }
    assert [one.delivery_paid for one in checked.records] == [490, 0, 490, 490]


APART = [
    # orders, lines, what was paid of each line
    (
        "Order,Day,Discount,Status\n1,2027-03-01,3.00,paid\n2,2027-03-02,0,paid\n3,2027-03-03,0,cancelled\n",
        "Order,SKU,Units,Price\n2,A,1,12.00\n1,A,1,12.00\n3,B,9,3.50\n1,B,1,3.50\n",
        {"1": (968, 282), "2": (1200,)},
    ),
    (
        "Rechnung,Datum,Rabatt gesamt\n1,2027-03-01,1.20\n2,2027-03-02,0.35\n3,2027-03-03,1.55\n",
        "Rechnung,Artikelnummer,Menge,Einzelpreis,Rabatt\n1,A,1,12.00,1.20\n2,B,1,3.50,0.35\n3,A,1,12.00,1.20\n3,B,1,3.50,0.35\n",
        {"1": (1080,), "2": (315,), "3": (1080, 315)},
    ),
    (
        "Order,Day,Discount\n1,2027-03-01,1.20\n2,2027-03-02,0.35\n3,2027-03-03,1.55\n",
        "Order,SKU,Units,Price,Sum\n1,A,1,12.00,10.80\n2,B,1,3.50,3.15\n3,A,1,12.00,10.80\n3,B,1,3.50,3.15\n",
        {"1": (1080,), "2": (315,), "3": (1080, 315)},
    ),
    (
        "Order,Day,Discount\n1,2027-03-01,2.20\n2,2027-03-02,0.35\n3,2027-03-03,2.20\n4,2027-03-04,2.20\n",
        "Order,SKU,Units,Price,Sum\n1,A,1,12.00,10.80\n2,B,1,3.50,3.15\n3,A,1,12.00,10.80\n4,A,1,12.00,10.80\n",
        {"1": (980,), "2": (315,), "3": (980,), "4": (980,)},
    ),
    (
        "id,date,units,total\n1,2027-03-01,3,15.50\n2,2027-03-02,1,12.00\n",
        "line,order_id,sku,quantity,total\n1,1,A,1,12.00\n2,1,B,2,3.50\n3,2,A,1,12.00\n",
        {"1": (1200, 350), "2": (1200,)},
    ),
]


@pytest.mark.parametrize(
    ("orders", "lines", "paid"),
    APART,
    ids=["on the order", "told twice", "and by totals", "and more", "units and totals"],
)
def test_orders_and_their_lines_may_stand_in_two_files(shop, orders, lines, paid):
    for files in ([orders, lines], [lines, orders]):
        (_, first), more = ("one.csv", files[0].encode()), [("other.csv", files[1].encode())]
        checked = bring_in.check(shop, "orders", first, file="one.csv", more=more)
        assert (checked.rejected, checked.file) == ([], "one.csv and other.csv")
        assert {one.number: tuple(line.paid for line in one.lines) for one in checked.records} == paid


def test_statuses_of_lines_beside_those_of_their_orders_leave_those_out(shop):
    orders = b"Order,Day,Status\n1,2027-03-01,paid\n2,2027-03-02,paid\n"
    lines = b"Order,SKU,Units,Status\n1,A,1,sent\n1,B,2,cancelled\n2,A,3,sent\n"
    checked = bring_in.check(shop, "orders", orders, more=[("lines.csv", lines)])
    assert {one.number: [line.sku for line in one.lines] for one in checked.records} == {"1": ["A"], "2": ["A"]}


def test_which_of_several_files_cannot_be_read_is_told(shop):
    with pytest.raises(UnreadableFileError, match=r"lines\.csv: The file is empty"):
        bring_in.check(shop, "orders", b"Order,Day\n1,2027-03-01\n", more=[("lines.csv", b"")])


FURTHER = {
    "payments.csv": b"order_id,method,amount,status\n1,card,12.15,failed\n1,wallet,12.15,paid\n2,invoice,12,paid\n",
    "shipments.csv": b"order_id,carrier,shipping method\n1,Heron,Express\n2,Heron,To the door\n",
    "discounts.csv": b"order_id,code,amount\n1,FERN,1.35\n1,MAY,2.00\n",
    "returns.csv": b"order_id,sku,quantity,refund amount,status\n1,B,1,2.75,received\n2,A,1,12,rejected\n",
}


@pytest.mark.parametrize("backwards", [False, True])
def test_what_is_told_of_orders_in_further_files_goes_with_them(shop, backwards):
    files = {"orders.csv": b"id,Day\n1,2027-03-01\n2,2027-03-02\n"}
    files |= {"items.csv": b"order_id,SKU,Units,Price\n1,A,1,12.00\n1,B,1,3.50\n2,A,1,12.00\n"} | FURTHER
    (file, data), *more = reversed(files.items()) if backwards else files.items()
    checked = bring_in.check(shop, "orders", data, file=file, more=more)
    assert checked.rejected == []
    one, two = checked.records
    assert (one.payment, one.option, one.code, one.refunded) == ("wallet", "Express", "FERN, MAY", 275)
    assert (two.payment, two.option, two.code, two.refunded) == ("invoice", "To the door", "", 0)
    assert [(line.sku, line.paid, line.returned) for line in one.lines] == [("A", 941, 0), ("B", 274, 1)]
    assert [(line.sku, line.paid, line.returned) for line in two.lines] == [("A", 1200, 0)]
