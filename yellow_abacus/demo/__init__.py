"""The demo shop, Hollow Fern Potting Co.: made up, shipped as files a merchant would bring, loaded the same way."""

import subprocess
import sys
from importlib import resources

from yellow_abacus import bring_in
from yellow_abacus.bring_in_json import bring_in_plans, bring_in_shop
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.files.shop_json import ShopFileDoc
from yellow_abacus.sorting_carts import sort_anew
from yellow_abacus.store.goods import any_goods
from yellow_abacus.store.plans import all_plans
from yellow_abacus.store.shop_file import ShopFile

FILES = resources.files(__package__).joinpath("files")


def is_empty(shop_file: ShopFile) -> bool:
    """Whether nothing was brought into the shop yet."""
    with shop_file.reading() as session:
        return not any_goods(session) and not all_plans(session)


def fill_apart(shop_file: ShopFile) -> None:
    """Fill an empty shop in a process of its own, which gives back what it takes: finding cart types loads much."""
    if is_empty(shop_file):
        subprocess.run([sys.executable, "-m", "yellow_abacus", "demo-shop", "--shop", shop_file.path], check=True)


def fill_with_demo_shop(shop_file: ShopFile) -> bool:
    """Fill an empty shop from the shipped files; False where the shop is not empty."""
    if not is_empty(shop_file):
        return False
    bring_in_shop(shop_file, ShopFileDoc.model_validate_json(FILES.joinpath("shop.json").read_bytes()))
    for kind in ("goods", "tariffs", "charges", "surcharges", "orders"):
        told = bring_in.check(shop_file, kind, FILES.joinpath(f"{kind}.csv").read_bytes(), file=f"{kind}.csv")
        bring_in.save(shop_file, told)
    plans = PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes())
    room = CountingRoom(shop_file)
    sort_anew(shop_file, room)
    bring_in_plans(shop_file, room, plans)
    return True
