"""A large shop as a file: 150,000 orders of ten lines, 70,000 SKUs in 300 categories; made once, and kept beside."""

import json
import sqlite3
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime, timedelta
from itertools import count
from multiprocessing import get_context
from pathlib import Path
from statistics import median
from time import perf_counter, sleep
from typing import Any

import numpy as np

from tests.bench.core_speed import megabytes
from tests.bench.timing import held, judge, milliseconds
from yellow_abacus.bring_in_json import bring_in_plans
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

ORDERS, SKUS, CATEGORIES, LINES_EACH = 150_000, 70_000, 300, 10
DAYS = 400


def make(path: Path) -> None:
    """Fill a new shop file at `path`."""
    ShopFile(path).close()
    dice = np.random.default_rng(11)
    with sqlite3.connect(path) as file:
        _shop(file)
        _goods(file, dice)
        _orders(file, dice)


def _shop(file: sqlite3.Connection) -> None:
    tariff = {"steps": [{"upto": 2000, "amount": 395.0}, {"upto": 31_500, "amount": 690.0}], "per_kilogram": None}
    file.execute("insert into tariffs (id, name, terms, source) values (1, 'Parcel', ?, '')", [json.dumps(tariff)])
    for number, name in enumerate(("Home", "Abroad", "Far"), start=1):
        door = {"name": "Door", "charge": {"kind": "flat", "amount": 490 * number}, "free_from": 9_000 * number}
        shelf = {"name": "Shelf", "charge": {"kind": "flat", "amount": 390 * number}, "free_from": None}
        shares = ((door, 7_000), (shelf, 3_000))
        options = [one | {"share_bp": share, "tariffs": ["Parcel"]} for one, share in shares]
        file.execute("insert into zones (id, name, options) values (?, ?, ?)", [number, name, json.dumps(options)])
    card = {"name": "card", "cost_bp": 190, "fixed": 25.0, "share_bp": 8_000}
    payments = json.dumps([card, {"name": "invoice", "fixed": 95.0, "share_bp": 2_000}])
    file.execute("update shop set picking_per_order = 110, picking_per_unit = 12, payments = ?", [payments])


def _goods(file: sqlite3.Connection, dice: np.random.Generator) -> None:
    price = dice.integers(150, 9_000, SKUS)
    known = dice.random(SKUS) > 0.01
    reduced = np.where(dice.random(SKUS) < 0.08, price * 8 // 10, 0)
    rows = [
        (
            at + 1, f"SKU-{at:05d}", f"Product {at // 2:05d}", "", int(price[at]), int(reduced[at]) or None,
            float(price[at]) * 0.45 if known[at] else None, float(20 + at % 4_000),
            json.dumps([f"Category {at % CATEGORIES:03d}"]), 500, f"Brand {at % 90:02d}",
        )
        for at in range(SKUS)
    ]  # fmt: skip
    columns = "id, sku, product, option, list_price, reduced_price, purchase_cost, weight, categories, stock, brand"
    file.executemany(f"insert into goods ({columns}) values ({', '.join('?' * 11)})", rows)


def _orders(file: sqlite3.Connection, dice: np.random.Generator) -> None:
    start = datetime(2025, 6, 1)
    minute = np.sort(dice.integers(0, DAYS * 1440, ORDERS))
    shopper, zone = dice.integers(0, ORDERS // 3, ORDERS), dice.choice([1, 1, 1, 2, 3], ORDERS)
    channel, payment = dice.choice(["web", "market"], ORDERS), dice.choice(["card", "invoice", ""], ORDERS)
    moment = [(start + timedelta(minutes=int(one))).isoformat(" ") + ".000000" for one in minute]
    rows = [
        (
            at + 1, f"N{at:06d}", moment[at], int(zone[at]), f"shopper-{shopper[at]}", "", str(channel[at]),
            str(payment[at]),
        )
        for at in range(ORDERS)
    ]  # fmt: skip
    columns = "id, number, placed_at, zone_id, shopper, code, channel, payment"
    file.executemany(f"insert into orders ({columns}) values ({', '.join('?' * 8)})", rows)
    sizes = dice.integers(1, 2 * LINES_EACH, ORDERS)
    order = np.repeat(np.arange(1, ORDERS + 1), sizes)
    good = dice.zipf(1.15, len(order)) % SKUS + 1
    many = dice.integers(1, 4, len(order))
    lines = zip(range(1, len(order) + 1), order.tolist(), good.tolist(), many.tolist(), strict=True)
    file.executemany("insert into order_lines (id, order_id, good_id, quantity) values (?, ?, ?, ?)", lines)


# --- what is measured


def run() -> None:
    """Everything over the API, then the command line from cold."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        start = perf_counter()
        maker = get_context("spawn").Process(target=make, args=(path,))  # whose memory is not the application's
        maker.start()
        maker.join()
        print(f"  made {ORDERS:,} orders and {SKUS:,} SKUs in {perf_counter() - start:.0f} s", flush=True)
        _cold(path)
        _over_the_api(path)


def plan_with(percent_bp: int) -> dict[str, Any]:
    """Four mixed offers over two weeks."""
    scope = {"categories": ["Category 007", "Category 011"]}
    half = {"kind": "percent_off", "percent_bp": 5000}
    some = [
        {"earned": spend(30_000), "gives": [{"kind": "percent_off", "percent_bp": percent_bp}]},
        {"earned": spend(20_000), "gives": [{"kind": "delivery_lowered_to", "amount": 0}]},
        {
            "earned": {"repeat": "each_time"},
            "gives": [{"kind": "buy_get", "buy": 2, "get": 1, "of": scope, "price": half}],
            "on": scope,
        },
        {"earned": spend(40_000), "gives": [{"kind": "put_in", "skus": ["SKU-00005"]}]},
    ]
    offers = [{"id": str(at), "name": f"Offer {at}", "terms": terms} for at, terms in enumerate(some)]
    return {"name": "Two weeks", "first_day": "2026-08-01", "last_day": "2026-08-14", "offers": offers}


RAN = {
    "id": "ran",
    "name": "Spring",
    "terms": {
        "earned": {"conditions": [{"kind": "spend", "n": 30_000}]},
        "gives": [{"kind": "percent_off", "percent_bp": 1_000}],
        "when": {"first_day": "2026-03-01", "last_day": "2026-03-21"},
    },
}
"""An offer that ran before."""


def spend(n: int) -> dict[str, Any]:
    return {"conditions": [{"kind": "spend", "n": n}]}


def _cold(path: Path) -> None:
    shop = ShopFile(path)
    bring_in_plans(shop, CountingRoom(shop), PlansFile.model_validate({"plans": [plan_with(1000)]}))
    shop.close()
    forecast = [
        sys.executable,
        "-m",
        "yellow_abacus",
        "forecast",
        "--shop",
        str(path),
        "--plan",
        "Two weeks",
        "--json",
    ]
    held("cold forecast --json", lambda: subprocess.run(forecast, check=True, capture_output=True), 5_000, 1)


def _over_the_api(path: Path) -> None:
    shop = ShopFile(path)
    app = make_app(shop)
    client, numbers = app.test_client(), count(1001)

    def post(path: str, body: dict[str, Any], by: Any = client) -> None:
        assert by.post(f"/api/{path}", json=body, headers=SAME_ORIGIN).status_code == 200, path

    def get(path: str, by: Any = client) -> Any:
        answer = by.get(f"/api/{path}")
        assert answer.status_code == 200, path
        return answer.json

    get("frame")
    judge(
        "first forecast, once loaded", milliseconds(lambda: post("forecast", plan_with(1000)), 1)[0], 800, unit="ms"
    )
    held("a changed number", lambda: post("forecast", plan_with(next(numbers))), 400, 7)
    held("frame", lambda: get("frame"), 20)
    get("goods")
    held("a page of goods", lambda: get("goods?text=prod&by=kept&first=300"), 50)
    good = get("goods/one?sku=SKU-00017")
    body = {name: good[name] for name in ("product", "purchase_cost", "weight", "categories")}

    def save() -> None:
        told = body | {"list_price": next(numbers)}
        answer = client.put("/api/goods/one?sku=SKU-00017", json=told, headers=SAME_ORIGIN)
        assert answer.status_code == 200, answer.json

    held("saving one price", save, 300, 3)
    after = []
    for _ in range(3):
        save()
        after += milliseconds(lambda: post("forecast", plan_with(1000)), 1)
    judge("the forecast after it", median(after), 1_000, unit="ms")
    many = {"skus": [f"SKU-{at:05d}" for at in range(100, 200)], "field": "list_price", "how": "raise", "value": 500}
    held("preview of 100 SKUs", lambda: post("goods/preview", many), 1_000, 3)
    _beside_slow_ones(app, post, numbers)
    judge("memory so far", megabytes(), 1_500, unit="MB")
    answer = client.put("/api/past", json={"offers": [RAN]}, headers=SAME_ORIGIN)
    assert answer.status_code == 200, answer.json
    said = milliseconds(lambda: client.get("/api/history-says"), 2)
    judge("what history says of one offer, the first time", said[0], 5_000, unit="ms")
    print(f"  memory after that too {megabytes():42.1f} MB", flush=True)
    shop.close()


def _beside_slow_ones(app: Any, post: Callable[..., None], numbers: Iterator[int]) -> None:
    """How long a quick request takes while six slow ones go on, more than it takes by itself."""
    client = app.test_client()
    alone = median(milliseconds(lambda: post("forecast", plan_with(next(numbers)), client), 5))
    with ThreadPoolExecutor(6) as pool:
        slow = [pool.submit(post, "reach", plan_with(1000), app.test_client()) for _ in range(6)]
        sleep(0.5)
        beside = milliseconds(lambda: post("forecast", plan_with(next(numbers)), client), 3)
        for one in slow:
            one.result()
    judge("what a quick request waits beside six slow ones", max(beside) - alone, 200, unit="ms")


SAME_ORIGIN = {"Sec-Fetch-Site": "same-origin"}
