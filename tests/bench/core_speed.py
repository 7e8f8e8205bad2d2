"""The core on the demo shop: one change of a plan until the new forecast, a curve, reasons, one cart rung up."""

import subprocess
import sys
import tempfile
from collections.abc import Callable
from dataclasses import replace
from itertools import count
from pathlib import Path
from statistics import median

import numpy as np

from tests.bench.timing import held, judge, milliseconds, tell
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.forecast.curve import impact_curve
from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.reach import reach
from yellow_abacus.core.offers import PercentOff
from yellow_abacus.demo import FILES, fill_apart, fill_with_demo_shop
from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.ringing_up import ring_up
from yellow_abacus.store.loading import LoadedShop, load
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

PLANS = (("two offers, a number changed", 8), ("a code, a number changed", 30), ("five kinds, a number changed", 30))
"""The plans of the demo shop, by what is done with them, and the bar in milliseconds."""

FORECASTS, MOST_MEGABYTES = 2_000, 350


def changed(plan: Plan, percent_bp: int) -> Plan:
    first, *others = plan.offers
    return replace(plan, offers=(replace(first, gives=(PercentOff(percent_bp),)), *others))


def times_over(loaded: LoadedShop, times: int) -> LoadedShop:
    """The same shop with every order there `times` times, and as much more in stock."""
    batch = loaded.batch
    goods = replace(batch.goods, stock=batch.goods.stock * times)
    cart = np.concatenate([batch.axes.cart_by_line + at * batch.axes.carts for at in range(times)])
    sku, quantity, paid = (
        np.tile(array, times) for array in (batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line)
    )
    facts = batch.facts.some(np.tile(np.arange(batch.axes.carts), times))
    zones = np.tile(batch.zone_by_cart, times)
    orders = replace(loaded.orders, day=np.tile(loaded.orders.day, times))
    return replace(loaded, batch=make_batch(goods, zones, cart, sku, quantity, paid, facts), orders=orders)


def demo_shop() -> LoadedShop:
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        with shop.reading() as session:
            loaded = load(session)
            tell("loading the demo shop into arrays", milliseconds(lambda: load(session), 5))
        shop.close()
    return loaded


def run() -> None:
    plans = [doc.plan() for doc in PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans]
    loaded = demo_shop()
    room = Forecaster(expect(loaded.history))
    for (name, bar), plan in zip(PLANS, plans, strict=True):
        room.forecast(plan)
        held(f"{loaded.batch.axes.carts:,} carts: {name}", fresh_forecasts(room, plan), bar, 40)
    sells_out = replace(plans[2], lost_if_sold_out_bp=3_000)
    room.forecast(sells_out)
    tell("five kinds, and goods that sell out", milliseconds(fresh_forecasts(room, sells_out), 20))
    values = count(1)

    def curve() -> object:
        return impact_curve(room, [changed(plans[2], next(values)) for _ in range(25)])

    held("curve of 25 values, five kinds", curve, 250, 7)
    held("reasons of every order, five kinds", lambda: reach(room, plans[2]), 100, 5)
    held("one cart rung up, five kinds", one_cart(loaded, plans[2]), 12, 25)
    ten = times_over(loaded, 10)
    tenth, whole = (Forecaster(expect(one.history)) for one in (loaded, ten))  # nothing of these plans is known yet
    names = (*(name for name, _ in PLANS), "five kinds, and goods that sell out")
    for name, plan in zip(names, (*plans, sells_out), strict=True):
        times = 20 if plan is not sells_out else 8
        for one in (tenth, whole):
            one.forecast(plan)
        small, found = (milliseconds(fresh_forecasts(one, plan), times) for one in (tenth, whole))
        tell(f"{ten.batch.axes.carts:,} carts: {name}", found)
        judge("in times of a tenth of the carts", median(found) / median(small), 10)


def memory() -> None:
    """The memory a server has at most after many different forecasts of the demo shop."""
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_apart(shop)
        shop.close()
        work = f"from tests.bench import core_speed; print(core_speed.after_many_forecasts({str(shop.path)!r}))"
        told = subprocess.run([sys.executable, "-c", work], check=True, capture_output=True, text=True).stdout
    judge(f"memory after {FORECASTS:,} different forecasts", float(told.split()[-1]), MOST_MEGABYTES, unit="MB")


def after_many_forecasts(path: str) -> float:
    """Megabytes, of a process that answers them over the API."""
    plans = PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans
    client = make_app(ShopFile(Path(path))).test_client()
    for number in range(FORECASTS):
        body = plans[number % 3].model_dump(mode="json")
        body["offers"][0]["terms"]["gives"] = [{"kind": "percent_off", "percent_bp": 1 + number // 3}]
        answer = client.post("/api/forecast", json=body, headers={"Sec-Fetch-Site": "same-origin"})
        assert answer.status_code == 200, answer.json
    return megabytes()


def megabytes() -> float:
    """The most this process had so far; what the one had that started it does not count."""
    told = Path("/proc/self/status").read_text()
    return int(told.split("VmHWM:")[1].split()[0]) / 1024


def one_cart(loaded: LoadedShop, plan: Plan) -> Callable[[], object]:
    skus = [loaded.batch.goods.skus[at] for at in (3, 17, 40)]
    cart = CartDoc(lines=[{"sku": sku, "quantity": 2} for sku in skus], zone=loaded.shop.zone_names[0])
    return lambda: ring_up(loaded, [cart], plan.offers)


def fresh_forecasts(room: Forecaster, plan: Plan) -> Callable[[], object]:
    """Forecasts of the plan with a percentage never seen before, so that nothing comes from the cache."""
    percents = count(1)
    return lambda: room.forecast(changed(plan, next(percents)))
