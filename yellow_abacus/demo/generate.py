"""Makes the demo shop's files. Run as `python -m yellow_abacus.demo.generate`; the same seed makes the same files.

Everything in it is made up. Heavy ceramic planters sell at a decent margin and lose it in the post; seeds are
light and rich; orders follow the week and peak in spring.
"""

import csv
import io
import math
import random
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from pathlib import Path

SEED = 41_017
FIRST_DAY = date(2025, 11, 1)
DAYS = 365
ORDERS = 12_000
FOLDER = Path(__file__).parent / "files"

# category → product, then options as (label, list price, reduced price, unit cost, grams, stock)
GOODS: dict[str, dict[str, list[tuple[str, str, str, str, int, int]]]] = {
    "House plants": {
        "Boston fern": [("12 cm", "11.90", "", "4.35", 620, 180), ("19 cm", "24.90", "", "9.80", 1900, 64)],
        "Trailing hoya": [("12 cm", "16.50", "", "6.10", 580, 96)],
        "Prayer plant": [("12 cm", "13.90", "10.90", "5.05", 560, 142), ("17 cm", "26.50", "", "10.60", 1500, 51)],
        "Bird's nest fern": [("14 cm", "15.90", "", "6.20", 900, 88)],
        "String of turtles": [("9 cm", "9.90", "", "3.10", 240, 130)],
        "Swiss cheese vine": [("12 cm", "12.90", "", "4.40", 600, 155), ("21 cm", "38.00", "", "15.90", 3100, 33)],
        "Maidenhair fern": [("12 cm", "12.50", "", "5.30", 540, 77)],
    },
    "Planters": {
        "Glazed cylinder": [
            ("15 cm, moss", "19.90", "", "7.20", 2100, 120),
            ("22 cm, moss", "34.90", "", "12.90", 4900, 74),
            ("30 cm, moss", "59.00", "", "22.40", 9800, 38),
            ("22 cm, chalk", "34.90", "29.90", "12.90", 4900, 81),
        ],
        "Terracotta bowl": [("24 cm", "18.50", "", "6.10", 3400, 140), ("32 cm", "29.50", "", "9.90", 6200, 66)],
        "Hanging pot": [("14 cm", "14.90", "", "5.20", 900, 160)],
        "Stone trough": [("45 cm", "74.00", "", "31.50", 14500, 21)],
        "Footed pot": [("18 cm", "27.90", "", "10.30", 3200, 58)],
    },
    "Soils": {
        "Fern mix": [("5 l", "7.90", "", "2.60", 2400, 260), ("20 l", "18.90", "", "6.90", 9300, 130)],
        "Cactus grit": [("5 l", "8.50", "", "2.80", 4100, 150)],
        "Peat-free potting soil": [("10 l", "9.90", "", "3.40", 4700, 240), ("40 l", "21.90", "", "8.30", 18500, 90)],
        "Bark and perlite": [("5 l", "8.90", "6.90", "3.05", 1500, 170)],
    },
    "Seeds": {
        "Maiden pink": [("packet", "2.90", "", "0.62", 8, 900)],
        "Wild thyme": [("packet", "2.90", "", "0.58", 6, 840)],
        "Purple basil": [("packet", "2.60", "", "0.49", 7, 1100)],
        "Cherry tomato": [("packet", "3.20", "", "0.74", 9, 24)],
        "Climbing nasturtium": [("packet", "3.40", "", "0.81", 12, 610)],
        "Meadow mix": [("50 g", "6.90", "", "1.75", 62, 420)],
        "Fern spores": [("vial", "5.50", "", "1.20", 11, 180)],
        "Window-sill herbs": [("six packets", "13.90", "", "3.45", 58, 230)],
    },
    "Tools": {
        "Hand trowel": [("ash", "14.50", "", "5.60", 310, 140)],
        "Bonsai scissors": [("steel", "19.90", "", "7.90", 160, 85)],
        "Soil scoop": [("brass", "16.90", "", "6.80", 280, 92)],
        "Dibber": [("oak", "8.90", "", "2.95", 120, 170)],
        "Potting mat": [("canvas", "22.00", "", "8.40", 640, 60)],
        "Gloves": [("small", "9.50", "", "3.20", 90, 140), ("large", "9.50", "", "3.20", 105, 155)],
    },
    "Lights": {
        "Shelf grow light": [("30 cm", "39.00", "", "17.20", 820, 57), ("60 cm", "59.00", "", "26.80", 1450, 44)],
        "Clip grow light": [("one arm", "29.90", "", "12.60", 540, 83)],
        "Plug-in timer": [("daily", "11.90", "", "4.70", 150, 120)],
    },
    "Watering": {
        "Brass mister": [("300 ml", "24.50", "", "9.70", 420, 96)],
        "Long-neck can": [("1 l", "27.90", "", "11.20", 760, 71), ("2 l", "33.90", "", "13.80", 1050, 48)],
        "Clay watering spike": [("set of 3", "12.90", "9.90", "4.10", 480, 150)],
        "Moisture dial": [("probe", "9.90", "", "3.30", 85, 200)],
        "Fern feed": [("250 ml", "7.50", "", "1.95", 290, 310), ("1 l", "16.90", "", "4.60", 1100, 120)],
    },
    "Gifts": {
        "Propagation set": [("three vials", "21.90", "", "8.20", 690, 88)],
        "Fern print": [("A3", "18.00", "", "4.90", 180, 70)],
        "Potting-up box": [("for one plant", "34.50", "", "14.60", 3300, 52)],
        "Linen apron": [("moss", "29.00", "", "", 340, 45)],
    },
}

# what carts are about: share, then (category, chance, most units of one SKU)
BASKETS: list[tuple[float, list[tuple[str, float, int]]]] = [
    (0.24, [("House plants", 1.0, 2), ("Soils", 0.35, 1), ("Planters", 0.25, 1), ("Watering", 0.2, 1)]),
    (0.17, [("Planters", 1.0, 2), ("House plants", 0.3, 1), ("Soils", 0.3, 2)]),
    (0.24, [("Seeds", 1.0, 4), ("Seeds", 0.75, 3), ("Seeds", 0.5, 3), ("Tools", 0.22, 1), ("Soils", 0.15, 1)]),
    (0.10, [("Soils", 1.0, 3), ("Soils", 0.4, 2), ("Watering", 0.25, 1)]),
    (0.09, [("Lights", 1.0, 2), ("House plants", 0.25, 1), ("Seeds", 0.3, 2)]),
    (0.08, [("Tools", 1.0, 1), ("Watering", 0.4, 1), ("Seeds", 0.3, 2)]),
    (0.08, [("Gifts", 1.0, 1), ("House plants", 0.3, 1), ("Watering", 0.2, 1)]),
]
ZONES = (("Home", 0.74), ("Near abroad", 0.19), ("Islands and far", 0.07))
OF_THE_WEEK = (1.15, 0.95, 0.9, 0.92, 0.98, 0.85, 1.25)
OF_THE_YEAR = (0.72, 0.8, 1.25, 1.65, 1.6, 1.15, 0.82, 0.72, 0.85, 0.8, 0.78, 0.86)
OPTIONS = {
    "Home": (("To the door", 0.68), ("Pick-up point", 0.32)),
    "Near abroad": (("Parcel abroad", 0.86), ("Express", 0.14)),
    "Islands and far": (("By sea", 0.73), ("By air", 0.27)),
}
GROWING = ("House plants", "Seeds", "Soils")
RETURNS = {"House plants": "4", "Planters": "2.5", "Lights": "6", "Tools": "1.5", "Gifts": "3"}
# inbound freight, duty and packaging as shares of the purchase cost
COST_SHARES = {
    "House plants": (0.06, 0.0, 0.08),
    "Planters": (0.14, 0.04, 0.07),
    "Soils": (0.11, 0.0, 0.0),
    "Lights": (0.03, 0.037, 0.02),
    "Watering": (0.04, 0.02, 0.02),
    "Tools": (0.02, 0.017, 0.0),
}
# litres a kilogram takes up, and the sides as shares of a cube's
BULK = {
    "House plants": (5.5, (0.72, 0.72, 1.93)),
    "Planters": (2.4, (1.03, 1.03, 0.94)),
    "Soils": (1.7, (1.35, 0.95, 0.78)),
    "Seeds": (4.0, (2.0, 1.4, 0.357)),
    "Tools": (3.0, (2.4, 0.8, 0.52)),
    "Lights": (4.5, (3.0, 0.62, 0.54)),
    "Watering": (4.2, (1.25, 0.8, 1.0)),
    "Gifts": (3.2, (1.2, 1.0, 0.83)),
}
REDUCED_DAYS = {
    "HF-HOPRA-1": {"Reduced from": "2026-10-15", "Reduced to": "2027-03-07"},
    "HF-WACLA-1": {"Reduced to": "2027-05-31"},
}
BRANDS = {"Planters": "Clay & Rib", "Lights": "Noon Lamp", "Tools": "Ashfield"}
CODES = (("NEWLEAF", 0.05), ("TRADEROOT", 0.02))
CHANNELS = (("web", 0.81), ("market stall", 0.07), ("telephone", 0.12))
PAYMENTS = (("card", 0.62), ("wallet", 0.24), ("invoice", 0.14))


def sku_of(category: str, product: str, number: int) -> str:
    letters = category[:2] + product.replace("'", "").replace("-", "")[:3]
    return f"HF-{letters.upper()}-{number + 1}"


def good_rows() -> Iterator[dict[str, str]]:
    """One SKU each: heading of the file → cell."""
    for category, products in GOODS.items():
        for product, options in products.items():
            for number, (option, price, reduced, cost, grams, stock) in enumerate(options):
                sku = sku_of(category, product, number)
                yield {
                    "SKU": sku,
                    "Product": product,
                    "Option": option,
                    "List price": price,
                    "Reduced price": reduced,
                    "Purchase cost": cost,
                    "Weight (g)": str(grams),
                    "Categories": category,
                    "Stock": str(stock),
                    "Brand": BRANDS.get(category, ""),
                    "Tags": "; ".join(tags_of(category, grams)),
                    "Dimensions (mm)": size_of(category, grams),
                    **what_it_costs(category, cost),
                    **what_else(category, sku, price),
                }
    yield {
        **{"SKU": "HF-GIVOU-1", "Product": "Gift voucher", "Option": "by letter", "List price": "25.00"},
        **{"Purchase cost": "20.66", "Weight (g)": "8", "Categories": "Gifts", "Never discounted": "yes"},
        **{"Tax class": "None", "Dimensions (mm)": "220 x 110 x 2"},
    }
    yield {
        **{"SKU": "HF-GISTA-1", "Product": "Potting starter", "Option": "bowl, soil, herbs", "List price": "36.90"},
        **{"Categories": "Gifts", "Kit parts": "1 x HF-PLTER-1; 2 x HF-SOFER-1; 1 x HF-SEWIN-1"},
        **{"Assembly cost": "1.20", "Tax class": "Standard", "Tags": "heavy", "Insured": "yes"},
    }
    yield {
        **{"SKU": "HF-GIPOS-1", "Product": "Fern postcard", "Option": "one", "Purchase cost": "0.22"},
        **{"Weight (g)": "6", "Categories": "Gifts", "Stock": "5000", "Gift only": "yes", "Tax class": "Standard"},
        **{"Dimensions (mm)": "148 x 105 x 1"},
    }


def what_it_costs(category: str, cost: str) -> dict[str, str]:
    """What a unit costs besides buying it: freight by bulk, duty on what comes from far, packaging on what breaks."""
    if not cost:
        return {}
    freight, duty, packaging = COST_SHARES.get(category, (0.0, 0.0, 0.0))
    shares = {"Inbound freight": freight, "Duty": duty, "Packaging": packaging}
    return {name: f"{float(cost) * share:.3f}" for name, share in shares.items() if share}


def what_else(category: str, sku: str, price: str) -> dict[str, str]:
    amount = float(price)
    found = {"Tax class": "Reduced" if category in GROWING else "Standard"}
    if category in RETURNS:
        found["Return rate (%)"] = RETURNS[category]
    if category in ("Planters", "Lights"):
        found["Insured"] = "yes"
    if category in ("Soils", "Seeds"):
        found["Quantity prices"] = f"6: {amount * 0.95:.2f}; 12: {amount * 0.9:.2f}"
        found["Counted by product"] = "yes"
    if category in ("Planters", "Soils", "Tools"):
        found["Group prices"] = f"trade: {amount * 0.86:.2f}; trade from 10: {amount * 0.8:.2f}"
    if category in ("Lights", "Gifts"):
        found["Commission (%)"] = "8"
    return found | REDUCED_DAYS.get(sku, {})


def size_of(category: str, grams: int) -> str:
    """Millimetres of the packed article: bulky plants and lights, dense soil."""
    litres, shape = BULK[category]
    side = (grams / 1000 * litres * 1_000_000) ** (1 / 3)
    return " x ".join(str(max(2, round(side * part))) for part in shape)


def tags_of(category: str, grams: int) -> list[str]:
    alive, lamp = category == "House plants", category == "Lights"
    return ["alive"] * alive + ["heavy"] * (grams >= 4000) + ["fragile"] * (lamp or category == "Planters")


def order_rows(dice: random.Random) -> Iterator[list[str]]:
    """One row a line; order columns only on an order's first row."""
    goods: dict[str, list[tuple[str, str]]] = {}
    for row in good_rows():
        if not row.get("Gift only"):
            price = row.get("Reduced price") or row["List price"]
            goods.setdefault(row["Categories"], []).append((row["SKU"], price))
    shoppers: list[int] = []
    letters = {number for number in range(1, ORDERS) if dice.random() < 0.28}
    for number, placed in enumerate(sorted(moments(dice)), start=1):
        trade = dice.random() < 0.03
        first = not shoppers or (not trade and dice.random() < 0.46)
        if first:
            shoppers.append(len(shoppers) + 1)
        shopper = shoppers[-1] if first else shoppers[int(len(shoppers) * math.sqrt(dice.random()))]
        if trade:
            shopper = 1 + dice.randrange(min(25, len(shoppers)))
        zone = chosen(dice, ZONES)
        option = chosen(dice, OPTIONS[zone]) if dice.random() < 0.8 else ""
        channel, payment = (chosen(dice, choices) for choices in (CHANNELS, PAYMENTS))
        code = next((name for name, share in CODES if dice.random() < share), "")
        lines = basket(dice, goods, trade)
        for at, (sku, quantity, price) in enumerate(lines):
            line = [sku, str(quantity), price]
            if at == 0:
                head = [f"HF{number + 20000}", placed.strftime("%Y-%m-%d %H:%M")]
                tags = [
                    tag for tag, has in (("newsletter", shopper in letters), ("workshop", shopper % 17 == 0)) if has
                ]
                who = [f"S{shopper:05d}", "yes" if first else "no", "trade" if trade else "", "; ".join(tags)]
                yield [*head, *line, zone, option, *who, channel, payment, code]
            else:
                yield ["", "", *line, *[""] * 9]


def chosen(dice: random.Random, shares: tuple[tuple[str, float], ...]) -> str:
    return dice.choices([name for name, _ in shares], [share for _, share in shares])[0]


def basket(dice: random.Random, goods: dict[str, list[tuple[str, str]]], trade: bool) -> list[tuple[str, int, str]]:
    _, parts = dice.choices(BASKETS, [share for share, _ in BASKETS])[0]
    found: dict[str, tuple[int, str]] = {}
    for category, chance, most in parts:
        if dice.random() > chance:
            continue
        choice = goods[category]
        sku, price = choice[int(len(choice) * dice.random() ** 1.35)]
        units = 1 + int(most * dice.random() ** 2.2) + (dice.randrange(6) if trade else 0)
        found[sku] = (found.get(sku, (0, price))[0] + units, price)
    return [(sku, units, price) for sku, (units, price) in found.items()]


def moments(dice: random.Random) -> list[datetime]:
    days = [FIRST_DAY + timedelta(days=number) for number in range(DAYS)]
    weights = [OF_THE_WEEK[day.weekday()] * OF_THE_YEAR[day.month - 1] for day in days]
    chosen = [days[0], days[-1], *dice.choices(days, weights, k=ORDERS - 2)]
    return [
        datetime(day.year, day.month, day.day, min(23, max(0, round(dice.gauss(16, 4.5)))), dice.randrange(60))
        for day in chosen
    ]


def write_csv(header: list[str], rows: Iterator[list[str]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(header)
    writer.writerows(rows)
    return out.getvalue()


def files() -> dict[str, str]:
    """File name → contents."""
    dice = random.Random(SEED)
    headings = list(dict.fromkeys(name for row in good_rows() for name in row))
    return {
        "goods.csv": write_csv(headings, ([row.get(name, "") for name in headings] for row in good_rows())),
        "orders.csv": write_csv(
            [
                *("Order", "Placed at", "SKU", "Quantity", "Unit price", "Zone", "Delivery option"),
                *("Shopper", "First order"),
                *("Group", "Tags", "Channel", "Payment method", "Code used"),
            ],
            order_rows(dice),
        ),
    }


if __name__ == "__main__":
    for name, text in files().items():
        (FOLDER / name).write_text(text, encoding="utf-8")
