"""Files of every make: encodings, separators, and things that are no CSV at all."""

import pytest

from tests.files.workbooks import workbook
from yellow_abacus.files import tables
from yellow_abacus.files.tables import LARGEST_FILE, UnreadableFileError, read_table, refuse_size

TEXT = "SKU;Preis\nPflanzkübel;12,50\nGießkanne;8,00\n"


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_any_ordinary_encoding_is_read(encoding):
    table = read_table(TEXT.encode(encoding))
    assert table.header == ["SKU", "Preis"]
    assert [row.cells for row in table.rows] == [["Pflanzkübel", "12,50"], ["Gießkanne", "8,00"]]


@pytest.mark.parametrize("separator", [",", ";", "\t", "|"])
def test_any_ordinary_separator_is_found(separator):
    data = f'SKU{separator}Name\nA{separator}"one, two; three"\n'.encode()
    table = read_table(data)
    assert table.separator == separator
    assert table.rows[0].cells == ["A", "one, two; three"]


@pytest.mark.parametrize("last", ["C,3", 'C,3" pot'])  # by either reader
def test_cells_that_say_that_there_is_nothing_are_empty(last):
    table = read_table(f"A,B\nNULL,x\n - ,5-\nNULL & Sons,n/a\n-5,–\n{last}\n".encode())
    assert [row.cells for row in table.rows][:-1] == [["", "x"], ["", "5-"], ["NULL & Sons", ""], ["-5", ""]]


def test_rows_are_numbered_as_a_spreadsheet_would():
    table = read_table(b'SKU,Name\nA,"two\nlines"\n\nB,x\n')
    assert [(row.number, row.cells[0]) for row in table.rows] == [(2, "A"), (4, "B")]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "empty"),
        (b"  \n\n", "empty"),
        (b"SKU,Price\n", "nothing below"),
        (b"\x89PNG\r\n\x1a\n" + b"\x00" * 50, "PNG picture"),
        (b"\xff\xd8\xff\xe0rest", "JPEG picture"),
        (b"PK\x03\x04rest", "archive file"),
        (b"SKU,Price\nA\x00,1\n", "not a text file"),
        (b"SKU,Price\nA,\xff\xfe\x81\n", "row 2 is damaged"),
        (b'SKU,Price\nPot,"12\nB,3\n', "quotation mark"),
        ("SKU,Name\nA,Kübel\nB,Töpfe\nC,Erdb".encode() + b"\xc3\nD,x\n", "row 4 is damaged"),
    ],
)
def test_what_cannot_be_read_says_so(data, says):
    with pytest.raises(UnreadableFileError, match=says):
        read_table(data)


def test_a_quotation_mark_that_is_never_closed_is_told_in_a_long_file_too():
    with pytest.raises(UnreadableFileError, match="Row 2 cannot be taken apart"):
        read_table(b'SKU,Price\nPot,"12\n' + b"B,3\n" * 60_000)


def test_a_200_megabyte_file_is_refused_before_it_is_read():
    with pytest.raises(UnreadableFileError, match=r"200 MB; up to 180 MB"):
        refuse_size(200_000_000)
    refuse_size(LARGEST_FILE)


REPORT = """Orders, with their goods;;;
;;;
March;2026;;

Order;Day;SKU;Units
1;2026-03-01;A;2
"""


@pytest.mark.parametrize("regular", [True, False])
def test_titles_above_a_table_are_passed_over_and_rows_keep_their_numbers(regular, monkeypatch):
    if not regular:
        monkeypatch.setattr(tables, "_is_regular", lambda *_: False)
    table = read_table(REPORT.encode())
    assert table.header == ["Order", "Day", "SKU", "Units"]
    assert [(row.number, row.cells) for row in table.rows] == [(6, ["1", "2026-03-01", "A", "2"])]


def test_titles_above_a_table_in_a_spreadsheet_are_passed_over():
    table = read_table(workbook(March=[["Orders of March"], [], ["Order", "Day", "SKU"], ["1", "2026-03-01", "A"]]))
    assert table.header == ["Order", "Day", "SKU"]
    assert [(row.number, row.cells[2]) for row in table.rows] == [(4, "A")]


def test_the_first_sheet_with_a_table_is_read():
    older = [["SKU", "Price", "Cost"]]
    table = read_table(workbook(Title=[["Sales of spring"]], Goods=[["SKU", "Price"], ["A", 12.5]], Older=older))
    assert (table.header, table.rows[0].cells) == (["SKU", "Price"], ["A", "12.5"])


@pytest.mark.parametrize("head", ["Code", "SKU;Price", "Orders;;\n1;2;3", "SKU;Name;\nA;Pot;12"])
def test_a_header_of_few_headings_is_one(head):
    assert read_table(f"{head}\nA;1;2\n".encode()).header[0] == head.split("\n")[0].split(";")[0]


def test_lines_that_end_in_a_carriage_return_alone_are_lines():
    table = read_table(b"SKU;VK\rA;12\rB;13\r")
    assert (table.header, table.separator, len(table.rows)) == (["SKU", "VK"], ";", 2)
    mixed = read_table("ù\rj,c\nA,2\n".encode())
    assert mixed.header == ["ù"]
