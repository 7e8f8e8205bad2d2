from dataclasses import replace

import numpy as np
import pytest

from yellow_abacus.core.goods.kits import unit_cost, volume_of, with_kits
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

POT = GoodRecord(
    "POT", purchase_cost=1200.0, freight_cost=300.0, weight=4000.0, stock=9, length=300, width=300, height=300
)
SEED = GoodRecord("SEED", purchase_cost=40.0, duty_cost=2.5, weight=12.0, stock=41, length=100, width=80, height=10)
KIT = GoodRecord("KIT", kit=(("POT", 1), ("SEED", 4)), assembly_cost=75.0)


def filled(*records: GoodRecord) -> GoodRecord:
    return with_kits(records)[-1]


def test_cost_weight_and_stock_follow_from_the_parts():
    kit = filled(POT, SEED, KIT)
    assert unit_cost(kit) == 1200 + 300 + 4 * 42.5 + 75
    assert (kit.weight, kit.stock) == (4048.0, 9)
    assert (kit.freight_cost, kit.duty_cost, kit.other_cost) == (300.0, 10.0, 75.0)


def test_kits_and_parts_know_each_other():
    goods = make_goods([POT, SEED, KIT, GoodRecord("PAIR", kit=(("POT", 2),))])
    kit, pair, pot, seed = range(4)
    assert goods.kits.parts_of(kit) == {pot: 1, seed: 4}
    assert goods.kits.parts_of(pot) == {}
    assert goods.taken_from(pot) == {pot: 1, kit: 1, pair: 2}
    assert (goods.stocks_of(kit), goods.stocks_of(seed)) == ((pot, seed), (seed,))
    fewer = goods.kits.stock_as_parts(np.array([10.0, 10.0, 5.0, 13.0]))
    assert fewer.tolist() == [3, 2, 5, 13]


def test_stock_of_which_nobody_counts_is_not_taken_from():
    kit, pot, seed = range(3)
    goods = make_goods([GoodRecord("POT"), SEED, KIT])
    assert (goods.stocks_of(kit), goods.stocks_of(pot)) == ((seed,), ())
    assert goods.has_own_stock.tolist() == [False, False, True]
    boxed = make_goods([GoodRecord("POT"), GoodRecord("SEED"), replace(KIT, stock=7)])
    assert boxed.stocks_of(kit) == (kit,)
    assert boxed.has_own_stock.tolist() == [True, False, False]
    assert boxed.kits.stock_as_parts(boxed.stock)[kit] == 7
    assert boxed.kits.as_parts(np.array([3.0, np.nan, np.nan]), np.arange(3))[kit] == 3


def test_of_some_goods_alone_kits_take_from_parts_that_are_among_them():
    kits = make_goods([POT, SEED, KIT]).kits
    by_day = np.array([[2.0, 1.0], [0.0, 3.0]])
    assert kits.with_kits(by_day, np.array([0, 2])).tolist() == [[2, 9], [0, 3]]
    assert kits.with_kits(by_day, np.array([1, 2])).tolist() == by_day.tolist()
    assert kits.as_parts(np.array([9.0, 4.0]), np.array([0, 1])).tolist() == [4, 4]


def test_size_is_its_own_or_that_of_its_parts():
    known = {one.sku: one for one in (POT, SEED)}
    assert volume_of(KIT, known) == 27_000_000 + 4 * 80_000
    boxed = GoodRecord("KIT", kit=KIT.kit, length=400, width=300, height=300)
    assert volume_of(boxed, known) == 36_000_000


@pytest.mark.parametrize("part", [GoodRecord("POT"), GoodRecord("OTHER", purchase_cost=1.0, weight=1.0)])
def test_a_part_that_is_not_known_makes_the_kit_unknown(part):
    kit = filled(part, SEED, KIT)
    assert unit_cost(kit) is None
    assert kit.weight is None


def test_a_kit_within_a_kit_costs_an_unknown_amount():
    outer = GoodRecord("BOX", kit=(("KIT", 1),))
    assert unit_cost(filled(POT, SEED, KIT, outer)) is None


def test_stock_that_is_not_counted_does_not_hold_a_kit_back():
    assert filled(POT, GoodRecord("SEED", purchase_cost=1.0), KIT).stock == 9
    assert filled(GoodRecord("POT"), GoodRecord("SEED"), KIT).stock is None
    assert filled(GoodRecord("POT"), GoodRecord("SEED"), replace(KIT, stock=7)).stock == 7
    assert filled(POT, GoodRecord("SEED"), replace(KIT, stock=7)).stock == 9
