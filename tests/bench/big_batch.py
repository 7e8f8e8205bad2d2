"""150,000 carts with 1.5 million lines under four mixed offers: the core beside a hand-written compiled loop."""

import tracemalloc
from dataclasses import fields
from time import perf_counter

import numpy as np
from numba import njit

from tests.bench.timing import milliseconds, tell
from yellow_abacus.core.carts import CartBatch, make_batch
from yellow_abacus.core.conditions import Earned, Spend
from yellow_abacus.core.costing import cost
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.offers import BuyGet, DeliveryLoweredTo, Limits, Offer, PercentOff, PutIn
from yellow_abacus.core.pricing import price
from yellow_abacus.core.scope import Scope
from yellow_abacus.core.shop import Settings, Shop, Zone
from yellow_abacus.core.why import why

SKUS = 3_000
SPEND, CAP, GIFT_FROM, DELIVERY_FROM = 6_500, 1_600, 8_000, 5_500
BUY, GET = 2, 1
TAX_BP = 2_100
HOME, FAR = Zone("home", 490, 9_000, 620.0), Zone("far", 990, None, 1_240.0)


def big_shop(carts: int, seed: int = 41) -> tuple[Shop, CartBatch]:
    """A made-up shop whose carts have 1 to 19 lines, 10 on average."""
    dice = np.random.default_rng(seed)
    listed = dice.integers(150, 6_000, SKUS)
    goods = Goods(
        skus=tuple(f"S{at:05d}" for at in range(SKUS)),
        products=tuple(f"P{at // 2:05d}" for at in range(SKUS)),
        list_price=listed,
        reduced_price=np.where(dice.random(SKUS) < 0.1, listed * 8 // 10, NO_PRICE),
        unit_cost=listed * 0.4,
        weight=dice.integers(5, 9_000, SKUS).astype(np.float64),
        categories=("a", "b", "c", "d"),
        in_category=np.array([np.arange(SKUS) % 4 == at for at in range(4)]),
        stock=np.full(SKUS, np.nan),
    )
    cart = np.repeat(np.arange(carts), dice.integers(1, 20, carts))
    quantity = 1 + (dice.random(len(cart)) ** 3 * 4).astype(np.int64)
    settings = Settings(tax_bp=TAX_BP, payment_bp=190, payment_fixed=25.0, picking_per_order=165.0)
    sku, paid = dice.integers(0, SKUS, len(cart)), np.zeros_like(cart)
    return Shop(settings, (HOME, FAR)), make_batch(goods, dice.integers(0, 2, carts), cart, sku, quantity, paid)


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
    shop, batch = big_shop(150_000)
    goods = batch.goods
    print(f"  {batch.axes.carts:,} carts, {batch.axes.lines:,} lines, four offers", flush=True)
    ab, c = goods.in_category[0] | goods.in_category[1], goods.in_category[2]
    net, total = np.empty_like(batch.sku_by_line), np.empty_like(batch.zone_by_cart)

    def loop(percent_bp: int = 1_200) -> int:
        arrays = (batch.axes.first_line_by_cart, batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line)
        return compiled(*arrays, batch.zone_by_cart, percent_bp, ab, c, net, total)

    gifts = loop()
    start = perf_counter()
    priced = price(shop, batch, four_offers(1_200))
    print(f"  the first time, scopes not looked up yet {(perf_counter() - start) * 1000:30.1f} ms", flush=True)
    same = (priced.net_by_line == net).all() and (priced.total == total).all() and priced.put_in.sum() == gifts
    print(f"  core and compiled loop agree on every line and total: {'yes' if same else 'NO'}", flush=True)
    tell("compiled loop, one thread", milliseconds(loop, 15))
    changing = iter(range(1, 10_000))
    tell("priced", milliseconds(lambda: price(shop, batch, four_offers(next(changing))), 15), "bar 250 ms, 3 x loop")
    tell("costed", milliseconds(lambda: cost(shop, batch, priced), 15))
    tell("reasons", milliseconds(lambda: why(shop, batch, four_offers(1_200), priced), 3))
    _memory(shop, batch)
    small = big_shop(15_000)
    large = big_shop(1_500_000)
    times = [
        min(milliseconds(lambda one=one: price(*one, four_offers(1_200)), 3)) for one in (small, (shop, batch), large)
    ]
    print(
        f"  10 times the carts: {times[1] / times[0]:.1f} and {times[2] / times[1]:.1f} times as long   bar 11",
        flush=True,
    )


def _memory(shop: Shop, batch: CartBatch) -> None:
    arrays = [getattr(batch, field.name) for field in fields(batch)]
    given = sum(one.nbytes for one in arrays if isinstance(one, np.ndarray)) + batch.axes.first_line_by_cart.nbytes
    tracemalloc.start()
    price(shop, batch, four_offers(1_201))
    _, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    print(
        f"  memory while pricing: {peak / given:.1f} times the arrays given ({given / 1e6:.0f} MB)   bar 20",
        flush=True,
    )
