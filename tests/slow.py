"""A slow, plain pricer of one cart, written from the rules and not from the code it checks.

Every unit is an entry of its own, every division is a Fraction, nothing is an array. Used by tests only.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import date
from fractions import Fraction
from itertools import combinations

from tests import slow_costs

LIKELIEST = object()


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
    weight: Fraction | int = 0  # grams
    product: str = ""
    brand: str = ""
    tags: frozenset = frozenset()
    never_discounted: bool = False
    steps: list[tuple[str, int, int]] = field(default_factory=list)  # group or "", from units, price
    by_product: bool = False
    volume: int = 0
    longest: int = 0
    tax_class: str = ""
    return_bp: int = 0
    commission_bp: int = 0
    insured: bool = False
    reduced_days: tuple[date | None, date | None] = (None, None)


@dataclass
class SlowShop:
    """zones: options by zone; they, tariffs, classes, payments and surcharges in the shape they have in files."""

    goods: dict[str, SlowGood]
    zones: dict[str, list[dict]]
    with_tax: bool = True
    classes: list[dict] = field(default_factory=lambda: [{"name": "Standard", "rate_bp": 0, "zones": []}])
    delivery_class: str | None = None
    payments: list[dict] = field(default_factory=list)
    tariffs: list[dict] = field(default_factory=list)
    surcharges: list[dict] = field(default_factory=list)
    picking: float = 0
    picking_unit: float = 0
    packaging: float = 0
    packaging_weight: int = 0
    postage: float = 0
    handling: float = 0
    resale_bp: int = 0
    commission_channels: tuple[str, ...] = ()
    commission_returned: bool = True
    codes_per_order: int = 1
    self_applying: str = "any"
    codes_with_self_applying: bool = True
    percent_of: str = "net"
    delivery_from: str = "net"


@dataclass
class SlowLine:
    sku: str
    standing: int
    quantity: int
    net: int = 0
    used: int = 0
    group: str = ""
    reduced: bool = False
    comes_back: Fraction = Fraction(1)  # times as much of it


@dataclass
class SlowPriced:
    lines: list[SlowLine]
    charge: int = 0
    total: int = 0
    goods_tax: int = 0
    delivery_tax: int = 0
    surcharge: int = 0
    surcharge_tax: int = 0
    chosen: Fraction = Fraction(0)
    chosen_tax: Fraction = Fraction(0)
    carriage: Fraction = Fraction(0)
    parcels: int = 1
    asked: int = 0
    funded: Fraction = Fraction(0)
    goods_off: dict[int, int] = field(default_factory=dict)
    delivery_off: dict[int, int] = field(default_factory=dict)
    put_in: dict[int, list[tuple[str, int, int]]] = field(default_factory=dict)  # offer: (SKU, units, asked each)
    earned: dict[int, int] = field(default_factory=dict)  # offer: step reached, from 1
    bases: dict[int, dict] = field(default_factory=dict)  # offer: what each percentage was taken of

    def effective(self) -> list[int]:
        return sorted(
            at for at in {*self.goods_off, *self.delivery_off, *self.put_in}
            if self.goods_off.get(at, 0) > 0 or self.delivery_off.get(at, 0) > 0 or self.put_in.get(at)
        )  # fmt: skip

    def less_put_in(self, shop: SlowShop) -> int:
        gifts = [gift for some in self.put_in.values() for gift in some]
        return self.total - sum(max(0, shown_price(shop.goods[sku])) * units for sku, units, _ in gifts)


def on_day(shop: SlowShop, day: date) -> SlowShop:
    """The shop with reduced prices only where they are in date."""
    goods = {}
    for sku, good in shop.goods.items():
        first, last = good.reduced_days
        holds = (first or day) <= day <= (last or day)
        goods[sku] = good if holds else replace(good, reduced_price=None)
    return replace(shop, goods=goods)


def shown_price(good: SlowGood) -> int:
    return min((price for price in (good.list_price, good.reduced_price) if price is not None), default=0)


def make_lines(shop: SlowShop, units: list[tuple[str, int]], group: str = "") -> list[SlowLine]:
    """units: one (SKU, price paid) a unit."""
    counted: dict[tuple[int, str], list[bool]] = {}
    for sku, paid in units:
        standing, reduced = slow_costs.standing_of(shop, sku, paid, units, group)
        counted.setdefault((-standing, sku), []).append(reduced)
    return [
        SlowLine(sku, -minus, len(reduced), -minus * len(reduced), group=group, reduced=any(reduced))
        for (minus, sku), reduced in sorted(counted.items())
    ]


def meant(shop: SlowShop, scope: dict, line: SlowLine) -> bool:
    good = shop.goods[line.sku]

    def named(out: str) -> bool:
        return (
            line.sku in scope.get(f"{out}skus", ())
            or good.product in scope.get(f"{out}products", ())
            or good.brand in scope.get(f"{out}brands", ())
            or any(name in good.categories for name in scope.get(f"{out}categories", ()))
            or any(name in good.tags for name in scope.get(f"{out}tags", ()))
        )

    if named("except_"):
        return False
    if scope.get("reduced") == "out" and line.reduced:
        return False
    anything = not any(scope.get(kind) for kind in ("categories", "skus", "products", "brands", "tags"))
    return anything or named("")


def may_lose(shop: SlowShop, scope: dict, line: SlowLine) -> bool:
    """Whether an offer may take something off the line."""
    return line.net > 0 and not shop.goods[line.sku].never_discounted and meant(shop, scope, line)


def measured(shop: SlowShop, condition: dict, lines: list[SlowLine], mine: list[SlowLine]) -> int:
    if condition["kind"] == "only":
        return sum(line.quantity for line in lines if not meant(shop, condition["of"], line))
    inside = [line for line in lines if meant(shop, condition["of"], line)]
    match condition["kind"]:
        case "spend":
            if condition.get("at") == "standing":
                return sum(line.standing * line.quantity for line in inside)
            return sum(line.net for line in inside)
        case "units":
            return sum(line.quantity for line in inside if line in mine)
        case "weight":
            return sum(shop.goods[line.sku].weight * line.quantity for line in inside)
    return len({product_of(shop, line) for line in inside})


def product_of(shop: SlowShop, line: SlowLine):
    return shop.goods[line.sku].product or ("alone", line.sku)


def reaches(condition: dict, size: int, n: int) -> bool:
    return {"at_least": size >= n, "over": size > n, "at_most": size <= n}[condition["bound"]]


def times_earned(shop: SlowShop, offer: dict, lines: list[SlowLine], mine: list[SlowLine]) -> int:
    if not offer["conditions"]:
        return 1 if offer["repeat"] == "once" else 10**9
    counts: list[int] = []
    at_most: list[bool] = []
    for condition in offer["conditions"]:
        size, n = measured(shop, condition, lines, mine), condition.get("n", 0)
        if condition["kind"] == "only" or condition["bound"] == "at_most":
            at_most.append(size <= n)
        elif not reaches(condition, size, n):
            counts.append(0)
        else:
            counts.append(size // n if offer["repeat"] == "each_time" else 1)
    if offer["need"] == "any":
        return max(counts + [int(held) for held in at_most])
    return 0 if not all(at_most) else min(counts, default=1)


def step_reached(shop: SlowShop, offer: dict, lines: list[SlowLine], mine: list[SlowLine]) -> int:
    if not offer["steps"]:
        return 0
    condition = offer["conditions"][0]
    size = measured(shop, condition, lines, mine)
    return sum(1 for step in offer["steps"] if reaches(condition, size, step["n"]))


def portions(shop: SlowShop, offer: dict, lines: list[SlowLine]) -> list[list[SlowLine]]:
    if offer["counted"] == "pooled":
        return [lines]
    name = (lambda line: line.sku) if offer["counted"] == "by_sku" else (lambda line: product_of(shop, line))
    found: dict = {}
    for line in lines:
        found.setdefault(name(line), []).append(line)
    return list(found.values())


def walked(mine: list[SlowLine], first: str) -> list[SlowLine]:
    return mine if first == "dearest" else mine[::-1]


def carried(line: SlowLine, units: int) -> int:
    return half_away(Fraction(line.net * units, line.quantity))


class GoodsTurn:
    """One offer at its turn on goods: what its limits leave it, and what its rewards do."""

    def __init__(self, shop: SlowShop, offer: dict, lines: list[SlowLine]) -> None:
        self.shop, self.offer, self.lines = shop, offer, lines
        self.off = self.funded_off = self.funded_units = 0
        self.times_left = offer["limits"]["times"]
        self.units_left: dict = {}
        self.bases: dict = {}
        self.gifts: list[tuple[str, int, int]] = []
        self.highest = 0

    def run(self) -> None:
        told = []
        for mine in portions(self.shop, self.offer, self.lines):
            times = times_earned(self.shop, self.offer, self.lines, mine)
            told.append((mine, times, step_reached(self.shop, self.offer, self.lines, mine)))
        for mine, times, step in told:
            if times > 0:
                self.highest = max(self.highest, step + 1)
            times = times if self.times_left is None else min(times, self.times_left)
            done = 0
            for number, gives in enumerate([self.offer["gives"], *(one["gives"] for one in self.offer["steps"])]):
                if times > 0 and (number <= step if self.offer["every_step"] else number == step):
                    for at, reward in enumerate(gives):
                        done = max(done, self.give(reward, (number, at), mine, times))
            if self.times_left is not None:
                self.times_left -= done

    def room(self) -> int:
        cap = self.offer["limits"]["amount"]
        return 10**12 if cap is None else cap - self.off

    def give(self, reward: dict, key: tuple, mine: list[SlowLine], times: int) -> int:
        match reward["kind"]:
            case "put_in":
                self.gifts.append((reward["skus"][0], reward["quantity"] * times, reward["amount"]))
                return times
            case "buy_get":
                return self.buy_get(reward, mine, times)
            case "goods_set":
                return self.goods_set(reward, mine, times)
        if reward["kind"].startswith("delivery"):
            return 0
        left = self.units_left.setdefault(key, self.offer["limits"]["units"])
        chosen: dict[int, int] = {}
        for line in walked(mine, self.offer["limits"]["units_from"]):
            if not may_lose(self.shop, self.offer["on"], line):
                continue
            for _ in range(line.quantity):
                if left is None or left > 0:
                    chosen[id(line)] = chosen.get(id(line), 0) + 1
                    left = None if left is None else left - 1
        self.units_left[key] = left
        picks = [(line, chosen.get(id(line), 0)) for line in mine]
        bases = [line.standing * k if self.shop.percent_of == "standing" else carried(line, k) for line, k in picks]
        self.bases[key] = self.bases.get(key, 0) + sum(bases)
        return times if self.take(self.amounts(reward, picks, times), picks) else 0

    def amounts(self, reward: dict, picks: list[tuple[SlowLine, int]], times: int) -> list[int]:
        base = [carried(line, k) for line, k in picks]
        kind = reward["kind"]
        if (kind == "percent_off" and self.shop.percent_of == "net") or kind == "amount_off":
            if kind == "percent_off":
                amount = half_away(sum(base) * Fraction(reward["percent_bp"], 10000))
            else:
                amount = min(reward["amount"] * times, sum(base))
            return shared(min(amount, self.room()), base)
        if kind == "percent_off":
            stood = [line.standing * k for line, k in picks]
            parts = shared(half_away(sum(stood) * Fraction(reward["percent_bp"], 10000)), stood)
            return [min(line.net, part) for (line, _), part in zip(picks, parts, strict=True)]
        if kind == "amount_off_each":
            return [min(reward["amount"] * k, b) for (_, k), b in zip(picks, base, strict=True)]
        return [max(0, b - reward["amount"] * k) for (_, k), b in zip(picks, base, strict=True)]

    def take(self, off: list[int], picks: list[tuple[SlowLine, int]]) -> bool:
        room = self.room()
        if sum(off) > room:
            off = shared(room, off)
        for (line, units), amount in zip(picks, off, strict=True):
            line.net -= amount
            if meant(self.shop, self.offer["funded"]["of"], line):
                self.funded_off += amount
                self.funded_units += units if amount > 0 else 0
            line.comes_back *= Fraction(self.offer["returned_bp"], 10000) if amount > 0 else 1
        self.off += sum(off)
        return sum(off) > 0

    def buy_get(self, reward: dict, mine: list[SlowLine], times: int) -> int:
        x, y = reward["buy"], reward["get"]
        units = [line for line in mine for _ in range(line.quantity - line.used)]

        def buys(line):
            return x > 0 and meant(self.shop, reward["of"], line)

        def gets(line):
            return may_lose(self.shop, self.offer["on"], line)

        x0 = sum(1 for line in units if buys(line) and not gets(line))
        y0 = sum(1 for line in units if gets(line) and not buys(line))
        o = sum(1 for line in units if buys(line) and gets(line))
        k = min(times, (y0 + o) // y)
        if x:
            k = min(k, (x0 + o) // x, (x0 + y0 + o) // (x + y))
        may_take = o - max(0, k * x - x0)
        rewarded: dict[int, int] = {}
        for line in walked(units, reward["units_from"]):
            full = sum(rewarded.values()) == k * y
            if full or not gets(line) or (buys(line) and may_take == 0):
                continue
            may_take -= 1 if buys(line) else 0
            rewarded[id(line)] = rewarded.get(id(line), 0) + 1
        earning: dict[int, int] = {}
        for line in mine:
            for _ in range(line.quantity - line.used - rewarded.get(id(line), 0)):
                if buys(line) and sum(earning.values()) < k * x:
                    earning[id(line)] = earning.get(id(line), 0) + 1
        picks = [(line, rewarded.get(id(line), 0)) for line in mine]
        if not self.take(self.amounts(reward["price"], picks, k), picks):
            return 0
        for line in mine:
            line.used += rewarded.get(id(line), 0) + earning.get(id(line), 0)
        return k

    def goods_set(self, reward: dict, mine: list[SlowLine], times: int) -> int:
        """Sets one after another; a line's units carry its net by running total, so sets never take it twice."""
        gone = {id(line): 0 for line in mine}
        off = [0] * len(mine)
        formed, price = 0, reward["price"]
        while formed < times:
            took: dict[int, int] = {}
            for part in reward["parts"]:
                wanted = part["count"]
                for line in walked(mine, reward["units_from"]):
                    if not may_lose(self.shop, part["of"], line):
                        continue
                    here = min(wanted, line.quantity - line.used - gone[id(line)])
                    took[id(line)] = took.get(id(line), 0) + here
                    wanted -= here
                if wanted:
                    took = {}
                    break
            if not took:
                break
            units = [took.get(id(line), 0) for line in mine]
            base = [
                carried(line, gone[id(line)] + k) - carried(line, gone[id(line)])
                for line, k in zip(mine, units, strict=True)
            ]
            whole = sum(base)
            if price["kind"] == "percent_off" and self.shop.percent_of == "standing":
                stood = [line.standing * k for line, k in zip(mine, units, strict=True)]
                parts = shared(half_away(sum(stood) * Fraction(price["percent_bp"], 10000)), stood)
                parts = [min(b, part) for b, part in zip(base, parts, strict=True)]
            else:
                parts = shared(set_saves(price, whole), base)
            if sum(parts) == 0:
                break
            off = [a + b for a, b in zip(off, parts, strict=True)]
            for line, k in zip(mine, units, strict=True):
                gone[id(line)] += k
            formed += 1
        if not self.take(off, [(line, gone[id(line)]) for line in mine]):
            return 0
        for line in mine:
            line.used += gone[id(line)]
        return formed


def set_saves(price: dict, whole: int) -> int:
    match price["kind"]:
        case "percent_off":
            return half_away(whole * Fraction(price["percent_bp"], 10000))
        case "amount_off":
            return min(price["amount"], whole)
    return max(0, whole - price["amount"])


def delivery_reward(reward: dict, charge: int) -> int:
    if reward["kind"] == "delivery_percent_off":
        return charge - half_away(charge * Fraction(reward["percent_bp"], 10000))
    if reward["kind"] == "delivery_amount_off":
        return max(0, charge - reward["amount"])
    return min(charge, reward["amount"])


def price_with(
    shop: SlowShop, cart: "SlowCart", offers: list[dict], order: list[int], guard=None, option=LIKELIEST, then=None
) -> SlowPriced:
    """order: the offers that walk, in turn. guard: asked before each turn whether the offer may, seeing the rest.

    option: of delivery; the likeliest one if it is not said. then: the turns on delivery, told once goods are done,
    if they are others.
    """
    option = slow_costs.likeliest(shop, cart) if option is LIKELIEST else option
    result = SlowPriced(make_lines(shop, cart.units, cart.group))
    goods_turns(shop, offers, order, result, guard)
    lines = result.lines
    goods_sum = sum(line.net for line in lines) + result.asked
    worth = sum(line.standing * line.quantity for line in lines)
    value = goods_sum if shop.delivery_from == "net" else worth + result.asked
    sent = [(line.sku, line.standing) for line in lines for _ in range(line.quantity)]
    sent += [
        (sku, shown_price(shop.goods[sku]))
        for gifts in result.put_in.values() for sku, units, _ in gifts for _ in range(units)
    ]  # fmt: skip
    load = slow_costs.Load(shop, sent)

    def held(scope):
        return [line for line in lines if scope and meant(shop, scope, line)]

    if lines:
        result.charge = slow_costs.charged(shop, option, value, load, held)
        result.carriage, result.parcels = slow_costs.carried(shop, option, load, held)
    else:
        result.parcels = 0
    delivery_turns(shop, cart, offers, then(result) if then else order, result, guard, option)
    slow_costs.settle_tax(shop, cart, result, result.parcels)
    tax = result.goods_tax + result.delivery_tax + result.surcharge_tax
    result.total = goods_sum + result.charge + result.surcharge + (0 if shop.with_tax else tax)
    return result


def goods_turns(shop: SlowShop, offers: list[dict], order: list[int], result: SlowPriced, guard) -> None:
    for at in order:
        if not on_goods(offers[at]):
            continue
        result.earned[at] = 0
        if guard and not guard(at, result):
            continue
        turn = GoodsTurn(shop, offers[at], result.lines)
        turn.run()
        result.earned[at] = turn.highest
        result.goods_off[at] = turn.off
        gifts = [
            (max(shown_price(shop.goods[sku]) - asked, 0) * units, units)
            for sku, units, asked in turn.gifts
            if meant(shop, offers[at]["funded"]["of"], SlowLine(sku, 0, units, 0))
        ]
        for off, units in [(turn.funded_off, turn.funded_units), *gifts]:
            result.funded += (
                Fraction(offers[at]["funded"]["share_bp"], 10000) * off + offers[at]["funded"]["each"] * units
            )
        result.bases[at] = turn.bases
        if turn.gifts:
            result.put_in[at] = turn.gifts
            result.asked += sum(units * asked for _, units, asked in turn.gifts)


def delivery_turns(
    shop: SlowShop, cart: "SlowCart", offers: list[dict], order: list[int], result: SlowPriced, guard, option
) -> None:
    weight = sum(shop.goods[line.sku].weight * line.quantity for line in result.lines)
    weight += sum(shop.goods[sku].weight * units for gifts in result.put_in.values() for sku, units, _ in gifts)
    for at in order:
        offer = offers[at]
        if at not in result.earned:
            result.earned[at] = 0
            for mine in portions(shop, offer, result.lines):
                if times_earned(shop, offer, result.lines, mine) > 0:
                    step = step_reached(shop, offer, result.lines, mine) + 1
                    result.earned[at] = max(result.earned[at], step)
        if guard and not guard(at, result):
            continue
        capped = result.goods_off.get(at, 0)
        for number, gives in enumerate([offer["gives"], *(one["gives"] for one in offer["steps"])]):
            if result.earned[at] != number + 1:
                continue
            for reward_at, reward in enumerate(gives):
                off = off_charge(reward, cart.zone, option, weight, result, at, (number, reward_at), offer, capped)
                capped += 0 if reward["kind"].startswith("delivery") else off
                result.delivery_off[at] = result.delivery_off.get(at, 0) + off
                result.charge -= off


def off_charge(
    reward: dict,
    zone: str,
    option: dict | None,
    weight: int,
    result: SlowPriced,
    at: int,
    key: tuple,
    offer: dict,
    capped: int,
) -> int:
    charge = result.charge
    if reward["kind"].startswith("delivery"):
        light = reward["below_weight"] is None or weight < reward["below_weight"]
        served = not reward["zones"] or zone in reward["zones"]
        served = served and (not reward["options"] or (option is not None and option["name"] in reward["options"]))
        return charge - delivery_reward(reward, charge) if light and served else 0
    base = result.bases.get(at, {}).get(key, 0)
    if reward["kind"] != "percent_off" or not reward["with_delivery"] or base == 0:
        return 0
    rate = Fraction(reward["percent_bp"], 10000)
    off = half_away((base + charge) * rate) - half_away(base * rate)
    cap = offer["limits"]["amount"]
    if cap is not None:
        off = min(off, cap - capped)
    return off


def on_goods(offer: dict) -> bool:
    return any(not reward["kind"].startswith("delivery") for reward in every_reward(offer))


def every_reward(offer: dict) -> list[dict]:
    return [reward for gives in (offer["gives"], *(one["gives"] for one in offer["steps"])) for reward in gives]


@dataclass
class SlowCart:
    """units: one (SKU, price paid) a unit. weekday: 0 is Monday. before: earlier orders of the shopper."""

    units: list[tuple[str, int]]
    zone: str
    weekday: int = 0
    minute: int = 0
    before: int | None = None
    group: str = ""
    channel: str = ""
    payment: str = ""
    option: str = ""
    currency: str = "EUR"


def takes_part(offer: dict, cart: SlowCart) -> bool:
    when, who, where = offer["when"], offer["who"], offer["where"]
    day, start, end = cart.weekday, when["from_minute"], when["to_minute"]
    if start is not None and start < end and not start <= cart.minute < end:
        return False
    if start is not None and start >= end:
        if end <= cart.minute < start:
            return False
        if cart.minute < end:
            day = (day + 6) % 7
    if when["weekdays"] and day not in when["weekdays"]:
        return False
    if who["first_order"] and cart.before != 0:
        return False
    if who["nth_order"] and (cart.before is None or cart.before + 1 < who["nth_order"]):
        return False
    if (who["groups"] and cart.group not in who["groups"]) or cart.group in who["except_groups"]:
        return False
    paid_so = not where.get("payments") or cart.payment in where["payments"]
    paid_so = paid_so and (not where.get("currencies") or cart.currency in where["currencies"])
    return paid_so and cart.zone not in where.get("except_zones", ())


def conflict(shop: SlowShop, offers: list[dict], a: int, b: int) -> bool:
    for one, other in ((a, b), (b, a)):
        for clause in ("never_with", "yields_to"):
            if offers[one][clause] == "all" or other in offers[one][clause]:
                return True
    code, other_code = offers[a]["code"].casefold(), offers[b]["code"].casefold()
    if not code and not other_code:
        return shop.self_applying == "one"
    if not code or not other_code:
        return not shop.codes_with_self_applying
    return code != other_code and shop.codes_per_order == 1


def goes(shop: SlowShop, offers: list[dict], some: tuple[int, ...]) -> bool:
    codes = {offers[at]["code"].casefold() for at in some} - {""}
    return len(codes) <= shop.codes_per_order and not any(
        conflict(shop, offers, a, b) for a, b in combinations(some, 2)
    )


def price(
    shop: SlowShop, cart: SlowCart, offers: list[dict], apply: str = "best", there=None, option=LIKELIEST
) -> SlowPriced:
    """there: indices of the offers that are available, None for all. option: of delivery."""
    option = slow_costs.likeliest(shop, cart) if option is LIKELIEST else option
    here = [at for at in (range(len(offers)) if there is None else there) if takes_part(offers[at], cart)]

    def free(at: int, those: Iterable[int]) -> bool:
        """Whether nothing of what took effect shuts the offer out."""
        others = [one for one in those if one != at]
        if any(conflict(shop, offers, at, one) for one in others):
            return False
        code = offers[at]["code"].casefold()
        codes = {offers[one]["code"].casefold() for one in others} - {"", code}
        return not code or len(codes) < shop.codes_per_order

    if apply == "first":
        return price_with(shop, cart, offers, here, lambda at, seen: free(at, seen.effective()), option)

    steady = [at for at in here if not offers[at]["yields_to"]]
    while True:
        some_or_none = [some for size in range(len(steady) + 1) for some in combinations(steady, size)]
        sound = [some for some in some_or_none if goes(shop, offers, some)]
        largest = [some for some in sound if not any(set(some) < set(other) for other in sound)]
        priced = {some: price_with(shop, cart, offers, list(some), option=option) for some in largest}
        working = {at for one in priced.values() for at in one.effective()}
        if working.issuperset(steady):
            break
        steady = [at for at in steady if at in working]

    def rank(some: tuple[int, ...]):
        works = priced[some].effective()
        return priced[some].less_put_in(shop), [0 if at in works else 1 for at in range(len(offers))], some

    kept = priced[min(largest, key=rank)].effective()
    stood = set(kept)

    def may(at: int, seen: SlowPriced) -> bool:
        stood.update(seen.effective())
        return at in stood or free(at, stood)

    def on_delivery(seen: SlowPriced) -> list[int]:
        stood.update(seen.effective())
        first = sorted(stood)
        return [
            *first,
            *(at for at in here if at not in first and (offers[at]["yields_to"] or not on_goods(offers[at]))),
        ]

    order = [*kept, *(at for at in here if offers[at]["yields_to"] and on_goods(offers[at]))]
    return price_with(shop, cart, offers, order, may, option, on_delivery)
