"""Reading, checking and saving the demo shop's files, and a file of ten times its orders."""

import tempfile
from pathlib import Path

from tests.bench.timing import milliseconds, tell
from yellow_abacus import bring_in
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.demo import FILES
from yellow_abacus.files.tables_out import Contents, as_file, shop_table
from yellow_abacus.store.shop_file import ShopFile


def _good(at: int) -> GoodRecord:
    return GoodRecord(
        f"SKU-{at:05d}",
        f"Product {at // 3}",
        f"option {at % 3}",
        list_price=500 + at,
        quantity_prices=((6, 450 + at), (24, 400 + at)),
        group_prices=(("trade", 1, 420 + at),),
        purchase_cost=123.45 + at,
        freight_cost=12.5,
        weight=100.0 + at,
        length=100,
        width=80,
        height=60,
        categories=(f"Category {at % 12}",),
        tags=("a", "b"),
        stock=at,
        return_bp=250,
    )


def run() -> None:
    goods, orders = (FILES.joinpath(name).read_bytes() for name in ("goods.csv", "orders.csv"))
    header, body = orders.decode().split("\n", 1)
    ten_times = "\n".join([header, *(body.replace("HF2", f"H{at}2").rstrip("\n") for at in range(10))]).encode()
    many = shop_table("goods", Contents([_good(at) for at in range(5_000)], Shop(Settings(), ()), 2))
    with tempfile.TemporaryDirectory() as folder:
        for format_ in ("csv", "xlsx"):
            shop = ShopFile(Path(folder) / f"goods {format_}.sqlite")
            data = as_file(many, format_)
            tell(
                f"5,000 SKUs as {format_.upper()}: read, checked and saved",
                milliseconds(
                    lambda shop=shop, data=data: bring_in.save(shop, bring_in.check(shop, "goods", data)), 1
                ),
                "bar 2,000 ms",
            )
            tell(f"5,000 SKUs written as {format_.upper()}", milliseconds(lambda f=format_: as_file(many, f), 3))
            shop.close()
        shop = ShopFile(Path(folder) / "shop.sqlite")
        bring_in.save(shop, bring_in.check(shop, "goods", goods))
        for name, data in (("12,000 orders", orders), ("120,000 orders", ten_times)):
            tell(
                f"{name}: reading and checking",
                milliseconds(lambda data=data: bring_in.check(shop, "orders", data), 1),
            )
            checked = bring_in.check(shop, "orders", data)
            tell(f"{name}: saving", milliseconds(lambda checked=checked: bring_in.save(shop, checked), 1))
            tell(
                f"{name}: saving the same again",
                milliseconds(lambda checked=checked: bring_in.save(shop, checked), 1),
            )
        shop.close()
