"""Large tables read beside other work are what a session reads, and taken only of the shop as it is now."""

import sqlite3
from contextlib import closing
from dataclasses import replace

import numpy as np
import pytest

from tests.store.test_loading import assert_alike, date_of, price_of
from yellow_abacus.changing_goods import EVERY_FIELD
from yellow_abacus.core.goods.records import GoodRecord, OrderLineRecord, OrderRecord
from yellow_abacus.store.goods import save_goods
from yellow_abacus.store.in_columns import LARGE, ReadBeside, columns_in, state_of
from yellow_abacus.store.loading import load
from yellow_abacus.store.orders import save_orders
from yellow_abacus.store.reading_orders import places_of


@pytest.fixture
def odd(empty_shop):
    """Names with quotes and line ends, costs of more digits than a text of them holds, and what is not known."""
    goods = [
        GoodRecord('SAY-"HI"', product="Two\nlines", list_price=2000, purchase_cost=1 / 3, weight=0.1 + 0.2),
        GoodRecord("BARE", categories=("Öl, Fett",), kit=(('SAY-"HI"', 2),)),
    ]
    line = OrderLineRecord('SAY-"HI"', 3, 1999)
    first = OrderRecord("N1", date_of(0), (line,), shopper="Ann “A” O'Hara", tags=("new, odd", "b"))
    unpriced = OrderRecord("N2", date_of(1), (replace(line, unit_price=None), OrderLineRecord("BARE", 1, None)))
    with empty_shop.changing("Goods and orders") as session:
        save_goods(session, goods, EVERY_FIELD)
        save_orders(session, [first, unpriced])
    return empty_shop


def state(shop):
    with closing(sqlite3.connect(shop.path)) as file:
        return state_of(file)


def taken(shop, beside: ReadBeside, of=None) -> list[bool]:
    """Whether each table that was read beside is there to be taken, being just what the session reads."""
    found = [beside.take(read, of or state(shop)) for read in LARGE]
    with shop.reading() as session:
        plain = [columns_in(session, read) for read in LARGE]
    assert all(one in (None, told) for one, told in zip(found, plain, strict=True))
    return [one is not None for one in found]


def test_what_was_read_beside_is_taken_once(odd):
    beside = ReadBeside(odd.path)
    assert taken(odd, beside) == [True] * len(LARGE)
    assert taken(odd, beside) == [False] * len(LARGE)


def test_what_was_read_of_the_shop_as_it_was_is_not(odd):
    before = state(odd)
    price_of(odd, "BARE", 1500)
    with closing(sqlite3.connect(odd.path)) as file:
        file.execute("create table another (id integer)")
    now = state(odd)
    assert now.version > before.version
    assert now.schema > before.schema
    for other in (before, now._replace(version=before.version), now._replace(schema=before.schema)):
        assert taken(odd, ReadBeside(odd.path), other) == [False] * len(LARGE)


def test_what_cannot_be_read_is_left_to_who_opens_the_shop(odd, tmp_path):
    tmp_path.joinpath("no.sqlite").write_text("a letter")
    for path in (tmp_path / "none.sqlite", tmp_path / "no.sqlite", tmp_path):
        assert taken(odd, ReadBeside(path)) == [False] * len(LARGE)


def test_a_shop_read_beside_is_the_shop(odd):
    with odd.reading() as session:
        beside = load(session, None, ReadBeside(odd.path))
        plain = load(session, None, ReadBeside(odd.path.with_name("none.sqlite")))
    assert_alike(beside, plain)
    good = beside.table['SAY-"HI"']
    assert (good.product, good.purchase_cost, good.weight) == ("Two\nlines", 1 / 3, 0.1 + 0.2)
    assert beside.orders.facts.shopper.names == ("Ann “A” O'Hara",)
    assert beside.orders.facts.tags.names == ("b", "new, odd")


def test_lines_are_those_of_their_orders_in_whatever_order_they_are_kept(odd):
    with closing(sqlite3.connect(odd.path)) as file, file:
        file.execute("insert into order_lines (order_id, good_id, quantity, returned) values (1, 2, 7, 4)")
    with odd.reading() as session:
        orders = load(session).orders
    lines = zip(
        *(getattr(orders, name).tolist() for name in ("cart", "good_id", "quantity", "returned")), strict=True
    )
    assert sorted(lines) == [(0, 1, 3, 0), (0, 2, 7, 4), (1, 1, 3, 0), (1, 2, 1, 0)]


def test_ids_are_found_near_each_other_and_far_apart():
    for ids in ([7, 3, 12], [10**15, 3, 10**9]):
        wanted = np.array([ids[2], ids[0], ids[0], ids[1]])
        assert places_of(wanted, np.array(ids)).tolist() == [2, 0, 0, 1]
    assert places_of(np.zeros(0, np.int64), np.zeros(0, np.int64)).tolist() == []
