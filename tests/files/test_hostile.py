"""Files made to hurt: cells of any length, spreadsheets of any size, figures in prose. Each is told."""

from contextlib import suppress

import pytest

from tests.files.workbooks import with_part, workbook
from yellow_abacus import bring_in
from yellow_abacus.files import sheet_process
from yellow_abacus.files.rejected import rejected_csv
from yellow_abacus.files.tables import UnreadableFileError, read_table
from yellow_abacus.files.values import (
    BadCellError,
    is_currency_sign,
    join_names,
    parse_count,
    parse_money,
    split_names,
)
from yellow_abacus.files.writing import write_table

HEADER = b"sku,price,quantity prices,group prices,kit,dimensions,categories,tags\n"
LONG = b"9" * 120_000


LENGTHS = [LONG, b"x" + b" " * 120_000 + b"x", b"a from 1: " * 12_000, b"x" * 120_000, b"1 x " * 30_000]


@pytest.mark.parametrize("column", range(8))
@pytest.mark.parametrize("cell", LENGTHS)
def test_a_cell_of_any_length_is_told_and_quoted_in_part(empty_shop, column, cell):
    cells = [b"A", b"1", b"", b"", b"", b"", b"", b""]
    cells[column] = cell
    checked = bring_in.check(empty_shop, "goods", HEADER + b",".join(cells) + b"\n")
    assert checked.rejected
    assert all(len(one.message) < 300 for one in checked.rejected)


@pytest.mark.parametrize("cell", [*LENGTHS, b"a: " * 40_000, b"Order . " * 15_000, b"a - (" * 24_000])
@pytest.mark.parametrize("header", [b"sku,qty,price", b"item,qty,price", b"order,date,customer"])
def test_orders_told_in_cells_of_any_length_are_told(empty_shop, header, cell):
    rows = [header, b"Order 1 - 2026-03-01", cell + b",1,2", b"sku,qty,price", cell, b"Order: 2", b"A,1,2"]
    checked = bring_in.check(empty_shop, "orders", b"\n".join(rows) + b"\n")
    assert not checked.records


@pytest.mark.parametrize("data", [b"\x1e", b'""', b'" "\n""\n', b"\x1c\n\x1f", b"\xef\xbb\xbf\x0b"])
def test_a_file_of_blank_cells_alone_is_empty(data):
    with pytest.raises(UnreadableFileError, match="The file is empty"):
        read_table(data)


@pytest.mark.parametrize(
    "text",
    [
        "see note 5",
        "N/A 2024",
        "5 or 6",
        "about 5",
        "5 apples",
        "v2",
        "1.5e3",
        "5/6",
        "€5 €",
        "12-34",
        "#5",
        "5%",
        "½ 5",
    ],
)
def test_figures_are_never_picked_out_of_prose(text):
    with pytest.raises(BadCellError, match="not a number"):
        parse_money(text, ".", 2, largest=10**9)


@pytest.mark.parametrize(
    ("text", "minor"),
    [
        ("€5", 500),
        ("5 EUR", 500),
        ("US$ 5.50", 550),
        ("kr 12", 1200),
        ("12 zł", 1200),
        ("£ 1,234.50", 123450),
        ("5.-", 500),
    ],
)
def test_a_number_with_its_currency_is_one(text, minor):
    assert parse_money(text, ".", 2, largest=10**9) == minor


def test_units_and_currencies():
    assert parse_count("3 pcs", ".", least=1, largest=9) == 3
    assert is_currency_sign("CHF")
    assert not is_currency_sign("note")


@pytest.mark.parametrize("data", [b"\xef\xbb\xbf", "\ufeff\xa0".encode(), b"\xa0", b"\n" * 20_001, b" \n\t\n"])
def test_files_of_nothing_are_empty(data):
    with pytest.raises(UnreadableFileError, match="empty"):
        read_table(data)


def test_blank_lines_before_the_header_do_not_matter():
    table = read_table(b"\n" * 20_001 + b"sku;price\nA;1\n")
    assert (table.header, table.separator, table.rows[0].number) == (["sku", "price"], ";", 20_003)


def test_more_columns_than_any_table_has_are_refused():
    with pytest.raises(UnreadableFileError, match="100,000 columns"):
        read_table(b",".join([b"a"] * 100_000) + b"\n1\n")


def sheet(xml: str) -> bytes:
    """A spreadsheet with this as its one sheet."""
    return with_part(workbook(Sheet=[]), "xl/worksheets/sheet1.xml", xml)


SHEET = '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>{}</sheetData></worksheet>'


@pytest.mark.parametrize(
    "rows",
    [
        '<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>1</v></c></row>',
        '<row r="1"><c r="A1"><v>1</v></c></row><row r="99999999"><c r="A99999999"><v>1</v></c></row>',
    ],
)
def test_a_sheet_that_stands_for_more_than_any_machine_holds_is_told(rows):
    with pytest.raises(UnreadableFileError):
        read_table(sheet(SHEET.format(rows)))


def test_a_sheet_that_takes_too_long_is_told(monkeypatch):
    monkeypatch.setattr(sheet_process, "SECONDS", 0.0005)
    with pytest.raises(UnreadableFileError, match="memory or time"):
        read_table(write_table("xlsx", ["sku"], [["A"]]))


def test_damaged_bytes_anywhere_in_a_sheet_are_told_and_end_nothing():
    data = write_table("xlsx", ["sku", "price"], [[f"A{at}", "1"] for at in range(50)])
    for at in range(30, len(data), len(data) // 12):
        hurt = bytearray(data)
        hurt[at : at + 8] = b"\xff" * 8
        with suppress(UnreadableFileError):
            assert read_table(bytes(hurt)).header


NAMES = ["a;b", "a|b", 'say "a"', '"', ";", "_x0041_", "x_x000A_", "plain", "=1+1", "ends ;"]


@pytest.mark.parametrize("kind", ["csv", "xlsx"])
def test_names_of_any_letters_come_back_as_they_were(kind):
    table = read_table(write_table(kind, ["sku", "tags"], [[name, join_names(NAMES)] for name in NAMES]))
    assert [row.cells[0] for row in table.rows] == NAMES
    assert split_names(table.rows[0].cells[1]) == tuple(NAMES)


def test_a_control_character_in_a_name_ends_no_export():
    table = read_table(write_table("xlsx", ["sku"], [["a\x07b"]]))
    assert table.rows[0].cells == ["a b"]


def test_the_rejected_rows_carry_no_formula(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"sku,price,=HYPERLINK(1)\n=A,-1,@x\n")
    for line in rejected_csv(checked.table, checked.rejected).splitlines():
        assert not any(cell.startswith(("=", "@", "+")) for cell in line.replace('"', "").split(","))


def test_text_that_cannot_be_shown_is_told_with_its_row_and_field(empty_shop):
    data = f"sku,product,tags\nA\x07,Pot,x\nB,{'p' * 201},x\nC,Pot,{'t' * 81}\n".encode()
    checked = bring_in.check(empty_shop, "goods", data)
    assert [(one.row, one.field) for one in checked.rejected] == [(2, "SKU"), (2, "SKU"), (3, "Product"), (4, "Tags")]


def test_a_zone_of_81_letters_makes_no_zone(empty_shop):
    bring_in.save(empty_shop, bring_in.check(empty_shop, "goods", b"sku,price\nA,1\n"))
    orders = f"order,date,sku,quantity,zone\n1,2026-03-01,A,1,{'Z' * 81}\n".encode()
    assert [one.field for one in bring_in.check(empty_shop, "orders", orders).rejected] == ["Zone"]
