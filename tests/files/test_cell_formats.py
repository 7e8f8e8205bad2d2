"""Numbers of a spreadsheet are read as its formats show them: percentages, and weights with their unit."""

import io
from contextlib import suppress

import pytest
from openpyxl import Workbook

from tests.files.workbooks import open_document, with_part
from tests.test_bring_in import bring
from yellow_abacus import bring_in
from yellow_abacus.files.tables import UnreadableFileError, read_table

GOODS = [
    ["SKU", "Product", "Price", "Commission", "Return rate", "Weight", "Length"],
    [123, "Clay pot", 20, 0.15, 0.030927835, 0.9, 12],
    ["FERN", "Lace fern", 12.5, 0.125, None, 12, 7.5],
]
FORMATS = {
    "A": "00000",
    "C": '#,##0.00\\ "€"',
    "D": "0%",
    "E": "0.0%;[Red]-0.0%",
    "F": '0.0" kg"',
    "G": "0.0\\ \\c\\m",
}


def formatted(formats: dict[str, str]) -> bytes:
    book, data = Workbook(), io.BytesIO()
    for row in GOODS:
        book.active.append(row)
    for column, code in formats.items():
        for cell in book.active[column][1:]:
            cell.number_format = code
    book.save(data)
    return data.getvalue()


def test_numbers_are_read_as_their_cells_show_them():
    cells = [row.cells for row in read_table(formatted(FORMATS)).rows]
    assert cells == [
        ["00123", "Clay pot", "20 €", "15%", "3.09%", "0.9 kg", "12 cm"],
        ["FERN", "Lace fern", "12.5 €", "12.5%", "", "12 kg", "7.5 cm"],
    ]
    assert read_table(formatted({})).rows.columns[3].texts[:2] == ["0.15", "0.125"]


def test_what_goods_cost_and_weigh_goes_by_that(empty_shop):
    pot, _ = bring_in.check(empty_shop, "goods", formatted(FORMATS), file="goods.xlsx").records
    assert (pot.commission_bp, pot.return_bp, pot.weight, pot.length) == (1500, 309, 900.0, 120)


@pytest.mark.parametrize("code", ["[$$-409]#,##0.00", '_("$"* #,##0.00_);_("$"* \\(#,##0.00\\)', "[$USD] 0.00"])
def test_amounts_shown_in_another_currency_need_its_rate(empty_shop, code):
    bring(empty_shop, "goods", b"sku,price\nA,5\n")
    checked = bring_in.check(empty_shop, "goods", formatted({**FORMATS, "C": code}))
    assert checked.foreign == ("USD",)
    assert {one.field for one in checked.rejected} == {"List price"}


def test_rates_that_may_be_shares_are_told(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"sku,price,return rate\nA,5,0.05\nB,6,0.03\n")
    assert [one.return_bp for one in checked.records] == [5, 3]
    assert any("Return rates are all below 1 %" in note for note in checked.notes)


def test_open_documents_are_read_so_too(empty_shop):
    cells = ["POT", "Clay pot", "20 EUR", "15%", "8.05"]
    data = open_document(Notes=[["Made by Ada"]], Goods=[["SKU", "Product", "Price", "Commission", "Cost"], cells])
    table = read_table(data)
    assert (table.name, table.encoding, table.rows[0].cells) == ("Goods", "ODS", cells)
    (pot,) = bring_in.check(empty_shop, "goods", data, file="goods.ods").records
    assert (pot.list_price, pot.commission_bp, pot.purchase_cost) == (2000, 1500, 805)


def test_damaged_open_documents_are_told_and_end_nothing():
    data = open_document(Goods=[["SKU", "Price"], *([f"A{at}", "15%"] for at in range(50))])
    for at in range(90, len(data), len(data) // 12):
        with suppress(UnreadableFileError):
            assert read_table(data[:at] + b"\xff" * 8 + data[at + 8 :]).header


@pytest.mark.parametrize("part", ["xl/styles.xml", "xl/workbook.xml", "xl/_rels/workbook.xml.rels"])
@pytest.mark.parametrize("text", [None, "<", '<a xmlns="b"/>', '<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>'])
def test_what_tells_no_formats_leaves_numbers_as_they_are_or_is_refused(part, text):
    data = with_part(formatted(FORMATS), part, text)
    with suppress(UnreadableFileError):
        assert read_table(data).rows.columns[3].texts[:2] == ["0.15", "0.125"]
