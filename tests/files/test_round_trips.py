"""What goes out as a file comes back as it was: CSV and XLSX of every kind of table."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from yellow_abacus.bring_in import KINDS, check, save
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.tables import read_table
from yellow_abacus.files.tables_out import Contents, as_file, shop_table, template
from yellow_abacus.files.writing import harmless, plain, write_table
from yellow_abacus.store.goods import all_goods, save_goods
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.settings import shop_row
from yellow_abacus.store.shop_file import ShopFile

OUT = ("goods", "tariffs", "charges", "surcharges")
FORMATS = ("csv", "xlsx")
NASTY = ["=1+1", "+4", "-SUM(A1)", "@cmd", "'=kept", "''-twice", "1e5", "007", "a\nb", 'say "hi"', "x; y"]


def contents(shop: ShopFile) -> Contents:
    with shop.reading() as session:
        return Contents(all_goods(session), load_shop(session), 2)


def bring_in(shop: ShopFile, kind: str, data: bytes):
    checked = check(shop, kind, data)
    assert checked.missing == []
    assert checked.rejected == []
    return save(shop, checked)


@pytest.mark.parametrize("kind", OUT)
@pytest.mark.parametrize("format_", FORMATS)
def test_what_the_demo_shop_has_comes_back_unchanged(demo_shop, kind, format_):
    before = contents(demo_shop)
    header, rows = shop_table(kind, before)
    saved = bring_in(demo_shop, kind, as_file((header, rows), format_))
    assert (saved.new, saved.changed) == (0, 0)
    assert saved.unchanged > 0
    assert shop_table(kind, contents(demo_shop)) == (header, rows)


@pytest.mark.parametrize("kind", OUT)
@pytest.mark.parametrize("format_", FORMATS)
def test_the_tables_of_one_shop_make_another_just_like_it(demo_shop, empty_shop, kind, format_):
    before = contents(demo_shop)
    for one in OUT[: OUT.index(kind) + 1]:
        if one == "surcharges":
            with empty_shop.changing("Tax") as session:
                shop_row(session).tax_classes = [{"name": "Standard", "rate_bp": 2100}]
        bring_in(empty_shop, one, as_file(shop_table(one, before), format_))
    assert shop_table(kind, contents(empty_shop)) == shop_table(kind, before)


@pytest.mark.parametrize("kind", OUT)
@pytest.mark.parametrize("format_", FORMATS)
def test_a_template_is_read_as_its_own_kind(empty_shop, kind, format_):
    data = as_file(template(kind, 2), format_)
    checked = check(empty_shop, kind, data)
    assert checked.missing == []
    assert set(checked.columns) <= {field.key for field in KINDS[kind].fields}
    assert None not in checked.columns
    about_other_files = {"tariffs", "zones", "except_zones", "tax_class", "preferred"}
    assert {one.field for one in checked.rejected} <= {
        field.label for field in KINDS[kind].fields if field.key in about_other_files
    }


@pytest.mark.parametrize("format_", FORMATS)
def test_cells_that_look_like_formulas_are_never_formulas(empty_shop, format_):
    goods = [GoodRecord(f"S{at}", product=text.replace("\n", " "), tags=("=tag",)) for at, text in enumerate(NASTY)]
    with empty_shop.changing("Goods") as session:
        save_goods(session, goods, frozenset({"product", "tags"}))
    before = contents(empty_shop)
    data = as_file(shop_table("goods", before), format_)
    if format_ == "csv":
        cells = [cell for row in csv.reader(io.StringIO(data.decode("utf-8-sig"))) for cell in row]
        assert not [cell for cell in cells if cell.startswith(("=", "+", "-", "@"))]
    else:
        sheet = load_workbook(io.BytesIO(data)).active
        assert {cell.data_type for row in sheet.iter_rows() for cell in row if cell.value is not None} <= {"s", "n"}
        product = [cell.value for cell in sheet[1]].index("Product") + 1
        assert sheet.cell(2, product).value == "=1+1"
    saved = bring_in(empty_shop, "goods", data)
    assert (saved.new, saved.changed, saved.unchanged) == (0, 0, len(NASTY))
    assert contents(empty_shop).goods == before.goods


@given(st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=12))
def test_a_guarded_cell_comes_back_as_it_was(text):
    assert plain(harmless(text)) == text
    assert not harmless(text).startswith(("=", "+", "-", "@"))


CELLS = st.one_of(
    st.sampled_from([*NASTY, "-", "'-", "NULL", "''n/a"]),
    st.integers(0, 10**12).map(str),
    st.decimals(0, 10**6, places=2).map(str),
    st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=8).map(str.strip),
)


@given(st.lists(st.tuples(CELLS, CELLS), min_size=1, max_size=6), st.sampled_from(FORMATS))
def test_any_table_comes_back_as_it_was(rows, format_):
    rows = [(f"row {at}", first.replace("\n", " "), second) for at, (first, second) in enumerate(rows)]
    table = read_table(write_table(format_, ["Key", "One", "Other"], rows))
    assert [tuple(row.cells) for row in table.rows] == [tuple(cell.strip() for cell in row) for row in rows]


def test_a_workbook_of_a_spreadsheet_program_reads_as_the_same_csv(empty_shop):
    book = write_table("xlsx", ["SKU", "Price", "Weight (kg)"], [("A", "12.5", "0.4"), ("", "", ""), ("B", "3", "1")])
    saved = bring_in(empty_shop, "goods", book)
    assert saved.new == 2
    assert [(good.sku, good.list_price, good.weight) for good in contents(empty_shop).goods] == [
        ("A", 1250, 400.0),
        ("B", 300, 1000.0),
    ]


@pytest.mark.parametrize("cut", [900, 2000])
def test_a_damaged_workbook_says_so(cut):
    data = write_table("xlsx", ["SKU", "Price"], [("A", "1")] * 400)
    with pytest.raises(UnreadableFileError, match=r"Save|save"):
        read_table(data[:cut] + data[cut + 50 :])


def test_a_kept_figure_of_four_decimals_survives(empty_shop):
    good = GoodRecord("A", purchase_cost=123.45, weight=0.12, list_price=1)
    with empty_shop.changing("Goods") as session:
        save_goods(session, [good], frozenset({"purchase_cost", "weight", "list_price"}))
    for format_ in FORMATS:
        data = as_file(shop_table("goods", contents(empty_shop)), format_)
        assert bring_in(empty_shop, "goods", data).unchanged == 1
    assert contents(empty_shop).goods == [good]
