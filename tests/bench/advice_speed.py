"""The Till and what is advised on a plan, on the demo shop: a cart rung up with all that is shown, snags, leaks."""

from datetime import date
from itertools import combinations
from pathlib import Path
from tempfile import TemporaryDirectory
from time import perf_counter

import numpy as np

from tests.bench.timing import a_busy_core, held, judge, milliseconds, tell
from yellow_abacus.bring_in_json import plan_of
from yellow_abacus.core.advice.built import Bench, Bunch
from yellow_abacus.core.advice.leaks import AT_ONCE, MOST_UNITS, search
from yellow_abacus.counting import Counted, CountingRoom, scene_of
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.store.plans import all_plans
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.till.mending import mends
from yellow_abacus.till.ringing import Till
from yellow_abacus.till.trials import trials

CARTS = 1_000_000


def run() -> None:
    with TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        with shop.reading() as session:
            plans = [plan_of(row) for row in all_plans(session)]
        room = CountingRoom(shop)
        at = room.current()
        for doc in (plans[0], plans[2]):
            till, cart = Till(at, doc), cart_of(doc)
            held(
                f"a cart at the Till, {len(till.offers)} offers",
                lambda till=till, cart=cart: till.ring_up(cart),
                30,
                25,
            )
            tell("  what its offers lack", milliseconds(lambda till=till, cart=cart: mends(till, cart), 5))
            tell("  all trials of the plan", milliseconds(lambda till=till: trials(till), 5))
            room.forecast(doc)
            today = date(2026, 11, 26)
            tell("  snags", milliseconds(lambda doc=doc, today=today: room.snags(doc, today), 5))
            whole_search(at, doc)
        million(at, plans[0])
        shop.close()


def cart_of(doc: PlanDoc) -> CartDoc:
    lines = [{"sku": "HF-SEMAI-1", "quantity": 10}, {"sku": "HF-SOFER-1", "quantity": 4}]
    return CartDoc.model_validate({"lines": lines, "zone": "Home", "time": f"{doc.first_day}T12:00"})


def bench_of(at: Counted, doc: PlanDoc) -> tuple[Bench, np.ndarray]:
    scene = scene_of(at.expecting(doc), doc, date(2026, 11, 26))
    return Bench(scene.shop, scene.goods, scene.offers, doc.apply, 100.0), scene.units_by_sku


def whole_search(at: Counted, doc: PlanDoc) -> None:
    bench, sold = bench_of(at, doc)
    start = perf_counter()
    *_, last = search(bench, sold)
    seconds = perf_counter() - start
    print(f"    search for leaks: {last.carts:,} carts in {seconds:.1f} s, {len(last.leaks)} leaks", flush=True)


def million(at: Counted, doc: PlanDoc) -> None:
    """So many candidate carts of two goods, priced at their worst."""
    bench, _ = bench_of(at, doc)
    goods = np.flatnonzero(bench.goods.is_sold & (bench.goods.standing_price > 0))
    pairs = np.array(list(combinations(goods.tolist(), 2)))
    units = np.stack(np.meshgrid(*(np.arange(1, MOST_UNITS + 1),) * 2), axis=-1).reshape(-1, 2)
    zones = len(bench.shop.zones)
    number = np.arange(CARTS)
    sku = pairs[number // zones // len(units) % len(pairs)]
    bunch = Bunch(sku, units[number // zones % len(units)], number % zones, np.zeros(CARTS, dtype=np.int64))

    def look() -> float:
        start = perf_counter()
        for first in range(0, CARTS, AT_ONCE):
            bench.worst(bunch.some(slice(first, first + AT_ONCE)))
        return perf_counter() - start

    quiet = look()
    with a_busy_core():
        busy = look()
    judge(f"{CARTS:,} candidate carts searched, two offers", quiet, 10, busy, "s")
