"""Orders belong to imports: overlapping ones double nothing, each can be taken back and brought again."""

import json
import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import datetime

import pytest
from sqlalchemy import func, select, text

from yellow_abacus.changing_goods import EVERY_FIELD
from yellow_abacus.core.goods.records import GoodRecord, OrderLineRecord, OrderRecord
from yellow_abacus.store.goods import Saved, save_goods
from yellow_abacus.store.imports import all_imports, put_live, staying
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import ImportRow, OrderRow, ZoneRow
from yellow_abacus.store.orders import OrderFile, save_orders
from yellow_abacus.store.shop_file import ShopFile


@pytest.fixture
def shop(empty_shop) -> ShopFile:
    with empty_shop.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=2000), GoodRecord("SEED", list_price=300)], EVERY_FIELD)
    return empty_shop


def order(number: str, pots: int, zone: str = "") -> OrderRecord:
    return OrderRecord(number, datetime(2026, 3, 1, 12), (OrderLineRecord("POT", pots, None),), zone=zone)


def bring(shop: ShopFile, file: str, *orders: OrderRecord) -> Saved:
    with shop.changing(f"Bring in {file}") as session:
        return save_orders(session, orders, file=OrderFile(file))


def take_back(shop: ShopFile, file: str, live: bool = False) -> list:
    with shop.changing("Take back") as session:
        row = session.scalars(select(ImportRow).where(ImportRow.file == file)).one()
        return put_live(session, row, live)


def units(shop: ShopFile) -> list[int]:
    """Of each order that counts, by id."""
    with shop.reading() as session:
        return load(session).batch.units_by_cart.tolist()


def told(shop: ShopFile) -> list[tuple]:
    with shop.reading() as session:
        return [(one.file, one.new, one.changed, one.unchanged, one.live) for one in all_imports(session)]


def test_overlapping_imports_double_nothing_and_the_newest_counts(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    assert bring(shop, "april.csv", order("2", 5), order("3", 3), order("1", 1)) == Saved(1, 1, 1)
    assert sorted(units(shop)) == [1, 3, 5]
    assert told(shop) == [("april.csv", 1, 1, 1, True), ("march.csv", 2, 0, 0, True)]


def test_what_is_taken_back_counts_nowhere_and_what_it_told_anew_reads_as_before(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    bring(shop, "april.csv", order("2", 5), order("3", 3))
    take_back(shop, "april.csv")
    assert sorted(units(shop)) == [1, 2]
    take_back(shop, "march.csv")
    assert units(shop) == []
    take_back(shop, "april.csv", live=True)
    assert sorted(units(shop)) == [3, 5]


@pytest.mark.parametrize("other", ["#1001", "No. 1001", "Nr.1001", "1001.0", "№ 1001"])
def test_numbers_spelt_otherwise_are_of_the_same_orders(shop, other):
    bring(shop, "march.csv", order("1001", 1), order("1002", 2))
    assert bring(shop, "again.csv", order(other, 1), order("1003", 3)) == Saved(1, 0, 1)
    assert bring(shop, "changed.csv", order(other, 5)) == Saved(0, 1, 0)
    assert sorted(units(shop)) == [2, 3, 5]
    later = replace(order(other, 7), placed_at=datetime(2026, 4, 1))  # of another shop: it is another order
    assert bring(shop, "other.csv", later) == Saved(1, 0, 0)
    assert sorted(units(shop)) == [2, 3, 5, 7]


def test_numbers_that_one_file_spells_in_two_ways_are_of_two_orders(shop):
    bring(shop, "march.csv", order("1001", 1))
    assert bring(shop, "both.csv", order("#1001", 2), order("1001", 1)) == Saved(1, 0, 1)
    assert bring(shop, "both again.csv", order("#1001", 2), order("No. 1001", 3)) == Saved(0, 1, 1)
    assert sorted(units(shop)) == [2, 3]


def test_an_order_left_out_is_found_however_its_number_is_spelt(shop):
    bring(shop, "march.csv", order("#1001", 1), order("#1002", 2))
    with shop.changing("Later") as session:
        save_orders(session, [order("1002", 2)], file=OrderFile("later.csv", left_out={"1001": "cancelled"}))
    assert units(shop) == [2]


def test_undo_of_an_import_flips_one_row(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    bring(shop, "april.csv", order("2", 5))
    assert shop.undo()
    assert sorted(units(shop)) == [1, 2]
    assert shop.redo()
    assert sorted(units(shop)) == [1, 5]
    take_back(shop, "april.csv")
    assert shop.undo()
    assert sorted(units(shop)) == [1, 5]
    with shop.reading() as session:
        images = session.execute(text("select images from changes order by id desc limit 1")).scalar_one()
    assert {"orders", "order_lines"}.isdisjoint(json.loads(images))


def test_orders_stay_that_another_file_has_just_the_same(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2), order("4", 4))
    bring(shop, "april.csv", order("2", 2), order("3", 3), order("1", 5))
    take_back(shop, "march.csv")
    assert sorted(units(shop)) == [2, 3, 5]
    assert bring(shop, "again.csv", order("2", 2), order("4", 4)) == Saved(1, 0, 1)
    take_back(shop, "april.csv")
    assert sorted(units(shop)) == [2, 4]
    take_back(shop, "again.csv")
    assert units(shop) == []
    take_back(shop, "april.csv", live=True)
    assert sorted(units(shop)) == [2, 3, 5]


def test_how_many_orders_of_files_taken_back_stay(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2), order("4", 4))
    bring(shop, "april.csv", order("2", 2), order("3", 3), order("4", 6))
    take_back(shop, "march.csv")
    with shop.reading() as session:
        march = session.scalars(select(ImportRow).where(ImportRow.file == "march.csv")).one()
        assert staying(session) == {march.id: 1}
    take_back(shop, "april.csv")
    with shop.reading() as session:
        assert staying(session) == {}


def test_the_newest_file_counts_also_where_it_tells_again_what_an_older_one_told(shop):
    bring(shop, "march.csv", order("1", 1))
    bring(shop, "april.csv", order("1", 2))
    take_back(shop, "april.csv")
    bring(shop, "may.csv", order("1", 1), order("9", 9))
    take_back(shop, "april.csv", live=True)
    assert sorted(units(shop)) == [1, 9]


def test_a_file_brought_again_doubles_nothing_that_came_in_meanwhile(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    take_back(shop, "march.csv")
    bring(shop, "april.csv", order("2", 5), order("3", 3))
    take_back(shop, "march.csv", live=True)
    assert sorted(units(shop)) == [1, 3, 5]


def test_what_an_older_version_doubled_is_told_apart(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    take_back(shop, "march.csv")
    bring(shop, "april.csv", order("2", 5), order("3", 3))
    take_back(shop, "march.csv", live=True)
    shop.close()
    with closing(sqlite3.connect(shop.path)) as file, file:
        file.executescript("""
            drop table told_again; alter table imports drop column overlaps;
            alter table orders drop column delivery_cost; alter table orders drop column payment_cost;
            update alembic_version set version_num = '0023';
        """)
    assert sorted(units(ShopFile(shop.path))) == [1, 3, 5]


def test_undo_of_a_file_takes_back_what_it_told_again(shop):
    bring(shop, "march.csv", order("1", 1))
    bring(shop, "april.csv", order("1", 1), order("2", 2))
    shop.undo()
    take_back(shop, "march.csv")
    assert units(shop) == []


def test_what_a_file_told_again_is_not_brought_again_with_zones_that_are_gone(shop):
    bring(shop, "march.csv", order("1", 1, zone="Far"))
    bring(shop, "april.csv", order("1", 1, zone="Far"), order("2", 2, zone="Far"))
    take_back(shop, "march.csv")
    take_back(shop, "april.csv")
    with shop.changing("No zone") as session:
        session.delete(session.scalars(select(ZoneRow).where(ZoneRow.name == "Far")).one())
    (problem,) = take_back(shop, "april.csv", live=True)
    assert "2 of its orders" in problem.message


def test_the_same_file_again_is_no_import(shop):
    bring(shop, "march.csv", order("1", 1))
    assert bring(shop, "again.csv", order("1", 1)) == Saved(0, 0, 1)
    assert [one[0] for one in told(shop)] == ["march.csv"]


def test_orders_of_a_zone_that_is_gone_are_not_brought_again(shop):
    bring(shop, "far.csv", order("1", 1, zone="Far"))
    take_back(shop, "far.csv")
    with shop.changing("No zone") as session:
        session.delete(session.scalars(select(ZoneRow).where(ZoneRow.name == "Far")).one())
    (problem,) = take_back(shop, "far.csv", live=True)
    assert "1 of its orders" in problem.message
    assert units(shop) == []
    bring(shop, "far.csv again", order("1", 1, zone="Far"))
    assert units(shop) == [1]


def test_goods_can_be_undone_under_orders_that_were_and_all_of_it_made_again(empty_shop):
    with empty_shop.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=2000)], EVERY_FIELD)
    bring(empty_shop, "march.csv", order("1", 3))
    assert [empty_shop.undo(), empty_shop.undo(), empty_shop.undo()] == ["Bring in march.csv", "Goods", None]
    assert [empty_shop.redo(), empty_shop.redo(), empty_shop.redo()] == ["Goods", "Bring in march.csv", None]
    assert units(empty_shop) == [3]


def test_orders_of_goods_that_are_gone_are_not_brought_again_as_others(empty_shop):
    shop = empty_shop
    with shop.changing("Zone") as session:
        session.add(ZoneRow(name="Home"))
    with shop.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=2000)], EVERY_FIELD)
    bring(shop, "march.csv", order("1", 1))
    shop.undo()
    shop.undo()
    with shop.changing("Other goods") as session:
        save_goods(session, [GoodRecord("TREE", list_price=900_000)], EVERY_FIELD)
    (problem,) = take_back(shop, "march.csv", live=True)
    assert "1 of its lines" in problem.message
    with shop.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=900_000)], EVERY_FIELD)
    assert take_back(shop, "march.csv", live=True) != []
    bring(shop, "march.csv again", order("1", 2))
    assert units(shop) == [2]


def test_orders_of_older_versions_count_until_they_are_told_anew(shop):
    bring(shop, "march.csv", order("1", 1), order("2", 2))
    with shop.changing("As an older version had them") as session:
        session.execute(text("update orders set import_id = null"))
        session.execute(text("delete from imports"))
    assert sorted(units(shop)) == [1, 2]
    bring(shop, "april.csv", order("2", 7))
    assert sorted(units(shop)) == [1, 7]
    with shop.reading() as session:
        assert session.scalars(select(func.count()).select_from(OrderRow)).one() == 3
