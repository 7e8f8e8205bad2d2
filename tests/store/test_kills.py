"""A process that is killed while it brings orders in leaves the shop as it was, or with all of them."""

import os
import signal
import subprocess
import sys
from time import sleep

import pytest
from sqlalchemy import func, select

from yellow_abacus import bring_in
from yellow_abacus.demo import FILES
from yellow_abacus.store.models import ChangeRow, ImportRow, OrderLineRow, OrderRow
from yellow_abacus.store.shop_file import ShopFile

ORDERS = 12_000
KILLED_WHILE_SAVING = """
import sys
from pathlib import Path
from yellow_abacus import bring_in
from yellow_abacus.store import orders
from yellow_abacus.store.shop_file import ShopFile

part, insert = int(sys.argv[3]), orders._insert
orders.AT_ONCE = 2_000

def told(*given):
    global part
    insert(*given)
    part -= 1
    if part == 0:
        print("now", flush=True)
        sys.stdin.read()

orders._insert = told
shop = ShopFile(Path(sys.argv[1]))
bring_in.save(shop, bring_in.check(shop, "orders", Path(sys.argv[2]).read_bytes()))
print("saved", flush=True)
sys.stdin.read()
"""


def counts(path):
    shop = ShopFile(path)
    with shop.reading() as session:
        found = [
            session.scalar(select(func.count()).select_from(table))
            for table in (OrderRow, OrderLineRow, ImportRow, ChangeRow)
        ]
    shop.close()
    return found


@pytest.fixture
def path(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    bring_in.save(shop, bring_in.check(shop, "goods", FILES.joinpath("goods.csv").read_bytes()))
    shop.close()
    return tmp_path / "shop.sqlite"


def killed(path, part):
    command = [sys.executable, "-c", KILLED_WHILE_SAVING, str(path), str(FILES / "orders.csv"), str(part)]
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    said = process.stdout.readline().strip()
    os.kill(process.pid, signal.SIGKILL)
    process.wait()
    return said


@pytest.mark.parametrize("part", [1, 2, 7, 12])
def test_killed_while_it_saves_nothing_came_in(path, part):
    before = counts(path)
    assert killed(path, part) == "now"
    assert counts(path) == before


def test_killed_once_it_saved_all_is_in(path):
    assert killed(path, -1) == "saved"
    orders, lines, imports, _ = counts(path)
    assert (orders, imports) == (ORDERS, 1)
    assert lines > ORDERS


def test_killed_at_any_moment_all_or_nothing_is_in(path):
    before = counts(path)
    for wait in (0.05, 0.4, 0.9, 1.4):
        file = str(FILES / "orders.csv")
        command = [sys.executable, "-m", "yellow_abacus", "import", "orders", file, "--shop", str(path)]
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        sleep(wait)
        process.kill()
        process.wait()
        assert counts(path)[0] in (before[0], ORDERS)
