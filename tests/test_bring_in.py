"""Bringing files in: all or nothing, the same again changes nothing, and every bad row named with its mend."""

import csv
import io
from dataclasses import replace

import pytest
from sqlalchemy import func, select

from yellow_abacus import bring_in
from yellow_abacus.files import meant_skus
from yellow_abacus.files.columns import NoSuchColumnError
from yellow_abacus.files.rejected import faults, left_out_with_others, rejected_csv
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import GoodRow, OrderLineRow, OrderRow, ZoneRow
from yellow_abacus.store.settings import SettingsError, shop_row

GOODS = b"sku,name,price,cost\nA,Pot,12.00,4\nB,Seeds,3.50,0.81\n"
ORDERS = b"""order,date,sku,qty,zone,customer,first order,code
1,2026-03-01 10:00,A,2,Home,S1,yes,
,,B,1,,,,
2,2026-03-02 11:00,B,4,Far,S2,no,MOSS
"""


def bring(shop, kind, data, **how):
    return bring_in.save(shop, bring_in.check(shop, kind, data), **how)


def counts(shop):
    with shop.reading() as session:
        return [
            session.scalar(select(func.count()).select_from(table)) for table in (OrderRow, OrderLineRow, ZoneRow)
        ]


@pytest.fixture
def shop(empty_shop):
    bring(empty_shop, "goods", GOODS)
    return empty_shop


def test_orders_come_in_with_their_columns_on_the_first_row_or_on_all(shop):
    assert bring(shop, "orders", ORDERS).new == 2
    on_all = ORDERS.replace(b",,B,1,,,,", b"1,2026-03-01 10:00,B,1,Home,S1,yes,")
    saved = bring(shop, "orders", on_all)
    assert (saved.new, saved.changed, saved.unchanged) == (0, 0, 2)
    assert counts(shop) == [2, 3, 2]


@pytest.mark.parametrize(
    ("row", "field", "says", "mend"),
    [
        ("3,2026-03-01,C,1,Home,,,", "SKU", "no SKU “C”", "Did you mean|Bring"),
        ("3,2026-03-01,A,-1,Home,,,", "Quantity", "below 1", "1 or more"),
        ("3,2026-03-01,A,0.5,Home,,,", "Quantity", "whole number", "whole number"),
        ("3,2026-03-01,A,99999999999,Home,,,", "Quantity", "too large", "or less"),
        ("3,2026-03-01,A,,Home,,,", "Quantity", "missing", "how many"),
        ("3,2026-02-31,A,1,Home,,,", "Date and time", "no day of the calendar", "2026"),
        ("3,,A,1,Home,,,", "Date and time", "has no date", "2026"),
        ("3,2026-03-01,A,1,Home,,perhaps,", "First order", "neither yes nor no", "yes or no"),
        ("3,2026-03-01,A,1,Home,,,,,surplus", "whole row", "10 cells", "quotation marks"),
        ("2,2026-03-02 11:00,A,1,Home,,,", "Zone", "otherwise in row 4", "same in all rows"),
        ("3,2026-03-01,A,999999,Home,,,\n3,,A,999999,,,,\n3,,A,999999,,,,", "Quantity", "worth more", "Check"),
    ],
)
def test_a_bad_row_is_named_with_field_and_mend_and_nothing_comes_in(shop, row, field, says, mend):
    before = counts(shop)
    checked = bring_in.check(shop, "orders", ORDERS + row.encode())
    worst = [one for one in checked.rejected if one.field == field]
    assert worst
    assert says in worst[0].message
    assert any(part in worst[0].mend for part in mend.split("|"))
    with pytest.raises(bring_in.RejectedRowsError):
        bring_in.save(shop, checked)
    assert counts(shop) == before


def test_the_good_rows_can_be_brought_in_and_an_order_stays_whole(shop):
    data = ORDERS + b"3,2026-03-03,A,1,Home,,,\n,,NO SUCH,1,,,,\n"
    checked = bring_in.check(shop, "orders", data)
    assert [(one.row, one.field) for one in checked.rejected] == [(5, "Order number"), (6, "SKU")]
    assert bring_in.save(shop, checked, good_rows_only=True).new == 2
    assert counts(shop)[0] == 2


def test_causes_come_first_counted_and_what_follows_from_them_is_folded(shop):
    rows = [f"{at},2026-03-03,A,1,Home,,," for at in range(10, 40)]
    rows += [f"{at},,{sku},1,,,," for at in range(10, 20) for sku in (f"LOST-{at}", "B")]
    rows += ["99,2026-03-03,A,-1,Home,,,"]
    checked = bring_in.check(shop, "orders", ORDERS + "\n".join(rows).encode())
    first, second = faults(checked.rejected)
    assert (first.field, first.rows, len(first.first_rows)) == ("SKU", 10, 5)
    assert "no SKU “LOST-10”" in first.message
    assert (second.field, second.rows) == ("Quantity", 1)
    assert left_out_with_others(checked.rejected) == 20
    assert checked.good == 2 + 20


def test_a_near_sku_is_looked_for_once_for_a_few_and_never_for_numbers(shop, monkeypatch):
    looks = []
    monkeypatch.setattr(meant_skus, "get_close_matches", lambda text, *_, **__: looks.append(text) or [])
    rows = [f"{at},2026-03-03,{sku},1,Home,,," for at, sku in enumerate(["POT-X"] * 30 + ["4711"] * 5, start=10)]
    rows += [f"{at},2026-03-03,LOST-{at},1,Home,,," for at in range(100, 300)]
    checked = bring_in.check(shop, "orders", ORDERS + "\n".join(rows).encode())
    assert len(checked.rejected) == 235
    assert len(looks) == len(set(looks)) <= meant_skus.MOST_HINTS
    assert "4711" not in looks


@pytest.mark.parametrize(("paid", "minor"), [("1.2345", 123), ("1.235", 124), ("0.004", 0)])
def test_a_price_paid_with_more_decimals_than_the_currency_is_rounded(shop, paid, minor):
    data = f"order,date,sku,quantity,unit price\n7,2026-03-01,A,1,{paid}\n".encode()
    (order,) = bring_in.check(shop, "orders", data).records
    assert order.lines[0].unit_price == minor


def test_a_skus_and_a_zones_name_are_matched_however_they_are_written(empty_shop):
    bring(empty_shop, "goods", "sku,price\nCAFÉ,1\n".encode())
    bring(empty_shop, "orders", "order,date,sku,quantity,zone\n1,2026-03-01,cafe\u0301,1,Île\n".encode())
    bring(empty_shop, "orders", "order,date,sku,quantity,zone\n2,2026-03-01,Café,1,I\u0302LE\n".encode())
    with empty_shop.reading() as session:
        assert [row.name for row in session.scalars(select(ZoneRow))] == ["Île"]


def test_columns_chosen_by_hand_are_taken_and_wrong_choices_named(shop):
    data = b"Thing;What;Price\nC;Pot;5\n"
    checked = bring_in.check(shop, "goods", data, ["thing=SKU", "What=product"])
    assert [(one.sku, one.product, one.list_price) for one in checked.records] == [("C", "Pot", 500)]
    for told, says in (("Thong=sku", "no column “Thong”"), ("Thing=skew", "no field “skew”"), ("Thing", "no column")):
        with pytest.raises(NoSuchColumnError, match=says):
            bring_in.check(shop, "goods", data, [told])


def test_the_rejected_rows_as_csv_are_harmless_and_complete(shop):
    data = GOODS + b'=cmd(),"+1",-3,1\n,No sku,1,1\n'
    checked = bring_in.check(shop, "goods", data)
    told = list(csv.DictReader(io.StringIO(rejected_csv(checked.table, checked.rejected))))
    assert [(row["row"], row["field"]) for row in told] == [("4", "List price"), ("5", "SKU")]
    assert told[0]["sku"] == "'=cmd()"
    assert told[0]["price"] == "'-3"
    assert all(row["problem"] and row["mend"] for row in told)


@pytest.mark.parametrize(
    ("row", "field", "says"),
    [
        (b"A,Pot again,1,1", "SKU", "already in row 2"),
        (b"C,Pot,-1,1", "List price", "below 0"),
        (b"C,Pot,1,abc", "Purchase cost", "not a number"),
        (b"C,Pot,1.005,1", "List price", "more than 2 decimals"),
        (b"C,Pot,1,1.00005", "Purchase cost", "more than 4 decimals"),
        (b"C,Pot,99999999999,1", "List price", "larger than any price"),
    ],
)
def test_bad_goods_are_named(shop, row, field, says):
    rejected = bring_in.check(shop, "goods", GOODS + row + b"\n").rejected
    assert [(one.row, one.field) for one in rejected] == [(4, field)]
    assert says in rejected[0].message


def test_prices_and_costs_in_another_currency_are_refused(shop):
    told = "sku,price,cost (USD)\nC,$5.00,\nD,5.00 EUR,2\nE,€5.00,\n"
    checked = bring_in.check(shop, "goods", told.encode())
    assert [(one.row, one.field, one.message) for one in checked.rejected] == [
        (2, "List price", "“$5.00” is in USD, and the shop counts in EUR."),
        (3, "Purchase cost", "“2” is in USD, and the shop counts in EUR."),
    ]
    assert [one.sku for one in checked.records] == ["E"]
    several = "sku,price,quantity prices,group prices\nF,5,6: $4.20; 12: 3.90,\nG,5,6: €4.20,trade: £3.00\n"
    refused = bring_in.check(shop, "goods", several.encode()).rejected
    assert [(one.row, one.field) for one in refused] == [(2, "Quantity prices"), (3, "Group prices")]


@pytest.mark.parametrize(
    ("told", "currency", "price"),
    [
        ("sku,price,cost\nA,$12.00,$4.00\n", "USD", 1200),
        ("sku,price (JPY),cost\nA,1200,400\n", "JPY", 1200),
        ("sku,price,cost\nA,12.00,4.00\n", "EUR", 1200),
        ("sku,price,cost\nA,kr 12.00,4.00\n", None, None),
        ("sku,price,cost\nA,$12.00,£4.00\n", None, None),
    ],
)
def test_a_shop_without_anything_counts_in_the_currency_of_its_first_goods(empty_shop, told, currency, price):
    checked = bring_in.check(empty_shop, "goods", told.encode())
    assert bool(checked.rejected) == (currency is None)
    if currency:
        bring_in.save(empty_shop, checked)
        with empty_shop.reading() as session:
            loaded = load(session)
        assert (loaded.currency, loaded.batch.goods.list_price.tolist()) == (currency, [price])
        again = bring_in.check(empty_shop, "goods", "sku,price\nB,£3.00\n".encode())
        assert [one.field for one in again.rejected] == ["List price"]


def test_amounts_in_another_currency_are_brought_into_the_shops_by_the_rate_that_was_told(shop):
    file = "sku,price,cost (USD),quantity prices\nC,€5.00,$2.50,\nD,5.00,2.505,\nE,5.00,1,6: $4.00\n".encode()
    first = bring_in.check(shop, "goods", file)
    assert (first.foreign, {one.mend[:30] for one in first.rejected}) == (
        ("USD",),
        {"Say what one USD is in EUR, or", "Write it in EUR. The shop's ow"},
    )
    reading = replace(first.reading, rates=(("USD", 0.9),))
    checked = bring_in.check(shop, "goods", file, columns=first.columns, reading=reading)
    assert [(one.list_price, one.purchase_cost) for one in checked.records] == [(500, 225.0), (500, 225.45)]
    assert [(one.row, one.field) for one in checked.rejected] == [(4, "Quantity prices")]
    tariffs = bring_in.check(shop, "tariffs", b"Tariff,Up to (kg),Price\nA,2,$5.00\nA,5,7.00\n")
    again = replace(tariffs.reading, rates=(("USD", 0.9),))
    (one,) = bring_in.check(
        shop, "tariffs", b"Tariff,Up to (kg),Price\nA,2,$5.00\nA,5,7.00\n", columns=tariffs.columns, reading=again
    ).records
    assert [step.amount for step in one.steps] == [450.0, 700.0]
    huge = replace(first.reading, rates=(("USD", 1e9),))
    assert "more than any amount" in bring_in.check(shop, "goods", file, reading=huge).rejected[0].message


def test_a_shop_without_anything_counts_in_what_its_prices_are_told_in_and_asks_for_the_rate_of_its_costs(empty_shop):
    checked = bring_in.check(empty_shop, "goods", "sku,price,cost\nA,$12.00,£4.00\n".encode())
    assert (checked.currency, checked.foreign, [one.field for one in checked.rejected]) == (
        "USD",
        ("GBP",),
        ["Purchase cost"],
    )


def test_a_currency_somebody_chose_stays_that_of_the_first_goods_too(empty_shop):
    with empty_shop.changing("Dollars of their own") as session:
        shop_row(session).currency = "CAD"
    assert bring_in.check(empty_shop, "goods", b"sku,price\nA,$12.00\n").currency == "CAD"
    checked = bring_in.check(empty_shop, "goods", "sku,price\nA,£12.00\n".encode())
    assert [one.message for one in checked.rejected] == ["“£12.00” is in GBP, and the shop counts in CAD."]


def test_goods_read_while_the_shop_was_empty_do_not_change_its_currency_later(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"sku,price\nA,$12.00\n")
    bring(empty_shop, "goods", GOODS)
    with pytest.raises(SettingsError, match="does not count in USD"):
        bring_in.save(empty_shop, checked)


def test_semicolons_and_decimal_commas_come_in_right(empty_shop):
    data = "Artikelnummer;Bezeichnung;VK;EK\nA;Kübel;1.234,50;99,9999\n".encode("cp1252")
    bring(empty_shop, "goods", data)
    with empty_shop.reading() as session:
        from yellow_abacus.store.goods import all_goods

        (good,) = all_goods(session)
    assert (good.product, good.list_price, good.purchase_cost) == ("Kübel", 123450, 9999.99)


def test_a_file_without_the_needed_columns_says_which(shop):
    checked = bring_in.check(shop, "orders", b"colour,shape\nred,round\n")
    assert [field.label for field in checked.missing] == ["Order number", "Date and time", "SKU", "Quantity"]
    assert checked.good == 0


def test_groups_tags_channels_and_payment_of_orders_come_in_once_an_order(shop):
    rows = b"order,date,sku,qty,customer group,customer tags,sales channel,paid by\n"
    rows += b"7,2026-03-01,A,1,trade,letter; new,web,card\n7,,B,2,,,,\n8,2026-03-02,B,1,,,,\n"
    assert bring(shop, "orders", rows).new == 2
    assert bring(shop, "orders", rows).unchanged == 2
    with shop.reading() as session:
        first, second = session.scalars(select(OrderRow).order_by(OrderRow.number))
        assert (first.shopper_group, first.tags, first.channel, first.payment) == (
            "trade",
            ["letter", "new"],
            "web",
            "card",
        )
        assert (second.shopper_group, second.tags, second.channel, second.payment) == ("", [], "", "")


def test_brands_tags_and_goods_never_discounted_come_in_and_stay_where_a_file_is_silent(shop):
    bring(shop, "goods", b"sku,marke,tags,never discounted\nA,Mossy,heavy|new,yes\nB,,,no\n")
    bring(shop, "goods", b"sku,price\nA,13.00\n")
    with shop.reading() as session:
        pot, seeds = session.scalars(select(GoodRow).order_by(GoodRow.sku))
        assert (pot.brand, pot.tags, pot.never_discounted, pot.list_price) == ("Mossy", ["heavy", "new"], True, 1300)
        assert (seeds.brand, seeds.tags, seeds.never_discounted) == ("", [], False)
