import pytest

from yellow_abacus.core.goods.kits import unit_cost, volume_of, with_kits
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
