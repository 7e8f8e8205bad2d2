"""The search for leaks: it finds those planted in ten plans, and none in ten clean ones."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.core.advice.test_all_snags import code, good, offer, spend
from tests.core.forecast.test_forecast import forecaster
from tests.slow import SlowCart
from tests.worlds import World, make_world, plain_shop
from yellow_abacus.core.advice.built import Bench
from yellow_abacus.core.advice.leaks import MOST_UNITS, Leak, search
from yellow_abacus.core.advice.losing import losing
from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.guise import facts_of
from yellow_abacus.core.clauses.conditions import Earned, Units
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.forecast.plan import Dropped, Plan
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import (
    AmountOff,
    BuyGet,
    DeliveryLoweredTo,
    GoodsSet,
    Limits,
    Offer,
    Part,
    PercentOff,
    PutIn,
    SetPrice,
    Step,
    UnitPrice,
    Where,
)
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import rows_of

FIRST, LAST = date(2027, 3, 1), date(2027, 3, 14)
EVEN = {
    "LAMP": good(3000, 2000, product="Lamp"),
    "OLD": good(2000, 1200, reduced=1500, product="Old pot"),
    "POT": good(2500, 1000, product="Pot"),
    "POT-S": good(1200, 700, product="Pot"),
    "SEED": good(300, 80, product="Seed"),
    "URN": good(2600, 2550, product="Urn"),
}
NO_URN = Scope(except_skus=("URN",))
NEAR, FAR = {"home": (500, None, 400), "far": (600, None, 550)}, {"home": (500, None, 400), "far": (600, None, 4000)}
CARTS = [SlowCart([(sku, 0)], "home") for sku in EVEN] + [SlowCart([("POT", 0), ("SEED", 0)], "far")]
EACH = {"repeat": "each_time"}


def world_of(zones=NEAR, **settings) -> World:
    return make_world(replace(plain_shop(EVEN, **zones), **settings), CARTS * 5, [])


def on(*skus: str) -> Scope:
    return Scope(skus=skus)


TWO_CODES = {"codes_per_order": 2}
THIRTY = [offer(PercentOff(4000), name=name, given=code(name * 5), on=on("POT", "SEED")) for name in ("A", "B")]
STEPS = (Step(4000, (PercentOff(7000),)),)
PLANTED: dict[str, tuple[list[Offer], list[Offer], dict]] = {
    "repeats without a limit": (
        [offer(AmountOff(500), earned=replace(spend(700), **EACH), on=on("POT", "POT-S"))],
        [offer(AmountOff(300), earned=replace(spend(700), **EACH), on=on("POT", "POT-S"), limits=Limits(times=1))],
        {},
    ),
    "codes that stack": (THIRTY, THIRTY[:1], TWO_CODES),
    "the dearest of a choice of gifts": (
        [offer(PutIn(("SEED", "LAMP")), earned=spend(2000))],
        [offer(PutIn(("SEED",)), earned=spend(2000, of=NO_URN))],
        {},
    ),
    "a set price below cost": (
        [offer(GoodsSet((Part(1, on("POT", "POT-S")), Part(1, on("LAMP"))), SetPrice(2500)))],
        [offer(GoodsSet((Part(1, on("POT")), Part(1, on("LAMP"))), SetPrice(3300)))],
        {},
    ),
    "a far parcel for nothing": (
        [offer(DeliveryLoweredTo(0), earned=spend(5000, of=NO_URN))],
        [offer(DeliveryLoweredTo(0), earned=spend(5000, of=NO_URN), where=Where(zones=("home",)))],
        {"zones": FAR},
    ),
    "one free for one bought": (
        [offer(BuyGet(1, 1, PercentOff(10_000), of=on("LAMP")), earned=Earned(**EACH), on=on("LAMP"))],
        [offer(BuyGet(1, 1, PercentOff(10_000), of=on("POT")), earned=Earned(**EACH), on=on("POT"))],
        {},
    ),
    "off a price already cut": (
        [offer(PercentOff(4000), on=on("OLD"))],
        [offer(PercentOff(4000), on=replace(on("OLD"), reduced="out"))],
        {},
    ),
    "a price below cost": ([offer(UnitPrice(1900), on=on("LAMP"))], [offer(UnitPrice(2000), on=on("LAMP"))], {}),
    "an amount off with no minimum": (
        [offer(AmountOff(600))],
        [offer(AmountOff(600), earned=spend(2500), on=on("POT"))],
        {},
    ),
    "steps too steep": (
        [offer(PercentOff(1000), earned=spend(1000), steps=STEPS)],
        [offer(PercentOff(1000), earned=Earned((Units(3, of=on("SEED")),)), on=on("SEED"))],
        {},
    ),
}


def search_of(offers, **told) -> tuple[Scene, Bench, tuple[Leak, ...]]:
    world = world_of(**told)
    plan = Plan(FIRST, LAST, tuple(offers))
    scene = Scene(forecaster(world), plan, [one.id for one in offers], [""] * len(offers), FIRST)
    bench = Bench(scene.shop, scene.goods, scene.offers, "best", 100.0)
    *_, last = search(bench, scene.units_by_sku)
    assert last.share == 1.0
    return scene, bench, last.leaks


@pytest.mark.parametrize("name", PLANTED)
def test_a_planted_leak_is_found_and_a_clean_plan_has_none(name):
    planted, clean, told = PLANTED[name]
    scene, bench, leaks = search_of(planted, **told)
    assert leaks
    assert set(leaks[0].offers) == set(range(len(planted)))
    assert search_of(clean, **told)[2] == ()
    for leak in leaks:
        assert leak.kept < 0
        assert leak.kept_today - leak.kept >= 100
        assert all(1 <= units <= MOST_UNITS for _, units in leak.lines)
        check_cents(scene, bench, leak)


def check_cents(scene: Scene, bench: Bench, leak: Leak) -> None:
    """The cart priced and costed by itself comes to what the search says."""
    sku, units = (np.array(column, dtype=np.int64) for column in zip(*leak.lines, strict=True))
    nowhere = np.zeros_like(sku)
    batch = make_batch(
        scene.goods, np.array([leak.zone]), nowhere, sku, units, nowhere, facts_of(bench.guises, np.array([0]))
    )
    held = [one.given.key is None or one.given.key in leak.codes for one in bench.offers]
    rows = rows_of(scene.shop, batch, bench.offers)
    available = np.repeat(np.array(held)[:, None], 1, axis=1)
    kept = cost(scene.shop, rows, price(scene.shop, rows, bench.offers, "best", available)).sum(axis=0)
    assert kept.min() == pytest.approx(leak.kept)


def test_what_an_offer_that_is_dropped_loses_today_is_no_leak_of_the_plan():
    (deep,), _, told = PLANTED["an amount off with no minimum"]
    shallow = offer(AmountOff(590), name="Shallow")
    plan = Plan(FIRST, LAST, (shallow,), running=(deep,), dropped=(Dropped(deep),))
    scene = Scene(forecaster(world_of(**told)), plan, ["Shallow"], [""], FIRST)
    assert scene.running == (deep,)
    bench = Bench(scene.shop, scene.goods, scene.offers, "best", 100.0)
    *_, beside_nothing = search(bench, scene.units_by_sku)
    *_, beside_today = search(replace(bench, running=scene.running), scene.units_by_sku)
    assert beside_nothing.leaks
    assert not beside_today.leaks
    assert losing(replace(scene, plan=replace(plan, running=(), dropped=())))
    assert not losing(scene)
    assert (scene.kept >= scene.kept_today).all()
