"""Tax as goods files tell it: classes by name, rate, share or yes and no, and prices with it or without."""

from decimal import ROUND_HALF_UP, Decimal

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from yellow_abacus import bring_in
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.tax import TaxClass, Taxes
from yellow_abacus.files.taxes_told import TaxesTold
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.settings import SettingsError, save_settings, taxes_as_kept


def said(shop, classes: dict[str, int], *, included: bool = True) -> None:
    """The owner says what tax is."""
    with shop.changing("Tax") as session:
        taxes = Taxes(tuple(TaxClass(name, rate) for name, rate in classes.items()), included=included)
        save_settings(session, taxes_as_kept(taxes) | {"tax_said": True})


def checked_file(shop, heading: str, cells: list[str]) -> bring_in.Checked:
    rows = "".join(f"{chr(65 + at)};12,00;{cell}\n" for at, cell in enumerate(cells))
    return bring_in.check(shop, "goods", f"SKU;Price;{heading}\n{rows}".encode())


def held(shop) -> tuple[dict[str, int], bool, list[str]]:
    """The rates of the shop's classes, whether prices are with tax, and the class of each good."""
    with shop.reading() as session:
        taxes = load_shop(session).taxes
        return {one.name: one.rate_bp for one in taxes.classes}, taxes.included, [
            good.tax_class for good in all_goods(session)
        ]  # fmt: skip


@pytest.mark.parametrize(
    ("heading", "cells", "rates", "classes"),
    [
        ("VAT rate", ["20 %", "5%", "0 %"], {"Standard": 2000, "5 %": 500, "0 %": 0}, ["Standard", "5 %", "0 %"]),
        ("MwSt", ["19", "7", "19,0"], {"Standard": 1900, "7 %": 700}, ["Standard", "7 %", "Standard"]),
        ("TVA %", ["5,5", "20", ""], {"Standard": 2000, "5.5 %": 550}, ["5.5 %", "Standard", ""]),
        ("Tax rate", ["0.2", "0.055", "0"], {"Standard": 2000, "5.5 %": 550, "0 %": 0}, ["Standard", "5.5 %", "0 %"]),
        ("IVA", ["IVA 21%", "exento"], {"Standard": 2100, "exento": 0}, ["Standard", "exento"]),
        ("Taxable", ["yes", "no", "yes"], {"Standard": 2000, "0 %": 0}, ["", "0 %", ""]),
        ("Taxable", ["1", "0", "1"], {"Standard": 2000, "0 %": 0}, ["", "0 %", ""]),
        ("Tax class", ["standard", "Low", "None"], {"Standard": 2000, "None": 0}, ["Standard", "Low", "None"]),
        ("Tax class", ["1", "2", "1"], {"Standard": 2000}, ["1", "2", "1"]),
        ("VAT", ["2.17", "3.42", "0.58"], {"Standard": 2000}, ["", "", ""]),  # amounts
        ("VAT included", ["yes", "yes", "no"], {"Standard": 2000}, ["", "", ""]),
    ],
)  # fmt: skip
def test_goods_tell_their_tax_by_name_or_rate(empty_shop, heading, cells, rates, classes):
    checked = checked_file(empty_shop, heading, cells)
    assert checked.rejected == []
    bring_in.save(empty_shop, checked)
    assert held(empty_shop) == (rates, True, classes)
    assert checked_file(empty_shop, heading, cells).says == []


def test_the_classes_of_a_shop_that_said_its_tax_are_taken_and_only_missing_rates_added(empty_shop):
    said(empty_shop, {"Usual": 1900, "Books": 700, "Post": 700})
    checked = checked_file(empty_shop, "VAT rate", ["7", "0", "books", "16"])
    assert checked.says == ["16 % and 0 % will be tax classes of your shop, as rates of these goods."]
    bring_in.save(empty_shop, checked)
    rates = {"Usual": 1900, "Books": 700, "Post": 700, "16 %": 1600, "0 %": 0}
    assert held(empty_shop) == (rates, True, ["Books", "0 %", "Books", "16 %"])


def test_rates_of_rows_left_out_and_rates_that_cannot_be_make_no_class(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"SKU,Price,VAT rate\nA,1,20%\nB,-1,5%\nC,1,70%\nD,1,5.555%\n")
    assert [(one.row, one.field) for one in checked.rejected] == [
        (3, "List price"),
        (4, "Tax class"),
        (5, "Tax class"),
    ]
    bring_in.save(empty_shop, checked, good_rows_only=True)
    assert held(empty_shop) == ({"Standard": 2000}, True, ["Standard"])


@pytest.mark.parametrize(
    ("heading", "included"), [("Price excl. VAT", False), ("Price incl. VAT", True), ("Price", True)]
)
def test_first_goods_say_whether_prices_are_with_tax(empty_shop, heading, included):
    checked = bring_in.check(empty_shop, "goods", f"SKU,{heading}\nA,10.00\n".encode())
    told = [] if included else ["Your shop’s prices will be without tax, as these are."]
    assert (checked.says, checked.records[0].list_price) == (told, 1000)
    bring_in.save(empty_shop, checked)
    assert held(empty_shop)[1] == included


def test_prices_told_otherwise_are_brought_to_the_shops_side_of_tax_by_the_class_of_each_good(empty_shop):
    said(empty_shop, {"Usual": 2000, "Books": 500})
    bring_in.save(empty_shop, bring_in.check(empty_shop, "goods", b"SKU,Price,Tax class\nA,1,\nB,1,Books\nC,1,Odd\n"))
    file = b"SKU,Net price,Quantity prices\nA,9.99,6: 5.01\nB,9.99,\nC,9.99,\n"
    checked = bring_in.check(empty_shop, "goods", file)
    assert [(one.list_price, one.quantity_prices) for one in checked.records] == [(1199, ((6, 601),)), (1049, ())]
    (refused,) = checked.rejected
    assert (refused.row, refused.field, refused.mend) == (4, "Tax class", "Add it at Delivery, Tax, first.")
    assert "“Odd”, by which these amounts" in refused.message


def test_tax_that_somebody_set_after_the_file_was_read_is_not_written_over(empty_shop):
    checked = checked_file(empty_shop, "VAT rate", ["5 %"])
    said(empty_shop, {"Usual": 1900})
    with pytest.raises(SettingsError, match=r"set otherwise since.*Choose the file again"):
        bring_in.save(empty_shop, checked)
    assert held(empty_shop) == ({"Usual": 1900}, True, [])


@given(st.integers(0, 10**7), st.integers(0, 5000), st.booleans())
@example(35_577, 2_000, False)  # half a cent
def test_a_price_is_told_otherwise_to_the_nearest_cent(price, rate, included):
    told = TaxesTold(
        Taxes((TaxClass("A", rate),), included=included), "rates", {}, "without tax" if included else "with tax"
    )
    found = told.as_the_shops(
        GoodRecord("A", list_price=price, reduced_price=None), classed=False, reject=pytest.fail
    )
    times = 1 + Decimal(rate) / 10000
    wanted = (price * times if included else price / times).quantize(Decimal(1), ROUND_HALF_UP)
    assert (found.list_price, found.reduced_price) == (int(wanted), None)
