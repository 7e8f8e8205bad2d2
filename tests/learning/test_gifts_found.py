"""Gifts that nobody told the shop, found in a made-up year whose rules are known."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest

from tests.learning.made_shops import FIRST_DAY, GOODS, SHOP
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.facts import codes, nothing_known
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.learning.gifts_found import FoundGift, gifts_found
from yellow_abacus.learning.ran import Past

BEGINS = FIRST_DAY.toordinal()
ORDERS = 4_000
MUG, TIN, BOOK = 3, 4, 5
"""SKUs, by index, that are given."""


class Year:
    """Orders of one thing each, of 10.00 to 100.00: SKU 0 mostly, SKU 1 else; one in five with the code POST."""

    def __init__(self, seed: int) -> None:
        self.dice = np.random.default_rng(seed)
        self.day = np.sort(self.dice.integers(0, 365, ORDERS))
        self.worth = self.dice.integers(1_000, 10_000, ORDERS)
        self.sku = (self.dice.random(ORDERS) < 0.2).astype(np.int64)
        self.has_code = self.dice.random(ORDERS) < 0.2
        self.given: list[tuple[Ints, Ints, int]] = []

    def on(self, first: int, last: int) -> Bools:
        return (self.day >= first) & (self.day <= last)

    def gives(self, sku: int | Ints, where: Bools, units: int = 1) -> "Year":
        carts = np.flatnonzero(where)
        self.given.append((carts, np.broadcast_to(sku, len(where))[carts], units))
        return self

    def past(self) -> Past:
        goods = replace(GOODS, list_price=np.full(len(GOODS.skus), NO_PRICE))
        cart = np.concatenate([np.arange(ORDERS), *(carts for carts, _, _ in self.given)])
        sku = np.concatenate([self.sku, *(skus for _, skus, _ in self.given)])
        units = np.concatenate([np.ones(ORDERS, np.int64), *(np.full(len(c), n) for c, _, n in self.given)])
        free = np.arange(len(cart)) >= ORDERS
        asked = np.where(free, 800, np.concatenate([self.worth, np.zeros(free.sum(), np.int64)]))
        facts = replace(nothing_known(ORDERS), code=codes(["POST" if has else "" for has in self.has_code]))
        batch = make_batch(goods, np.zeros(ORDERS, np.int64), cart, sku, units, asked, facts)
        off: Floats = np.bincount(cart, weights=free * asked * units, minlength=ORDERS)
        return Past(SHOP, batch, self.day + BEGINS, off, free_by_line=free)


def told(found: FoundGift) -> tuple[object, ...]:
    return found.skus, found.units, found.code, found.given_for, found.at


GIVEN: list[tuple[Callable[[Year], Bools], tuple[str, str, int]]] = [
    (lambda year: year.worth >= 5_000, ("", "value", 5_000)),
    (lambda year: year.has_code & (year.worth >= 3_000), ("POST", "value", 3_000)),
    (lambda year: year.sku == 1, ("", "goods", 1)),
    (lambda year: year.has_code, ("POST", "every_order", 0)),
    (lambda year: year.day >= 0, ("", "every_order", 0)),
    (lambda year: year.dice.random(ORDERS) < 0.3, ("", "untold", 0)),
]


@pytest.mark.parametrize(("who", "says"), GIVEN)
def test_a_gift_is_found_with_its_days_and_what_it_was_given_for(who, says):
    year = Year(1)
    (found,) = gifts_found(year.gives(MUG, year.on(100, 130) & who(year), units=2).past())
    assert told(found) == ((MUG,), 2, *says)
    assert BEGINS + 100 <= found.first_day <= BEGINS + 103
    assert BEGINS + 127 <= found.last_day <= BEGINS + 130


def test_a_few_lines_that_say_otherwise_change_nothing():
    year = Year(2)
    earned = (year.worth >= 5_000) ^ (year.dice.random(ORDERS) < 0.02)
    (found,) = gifts_found(year.gives(MUG, year.on(100, 150) & earned).past())
    assert found.given_for == "value"
    assert 4_800 <= found.at <= 5_200


def test_a_long_pause_begins_another_gift():
    year = Year(3)
    first, second = gifts_found(
        year.gives(MUG, year.on(40, 70) & (year.worth >= 4_000))
        .gives(MUG, year.on(200, 214) & (year.worth >= 6_000))
        .past()
    )
    assert [one.at for one in (first, second)] == [4_000, 6_000]
    assert first.last_day < second.first_day


def test_goods_of_which_shoppers_choose_one_are_one_gift():
    year = Year(4)
    some = year.on(100, 140) & (year.worth >= 5_000)
    (found,) = gifts_found(year.gives(np.array([MUG, TIN, BOOK])[year.dice.integers(0, 3, ORDERS)], some).past())
    assert set(found.skus) == {MUG, TIN, BOOK}
    assert (found.given_for, found.at, found.orders) == ("value", 5_000, int(some.sum()))


def test_two_gifts_at_the_same_time_stay_two():
    year = Year(5)
    some = year.on(100, 140)
    gifts = gifts_found(year.gives(MUG, some & (year.worth >= 5_000)).gives(TIN, some & (year.sku == 1)).past())
    assert {one.skus: one.given_for for one in gifts} == {(MUG,): "value", (TIN,): "goods"}


def test_too_few_lines_and_a_history_that_does_not_tell_what_was_paid_are_no_gift():
    year = Year(6)
    four = np.zeros(ORDERS, dtype=np.bool_)
    four[[10, 20, 30, 40]] = True
    assert gifts_found(year.gives(MUG, four).past()) == []
    assert gifts_found(replace(year.gives(MUG, year.worth >= 5_000).past(), free_by_line=None)) == []
