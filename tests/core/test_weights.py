"""Weights meet their bounds exactly, however many decimals their parts have."""

import numpy as np
import pytest

from tests.core.single_carts import one_cart
from yellow_abacus.core.clauses.conditions import Weight
from yellow_abacus.core.delivery.charges import ChargeByWeight, ChargeStep
from yellow_abacus.core.delivery.parcels import load_of
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Delivery, Option, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

GOODS = make_goods([GoodRecord("A", weight=85.05), GoodRecord("B", weight=170.1), GoodRecord("C", weight=28.35)])
SUM = one_cart(GOODS, ("A", 1), ("B", 6), ("C", 1))


def test_the_sum_is_whole_milligrams():
    assert SUM.weight_by_cart.tolist() == [1_134_000]


@pytest.mark.parametrize(
    ("bound", "n", "held", "missing"),
    [("at_least", 1134, True, 1), ("at_least", 1135, False, 1), ("over", 1134, False, 1), ("over", 1133, True, 1),
     ("at_most", 1134, True, 1), ("at_most", 1133, False, 1), ("at_least", 1200, False, 66)],
)  # fmt: skip
def test_a_condition_of_weight_at_its_edge(bound, n, held, missing):
    condition = Weight(n, bound)
    measure = condition.measure_by_cart(SUM, SUM.worth_by_line, None)
    assert bool(condition.reached(measure, n)[0]) == held
    assert condition.missing(measure)[0] == missing


def test_short_by_a_part_of_a_gram_is_short_by_a_whole_one():
    cart = one_cart(GOODS, ("A", 1))
    condition = Weight(87)
    assert condition.missing(condition.measure_by_cart(cart, cart.worth_by_line, None)).tolist() == [2]


def test_tariffs_and_charges_at_the_edge_of_a_step():
    tariff = Tariff("T", steps=(WeightStep(1134, 300.0), WeightStep(2000, 500.0)))
    charge = ChargeByWeight((ChargeStep(1134, 100), ChargeStep(2000, 200)))
    delivery = Delivery((Zone("Home", (Option("Post", charge, tariffs=("T",)),)),), (tariff,), 0)
    load, option = load_of(SUM), np.zeros(1, dtype=np.int64)
    carriage = delivery.carriage(load, option)
    assert (carriage.cost[0], delivery.charge(SUM.worth_by_cart, load, option, carriage)[0]) == (300.0, 100)
