"""Stock as files of goods tell it: at several places, in words, below nothing."""

import pytest

from yellow_abacus import bring_in
from yellow_abacus.files.stock_told import stock_of
from yellow_abacus.files.values import BadCellError


def told(shop, text: str, chosen: tuple[str, ...] = ()):
    return bring_in.check(shop, "goods", text.encode(), chosen)


def stock(checked) -> dict[str, int | None]:
    assert not checked.rejected
    return {one.sku: one.stock for one in checked.records}


@pytest.mark.parametrize(
    ("header", "cells", "units"),
    [
        ("Stock Berlin,Stock Hamburg", "5,100", 105),
        ("Berlin stock,Hamburg stock,Reserved stock", "5,100,7", 105),
        ("Stock Berlin,Stock Hamburg,Total stock", "5,100,105", 105),
        ("Stock Berlin,Stock Hamburg,Stock everywhere", "5,100,105", 105),
        ("Lager 1,Lager 2,Lager 3,Mindestbestand", "1,2,3,10", 6),
        ("On hand,Reserved,Available", "105,5,100", 100),
        ("Stock,Stock value", "5,100", 5),
        ("Stock Berlin,Incoming stock Berlin", "5,100", 5),
        ("Stock Rome,Stock Oslo", ",8", 8),
        ("Stock Rome,Stock Oslo", "unlimited,8", None),
    ],
)
def test_stock_of_several_columns(empty_shop, header, cells, units):
    more = ",".join("4" if cell != "105" else "8" for cell in cells.split(","))
    found = stock(told(empty_shop, f"SKU,Price,{header}\nA,1,{cells}\nB,1,{more}\n"))
    assert found["A"] == units


def test_stock_of_several_columns_is_told_and_one_of_them_can_be_chosen(empty_shop):
    text = "SKU,Price,Stock Berlin,Stock Hamburg\nA,1,5,100\n"
    assert told(empty_shop, text).says == ["Stock is that of “Stock Berlin” and “Stock Hamburg” together."]
    chosen = told(empty_shop, text, ("Stock Hamburg=stock",))
    assert (stock(chosen), chosen.says) == ({"A": 100}, [])


def test_stock_of_a_row_a_place_is_one_sku(empty_shop):
    text = "SKU,Name,Price,Location,Available\nA,Pot,1,Berlin,5\nB,Fern,2,Berlin,0\nA,,1,Köln,100\nB,Fern,2,Köln,-4\n"
    checked = told(empty_shop, text)
    assert stock(checked) == {"A": 105, "B": 0}
    assert checked.says == [
        "Rows of a SKU that differ in “Location” are one, with their stock together.",
        "Stock below 0 is taken as 0.",
    ]


def test_stock_of_very_many_places(empty_shop):
    rows = "".join(f"A,1,Shop {at},{at}\nB,1,Shop {at},unlimited\nC,1,Shop {at},\n" for at in range(300))
    assert stock(told(empty_shop, f"SKU,Price,Shop,Stock\n{rows}")) == {"A": 299 * 150, "B": None, "C": None}


@pytest.mark.parametrize(
    "rows",
    [
        "A,1,Berlin,5\nA,2,Köln,100",  # another price
        "A,1,Berlin,5\nA,1,Berlin,100",  # the same place twice
        "A,1,Berlin,5\nA,1,,100",  # no place
    ],
)
def test_rows_of_a_sku_that_differ_otherwise_are_told(empty_shop, rows):
    checked = told(empty_shop, f"SKU,Price,Warehouse,Stock\n{rows}\n")
    assert [(one.row, one.message) for one in checked.rejected] == [(3, "SKU A is already in row 2.")]


@pytest.mark.parametrize(
    ("text", "units"),
    [
        ("12", 12),
        ("1,200", 1200),
        (">100", 100),
        ("100+", 100),
        ("≥ 50", 50),
        ("12 pcs", 12),
        ("−3", 0),
        ("(2)", 0),
        ("Sold out", 0),
        ("nicht auf Lager", 0),
        ("in stock", None),
        ("∞", None),
        ("illimité", None),
        ("7; sold out", 7),
    ],
)
def test_stock_in_numbers_and_words(text, units):
    assert stock_of(text, ".") == units


@pytest.mark.parametrize("text", ["some", "5 or 6", "2.5", "+", "5; some", "99999999999"])
def test_what_is_no_stock_is_told(text):
    with pytest.raises(BadCellError):
        stock_of(text, ".")
