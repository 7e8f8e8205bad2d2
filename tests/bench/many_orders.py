"""A million and a half order lines: into a shop, the same file again, taken back; and what Carts then answers."""

import io
import tempfile
from collections.abc import Callable
from datetime import datetime, timedelta
from itertools import count
from pathlib import Path
from time import process_time
from typing import Any

import numpy as np

from tests.bench.core_speed import megabytes
from tests.bench.timing import held, judge, milliseconds, tell
from yellow_abacus import bring_in
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.store.goods import save_goods
from yellow_abacus.store.loading import load
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

ORDERS, SKUS, SHOPPERS = 150_000, 30_000, 45_000
GIVEN = frozenset({"list_price", "purchase_cost", "weight", "categories"})
WINDOW = {"first_day": "2026-07-01", "last_day": "2026-07-14"}


def orders_file(dice: np.random.Generator) -> bytes:
    """Median 5 lines an order, one in ten over 24; prices from 0.20 to 200; a third of the lines discounted; one
    shopper in fifty with very many orders."""
    sizes = np.clip(np.rint(np.exp(dice.normal(np.log(5), 1.25, ORDERS))), 1, 300).astype(np.int64)
    order = np.repeat(np.arange(ORDERS), sizes)
    sku, quantity = dice.zipf(1.15, len(order)) % SKUS, dice.integers(1, 4, len(order))
    price = np.exp(dice.uniform(np.log(0.2), np.log(200), SKUS))[sku]
    off = np.where(dice.random(len(order)) < 0.33, price * quantity * 0.1, 0.0)
    often = dice.integers(0, SHOPPERS // 50, ORDERS)
    shopper = np.where(dice.random(ORDERS) < 0.4, often, dice.integers(0, SHOPPERS, ORDERS))
    start = datetime(2025, 7, 1)
    minute = np.sort(dice.integers(0, 400 * 1440, ORDERS)).tolist()
    moment = [f"{start + timedelta(minutes=one):%Y-%m-%d %H:%M}" for one in minute]
    zone = dice.choice(["Home", "Home", "Home", "Abroad", "Far"], ORDERS).tolist()
    out = io.StringIO()
    out.write("Order,Date,SKU,Quantity,Price,Discount,Zone,Customer\n")
    rows = zip(order.tolist(), sku.tolist(), quantity.tolist(), price.tolist(), off.tolist(), strict=True)
    for at, good, units, each, less in rows:
        discount = f"{less:.2f}" if less else ""
        out.write(f"N{at:06d},{moment[at]},SKU-{good:05d},{units},{each:.2f},{discount},{zone[at]},S{shopper[at]}\n")
    return out.getvalue().encode()


def run() -> None:
    dice = np.random.default_rng(11)
    data = orders_file(dice)
    goods = [
        GoodRecord(
            f"SKU-{at:05d}",
            list_price=int(dice.integers(20, 20_000)),
            purchase_cost=100.0,
            weight=200.0,
            categories=(f"Category {at % 200}",),
        )
        for at in range(SKUS)
    ]
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        with shop.changing("Goods") as session:
            save_goods(session, goods, GIVEN)
        del goods

        def bring() -> None:
            bring_in.save(shop, bring_in.check(shop, "orders", data))

        print(f"  {data.count(10) - 1:,} lines, {len(data) / 1e6:.0f} MB", flush=True)
        judge("brought in, of one processor", _processor(bring), 30, unit="s")
        judge("memory so far", megabytes(), 1_200, unit="MB")
        judge("the same again, of one processor", _processor(bring), 15, unit="s")
        held("loaded cold", lambda: _load(shop), 3_000, 3)
        _asked(shop)
        shop.close()


def _processor(act: Callable[[], object]) -> float:
    start = process_time()
    act()
    return process_time() - start


def _load(shop: ShopFile) -> None:
    with shop.reading() as session:
        load(session)


def _asked(shop: ShopFile) -> None:
    client, numbers = make_app(shop).test_client(), count(10_001)

    def post(path: str, body: dict[str, Any]) -> None:
        assert client.post(f"/api/{path}", json=body | WINDOW).status_code == 200, path

    def changed() -> dict[str, Any]:
        return {"terms": {"segments": [{"of": "first", "times_bp": next(numbers)}]}}

    client.get("/api/carts")
    post("mixes/seen", {"terms": {}})
    judge("Carts, once loaded", milliseconds(lambda: client.get("/api/carts"), 3)[-1], 1_000, unit="ms")
    for what in ("seen", "spread", "groups"):
        judge(
            f"a changed mix: {what}",
            max(milliseconds(lambda w=what: post(f"mixes/{w}", changed()), 3)),
            300,
            unit="ms",
        )
    tell("what sells together", milliseconds(lambda: post("mixes/together", {"terms": {}}), 3))
    number = client.get("/api/carts").get_json()["imports"][0]["id"]
    taken = milliseconds(lambda: client.put(f"/api/imports/{number}", json={"live": False}), 1)[0]
    judge("taken back", taken / 1000, 2, unit="s")
