"""The slow pricer's other half: standing prices, delivery, surcharges, tax and costs, cart by cart and unit by unit.

Written from the rules and not from the code it checks. Used by tests only.
"""

from fractions import Fraction
from math import ceil

from tests import slow


def standing_of(
    shop: "slow.SlowShop", sku: str, paid: int, units: list[tuple[str, int]], group: str
) -> tuple[int, bool]:
    """The standing price, and whether it is the reduced one and would be higher without.

    units: every unit of the cart, of which as many as count together decide the quantity price.
    """
    good = shop.goods[sku]
    together = [
        one for one, _ in units
        if one == sku or (good.by_product and good.product and shop.goods[one].product == good.product)
    ]  # fmt: skip

    def step(of: str) -> int | None:
        reached = [(n, price) for whose, n, price in good.steps if whose == of and n <= len(together)]
        return max(reached)[1] if reached else None

    if group and any(whose == group and n == 1 for whose, n, _ in good.steps):
        return step(group), False
    prices = [paid if good.list_price is None else good.list_price]
    prices += [price for price in (step(""), step(group) if group else None) if price is not None]
    if good.reduced_price is not None and good.reduced_price < min(prices):
        return good.reduced_price, True
    return min(prices), False


# --- delivery


class Load:
    def __init__(self, shop: "slow.SlowShop", units: list[tuple[str, int]]) -> None:
        """units: (SKU, standing price) of everything that is sent."""
        self.goods = [(shop.goods[sku], price) for sku, price in units]
        self.weight = sum(good.weight for good, _ in self.goods)
        self.volume = sum(good.volume for good, _ in self.goods)
        self.insured = sum(price for good, price in self.goods if good.insured)
        self.worth = sum(price for _, price in self.goods)


def within(limits: dict, load: Load, refused: list, packaging: int, heaviest: int | None) -> bool:
    if heaviest is not None and any(good.weight > heaviest - packaging for good, _ in load.goods):
        return False
    if limits.get("longest") is not None and any(good.longest > limits["longest"] for good, _ in load.goods):
        return False
    return not refused


def heaviest_of(tariff: dict) -> int | None:
    bounds = [tariff["carries"].get("heaviest")]
    if tariff.get("per_kilogram") is None and tariff["steps"]:
        bounds.append(tariff["steps"][-1]["upto"])
    return min((bound for bound in bounds if bound is not None), default=None)


def split(load: Load, heaviest: int | None, packaging: int) -> int:
    if heaviest is None or heaviest <= packaging:
        return 1
    return max(1, ceil(Fraction(load.weight, heaviest - packaging)))


def parcel_price(tariff: dict, billed: Fraction) -> Fraction | None:
    last = None
    for step in tariff["steps"]:
        if step["upto"] is None or billed <= step["upto"]:
            return Fraction(step["amount"])
        last = step
    if tariff.get("per_kilogram") is None:
        return None
    start, amount = (last["upto"], Fraction(last["amount"])) if last else (0, Fraction(0))
    return amount + ceil((billed - start) / 1000) * Fraction(tariff["per_kilogram"])


def quote(shop: "slow.SlowShop", option: dict, tariff: dict, load: Load, held) -> tuple[Fraction | None, int]:
    """Cost (None where it cannot go by this tariff) and parcels. held: which goods of a scope the cart holds."""
    packaging, own = shop.packaging_weight, heaviest_of(tariff)
    bounds = [bound for bound in (option["carries"].get("heaviest"), own) if bound is not None]
    count = split(load, min(bounds, default=None), packaging)
    price = None
    if within(tariff["carries"], load, held(tariff["carries"].get("refuses")), packaging, own):
        billed = Fraction(load.weight, count) + packaging
        if tariff.get("divisor"):
            billed = max(billed, Fraction(load.volume * 1000, count * tariff["divisor"]))
        price = parcel_price(tariff, billed)
    if price is None:
        return None, count
    fuel, insurance = Fraction(tariff["fuel_bp"], 10000), Fraction(tariff["insurance_bp"], 10000)
    return count * price * (1 + fuel) + load.insured * insurance, count


def carried(shop: "slow.SlowShop", option: dict | None, load: Load, held) -> tuple[Fraction, int]:
    """What the shop pays, and in how many parcels the order goes."""
    if option is None:
        return Fraction(0), 1
    tariffs = [tariff for tariff in shop.tariffs if tariff["name"] in option["tariffs"]]
    if not tariffs:
        return Fraction(0), split(load, option["carries"].get("heaviest"), shop.packaging_weight)
    quotes = {tariff["name"]: quote(shop, option, tariff, load, held) for tariff in tariffs}
    for rule in option["preferred"]:
        cost, count = quotes.get(rule["tariff"], (None, 0))
        asks = not any(rule["of"].values()) or held(rule["of"])
        asks = asks and load.weight >= (rule["from_weight"] or 0) and load.worth >= (rule["from_value"] or 0)
        if cost is not None and asks:
            return cost, count
    sound = [(cost, count) for cost, count in quotes.values() if cost is not None]
    if sound:
        return min(sound, key=lambda told: told[0])
    first = tariffs[0]
    amount = max((Fraction(step["amount"]) for step in first["steps"]), default=Fraction(0))
    top = max((step["upto"] or 0 for step in first["steps"]), default=0)
    pieces = max(1, ceil(Fraction(load.weight, top))) if top else 1
    return pieces * amount * (1 + Fraction(first["fuel_bp"], 10000)), quotes[first["name"]][1]


def charged(shop: "slow.SlowShop", option: dict | None, value: int, load: Load, held) -> int:
    if option is None or (option["free_from"] is not None and value >= option["free_from"]):
        return 0
    charge = option["charge"]
    match charge["kind"]:
        case "flat":
            return charge["amount"]
        case "by_value":
            reached = [(step["value"], step["amount"]) for step in charge["steps"] if step["value"] <= value]
            return max([(0, charge["amount"]), *reached])[1]
        case "by_weight":
            for step in charge["steps"]:
                if load.weight <= step["upto"]:
                    return step["amount"]
            last = charge["steps"][-1]
            return last["amount"] + ceil(Fraction(load.weight - last["upto"], 1000)) * charge["per_kilogram"]
    cost = carried(shop, option, load, held)[0]
    fine = Fraction(slow.half_away(cost * 10000), 10000)
    return slow.half_away(fine * Fraction(10000 + charge["markup_bp"], 10000)) + charge["amount"]


def options_of(shop: "slow.SlowShop", cart: "slow.SlowCart") -> list[tuple[Fraction, dict | None]]:
    """The options this cart may go by, and how likely each is."""
    lines = slow.make_lines(shop, cart.units, cart.group)
    load = Load(shop, [(line.sku, line.standing) for line in lines for _ in range(line.quantity)])

    def held(scope):
        return [line for line in lines if scope and slow.meant(shop, scope, line)]

    def takes(option: dict) -> bool:
        if not within(option["carries"], load, held(option["carries"].get("refuses")), shop.packaging_weight,
                      option["carries"].get("heaviest")):  # fmt: skip
            return False
        if load.weight < (option["from_weight"] or 0):
            return False
        tariffs = [tariff for tariff in shop.tariffs if tariff["name"] in option["tariffs"]]
        return not tariffs or any(quote(shop, option, tariff, load, held)[0] is not None for tariff in tariffs)

    every = shop.zones[cart.zone]
    sound = [option for option in every if takes(option)] or every
    if not sound:
        return [(Fraction(1), None)]
    known = [option for option in sound if cart.option and option["name"].casefold() == cart.option.casefold()]
    if known:
        return [(Fraction(1), known[0])]
    whole = sum(option["share_bp"] for option in sound)
    if whole == 0:
        return [(Fraction(1, len(sound)), option) for option in sound]
    return [(Fraction(option["share_bp"], whole), option) for option in sound if option["share_bp"]]


def likeliest(shop: "slow.SlowShop", cart: "slow.SlowCart") -> dict | None:
    return max(options_of(shop, cart), key=lambda told: told[0])[1]


# --- tax and surcharges


def rate_of(shop: "slow.SlowShop", zone: str, name: str | None) -> int:
    """Basis points of a tax class, the first one where there is no such class."""
    told = next((one for one in shop.classes if one["name"] == name), shop.classes[0])
    return next((one["rate_bp"] for one in told["zones"] if one["zone"] == zone), told["rate_bp"])


def split_like_goods(amount: int, goods: dict[int, int], standard: int) -> dict[int, int]:
    rates = sorted(goods, reverse=True)
    if sum(goods.values()) == 0:
        return {standard: amount}
    return dict(zip(rates, slow.shared(amount, [goods[rate] for rate in rates]), strict=True))


def taxed(shop: "slow.SlowShop", parts: list[dict[int, int]]) -> list[int]:
    """The tax of each part, told as amounts by rate."""
    found = [0] * len(parts)
    for rate in {rate for part in parts for rate in part}:
        here = [part.get(rate, 0) for part in parts]
        share = Fraction(rate, 10000)
        tax = slow.half_away(sum(here) * (share / (1 + share) if shop.with_tax else share))
        found = [a + b for a, b in zip(found, slow.shared(tax, here), strict=True)]
    return found


def settle_tax(shop: "slow.SlowShop", cart: "slow.SlowCart", result: "slow.SlowPriced", parcels: int) -> None:
    goods: dict[int, int] = {}
    for line in result.lines:
        rate = rate_of(shop, cart.zone, shop.goods[line.sku].tax_class)
        goods[rate] = goods.get(rate, 0) + line.net
    for gifts in result.put_in.values():
        for sku, units, asked in gifts:
            rate = rate_of(shop, cart.zone, shop.goods[sku].tax_class)
            goods[rate] = goods.get(rate, 0) + units * asked
    standard = rate_of(shop, cart.zone, None)

    def at_rates(amount: int, name: str | None) -> dict[int, int]:
        if name is None:
            return split_like_goods(amount, goods, standard)
        return {rate_of(shop, cart.zone, name): amount}

    always: dict[int, int] = {}
    for surcharge in shop.surcharges:
        amount = surcharged(shop, cart, surcharge, result, parcels)
        by_rate = at_rates(amount, surcharge["tax_class"])
        if surcharge["chosen_bp"] is None:
            result.surcharge += amount
            for rate, part in by_rate.items():
                always[rate] = always.get(rate, 0) + part
        else:
            share = Fraction(surcharge["chosen_bp"], 10000)
            result.chosen += share * amount
            result.chosen_tax += share * taxed(shop, [by_rate])[0]
    charge = at_rates(result.charge, shop.delivery_class)
    result.goods_tax, result.delivery_tax, result.surcharge_tax = taxed(shop, [goods, charge, always])


def surcharged(
    shop: "slow.SlowShop", cart: "slow.SlowCart", surcharge: dict, result: "slow.SlowPriced", parcels: int
) -> int:
    if surcharge["groups"] and cart.group not in surcharge["groups"]:
        return 0
    if cart.zone in surcharge["except_zones"]:
        return 0
    if surcharge["currencies"] and cart.currency not in surcharge["currencies"]:
        return 0
    lines = result.lines
    if not lines:
        return 0
    earned = {"conditions": surcharge["conditions"], "repeat": surcharge["repeat"], "need": "all"}
    times = slow.times_earned(shop, earned, lines, lines)
    inside = [line for line in lines if slow.meant(shop, surcharge["of"], line)]
    asks, everything = surcharge["asks"], not any(surcharge["of"].values())
    if asks["kind"] == "part_of_goods":
        return times * slow.half_away(sum(line.net for line in inside) * Fraction(asks["rate_bp"], 10000))
    count = {
        "order": 1 if inside or everything else 0,
        "parcel": parcels if inside or everything else 0,
        "unit": sum(line.quantity for line in inside),
        "kilogram": ceil(Fraction(sum(shop.goods[line.sku].weight * line.quantity for line in inside), 1000)),
        "line": len(inside),
    }[asks["counted"]]
    return times * asks["amount"] * count


# --- costs


def ledger(
    shop: "slow.SlowShop", priced: "slow.SlowPriced", cart: "slow.SlowCart", method: dict | None = None
) -> dict[str, float]:
    """method: how the cart is paid where that is not known; None for what is expected."""
    goods = sum(line.net for line in priced.lines) + priced.asked
    gifts = [one for some in priced.put_in.values() for one in some]
    takes = not shop.commission_channels or cart.channel in shop.commission_channels
    commission = returned = 0
    all_stay = Fraction(1)
    for line in priced.lines:
        good = shop.goods[line.sku]
        back = min(line.comes_back * Fraction(good.return_bp, 10000), Fraction(1))
        rate = Fraction(rate_of(shop, cart.zone, good.tax_class), 10000)
        share = Fraction(good.commission_bp, 10000) * (1 if shop.with_tax else 1 + rate) if takes else 0
        net = line.net / (1 + rate) if shop.with_tax else Fraction(line.net)
        commission += line.net * share
        resold = Fraction(shop.resale_bp, 10000) * line.quantity * Fraction(good.unit_cost or 0)
        returned += back * (net - resold)
        if shop.commission_returned:
            returned -= back * line.net * share
        all_stay *= 1 - back
    for sku, units, asked in gifts:
        good = shop.goods[sku]
        rate = Fraction(rate_of(shop, cart.zone, good.tax_class), 10000)
        share = Fraction(good.commission_bp, 10000) * (1 if shop.with_tax else 1 + rate) if takes else 0
        commission += units * asked * share
    returned += (Fraction(shop.postage) + Fraction(shop.handling)) * (1 - all_stay)
    paid = priced.total + priced.chosen + (0 if shop.with_tax else priced.chosen_tax)
    units = sum(line.quantity for line in priced.lines) + sum(many for _, many, _ in gifts)
    earned = (
        goods - (priced.goods_tax if shop.with_tax else 0) + priced.funded
        + priced.charge - (priced.delivery_tax if shop.with_tax else 0)
        + priced.surcharge + priced.chosen - (priced.surcharge_tax + priced.chosen_tax if shop.with_tax else 0)
    )  # fmt: skip
    spent = sum(Fraction(shop.goods[line.sku].unit_cost or 0) * line.quantity for line in priced.lines)
    spent += sum(Fraction(shop.goods[sku].unit_cost or 0) * many for sku, many, _ in gifts)
    refused = sum(share * Fraction(one.get("refused_bp", 0), 10000) for share, one in ways_to_pay(shop, cart, method))
    if units:
        all_back = earned - Fraction(shop.resale_bp, 10000) * spent + Fraction(shop.postage) + Fraction(shop.handling)
        if shop.commission_returned:
            all_back -= commission
        returned = (1 - refused) * returned + refused * all_back
    rows = {
        "goods": goods - (priced.goods_tax if shop.with_tax else 0),
        "funding": priced.funded,
        "delivery_charged": priced.charge - (priced.delivery_tax if shop.with_tax else 0),
        "surcharges": priced.surcharge + priced.chosen
        - (priced.surcharge_tax + priced.chosen_tax if shop.with_tax else 0),
        "goods_cost": -sum((shop.goods[line.sku].unit_cost or 0) * line.quantity for line in priced.lines),
        "put_in_cost": -sum((shop.goods[sku].unit_cost or 0) * many for sku, many, _ in gifts),
        "delivery_cost": -priced.carriage,
        "picking": -(shop.picking + shop.picking_unit * units + shop.packaging * priced.parcels),
        "payment": -paying(shop, cart, paid, method),
        "commission": -commission,
        "returns": -returned,
    }  # fmt: skip
    return {key: float(amount) for key, amount in rows.items()}


def paying(shop: "slow.SlowShop", cart: "slow.SlowCart", paid: Fraction, method: dict | None) -> Fraction:
    if paid <= 0:
        return Fraction(0)
    ways = ways_to_pay(shop, cart, method)
    each = [share * (paid * Fraction(one["cost_bp"], 10000) + Fraction(one["fixed"])) for share, one in ways]
    return sum(each, Fraction(0))


def ways_to_pay(shop: "slow.SlowShop", cart: "slow.SlowCart", method: dict | None) -> list[tuple[Fraction, dict]]:
    known = [one for one in shop.payments if one["name"].casefold() == cart.payment.casefold()]
    if known or (method and not cart.payment):
        return [(Fraction(1), known[0] if known else method)]
    whole = sum(one["share_bp"] for one in shop.payments)
    return [(Fraction(one["share_bp"], whole), one) for one in shop.payments]
