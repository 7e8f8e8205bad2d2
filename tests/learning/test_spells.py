"""Spells of lower prices, found in a made-up year whose prices are known day by day."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.learning.made_shops import FIRST_DAY, GOODS, PRICES, SHOP
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.facts import nothing_known
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import Offer, PercentOff, When
from yellow_abacus.learning.ran import Past, all_ran
from yellow_abacus.learning.spells import Spell, spells_found

BEGINS = FIRST_DAY.toordinal()
SEEDS, POTS = range(4), range(4, 10)


def past(seed: int, lowered: dict[tuple[int, int, int], float], orders: int = 6_000, quirk=None) -> Past:
    """A year of orders of two lines each, goods at such a share of their price: {(SKU, first day, last day): share}.

    quirk: what some lines were asked otherwise: given dice, SKUs, days and prices, the prices.
    """
    dice = np.random.default_rng(seed)
    day = np.sort(dice.integers(0, 365, orders))
    cart, sku = np.repeat(np.arange(orders), 2), dice.integers(0, len(PRICES), 2 * orders)
    asked = np.array(PRICES)[sku].astype(np.int64)
    for (of, first, last), share in lowered.items():
        then = (sku == of) & (day[cart] >= first) & (day[cart] <= last)
        asked[then] = np.round(asked[then] * share)
    if quirk is not None:
        asked = quirk(dice, sku, day[cart], asked)
    goods = replace(GOODS, list_price=np.full(len(PRICES), NO_PRICE))
    zones, units = np.zeros(orders, dtype=np.int64), np.ones_like(sku)
    return Past(SHOP, make_batch(goods, zones, cart, sku, units, asked, nothing_known(orders)), day + BEGINS)


def lower(skus, first: int, last: int, share: float) -> dict[tuple[int, int, int], float]:
    return {(sku, first, last): share for sku in skus}


def told(spell: Spell) -> tuple[object, ...]:
    return spell.skus, spell.category, spell.everything, round(spell.off, 2)


@pytest.mark.parametrize(
    ("skus", "name"),
    [
        (SEEDS, "seeds"),
        (POTS, "everything"),  # most of all that is sold
        ([4, 5, 6, 7], "pots"),
        ([1], ""),
        ([0, 4, 9], ""),
    ],
)
def test_a_spell_is_found_with_its_goods_its_days_and_how_deep_it_was(skus, name):
    (found,) = spells_found(past(1, lower(skus, 100, 113, 0.8)), [])
    category = name if name in ("seeds", "pots") else ""
    assert told(found) == (tuple(skus), category, name == "everything", 0.2)
    assert BEGINS + 100 <= found.first_day <= BEGINS + 101
    assert BEGINS + 112 <= found.last_day <= BEGINS + 113


def test_spells_at_the_same_time_and_of_other_depth_are_apart_and_so_are_later_ones():
    year = {**lower([0, 1], 40, 60, 0.9), **lower([5, 6], 40, 60, 0.7), **lower([0, 1], 200, 210, 0.9)}
    found = {told(one)[0]: one for one in spells_found(past(2, year), [])}
    assert len(spells_found(past(2, year), [])) == 3
    assert round(found[5, 6].off, 2) == 0.3


def test_a_price_that_stays_down_or_up_is_no_spell():
    lasting = lower([0], 100, 364, 0.8) | lower([1], 0, 180, 0.8) | lower([2], 100, 180, 0.8)
    assert spells_found(past(3, lasting), []) == []


def test_what_some_are_asked_less_is_no_spell():
    """Prices of a group, and from a quantity on: one line in three of some days."""

    def quirk(dice, sku, day, asked):
        return np.where((dice.random(len(sku)) < 0.3) & (day > 60), np.round(asked * 0.85), asked).astype(np.int64)

    assert spells_found(past(4, {}, quirk=quirk), []) == []


def test_nothing_is_found_where_nothing_was_lower_or_ordered():
    assert spells_found(past(5, {}), []) == []
    assert spells_found(past(5, {}, orders=0), []) == []


def test_an_offer_that_was_told_explains_its_spell():
    year = past(6, lower(SEEDS, 100, 113, 0.8))
    days = [date.fromordinal(BEGINS + at) for at in (100, 113)]

    def left(on: Scope, first: date, last: date) -> int:
        offer = Offer((PercentOff(2_000),), on=on, when=When(first_day=first, last_day=last), id="then")
        return len(spells_found(year, all_ran(year, [offer])))

    assert left(Scope(categories=("seeds",)), *days) == 0
    assert left(Scope(categories=("pots",)), *days) == 1
    assert left(Scope(categories=("seeds",)), date(2025, 8, 1), date(2025, 8, 9)) == 1
