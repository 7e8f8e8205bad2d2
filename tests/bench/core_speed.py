"""The core on the demo shop, and on ten times its orders: one change of a plan until the new forecast."""

import tempfile
from collections.abc import Callable
from dataclasses import replace
from itertools import count
from pathlib import Path

import numpy as np

from tests.bench.timing import milliseconds, tell
from yellow_abacus.core.carts import make_batch
from yellow_abacus.core.forecast import Forecaster
from yellow_abacus.core.offers import PercentOff
from yellow_abacus.core.plan import Plan
from yellow_abacus.demo import FILES, fill_with_demo_shop
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.store.loading import LoadedShop, load
from yellow_abacus.store.shop_file import ShopFile

PLANS = ("two offers, a number changed", "a code, a number changed", "five kinds, a number changed")
"""The plans of the demo shop, by what is done with them."""


def changed(plan: Plan, percent_bp: int) -> Plan:
    first, *others = plan.offers
    return replace(plan, offers=(replace(first, gives=(PercentOff(percent_bp),)), *others))


def times_over(loaded: LoadedShop, times: int) -> LoadedShop:
    """The same shop with every order there `times` times."""
    batch = loaded.batch
    cart = np.concatenate([batch.axes.cart_by_line + at * batch.axes.carts for at in range(times)])
    sku, quantity, paid = (
        np.tile(array, times) for array in (batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line)
    )
    facts = batch.facts.some(np.tile(np.arange(batch.axes.carts), times))
    zones = np.tile(batch.zone_by_cart, times)
    return replace(loaded, batch=make_batch(batch.goods, zones, cart, sku, quantity, paid, facts))


def run() -> None:
    plans = PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        with shop.reading() as session:
            loaded = load(session)
            tell("loading the demo shop into arrays", milliseconds(lambda: load(session), 5))
        shop.close()
    for times, bar in ((1, "bar 20 ms"), (10, "")):
        big = times_over(loaded, times)
        room = Forecaster(big.shop, big.batch, big.counted_days)
        for name, doc in zip(PLANS, plans, strict=True):
            room.forecast(doc.plan())
            tell(f"{big.batch.axes.carts:,} carts: {name}", milliseconds(fresh_forecasts(room, doc.plan()), 40), bar)


def fresh_forecasts(room: Forecaster, plan: Plan) -> Callable[[], object]:
    """Forecasts of the plan with a percentage never seen before, so that nothing comes from the cache."""
    percents = count(1)
    return lambda: room.forecast(changed(plan, next(percents)))
