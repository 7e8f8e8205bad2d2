"""A stand-in shop that goes on selling: new orders by the page, over HTTP in JSON. Run as `yellow-abacus order-feed`.

A day's orders are the same whenever they are asked for. Asked to, it is slow or fails, as in `mood`.
"""

import random
from collections.abc import Callable, Iterator
from datetime import date, datetime, timedelta
from typing import Any

from flask import Flask, Response, jsonify, request

from yellow_abacus.standins.mood import Mood

PORT = 8412
CURRENCY = "EUR"
MOST_A_PAGE = 100
MOST_DAYS = 400
A_DAY = 31
FIRST_DAY = date(2026, 1, 1)

GOODS: list[tuple[str, int, int]] = [  # SKU, price, grams
    ("HF-HOBOS-1", 1190, 620),
    ("HF-HOBOS-2", 2490, 1_900),
    ("HF-HOTRA-1", 1650, 580),
    ("HF-HOPRA-1", 1090, 560),
    ("HF-SOBAR-1", 890, 1_500),
    ("HF-SOCAC-1", 850, 4_100),
    ("HF-SECHE-1", 320, 9),
    ("HF-SECLI-1", 340, 12),
    ("HF-TOBON-1", 1990, 160),
    ("HF-TODIB-1", 890, 120),
    ("HF-WABRA-1", 2450, 420),
    ("HF-LICLI-1", 2990, 540),
]
ZONES = (["Home"] * 7) + (["Near abroad"] * 2) + ["Islands and far"]
OPTIONS = {
    "Home": ("To the door", "To the door", "Pick-up point"),
    "Near abroad": ("Parcel abroad",),
    "Islands and far": ("By sea",),
}
BY_WEIGHT = {  # up to grams, charge; by sea it still charges as last year
    "Parcel abroad": ((2_000, 890), (5_000, 1190), (10_000, 1590)),
    "By sea": ((2_000, 1150), (5_000, 1690), (10_000, 2490)),
}
COST_BY_WEIGHT = {  # what carriers ask up to grams with their packaging; since last month 4 % more for fuel
    "To the door": ((500, 210), (2_000, 425), (5_000, 512), (10_000, 698), (15_000, 918), (31_500, 1411)),
    "Pick-up point": ((500, 210), (2_000, 338), (5_000, 414), (10_000, 534)),
    "Parcel abroad": ((15_000, 918), (31_500, 1411)),
    "By sea": ((2_000, 1413), (5_000, 2136), (10_000, 3334)),
}
PACKAGING = 180
BREAKS, AS_FRAGILE = "HF-LICLI-1", 810
"""What goes to the door as fragile, and what that costs."""
PAYMENT = {"card": (165, 25), "invoice": (0, 95)}
REFUSED = {"invoice": 0.06}
"""What being paid so costs: basis points of the total, since last month more for cards; and for each order."""
A_KILOGRAM_MORE = {"Parcel abroad": 110}
FREE_FROM = {"To the door": 9_000, "Pick-up point": 9_000, "Parcel abroad": 15_000}


def charge_of(option: str, value: int, grams: int) -> int:
    """value of goods and charge in minor units."""
    if value >= FREE_FROM.get(option, value + 1):
        return 0
    if option == "To the door":
        return 490
    if option == "Pick-up point":
        return 190 if value >= 5_000 else 390
    return _by_steps(BY_WEIGHT[option], grams, A_KILOGRAM_MORE.get(option, 0))


def cost_of(option: str, grams: int, *, breaks: bool) -> int:
    """What the carrier asks of the shop, minor units."""
    if breaks and option == "To the door":
        return AS_FRAGILE
    return _by_steps(COST_BY_WEIGHT[option], grams + PACKAGING, 65)


def _by_steps(steps: tuple[tuple[int, int], ...], grams: int, a_kilogram_more: int) -> int:
    heaviest, dearest = steps[-1]
    beyond = dearest + a_kilogram_more * -(-(grams - heaviest) // 1_000)
    return next((amount for upto, amount in steps if grams <= upto), beyond)


def orders_of(day: date) -> Iterator[dict[str, Any]]:
    """The orders of a day, in the order they came; amounts in minor units."""
    dice = random.Random(day.toordinal())
    minutes = sorted(dice.randrange(6 * 60, 24 * 60) for _ in range(dice.randrange(A_DAY - 8, A_DAY + 9)))
    for number, minute in enumerate(minutes, start=1):
        goods = dice.sample(GOODS, dice.choice((1, 1, 2, 2, 3)))
        code = dice.random() < 0.06
        way = random.Random(f"{day} {number}")
        zone = way.choice(ZONES)
        option = way.choice(OPTIONS[zone])
        units = {sku: dice.choice((1, 1, 1, 2, 3)) for sku, _, _ in goods}
        paid = {sku: units[sku] * price * (9 if code else 10) // 10 for sku, price, _ in goods}
        lines = [
            {"sku": sku, "quantity": units[sku], "unit_price": price, "paid": paid[sku]} for sku, price, _ in goods
        ]
        grams = sum(units[sku] * each for sku, _, each in goods)
        charge = charge_of(option, sum(paid.values()), grams)
        shopper, payment = dice.randrange(4_000), dice.choice(("card", "card", "invoice"))
        (of_total, fixed), refused = PAYMENT[payment], REFUSED.get(payment, 0.0)
        yield {
            "number": f"W{day:%y%m%d}-{number:03d}",
            "placed_at": (datetime.combine(day, datetime.min.time()) + timedelta(minutes=minute)).isoformat(),
            "zone": zone,
            "shopper": f"W-{shopper}",
            "code": "FERN10" if code else "",
            "payment": payment,
            "status": "cancelled" if dice.random() < 0.02 else "refused" if way.random() < refused else "paid",
            "option": option,
            "delivery_paid": charge,
            "delivery_cost": cost_of(option, grams, breaks=BREAKS in units),
            "payment_cost": ((sum(paid.values()) + charge) * of_total + 5_000) // 10_000 + fixed,
            "lines": lines,
        }


def make_order_feed(mood: Mood | None = None, today: Callable[[], date] = date.today) -> Flask:
    app = Flask("order_feed")
    (mood or Mood()).settle(app, "The order desk is closed for now.")

    @app.get("/orders")
    def _orders() -> Response | tuple[Response, int]:
        """Orders placed after a moment (`?since=`) up to yesterday, `?first=` of them on; `next` is null on the last
        page."""
        try:
            since = datetime.fromisoformat(request.args.get("since", "2026-10-31T23:59:59"))
            first = max(int(request.args.get("first", "0")), 0)
        except ValueError:
            return jsonify(error="since is a moment like 2026-11-01T00:00, first a whole number."), 422
        start = max(since.date(), FIRST_DAY)
        days = min((today() - start).days, MOST_DAYS)
        found = [
            order
            for number in range(days)
            for order in orders_of(start + timedelta(days=number))
            if datetime.fromisoformat(order["placed_at"]) > since
        ]
        page = found[first : first + MOST_A_PAGE]
        upto = first + len(page)
        return jsonify(currency=CURRENCY, total=len(found), orders=page, next=upto if upto < len(found) else None)

    return app
