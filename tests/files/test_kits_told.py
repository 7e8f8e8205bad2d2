"""Kits as files of goods tell them: in a cell, a part a row, of SKUs there are, and never within one another."""

import pytest
from sqlalchemy import text

from tests.test_bring_in import bring
from yellow_abacus import bring_in
from yellow_abacus.core.goods.kits import with_kits
from yellow_abacus.store.goods import all_goods

GOODS = b"sku,price,cost\nPOT,12.00,4\nSOIL,8.00,3\nBOX 2,1.00,0.2\nDUO,14.00,\nSET,30.00,\n"


@pytest.fixture
def shop(empty_shop):
    bring(empty_shop, "goods", GOODS)
    return empty_shop


def kits(shop) -> dict[str, dict[str, int]]:
    with shop.reading() as session:
        return {one.sku: dict(one.kit) for one in all_goods(session) if one.kit}


def rejected(shop, text: str) -> list[tuple[int, str, str]]:
    return [(one.row, one.field, one.message) for one in bring_in.check(shop, "goods", text.encode()).rejected]


@pytest.mark.parametrize("heading", ["Kit parts", "Components", "Bundle items", "Stückliste", "Setinhalt", "構成品"])
@pytest.mark.parametrize(
    "cell",
    [
        "2 x POT; SOIL",
        "2xpot, soil",
        "POT x 2 | SOIL",
        "POT (2); SOIL (1)",
        "POT:2; Soil:1",
        "2 POT + SOIL",
        "SOIL;POT*2",
    ],
)
def test_all_parts_in_a_cell(shop, heading, cell):
    bring(shop, "goods", f'sku,{heading}\nSET,"{cell}"\n'.encode())
    assert kits(shop) == {"SET": {"POT": 2, "SOIL": 1}}


def test_a_sku_that_reads_like_a_number_of_others_is_itself(shop):
    bring(shop, "goods", b"sku,kit\nSET,3 x BOX 2; POT\n")
    assert kits(shop) == {"SET": {"BOX 2": 3, "POT": 1}}


@pytest.mark.parametrize("heading", ["Quantity", "Qty", "Component quantity"])
def test_a_part_a_row(shop, heading):
    told = f"Bundle SKU,Component SKU,{heading}\nSET,POT,2\nDUO,soil,2.0\nSET,SOIL,1\n"
    checked = bring_in.check(shop, "goods", told.encode())
    assert "stock" not in checked.columns
    bring(shop, "goods", told.encode())
    assert kits(shop) == {"SET": {"POT": 2, "SOIL": 1}, "DUO": {"SOIL": 2}}


def test_a_part_a_row_without_units_is_one_of_each_and_stock_beside_prices_stays_stock(shop):
    bring(shop, "goods", b"kit sku,component\nSET,POT\nSET,SOIL\n")
    assert kits(shop) == {"SET": {"POT": 1, "SOIL": 1}}
    checked = bring_in.check(shop, "goods", b"sku,price,components,quantity\nSET,30.00,POT,7\n")
    assert [(one.stock, one.kit) for one in checked.records] == [(7, (("POT", 1),))]


def test_units_that_are_no_number_are_refused(shop):
    for units in ("many", "0", "1.5", "-1", "10000"):
        assert rejected(shop, f"kit sku,component sku,quantity\nSET,POT,{units}\n")[0][1] == "Kit parts", units


def test_parts_are_of_the_file_or_the_shop_and_no_others(shop):
    new = "sku,kit\nNEW,\nSET,NEW; POT\n"
    assert rejected(shop, new) == []
    missing = "Neither Goods nor this file has the SKU “GONE”."
    assert rejected(shop, "sku,kit\nSET,POT; GONE\nDUO,2 x SOIL\n") == [(2, "Kit parts", missing)]


def test_no_kit_is_within_another_whichever_comes_first(shop):
    within = "“DUO” is a kit itself."
    assert rejected(shop, "sku,kit\nSET,DUO; POT\nDUO,2 x SOIL\n")[0] == (2, "Kit parts", within)
    bring(shop, "goods", b"sku,kit\nDUO,2 x SOIL\n")
    assert rejected(shop, "sku,kit\nSET,DUO; POT\n") == [(2, "Kit parts", within)]
    assert rejected(shop, "sku,kit\nSOIL,3 x POT\n") == [(2, "Kit parts", "SOIL is a part of DUO itself.")]
    assert rejected(shop, "sku,kit\nSET,DUO; POT\nDUO,\n") == [], "it is none any more"


def test_what_the_shop_has_reads_back_though_a_part_is_gone(shop):
    bring(shop, "goods", b"sku,kit\nSET,2 x POT; SOIL\n")
    with shop.changing("A part goes") as session:
        session.execute(text("delete from goods where sku = 'POT'"))
    assert rejected(shop, "sku,kit\nSET,2 x POT; 1 x SOIL\n") == []


def test_what_kits_are_said_to_cost_and_weigh_is_not_gone_by_and_that_is_said(empty_shop):
    told = b"sku,price,cost,weight (g),stock,kit parts\nA,9,4,100,,\nSET,17,0,900,20,2 x A\n"
    checked = bring_in.check(empty_shop, "goods", told)
    assert checked.says == ["What 1 kit costs and weighs follows from its parts, not from the cells that tell it."]
    (kit,) = (one for one in with_kits(checked.records) if one.kit)
    assert (kit.purchase_cost, kit.weight, kit.stock) == (800.0, 200.0, 20)
