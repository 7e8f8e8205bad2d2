"""150,000 carts with 1.5 million lines under four mixed offers: the core beside a hand-written compiled loop."""

import tracemalloc
from dataclasses import fields, replace
from statistics import median
from time import perf_counter
from typing import Any

import numpy as np
from numba import njit

from tests.bench.timing import held, judge, milliseconds, tell
from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.delivery.charges import ChargeByValue, ChargeByWeight, ChargeStep, FlatCharge, ValueStep
from yellow_abacus.core.delivery.parcels import Carries
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option, Preferred, Zone
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.price_list import PriceStep, price_list
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import BuyGet, DeliveryLoweredTo, Limits, Offer, PercentOff, PutIn
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import Rows, likeliest_rows, rows_of
from yellow_abacus.core.pricing.why import why
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.surcharges import AmountFor, PartOfGoods, Surcharge
from yellow_abacus.core.shop.tax import RateIn, TaxClass, Taxes

SKUS, MILLION = 3_000, 1_000_000
SPEND, CAP, GIFT_FROM, DELIVERY_FROM = 6_500, 1_600, 8_000, 5_500
BUY, GET = 2, 1
TAX_BP = 2_100
CARD = (PaymentMethod("card", 190, 25.0),)


def plain_shop() -> Shop:
    """One flat charge and cost a zone, one rate of tax: what the compiled loop knows too."""
    costs = (Tariff("home", steps=(WeightStep(None, 620.0),)), Tariff("far", steps=(WeightStep(None, 1_240.0),)))
    home = Option("post", FlatCharge(490), free_from=9_000, tariffs=("home",))
    far = Option("post", FlatCharge(990), tariffs=("far",))
    zones = (Zone("home", (home,)), Zone("far", (far,)))
    return Shop(Settings(picking_per_order=165.0), zones, Taxes((TaxClass("all", TAX_BP),)), costs, CARD)


def full_shop() -> Shop:
    """Everything a shop can cost: rates, tariffs, preferences, splitting, surcharges, returns, commission."""
    steps = (WeightStep(2_000, 395.0), WeightStep(5_000, 480.0), WeightStep(10_000, 650.0))
    tariffs = (
        Tariff("letter", steps=(WeightStep(500, 210.0),)),
        Tariff("parcel", "A", steps, 58.0, 6_000, 525, 60, Carries(heaviest=20_000, longest=1_200)),
        Tariff("heavy", "B", (WeightStep(15_000, 835.0),), 44.0, 4_000, 850, 50, Carries(heaviest=31_500)),
        Tariff("far", "A", (WeightStep(5_000, 1_085.0),), 124.0, 5_000, 650, 80, Carries(heaviest=20_000)),
    )
    goods_c = Scope(categories=("c",))
    home = (
        Option(
            "door",
            FlatCharge(490),
            free_from=9_000,
            share_bp=7_000,
            tariffs=("letter", "parcel", "heavy"),
            preferred=(Preferred("heavy", goods_c),),
        ),
        Option(
            "shop",
            ChargeByValue(390, (ValueStep(6_000, 190),)),
            share_bp=3_000,
            carries=Carries(heaviest=10_000),
            tariffs=("letter", "parcel"),
        ),
    )
    far = (Option("post", ChargeByWeight((ChargeStep(5_000, 990),), 100), tariffs=("far", "heavy")),)
    classes = (
        TaxClass("standard", TAX_BP, (RateIn("far", 1_900),)),
        TaxClass("reduced", 900, (RateIn("far", 700),)),
        TaxClass("none", 0),
    )
    surcharges = (
        Surcharge("small order", AmountFor(190), earned=Earned((Spend(1_200, "at_most"),))),
        Surcharge("heavy", AmountFor(240, "parcel"), goods_c),
        Surcharge("wrap", AmountFor(350), chosen_bp=700),
        Surcharge("cold", PartOfGoods(100), Scope(categories=("d",)), chosen_bp=1_100),
    )
    settings = Settings(110, 14, 48, 180, 490, 210, 5_500, ("market",))
    ways = (*CARD, PaymentMethod("invoice", 0, 95.0, 2_000))
    return Shop(settings, (Zone("home", home), Zone("far", far)), Taxes(classes), tariffs, ways, surcharges)


def big_batch(carts: int, seed: int = 41, *, full: bool = False) -> CartBatch:
    """Made-up carts of 1 to 19 lines, 10 on average. full: with all that costs can depend on."""
    dice = np.random.default_rng(seed)
    listed = dice.integers(150, 6_000, SKUS)
    skus = tuple(f"S{at:05d}" for at in range(SKUS))
    more: dict[str, Any] = {}
    if full:
        steps = [PriceStep(sku, 6, int(price) * 9 // 10) for sku, price in zip(skus[::7], listed[::7], strict=True)]
        steps += [PriceStep(sku, 1, int(price) * 8 // 10, "trade") for sku, price in zip(skus, listed, strict=True)]
        more = {
            "prices": price_list(skus, steps, np.zeros(SKUS, dtype=np.bool_)),
            "tax_classes": tuple(("", "reduced", "none")[at % 3] for at in range(SKUS)),
            "volume": dice.uniform(10, 40_000, SKUS),
            "longest": dice.integers(40, 1_400, SKUS).astype(np.float64),
            "return_rate": dice.choice([0.0, 0.04, 0.12], SKUS),
            "commission_bp": dice.choice([0.0, 800.0], SKUS),
            "insured": dice.random(SKUS) < 0.2,
        }
    goods = Goods(
        skus=skus,
        products=tuple(f"P{at // 2:05d}" for at in range(SKUS)),
        list_price=listed,
        reduced_price=np.where(dice.random(SKUS) < 0.1, listed * 8 // 10, NO_PRICE),
        unit_cost=(listed * 0.4).astype(np.float64),
        weight=dice.integers(5, 9_000, SKUS).astype(np.float64),
        categories=("a", "b", "c", "d"),
        in_category=np.array([np.arange(SKUS) % 4 == at for at in range(4)]),
        stock=np.full(SKUS, np.nan),
        **more,
    )
    cart = np.repeat(np.arange(carts), dice.integers(1, 20, carts))
    quantity = 1 + (dice.random(len(cart)) ** 3 * 4).astype(np.int64)
    sku, paid, zone = dice.integers(0, SKUS, len(cart)), np.zeros_like(cart), dice.integers(0, 2, carts)
    facts = nothing_known(carts)
    if full:
        facts = replace(
            facts,
            group=labels(dice.choice(["", "", "trade"], carts).tolist()),
            channel=labels(dice.choice(["web", "market"], carts).tolist()),
            payment=labels(dice.choice(["", "card", "invoice"], carts).tolist()),
            option=labels(dice.choice(["", "door", "shop", "post"], carts).tolist()),
        )
    return make_batch(goods, zone, cart, sku, quantity, paid, facts)


def four_offers(percent_bp: int) -> list[Offer]:
    c = Scope(categories=("c",))
    return [
        Offer(
            id="percent",
            gives=(PercentOff(percent_bp),),
            earned=Earned((Spend(SPEND),)),
            on=Scope(categories=("a", "b")),
            limits=Limits(amount=CAP),
        ),
        Offer(id="units", gives=(BuyGet(BUY, GET, PercentOff(10_000), c),), on=c, earned=Earned(repeat="each_time")),
        Offer(id="gift", gives=(PutIn(("S00003",)),), earned=Earned((Spend(GIFT_FROM),))),
        Offer(id="delivery", gives=(DeliveryLoweredTo(0, ("home",)),), earned=Earned((Spend(DELIVERY_FROM),))),
    ]


@njit(cache=False)
def _rhu(numerator, denominator):
    return (2 * numerator + denominator) // (2 * denominator)


@njit(cache=False)
def _percent(start, end, sku, ab, percent_bp, net):
    spend = base = 0
    for line in range(start, end):
        spend += net[line]
        if ab[sku[line]]:
            base += net[line]
    if spend < SPEND or base == 0:
        return
    amount = min(_rhu(base * percent_bp, 10_000), CAP, base)
    upto = given = 0
    for line in range(start, end):
        if ab[sku[line]]:
            upto += net[line]
            so_far = _rhu(amount * upto, base)
            net[line] -= so_far - given
            given = so_far


@njit(cache=False)
def _units(start, end, sku, c, quantity, net):
    units = 0
    for line in range(start, end):
        if c[sku[line]] and net[line] > 0:
            units += quantity[line]
    left = units // (BUY + GET) * GET
    for line in range(end - 1, start - 1, -1):
        if left == 0:
            return
        if c[sku[line]] and net[line] > 0:
            taken = min(left, quantity[line])
            net[line] -= _rhu(net[line] * taken, quantity[line])
            left -= taken


@njit(cache=False)
def compiled(first, sku, quantity, standing, zone, percent_bp, ab, c, net, total):
    """The same four offers, cart by cart and line by line. Fills net (a line each) and total (a cart each)."""
    gifts = 0
    for cart in range(len(first) - 1):
        start, end = first[cart], first[cart + 1]
        for line in range(start, end):
            net[line] = standing[line] * quantity[line]
        _percent(start, end, sku, ab, percent_bp, net)
        _units(start, end, sku, c, quantity, net)
        goods = 0
        for line in range(start, end):
            goods += net[line]
        gifts += goods >= GIFT_FROM
        charge = 490 if zone[cart] == 0 else 990
        if zone[cart] == 0 and goods >= DELIVERY_FROM:
            charge = 0
        total[cart] = goods + charge
    return gifts


def run() -> None:
    shop, batch = plain_shop(), big_batch(150_000)
    goods = batch.goods
    print(f"  {batch.axes.carts:,} carts, {batch.axes.lines:,} lines, four offers", flush=True)
    ab, c = goods.in_category[0] | goods.in_category[1], goods.in_category[2]
    net, total = np.empty_like(batch.sku_by_line), np.empty_like(batch.zone_by_cart)

    def loop(percent_bp: int = 1_200) -> int:
        arrays = (batch.axes.first_line_by_cart, batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line)
        return compiled(*arrays, batch.zone_by_cart, percent_bp, ab, c, net, total)

    gifts = loop()
    start = perf_counter()
    rows = likeliest_rows(shop, batch, four_offers(1_200))
    priced = price(shop, rows, four_offers(1_200))
    print(f"  the first time, scopes not looked up yet {(perf_counter() - start) * 1000:30.1f} ms", flush=True)
    traced = price(shop, rows, four_offers(1_200), traced=True)
    same = (traced.by_line.net == net).all() and (priced.total == total).all() and priced.put_in.sum() == gifts
    print(f"  core and compiled loop agree on every line and total: {'yes' if same else 'NO'}", flush=True)
    by_loop = milliseconds(loop, 15)
    tell("compiled loop, one thread", by_loop)
    changing = iter(range(1, 10_000))
    by_core = milliseconds(lambda: price(shop, rows, four_offers(next(changing))), 15)
    tell("priced", by_core)
    judge("priced, in times of the loop", median(by_core) / median(by_loop), 2)
    tell("costed", milliseconds(lambda: cost(shop, rows, priced), 15))
    tell("reasons", milliseconds(lambda: why(shop, rows, four_offers(1_200), priced), 3))
    _memory(shop, rows)
    sizes = (big_batch(15_000), batch, big_batch(1_500_000))
    each = [likeliest_rows(shop, one, four_offers(1_200)) for one in sizes]
    times = [min(milliseconds(lambda one=one: price(shop, one, four_offers(1_200)), 3)) for one in each]
    judge("10 times the carts, in times", max(times[1] / times[0], times[2] / times[1]), 10)


def million() -> None:
    """A million made-up carts of two lines: made, priced and costed."""
    goods, shop, offers = big_batch(10).goods, plain_shop(), tuple(four_offers(1_200))
    dice = np.random.default_rng(3)
    zone, cart = dice.integers(0, 2, MILLION), np.repeat(np.arange(MILLION), 2)
    sku, quantity = dice.integers(0, SKUS, 2 * MILLION), dice.integers(1, 4, 2 * MILLION)

    def act() -> None:
        batch = make_batch(goods, zone, cart, sku, quantity, np.zeros_like(sku))
        there = reached(offers, shop, batch)
        costed_rows(shop, rows_of(shop, batch, offers, there), offers, "best", there)

    held("1,000,000 carts made, priced and costed", act, 6_000, 1)


def everything() -> None:
    """The same number of carts in a shop that uses all a shop can cost, some options and ways to pay not known."""
    shop, batch = full_shop(), big_batch(150_000, full=True)
    offers = four_offers(1_200)
    rows = rows_of(shop, batch, offers)
    print(f"  {batch.axes.carts:,} carts, {batch.axes.lines:,} lines, all costs, {len(rows):,} rows", flush=True)
    start = perf_counter()
    priced = price(shop, rows, offers)
    print(f"  every row priced the first time {(perf_counter() - start) * 1000:36.1f} ms", flush=True)
    start = perf_counter()
    cost(shop, rows, priced)
    print(f"  every row costed the first time {(perf_counter() - start) * 1000:38.1f} ms", flush=True)
    changing = iter(range(1, 10_000))
    tell("every row priced", milliseconds(lambda: price(shop, rows, four_offers(next(changing))), 7))
    tell("every row costed", milliseconds(lambda: cost(shop, rows, priced), 7))


def _memory(shop: Shop, rows: Rows) -> None:
    batch = rows.batch
    arrays = [getattr(batch, field.name) for field in fields(batch)]
    given = sum(one.nbytes for one in arrays if isinstance(one, np.ndarray)) + batch.axes.first_line_by_cart.nbytes
    tracemalloc.start()
    price(shop, rows, four_offers(1_201))
    _, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    print(
        f"  memory while pricing: {peak / given:.1f} times the arrays given ({given / 1e6:.0f} MB)   bar 20",
        flush=True,
    )
