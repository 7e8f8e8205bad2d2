"""Reading, checking and saving the demo shop's files, and a file of ten times its orders."""

import tempfile
from pathlib import Path

from tests.bench.timing import milliseconds, tell
from yellow_abacus import bring_in
from yellow_abacus.demo import FILES
from yellow_abacus.store.shop_file import ShopFile


def run() -> None:
    goods, orders = (FILES.joinpath(name).read_bytes() for name in ("goods.csv", "orders.csv"))
    header, body = orders.decode().split("\n", 1)
    ten_times = "\n".join([header, *(body.replace("HF2", f"H{at}2").rstrip("\n") for at in range(10))]).encode()
    with tempfile.TemporaryDirectory() as folder:
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
