"""A large shop as a file: 150,000 orders of ten lines, 70,000 SKUs in 300 categories; made once, and kept beside."""

import json
import sqlite3
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from yellow_abacus.store.shop_file import ShopFile

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
