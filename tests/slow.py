"""A slow, plain pricer of one cart, written from the rules and not from the code it checks.

Every unit is an entry of its own, every division is a Fraction, nothing is an array. Used by tests only.
"""

from dataclasses import dataclass, field
from fractions import Fraction
from itertools import combinations


def half_away(x: Fraction) -> int:
    whole = int(abs(x) + Fraction(1, 2))
    return whole if x >= 0 else -whole


def shared(amount: int, bases: list[int]) -> list[int]:
    whole, before, parts = sum(bases), 0, []
    for at in range(len(bases)):
        upto = half_away(Fraction(amount * sum(bases[: at + 1]), whole)) if whole else 0
        parts.append(upto - before)
        before = upto
    return parts


@dataclass
class SlowGood:
    list_price: int | None
    reduced_price: int | None
    unit_cost: float | None
    categories: set[str]
    weight: int = 0
    product: str = ""


@dataclass
class SlowShop:
    goods: dict[str, SlowGood]
    zones: dict[str, tuple[int, int | None, float]]  # charge, free from, cost
    with_tax: bool
    tax_bp: int
    payment_bp: int
    payment_fixed: float
    picking: float
    codes_per_order: int = 1
    percent_of: str = "net"
    delivery_from: str = "net"


@dataclass
class SlowLine:
    sku: str
    standing: int
    quantity: int
    net: int = 0


@dataclass
class SlowPriced:
    lines: list[SlowLine]
    charge: int
    total: int
    goods_tax: int
    delivery_tax: int
    goods_off: dict[int, int] = field(default_factory=dict)
    delivery_off: dict[int, int] = field(default_factory=dict)

    def effective(self) -> list[int]:
        return sorted(
            at for at in {*self.goods_off, *self.delivery_off}
            if self.goods_off.get(at, 0) > 0 or self.delivery_off.get(at, 0) > 0
        )  # fmt: skip


def standing(good: SlowGood, paid: int) -> int:
    prices = [paid if good.list_price is None else good.list_price]
    if good.reduced_price is not None:
        prices.append(good.reduced_price)
    return min(prices)


def make_lines(shop: SlowShop, units: list[tuple[str, int]]) -> list[SlowLine]:
    """units: one (SKU, price paid) a unit."""
    counted: dict[tuple[int, str], int] = {}
    for sku, paid in units:
        key = (-standing(shop.goods[sku], paid), sku)
        counted[key] = counted.get(key, 0) + 1
    return [SlowLine(sku, -minus, quantity, -minus * quantity) for (minus, sku), quantity in sorted(counted.items())]


def meant(shop: SlowShop, scope: dict, line: SlowLine) -> bool:
    good = shop.goods[line.sku]

    def named(categories: str, skus: str) -> bool:
        return line.sku in scope.get(skus, ()) or any(name in good.categories for name in scope.get(categories, ()))

    if named("except_categories", "except_skus"):
        return False
    if scope.get("reduced") == "out" and good.reduced_price is not None and line.standing == good.reduced_price:
        return False
    anything = not scope.get("categories") and not scope.get("skus")
    return anything or named("categories", "skus")


def measured(shop: SlowShop, condition: dict, lines: list[SlowLine]) -> int:
    inside = [line for line in lines if meant(shop, condition["of"], line)]
    match condition["kind"]:
        case "spend":
            return sum(line.net for line in inside)
        case "units":
            return sum(line.quantity for line in inside)
        case "weight":
            return sum(shop.goods[line.sku].weight * line.quantity for line in inside)
    return len({shop.goods[line.sku].product or ("alone", line.sku) for line in inside})


def times_earned(shop: SlowShop, offer: dict, lines: list[SlowLine]) -> int:
    counts: list[int] = []
    at_most: list[bool] = []
    for condition in offer["conditions"]:
        size, n = measured(shop, condition, lines), condition["n"]
        if condition["bound"] == "at_most":
            at_most.append(size <= n)
        elif condition["bound"] == "over" and size <= n:
            counts.append(0)
        else:
            counts.append(size // n if offer["repeat"] == "each_time" else min(size // n, 1))
    if not offer["conditions"]:
        times = 1
    elif offer["need"] == "any":
        times = max(counts + [int(held) for held in at_most])
    elif not all(at_most):
        times = 0
    else:
        times = min(counts, default=1)
    most = offer["limits"]["times"]
    return times if most is None else min(times, most)


def picked(shop: SlowShop, offer: dict, lines: list[SlowLine], times: int) -> list[int]:
    """Units picked of each line: unit by unit, in line order or backwards, until the limit."""
    units = [0] * len(lines)
    if times == 0:
        return units
    order = list(range(len(lines)))
    if offer["limits"]["units_from"] == "cheapest":
        order.reverse()
    left = offer["limits"]["units"]
    for at in order:
        if lines[at].net == 0 or not meant(shop, offer["on"], lines[at]):
            continue
        for _ in range(lines[at].quantity):
            if left is None or left > 0:
                units[at] += 1
                left = None if left is None else left - 1
    return units


def goods_reward(
    shop: SlowShop, offer: dict, reward: dict, lines: list[SlowLine], times: int, taken: int
) -> list[int]:
    units = picked(shop, offer, lines, times)
    base = [half_away(Fraction(line.net * k, line.quantity)) for line, k in zip(lines, units, strict=True)]
    cap = offer["limits"]["amount"]
    room = None if cap is None else cap - taken
    kind = reward["kind"]
    if (kind == "percent_off" and shop.percent_of == "net") or kind == "amount_off":
        if kind == "percent_off":
            amount = half_away(sum(base) * Fraction(reward["percent_bp"], 10000))
        else:
            amount = min(reward["amount"] * times, sum(base))
        return shared(amount if room is None else min(amount, room), base)
    if kind == "percent_off":
        stood = [line.standing * k for line, k in zip(lines, units, strict=True)]
        parts = shared(half_away(sum(stood) * Fraction(reward["percent_bp"], 10000)), stood)
        off = [min(line.net, part) for line, part in zip(lines, parts, strict=True)]
    elif kind == "amount_off_each":
        off = [min(reward["amount"] * k, b) for k, b in zip(units, base, strict=True)]
    else:
        off = [max(0, b - reward["amount"] * k) for k, b in zip(units, base, strict=True)]
    return off if room is None or sum(off) <= room else shared(room, off)


def delivery_reward(reward: dict, charge: int) -> int:
    if reward["kind"] == "delivery_percent_off":
        return charge - half_away(charge * Fraction(reward["percent_bp"], 10000))
    if reward["kind"] == "delivery_amount_off":
        return max(0, charge - reward["amount"])
    return min(charge, reward["amount"])


def price_with(shop: SlowShop, units: list[tuple[str, int]], zone: str, offers: list[dict], chosen: list[int]):
    lines = make_lines(shop, units)
    result = SlowPriced(lines, 0, 0, 0, 0)
    times: dict[int, int] = {}
    for at in chosen:
        goods = [reward for reward in offers[at]["gives"] if not reward["kind"].startswith("delivery")]
        if goods:
            times[at] = times_earned(shop, offers[at], lines)
        for reward in goods:
            taken = result.goods_off.get(at, 0)
            for line, off in zip(lines, goods_reward(shop, offers[at], reward, lines, times[at], taken), strict=True):
                line.net -= off
                result.goods_off[at] = result.goods_off.get(at, 0) + off
    goods_sum = sum(line.net for line in lines)
    value = goods_sum if shop.delivery_from == "net" else sum(line.standing * line.quantity for line in lines)
    charge, free_from, _ = shop.zones[zone]
    if free_from is not None and value >= free_from:
        charge = 0
    for at in chosen:
        for reward in offers[at]["gives"]:
            if not reward["kind"].startswith("delivery"):
                continue
            earned = times[at] if at in times else times_earned(shop, offers[at], lines)
            if earned > 0 and (not reward["zones"] or zone in reward["zones"]):
                after = delivery_reward(reward, charge)
                result.delivery_off[at] = result.delivery_off.get(at, 0) + charge - after
                charge = after
    result.charge = charge
    rate = Fraction(shop.tax_bp, 10000)
    tax = half_away((goods_sum + charge) * (rate / (1 + rate) if shop.with_tax else rate))
    result.goods_tax, result.delivery_tax = shared(tax, [goods_sum, charge])
    result.total = goods_sum + charge + (0 if shop.with_tax else tax)
    return result


def price(shop: SlowShop, units: list[tuple[str, int]], zone: str, offers: list[dict]) -> SlowPriced:
    codes = sorted({offer["code"].casefold() for offer in offers if offer["code"]})
    tried = []
    for some in combinations(codes, min(shop.codes_per_order, len(codes))):
        chosen = [at for at, o in enumerate(offers) if not o["code"] or o["code"].casefold() in some]
        tried.append(price_with(shop, units, zone, offers, chosen))

    def rank(priced: SlowPriced):
        works = priced.effective()
        return priced.total, [0 if at in works else 1 for at in range(len(offers))]

    return min(tried, key=rank)


def ledger(shop: SlowShop, priced: SlowPriced, zone: str) -> dict[str, float]:
    goods = sum(line.net for line in priced.lines)
    costs = [(shop.goods[line.sku].unit_cost or 0) * line.quantity for line in priced.lines]
    paying = priced.total * shop.payment_bp / 10000 + shop.payment_fixed if priced.total > 0 else 0
    return {
        "goods": goods - (priced.goods_tax if shop.with_tax else 0),
        "delivery_charged": priced.charge - (priced.delivery_tax if shop.with_tax else 0),
        "goods_cost": -sum(costs),
        "delivery_cost": -shop.zones[zone][2],
        "picking": -shop.picking,
        "payment": -paying,
    }
