"""What the shop asks for beside goods and delivery; whole carts are held against the slow pricer in test_pricing."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.clauses.conditions import Earned, Spend, Units
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import LARGEST_CHARGE
from yellow_abacus.core.offers import Where, Who
from yellow_abacus.core.shop.surcharges import AmountFor, PartOfGoods, Surcharge

GOODS = make_goods(
    [GoodRecord("POT", list_price=4000, weight=900.0), GoodRecord("SEED", list_price=305, weight=10.0)]
)
FACTS = replace(nothing_known(3), group=labels(["trade", "", ""]))
BATCH = carts_of(GOODS, [("POT", 2), ("SEED", 3)], [("SEED", 5)], [], facts=FACTS)
ZONES = ("Home",)
POTS = Scope(skus=("POT",))


def asked(surcharge: Surcharge) -> list[int]:
    return surcharge.asked(BATCH, ZONES, BATCH.worth_by_line).tolist()


@pytest.mark.parametrize(
    ("counted", "whole", "pots"),
    [
        ("order", [50, 50, 0], [50, 0, 0]),
        ("unit", [250, 250, 0], [100, 0, 0]),
        ("line", [100, 50, 0], [50, 0, 0]),
        ("kilogram", [100, 50, 0], [100, 0, 0]),
        ("parcel", [50, 50, 0], [50, 0, 0]),
    ],
)
def test_an_amount_for_each_of_what_is_counted(counted, whole, pots):
    assert asked(Surcharge("Wrapping", AmountFor(50, counted))) == whole
    assert asked(Surcharge("Wrapping", AmountFor(50, counted), of=POTS)) == pots


def test_a_part_of_goods_is_rounded_half_up():
    assert asked(Surcharge("Care", PartOfGoods(1000))) == [892, 153, 0]  # of 89.15 and 15.25
    assert asked(Surcharge("Care", PartOfGoods(1000), of=POTS)) == [800, 0, 0]
    surcharge = Surcharge("Care", PartOfGoods(1000))
    assert surcharge.asked(BATCH, ZONES, BATCH.worth_by_line // 2).tolist() == [446, 76, 0]


@pytest.mark.parametrize(
    ("surcharge", "found"),
    [
        (Surcharge("S", AmountFor(50), earned=Earned((Spend(5000),))), [50, 0, 0]),
        (Surcharge("S", AmountFor(50), earned=Earned((Units(2),), "each_time")), [100, 100, 0]),
        (Surcharge("S", AmountFor(50), who=Who(groups=("trade",))), [50, 0, 0]),
        (Surcharge("S", AmountFor(50), where=Where(except_zones=("Home",))), [0, 0, 0]),
    ],
)
def test_it_is_asked_where_it_is_earned_of_whom_it_is_for(surcharge, found):
    assert asked(surcharge) == found


def test_what_can_change_with_what_offers_take_off():
    assert Surcharge("S", PartOfGoods(1)).follows_net
    assert Surcharge("S", AmountFor(1), earned=Earned((Spend(1),))).follows_net
    assert not Surcharge("S", AmountFor(1)).follows_net
    assert [Surcharge("S", AmountFor(1, one)).by_parcel for one in ("parcel", "order")] == [True, False]


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (Surcharge("S", AmountFor(-1)), ("asks", "amount")),
        (Surcharge("S", PartOfGoods(10_001)), ("asks", "rate_bp")),
        (Surcharge("S", AmountFor(1), chosen_bp=10_001), ("chosen_bp",)),
        (Surcharge("S", AmountFor(1), earned=Earned(repeat="each_time")), ("earned", "repeat")),
        (Surcharge("S", AmountFor(1), earned=Earned((Units(0),))), ("earned", "conditions", 0, "n")),
        (Surcharge("S", AmountFor(1), who=Who(nth_order=0)), ("who", "nth_order")),
        (Surcharge("S", AmountFor(1), chosen_bp=0), None),
    ],
)
def test_surcharges_that_make_no_sense(told, path):
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)


def test_no_surcharge_is_larger_than_the_sums_can_carry():
    whole = Surcharge("S", AmountFor(LARGEST_CHARGE, "unit"), earned=Earned((Units(1),), "each_time"))
    assert np.max(asked(whole)) == LARGEST_CHARGE
