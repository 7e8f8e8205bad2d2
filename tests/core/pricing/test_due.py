"""Surcharges and tax of single rows; whole carts are held against the slow pricer in test_pricing."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.shop.test_tax import BATCH, TAXES, ZONES
from yellow_abacus.core.pricing.due import Due, find_due
from yellow_abacus.core.shop.surcharges import AmountFor, Surcharge
from yellow_abacus.core.shop.tax import tax_table

ALWAYS = Surcharge("Wrapping", AmountFor(120))
CHOSEN = Surcharge("Card", AmountFor(240), chosen_bp=2500)


def due(taxes=TAXES, charge=(600, 0, 600), asked=()) -> Due:
    table = tax_table(taxes, ZONES, BATCH)
    goods = table.by_slot(BATCH.worth_by_line, BATCH.worth_by_cart)
    return Due(table, goods, np.array(charge), [np.array(one) for one in asked])


def test_the_charge_is_taxed_like_the_goods_or_at_a_class_of_its_own():
    # The first cart holds 40.00 at 20 % and 6.10 at 7 %: 5.21 of the charge are taxed at 20 %.
    found = find_due(due(), ())
    goods = TAXES.of_one(4000, 2000) + TAXES.of_one(610, 700)
    assert found.goods_tax[0] + found.delivery_tax[0] == TAXES.of_one(4521, 2000) + TAXES.of_one(689, 700)
    assert abs(found.goods_tax[0] - goods) <= 1
    own = find_due(due(replace(TAXES, delivery="Low")), ())
    assert own.delivery_tax[0] == pytest.approx(TAXES.of_one(600, 700), abs=1)
    assert found.delivery_tax[1] == 0


def test_what_is_chosen_is_expected_and_what_is_always_asked_is_asked():
    found = find_due(due(asked=[[120, 120, 0], [240, 0, 240]]), (ALWAYS, CHOSEN))
    assert found.surcharge_by_row.tolist() == [120, 120, 0]
    assert found.chosen_by_row.tolist() == [60, 0, 60]
    assert found.chosen_tax[2] == pytest.approx(0.25 * TAXES.of_one(240, 2500))
    assert found.surcharge_tax[1] == TAXES.of_one(305 + 120, 700) - found.goods_tax[1]


def test_a_surcharge_of_a_class_of_its_own():
    own = replace(ALWAYS, tax_class="Full")
    found = find_due(due(charge=(0, 0, 0), asked=[[120, 120, 120]]), (own,))
    assert found.surcharge_tax[1] == TAXES.of_one(120, 2000)
    assert found.goods_tax[1] == TAXES.of_one(305, 700)


def test_nothing_is_due_on_nothing():
    nothing = find_due(due(charge=(0, 0, 0), asked=[[0, 0, 0]]), (ALWAYS,))
    assert not nothing.delivery_tax.any()
    assert not nothing.surcharge_by_row.any()
