"""Places where nothing can be read or written: each a plain sentence and an exit code, and nothing touched."""

import os
import socket
import sqlite3
import subprocess
import sys
import time
from contextlib import closing
from itertools import count
from pathlib import Path

import pytest
from click.testing import CliRunner

from yellow_abacus.changing_goods import put_good
from yellow_abacus.cli import main
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.store.faults import ShopFullError
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.shop_file import ShopFile


def run(*words: str):
    return CliRunner().invoke(main, list(words))


def refused(shop: Path, says: str) -> None:
    for words in (("forecast", "--plan", "P"), ("export", "goods", str(shop.parent / "out.csv"))):
        result = run(*words, "--shop", str(shop))
        assert (result.exit_code, says in result.output) == (1, True), result.output
        assert "Traceback" not in result.output
        assert isinstance(result.exception, SystemExit)


@pytest.fixture
def shop(tmp_path: Path) -> Path:
    path = tmp_path / "shop.sqlite"
    ShopFile(path).close()
    return path


def test_a_damaged_shop_file(shop):
    data = bytearray(shop.read_bytes())
    data[2000:] = os.urandom(len(data) - 2000)
    shop.write_bytes(data)
    before = shop.read_bytes()
    result = run("forecast", "--plan", "P", "--shop", str(shop))
    assert (result.exit_code, isinstance(result.exception, SystemExit)) == (1, True), result.output
    assert shop.read_bytes() == before


def test_a_file_that_is_no_database(shop):
    shop.write_text("not a shop " * 100)
    refused(shop, "is not a shop file")


def test_somebody_elses_database_is_left_alone(tmp_path):
    path = tmp_path / "other.sqlite"
    with closing(sqlite3.connect(path)) as other:
        other.execute("create table letters (id integer)")
        other.commit()
    before = path.read_bytes()
    refused(path, "another program's")
    assert path.read_bytes() == before


def test_lost_settings_are_told_and_not_made_up(shop):
    with closing(sqlite3.connect(shop)) as file:
        file.execute("delete from shop")
        file.commit()
    refused(shop, "settings in")


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everything")
def test_a_file_that_may_not_be_written(shop):
    shop.chmod(0o400)
    refused(shop, "cannot be written")


def test_a_file_locked_by_another_program(shop, monkeypatch):
    monkeypatch.setattr("yellow_abacus.store.shop_file.PATIENCE", 0.1)
    with closing(sqlite3.connect(shop)) as other:
        other.execute("begin exclusive")
        result = run("import", "shop", str(Path("docs/paper/shop.json").absolute()), "--shop", str(shop))
    assert (result.exit_code, "try again in a moment" in result.output) == (1, True), result.output


def test_a_folder_that_cannot_be_made(tmp_path):
    (tmp_path / "file").write_text("")
    result = run("serve", "--shop", str(tmp_path / "file" / "shop.sqlite"))
    assert (result.exit_code, "cannot be" in result.output) == (1, True), result.output


def test_a_port_in_use_and_one_there_is_not(shop):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        result = run("serve", "--shop", str(shop), "--port", str(port))
    assert (result.exit_code, "cannot be listened on" in result.output) == (1, True), result.output
    assert run("serve", "--shop", str(shop), "--port", "99999").exit_code == 2


def test_other_addresses_are_refused_unless_it_is_said_plainly(shop):
    result = run("serve", "--shop", str(shop), "--host", "0.0.0.0")
    assert (result.exit_code, "there is no sign-in yet" in result.output) == (1, True)


def test_a_full_disk_is_told_and_nothing_is_half_saved(shop):
    with closing(sqlite3.connect(shop)) as file:
        pages = file.execute("pragma page_count").fetchone()[0]
    opened = ShopFile(shop)
    with opened._writer.connect() as connection:
        connection.exec_driver_sql(f"pragma max_page_count = {pages}")
        connection.commit()
    saved = count()

    def fill() -> None:
        for number in saved:
            put_good(opened, GoodRecord(f"SKU-{number}", product="p" * 200))

    with pytest.raises(ShopFullError, match="is full"):
        fill()
    with opened.reading() as session:
        left = len(all_goods(session))
    assert left == next(saved) - 1
    opened.close()


def test_the_helper_ends_with_the_server_however_that_ends(tmp_path):
    words = [
        sys.executable,
        "-m",
        "yellow_abacus",
        "serve",
        "--demo",
        "--shop",
        str(tmp_path / "s.sqlite"),
        "--port",
        "0",
    ]
    server = subprocess.Popen(words, stdout=subprocess.PIPE, text=True)
    assert server.stdout
    assert "Yellow Abacus is open" in server.stdout.readline()
    helpers = Path(f"/proc/{server.pid}/task/{server.pid}/children").read_text().split()
    assert len(helpers) == 2  # the carriers and the order feed
    server.kill()
    server.wait()
    ends = time.monotonic() + 30
    while any(_lives(helper) for helper in helpers):
        assert time.monotonic() < ends
        time.sleep(0.05)


def _lives(process: str) -> bool:
    try:
        return "Z" not in Path(f"/proc/{process}/stat").read_text().split(")")[1][:3]
    except (FileNotFoundError, ProcessLookupError):
        return False
