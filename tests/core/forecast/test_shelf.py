"""The goods as a merchant looks through them; whole shops of them are in web/test_goods."""

from datetime import date

import numpy as np

from yellow_abacus.core.forecast.shelf import Shelf, natural
from yellow_abacus.core.goods.making_goods import make_goods, table_of
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.shop import Settings, Shop

GOODS = [
    GoodRecord("Z", "Pot", "10 cm", list_price=500, purchase_cost=200.0, weight=90.0),
    GoodRecord("A", "pot", "9 cm", list_price=400, purchase_cost=390.0, weight=80.0, stock=5),
    GoodRecord("É-1", list_price=300, weight=70.0),
    GoodRecord("SET", "Set", list_price=800, kit=(("A", 2),)),
]


def shelf() -> Shelf:
    table = table_of(GOODS)
    units, goods = np.arange(len(table)) * 7.0, make_goods(table)
    taken = goods.kits.with_kits(units, np.arange(len(table)))
    return Shelf(Shop(Settings(), ()), table, goods, units, taken, np.full(len(table), np.nan), 7)


def skus(places) -> list[str]:
    return [shelf().table.skus[place] for place in places]


def test_names_stand_as_people_look_for_them():
    assert sorted(["b10", "B9", "Éb", "ec", "a"], key=natural) == ["a", "B9", "b10", "Éb", "ec"]
    assert skus(shelf().found()) == ["É-1", "A", "Z", "SET"]


def test_a_figure_that_is_not_known_comes_last_and_ties_stand_by_name():
    assert skus(shelf().found(by="kept")) == ["A", "SET", "Z", "É-1"]
    assert skus(shelf().found(by="weeks"))[-1] in ("É-1", "SET", "Z")


def test_stock_lasts_as_long_as_kits_leave_of_it():
    """A is sold in sets alone, seven a week of two each: its five last 5/14 of a week, and so does the set."""
    found = dict(zip(shelf().table.skus, shelf().weeks.tolist(), strict=True))
    assert (found["A"], found["SET"]) == (5 / 14, 5 / 14)
    assert skus(shelf().found(show="short")) == ["A", "SET"]
    alone = shelf().of_one(GOODS[1], [], date(2026, 3, 1))
    assert alone.weeks.tolist() == [5 / 14]


def test_a_part_lacks_what_a_kit_lacks():
    assert skus(shelf().found(show="missing")) == ["É-1"]
    goods = make_goods([*GOODS, GoodRecord("BOX", list_price=9, kit=(("É-1", 1),))])
    assert int((goods.unknown | goods.unpriced).sum()) == 2


def test_one_sku_as_it_is_told_sells_as_it_did():
    found = shelf().of_one(GoodRecord("SET", "Set", list_price=900, kit=(("A", 2),)), [GOODS[1]], date(2026, 3, 1))
    at = found.table.skus.index("SET")
    assert (int(found.standing[at]), int(found.units[at])) == (900, int(shelf().units[1]))
    assert found.goods.unit_cost[at] == 780
    new = shelf().of_one(GoodRecord("NEW", list_price=1), [], date(2026, 3, 1))
    assert (new.units.tolist(), np.isnan(new.delivery).tolist()) == ([0], [True])
