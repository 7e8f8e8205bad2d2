"""Goods files as shops keep them: prices before, units of weight, paths of categories, products named once."""

import pytest

from tests.test_bring_in import bring
from yellow_abacus import bring_in
from yellow_abacus.files.tables_out import Contents, as_file, shop_table
from yellow_abacus.files.values import NOT_CUT_SHORT
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.loading import load_shop


def told(shop, text):
    checked = bring_in.check(shop, "goods", text.encode())
    assert (checked.missing, checked.rejected) == ([], [])
    return {one.sku: one for one in checked.records}


@pytest.mark.parametrize(
    ("row", "prices"),
    [
        ("10,", (1000, None)),
        ("10,12", (1200, 1000)),
        ("10,10", (1000, None)),
        ("10,8", (1000, None)),  # it was less: nothing is reduced
        (",12", (1200, None)),
    ],
)
def test_a_price_before_makes_the_price_a_reduced_one(empty_shop, row, prices):
    one = told(empty_shop, f"sku,price,compare at price\nA,{row}\n")["A"]
    assert (one.list_price, one.reduced_price) == prices


@pytest.mark.parametrize(
    ("columns", "row", "cost"),
    [
        ("case cost,units per case", "49.20,12", 410),
        ("case cost,units per case", "10,3", 333.33),
        ("case cost,units per case", ",3", None),
        ("case cost,units per case,unit cost", "49.20,12,4", 400),
        ("karton ek,stück pro karton", "49.20,12", 410),
    ],
)
def test_what_a_unit_costs_is_told_by_its_case(empty_shop, columns, row, cost):
    assert told(empty_shop, f"sku,price,{columns}\nA,12,{row}\n")["A"].purchase_cost == cost


def test_what_a_case_costs_is_no_cost_of_a_unit(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"sku,price,case cost\nA,12,49.20\n")
    assert [(one.row, one.field, one.mend) for one in checked.rejected] == [
        (2, "Units in a case", "Write it, or what one unit costs.")
    ]


@pytest.mark.parametrize(
    ("heading", "cells", "reduced"),
    [
        ("Discount %", ("15", "0", ""), (1058, None, None)),
        ("Rabatt", ("15 %", "", "-7.5%"), (1058, None, 648)),
        ("Remise (pourcentage)", ("100", "5", "5"), None),
        ("Sale discount", ("0.15", "0.1", ""), (1058, 900, None)),
        ("Discount", ("1.50", "0", "2"), (None, None, None)),  # rates or amounts: not guessed at
        ("Max. discount %", ("15", "15", "15"), (None, None, None)),
    ],
)
def test_a_discount_in_percent_comes_off_the_list_price(empty_shop, heading, cells, reduced):
    prices = ("12.45", "10.00", "7.00")
    rows = [f"{sku};{price};{cell}" for sku, price, cell in zip("ABC", prices, cells, strict=True)]
    file = "\n".join([f"sku;price;{heading}", *rows, ""]).encode()
    if reduced is None:
        (wrong,) = bring_in.check(empty_shop, "goods", file).rejected
        assert (wrong.row, wrong.field, wrong.mend) == (2, "Discount in percent", "Write less than 100 %.")
    else:
        goods = told(empty_shop, file.decode())
        assert tuple(goods[sku].reduced_price for sku in "ABC") == reduced


@pytest.mark.parametrize(
    ("known", "told", "meant"),
    [
        (("00123", "FERN"), ("123", "FERN"), ("00123", "FERN")),
        (("123",), ("00123",), ("123",)),
        (("0123", "00123"), ("123",), None),  # which of them?
        (("0123", "123"), ("123",), ("123",)),
        (("0123",), ("123", "0123"), None),  # told beside the one it may be
    ],
)
def test_zeros_that_skus_begin_with_may_be_missing(empty_shop, known, told, meant):
    """And what may be another is that."""
    bring(empty_shop, "goods", "\n".join(["sku,price", *(f"{sku},12" for sku in known)]).encode())
    orders = "\n".join(["order,day,sku,units", *(f"{sku},2026-03-01,{sku},1" for sku in told)])
    checked = bring_in.check(empty_shop, "orders", orders.encode())
    goods = bring_in.check(empty_shop, "goods", "\n".join(["sku,cost", *(f"{sku},4" for sku in told)]).encode())
    if meant is None:
        assert [one.message for one in checked.rejected] == ["Goods has no SKU “123”."]
        assert [one.sku for one in goods.records] == list(told)
    else:
        assert tuple(one.lines[0].sku for one in checked.records) == meant
        assert tuple(one.sku for one in goods.records) == meant
        assert any("but for the zeros" in note for note in checked.notes) == (meant != told)


def test_numbers_that_a_spreadsheet_cut_short_are_refused(empty_shop):
    bring(empty_shop, "goods", b"sku,price\nPOT,12\n")
    files = {
        "goods": b"sku;price\n8,71123E+12;12\n8711231234567;5\n",
        "orders": b"order,day,sku,units\n1.00023E+11,2026-03-01,POT,1\n1,2026-03-01,POT,1\n",
    }
    for kind, file in files.items():
        (wrong,) = bring_in.check(empty_shop, kind, file).rejected
        assert (wrong.row, wrong.mend) == (2, NOT_CUT_SHORT)


def test_percentages_are_no_money_but_of_what_parts_of_the_cost_may_be_told_in(empty_shop):
    header = "sku,price %,price incl. 20 % VAT,cost,duty %,inbound freight,packaging %"
    checked = bring_in.check(
        empty_shop, "goods", f"{header}\nA,3,12.00,4.20,5,10%,2\nB,3,12.00,4.20,,0.30,2\n".encode()
    )
    told = [(one.list_price, one.duty_cost, one.freight_cost, one.packaging_cost) for one in checked.records]
    assert told == [(1200, 21.0, 42.0, None), (1200, None, 30.0, None)]
    checked = bring_in.check(empty_shop, "goods", b"sku,price,duty %\nA,12,5\n")
    assert [(one.field, one.mend) for one in checked.rejected] == [("Duty", "Write the purchase cost beside it.")]


@pytest.mark.parametrize("heading", ["Commission €", "Commission (EUR)", "Commission amount", "Return rate EUR"])
def test_amounts_are_no_rates(empty_shop, heading):
    one = told(empty_shop, f"sku,price,{heading}\nA,12.00,2.50\n")["A"]
    assert (one.commission_bp, one.return_bp) == (0, 0)
    for kind, header in (
        ("tariffs", "tariff,up to (kg),price,fuel surcharge €"),
        ("charges", "zone,option,charge,markup €"),
    ):
        checked = bring_in.check(empty_shop, kind, f"{header}\nHome,2,5,0.50\n".encode())
        assert not {"fuel", "markup"} & checked.columns.keys()


def test_a_discount_needs_the_price_it_comes_off_and_gives_way_to_a_reduced_price(empty_shop):
    checked = bring_in.check(empty_shop, "goods", b"sku,name,price,discount %\nA,Pot,,10\n")
    assert [(one.row, one.mend) for one in checked.rejected] == [(2, "Write the list price beside it.")]
    file = "sku,price,reduced price,price before,discount %\nA,10,7,,50\nB,8,,16,25\n"
    assert [one.reduced_price for one in told(empty_shop, file).values()] == [700, 800]


def test_a_price_before_that_is_gone_ends_the_reduction(empty_shop):
    for row in ("10,12", "10,"):
        bring(empty_shop, "goods", f"sku,price,price before\nA,{row}\n".encode())
    with empty_shop.reading() as session:
        (one,) = all_goods(session)
    assert (one.list_price, one.reduced_price) == (1000, None)


@pytest.mark.parametrize(
    ("heading", "cell", "grams"),
    [
        ("weight", "250", 250.0),
        ("weight_lbs", "2", 907.185),
        ("weight (ounces)", "2", 56.699),
        ("weight,weight unit", "2,kg", 2000.0),
        ("weight,weight unit", "2,", 2.0),
        ("weight", "0.25", 250.0),  # nothing weighs less than a gram
        ("weight (g)", "0.25", 0.25),
        ("weight", "0.25 g", 0.25),
        ("weight", "1 lb 2 oz", 510.291),
    ],
)
def test_the_unit_of_a_weight(empty_shop, heading, cell, grams):
    assert told(empty_shop, f"sku,price,{heading}\nA,10,{cell}\n")["A"].weight == grams


def test_the_same_number_is_read_by_the_unit_of_its_own_row(empty_shop):
    rows = ("A,10,2,kg,2,2,2,cm", "B,10,2,g,2,2,2,mm", "C,10,2,,2,2,2,cm", "D,10,2,lb.,2,2,2,in")
    header = "sku,price,weight,weight unit,length,width,height,dimension unit"
    found = told(empty_shop, "\n".join([header, *rows])).values()
    assert [one.weight for one in found] == [2000, 2, 2, 907.185]
    assert [one.length for one in found] == [20, 2, 20, 51]


def test_weights_are_kilograms_where_some_are_below_one_and_grams_where_few_are(empty_shop):
    rows = "".join(f"{at},10,{weight}\n" for at, weight in enumerate(("0.3", "1.2", "9", "0.05")))
    assert [one.weight for one in told(empty_shop, "sku,price,weight\n" + rows).values()] == [300, 1200, 9000, 50]
    rows = "".join(f"{at},10,{weight}\n" for at, weight in enumerate(("0.3", "12", "90", "15", "2.5")))
    assert [one.weight for one in told(empty_shop, "sku,price,weight\n" + rows).values()] == [0.3, 12, 90, 15, 2.5]


@pytest.mark.parametrize(
    ("header", "rows", "millimetres", "read_as"),
    [
        ("weight (g),length,width,height", ("500,10,10,7.5", "900,20,20,30"), (100, 100, 75), "centimetres"),
        ("weight (kg),length,width,height", ("0.5,100,100,75", "0.9,200,200,300"), (100, 100, 75), "millimetres"),
        ("weight (kg),length,width,height", ("2,0.3,0.2,0.1", "9,0.5,0.5,0.5"), (300, 200, 100), "metres"),
        ("weight (g),dimensions", ("500,10 x 10 x 7.5", "900,20x20x30"), (100, 100, 75), "centimetres"),
        ("length,width,height", ("10,10,7", "20,20,30"), (10, 10, 7), "millimetres"),
        ("weight (g),length (in),width (in),height (in)", ("500,10,10,1", "900,2,2,3"), (254, 254, 25), ""),
        ("weight (g),length,width,height,unit", ("500,10,10,7.5,cm", "900,2,2,3,mm"), (100, 100, 75), ""),
        ("weight (g),dimensions,dimensions unit", ("500,10 x 10 x 7.5,cm", "900,2x2x3,mm"), (100, 100, 75), ""),
        ("weight (g),length,width,height", ("500,10 cm,10 cm,75 mm", "900,2 cm,2 cm,3 cm"), (100, 100, 75), ""),
        (
            "weight,weight unit,length,width,height",
            ("0.5,kg,10,10,7.5", "900,g,20,20,30"),
            (100, 100, 75),
            "centimetres",
        ),
        ("gewicht (g),tiefe,breite,höhe", ("500,10,10,7.5", "900,20,20,30"), (100, 100, 75), "centimetres"),
    ],
)
def test_the_unit_of_lengths_is_told_or_the_next_in_which_goods_can_weigh_what_they_do(
    empty_shop, header, rows, millimetres, read_as
):
    file = "\n".join([f"sku,price,{header}", *(f"{at},10,{row}" for at, row in enumerate(rows))])
    checked = bring_in.check(empty_shop, "goods", file.encode())
    one = checked.records[0]
    assert (one.length, one.width, one.height) == millimetres
    says = [note for note in checked.notes if note.startswith("Lengths name no unit")]
    assert (len(says) == 1 and f"are read as {read_as}:" in says[0]) if read_as else says == []


def test_paths_of_categories_are_taken_apart_and_commas_in_other_names_stay(empty_shop):
    found = told(empty_shop, 'sku,price,categories\nA,1,"Garden > Pots, Garden > Soil"\nB,1,"Pots, large"\n')
    assert (found["A"].categories, found["B"].categories) == (("Garden", "Pots", "Soil"), ("Pots, large",))


def test_tags_are_parted_by_commas_where_nothing_else_parts_them_and_come_back_as_they_went(empty_shop):
    rows = 'A,1,"green, new"\nB,1,"green, new; old"\nC,1,"""green, new"""\n'
    bring(empty_shop, "goods", f"sku,price,tags\n{rows}".encode())
    with empty_shop.reading() as session:
        contents = Contents(all_goods(session), load_shop(session), 2)
    assert [one.tags for one in contents.goods] == [("green", "new"), ("green, new", "old"), ("green, new",)]
    saved = bring(empty_shop, "goods", as_file(shop_table("goods", contents), "csv"))
    assert (saved.new, saved.changed, saved.unchanged) == (0, 0, 3)


OPTIONS = """Page,Title,Maker,Tags,Option 1 value,Item SKU,Price,Picture
fern,Fern pot,Oto,green,Small,A-1,10,one.png
fern,,,,Large,A-2,12,
fern,,,,,,,two.png
soil,Soil,,,,C-7,9,
"""


def test_options_below_a_product_that_is_named_once_are_its_own(empty_shop):
    found = told(empty_shop, OPTIONS)
    assert [(one.sku, one.product, one.option, one.brand, one.tags) for one in found.values()] == [
        ("A-1", "Fern pot", "Small", "Oto", ("green",)),
        ("A-2", "Fern pot", "Large", "Oto", ("green",)),
        ("C-7", "Soil", "", "", ()),
    ]


def test_a_product_without_a_name_below_another_has_none(empty_shop):
    apart = OPTIONS.replace("fern,,,,Large", "large,,,,")
    assert told(empty_shop, apart)["A-2"].product == ""
    assert told(empty_shop, "sku,title,price\nA,Pot,1\nB,,1\n")["B"].product == ""


@pytest.mark.parametrize("heading", ["Variant SKU", "Product code/SKU", "seller-sku"])
def test_a_heading_with_sku_in_it_goes_before_other_numbers(empty_shop, heading):
    assert list(told(empty_shop, f"Product ID,{heading},Price\n77,A,1\n")) == ["A"]


def test_a_column_of_units_is_of_weights_where_its_cells_are(empty_shop):
    found = told(empty_shop, "Réf.;Libellé;Poids;Unité\nA;Pot;1,2;kg\nB;Graines;12;g\n")
    assert [one.weight for one in found.values()] == [1200, 12]
    found = told(empty_shop, "Réf.;Libellé;Poids;Unité\nA;Pot;1200;pièce\nB;Graines;12;sachet\n")
    assert [one.weight for one in found.values()] == [1200, 12]


def test_a_row_that_is_there_twice_is_one(empty_shop):
    text = "sku,price,title,picture\nA,10,Pot,1.png\nB,8,Fern,\nA,10,Pot,2.png\n"
    assert sorted(told(empty_shop, text)) == ["A", "B"]
    checked = bring_in.check(empty_shop, "goods", f"{text}A,11,Pot,3.png\n,10,Pot,\n,10,Pot,\n".encode())
    assert [one.row for one in checked.rejected] == [5, 6, 7]


def test_a_price_of_0_beside_the_list_price_is_none(empty_shop):
    header = "sku,price,sale price,compare at price,going price,least advertised price"
    one = told(empty_shop, f"{header}\nA,10,0,0.00,0,0\n")["A"]
    assert (one.list_price, one.reduced_price, one.going_price, one.least_advertised) == (1000, None, None, None)


def test_goods_that_cost_or_weigh_nothing_are_told(empty_shop):
    def says(*rows: str) -> list[str]:
        return bring_in.check(empty_shop, "goods", "\n".join(["sku,price,cost,weight (g)", *rows]).encode()).says

    assert says("A,1,,", "B,1,1,1") == []
    assert says("A,1,0,1", "B,1,1,0") == [
        "1 of these goods costs 0, and 1 weighs 0: leave those cells empty where that is not known."
    ]
    assert says("A,1,1,0", "B,1,1,0") == [
        "2 of these goods weigh 0: leave those cells empty where that is not known."
    ]
