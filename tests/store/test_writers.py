"""Many who write and read at once, in one process and in two: nothing is lost, nothing half seen, nobody fails."""

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from datetime import date
from threading import Barrier, Event, Thread

import pytest

from yellow_abacus.changing_goods import EVERY_FIELD
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.store import shop_file as opening
from yellow_abacus.store.faults import ShopBusyError
from yellow_abacus.store.goods import all_goods, save_goods
from yellow_abacus.store.models import PlanRow
from yellow_abacus.store.plans import PlanChangedError, add_plan, save_plan
from yellow_abacus.store.shop_file import ShopFile

PLAN = {"name": "P", "note": "", "first_day": None, "last_day": None, "apply": "best", "offers": []}
MANY = 10


def at_once(work, many: int = MANY) -> list:
    """What `work` comes to, done so many times at one moment."""
    start = Barrier(many)

    def one(number: int):
        start.wait()
        return work(number)

    with ThreadPoolExecutor(many) as pool:
        return list(pool.map(one, range(many)))


def put(shop: ShopFile, sku: str, price: int) -> None:
    with shop.changing(sku) as session:
        save_goods(session, [GoodRecord(sku, list_price=price)], EVERY_FIELD)


def goods(shop: ShopFile) -> dict[str, int | None]:
    with shop.reading() as session:
        return {one.sku: one.list_price for one in all_goods(session)}


def test_of_many_saves_of_one_revision_one_is_taken(empty_shop):
    days = {"first_day": date(2027, 3, 1), "last_day": date(2027, 3, 2)}
    for _ in range(5):
        with empty_shop.changing("Plan") as session:
            plan_id = add_plan(session, PLAN | days).id

        def save(number: int, plan_id: int = plan_id) -> bool:
            try:
                with empty_shop.changing("Save") as session:
                    save_plan(session, session.get_one(PlanRow, plan_id), {"note": str(number)}, 1)
            except PlanChangedError:
                return False
            return True

        assert sum(at_once(save)) == 1


def test_undone_at_once_each_takes_back_one(empty_shop):
    for number in range(MANY):
        put(empty_shop, f"A{number}", 100)
    labels = at_once(lambda _: empty_shop.undo(), 6)
    assert sorted(labels) == [f"A{number}" for number in range(4, MANY)]
    assert sorted(goods(empty_shop)) == ["A0", "A1", "A2", "A3"]


def test_a_reader_sees_one_state_of_the_shop_and_never_waits(empty_shop):
    for sku in "AB":
        put(empty_shop, sku, 1)
    done = Event()

    def write() -> None:
        price = 1
        while not done.is_set():
            price += 1
            with empty_shop.changing("Both") as session:
                save_goods(session, [GoodRecord(sku, list_price=price) for sku in "AB"], EVERY_FIELD)

    writer = Thread(target=write)
    writer.start()
    try:
        for _ in range(200):
            with empty_shop.reading() as session:
                first = session.query(PlanRow).count()
                seen = {one.list_price for one in all_goods(session)}
                again = {one.list_price for one in all_goods(session)}
            assert (len(seen), again, first) == (1, seen, 0)
    finally:
        done.set()
        writer.join()


def test_reading_goes_on_while_a_change_is_under_way(empty_shop):
    put(empty_shop, "A", 1)
    with empty_shop.changing("Slow") as session:
        save_goods(session, [GoodRecord("A", list_price=2)], EVERY_FIELD)
        assert goods(empty_shop) == {"A": 1}
    assert goods(empty_shop) == {"A": 2}


@pytest.mark.parametrize("same_process", [True, False])
def test_who_waits_too_long_is_told_and_nothing_is_saved(empty_shop, monkeypatch, same_process):
    monkeypatch.setattr(opening, "PATIENCE", 0.1)
    other = empty_shop if same_process else ShopFile(empty_shop.path)
    with empty_shop.changing("Slow") as session:
        save_goods(session, [GoodRecord("A")], EVERY_FIELD)
        with pytest.raises(ShopBusyError, match="try again in a moment"):
            put(other, "B", 1)
    assert goods(empty_shop) == {"A": None}
    other.close()


WRITER = """
import sys
from tests.store.test_writers import put
from yellow_abacus.store.shop_file import ShopFile
from pathlib import Path
shop = ShopFile(Path(sys.argv[1]))
for number in range(20):
    put(shop, f"{sys.argv[2]}{number}", number)
"""


def test_two_processes_write_and_nothing_is_lost(empty_shop):
    version = empty_shop.data_version()
    others = [subprocess.Popen([sys.executable, "-c", WRITER, str(empty_shop.path), name]) for name in "XY"]
    at_once(lambda number: [put(empty_shop, f"Z{number}-{again}", again) for again in range(4)], 5)
    assert [other.wait() for other in others] == [0, 0]
    assert len(goods(empty_shop)) == 60
    assert empty_shop.data_version() == version + 60
