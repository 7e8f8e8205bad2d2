"""Days on which delivery was free from a lower value than usual, found in a made-up year whose rules are known."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.learning.made_shops import FIRST_DAY, GOODS, SHOP
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.facts import codes, nothing_known
from yellow_abacus.core.clauses.conditions import Spend
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.offers import DeliveryLoweredTo, Earned, Offer, When
from yellow_abacus.core.shop.shop import Zone
from yellow_abacus.learning.free_spells import FreeSpell, free_spells
from yellow_abacus.learning.ran import Past, all_ran

BEGINS = FIRST_DAY.toordinal()
USUAL, CHARGE = 6_000, 490
TWO_ZONES = replace(SHOP, zones=(Zone("Home", ()), Zone("Far", ())))


def past(seed: int, lower: dict[tuple[int, int, int], int], orders: int = 6_000, odd: float = 0.0, code: float = 0.0):
    """A year of orders of one thing each, of 10.00 to 100.00, to two zones; free from 60.00, and from other values
    over some days: {(zone, first day, last day): value}. odd: the share that pays otherwise than so."""
    dice = np.random.default_rng(seed)
    day, zone = np.sort(dice.integers(0, 365, orders)), dice.integers(0, 2, orders)
    asked = dice.integers(1_000, 10_000, orders)
    since = np.full(orders, USUAL)
    for (of, first, last), value in lower.items():
        since[(zone == of) & (day >= first) & (day <= last)] = value
    free = (asked >= since) ^ (dice.random(orders) < odd)
    used = dice.random(orders) < code
    free |= used
    goods = replace(GOODS, list_price=np.full(len(GOODS.skus), NO_PRICE))
    one, every = np.ones(orders, dtype=np.int64), np.arange(orders)
    facts = replace(nothing_known(orders), code=codes(["POST" if has else "" for has in used]))
    batch = make_batch(goods, zone, every, 0 * one, one, asked, facts)
    return Past(TWO_ZONES, batch, day + BEGINS, None, np.where(free, 0, CHARGE))


def told(spell: FreeSpell) -> tuple[object, ...]:
    return spell.zones, spell.free_from, spell.usual


@pytest.mark.parametrize("value", [2_500, 4_000, 5_000])
def test_a_spell_is_found_with_its_value_and_its_days(value):
    (found,) = free_spells(past(1, {(0, 100, 113): value}), [])
    assert told(found) == ((0,), value, USUAL)
    assert BEGINS + 100 <= found.first_day <= BEGINS + 103
    assert BEGINS + 110 <= found.last_day <= BEGINS + 113


def test_zones_with_the_same_value_are_one_spell_and_others_are_apart():
    year = {(0, 40, 60): 4_000, (1, 40, 60): 4_000, (1, 200, 214): 3_000}
    assert sorted(map(told, free_spells(past(2, year), []))) == [((0, 1), 4_000, USUAL), ((1,), 3_000, USUAL)]


def test_a_value_that_stays_is_no_spell_and_neither_is_a_higher_one():
    assert free_spells(past(3, {(0, 100, 364): 4_000, (1, 200, 220): 8_000}), []) == []


def test_codes_for_free_delivery_and_odd_orders_are_no_spell():
    assert free_spells(past(4, {}, code=0.3), []) == []
    assert free_spells(past(5, {}, odd=0.02), []) == []


def test_nothing_is_found_where_nothing_is_told_or_nobody_or_everybody_pays():
    year = past(6, {})
    assert free_spells(replace(year, delivery_paid=None), []) == []
    for paid in (-1, 0, CHARGE):
        assert free_spells(replace(year, delivery_paid=np.full(6_000, paid)), []) == []
    assert free_spells(past(7, {}, orders=0), []) == []


def test_an_offer_that_was_told_explains_its_spell():
    year = past(8, {(0, 100, 113): 4_000})
    first, last = (date.fromordinal(BEGINS + at) for at in (100, 113))
    earned = Earned(conditions=(Spend(4_000),))
    offer = Offer((DeliveryLoweredTo(0),), earned=earned, when=When(first_day=first, last_day=last), id="post")
    assert free_spells(year, all_ran(year, [offer])) == []
    later = replace(offer, when=When(first_day=last.replace(year=last.year + 1)))
    assert len(free_spells(year, all_ran(year, [later]))) == 1
