from datetime import date, datetime

import pytest
from sqlalchemy import text

from yellow_abacus.core.goods.records import GoodRecord, OrderLineRecord, OrderRecord
from yellow_abacus.store.faults import NotAShopFileError
from yellow_abacus.store.goods import all_goods, save_goods
from yellow_abacus.store.imports import live_ids
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import GoodRow, OrderRow, PlanRow, ZoneRow
from yellow_abacus.store.orders import save_orders
from yellow_abacus.store.shop_file import ShopFile

ALL = frozenset(GoodRecord.__dataclass_fields__)


@pytest.fixture
def shop_file(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    with shop.changing("Goods") as session:
        goods = [GoodRecord("A", list_price=500), GoodRecord("B", list_price=900, purchase_cost=123.45)]
        save_goods(session, goods, ALL)
    yield shop
    shop.close()


def order(number: str, *lines: OrderLineRecord, day: int = 3) -> OrderRecord:
    return OrderRecord(number, datetime(2026, 3, day, 9, 30), lines, zone="Home")


def bring(shop: ShopFile, *orders: OrderRecord):
    with shop.changing("Orders") as session:
        return save_orders(session, orders)


def contents(shop: ShopFile) -> dict[str, list]:
    """All that counts: of orders those that do."""
    live = {"orders": f"where id in ({live_ids()})", "order_lines": f"where order_id in ({live_ids()})"}
    with shop.engine.connect() as connection:
        names = ("goods", "zones", "orders", "order_lines", "plans")
        queries = {name: f"select * from {name} {live.get(name, '')} order by id" for name in names}
        return {name: list(connection.execute(text(query))) for name, query in queries.items()}


def test_saving_the_same_again_changes_nothing(shop_file):
    orders = [order("1", OrderLineRecord("A", 2, 500)), order("2", OrderLineRecord("B", 1, None), day=9)]
    assert bring(shop_file, *orders).new == 2
    before, version = contents(shop_file), shop_file.data_version()
    again = bring(shop_file, *orders)
    assert (again.new, again.changed, again.unchanged) == (0, 0, 2)
    with shop_file.changing("Goods") as session:
        saved = save_goods(session, all_goods(session), ALL)
    assert (saved.new, saved.changed) == (0, 0)
    assert contents(shop_file) == before
    assert shop_file.data_version() == version


def test_every_change_can_be_undone_and_made_again(shop_file):
    states = [contents(shop_file)]
    bring(shop_file, order("1", OrderLineRecord("A", 2, 500)), order("2", OrderLineRecord("B", 1, 900)))
    states.append(contents(shop_file))
    bring(shop_file, order("1", OrderLineRecord("B", 3, 880), day=5))
    states.append(contents(shop_file))
    with shop_file.changing("Goods") as session:
        save_goods(session, [GoodRecord("A", list_price=450)], frozenset({"list_price"}))
    states.append(contents(shop_file))
    with shop_file.changing("Plan") as session:
        days = {"first_day": date(2026, 3, 1), "last_day": date(2026, 3, 2)}
        session.add(PlanRow(name="P", note="", offers=[], revision=1, **days))
    states.append(contents(shop_file))
    with shop_file.changing("Rename") as session:
        session.query(PlanRow).one().name = "Q"
    states.append(contents(shop_file))
    with shop_file.changing("Delete") as session:
        session.delete(session.query(PlanRow).one())
    states.append(contents(shop_file))
    for state in reversed(states[:-1]):
        assert shop_file.undo()
        assert contents(shop_file) == state
    for state in states[1:]:
        assert shop_file.redo()
        assert contents(shop_file) == state


def test_a_new_change_ends_what_could_be_made_again(shop_file):
    assert shop_file.undo() == "Goods"
    with shop_file.changing("Zone") as session:
        session.add(ZoneRow(name="Far", places=["Moon"], options=[]))
    assert shop_file.redo() is None


def test_a_failed_change_leaves_nothing(shop_file):
    before = contents(shop_file)
    with pytest.raises(KeyError):
        bring(shop_file, order("1", OrderLineRecord("A", 1, 500)), order("2", OrderLineRecord("NO SUCH", 1, 500)))
    assert contents(shop_file) == before


def test_loading_makes_the_arrays_of_what_was_saved(shop_file):
    bring(shop_file, order("1", OrderLineRecord("A", 2, 480), OrderLineRecord("B", 1, 900)), order("2", day=12))
    with shop_file.reading() as session:
        loaded = load(session)
    assert loaded.counted_days == 10
    assert loaded.batch.worth_by_cart.tolist() == [1900, 0]
    assert loaded.batch.unit_costs_by_cart.tolist() == [123.45, 0]


def test_a_file_that_is_no_shop_is_refused_and_left_alone(tmp_path):
    path = tmp_path / "other.sqlite"
    path.write_bytes(b"not a database at all" * 100)
    with pytest.raises(NotAShopFileError):
        ShopFile(path)
    assert path.read_bytes() == b"not a database at all" * 100


def test_fields_the_file_did_not_give_stay(shop_file):
    with shop_file.changing("Goods") as session:
        save_goods(session, [GoodRecord("B", list_price=950)], frozenset({"list_price"}))
    with shop_file.reading() as session:
        row = session.query(GoodRow).filter_by(sku="B").one()
        assert (row.list_price, row.purchase_cost) == (950, 123.45)
        assert session.query(OrderRow).count() == 0


def test_the_demo_shop_is_taken_back_to_nothing_and_made_again(demo_shop):
    before = contents(demo_shop)
    undone = list(iter(demo_shop.undo, None))
    assert contents(demo_shop) == {name: [] for name in before}
    assert list(iter(demo_shop.redo, None)) == undone[::-1]
    assert contents(demo_shop) == before
