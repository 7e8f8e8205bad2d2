"""Order files made at random in many languages and several shapes are read as the orders they were made of.

How orders are told is drawn: a row a line or a unit, all goods in one cell, lines side by side, or two files; SKUs or
names alone; decimal commas, currency signs and other encodings; and which columns tell what came off. Seeds are
fixed: with few orders some files can be read in two ways.
"""

import random
import tomllib
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from tests.test_bring_in import bring
from tests.test_order_files_made import paid
from yellow_abacus import bring_in
from yellow_abacus.files.order_statuses import says_left_out

HEADINGS = tomllib.loads((Path(__file__).parent / "order_headings.toml").read_text("utf-8"))
GOODS = {
    "Fern pot": 20,
    "Olive tin": 9,
    "Bark mix": 15,
    "Copper can": 30,
    "Seed tray": 12,
    "Twine": 7.5,
    "Bowl": 49.9,
    "Label": 4.25,
    "Oak bench": 119,
}
NAMES, PRICES = list(GOODS), list(GOODS.values())
GOODS_FILE = "sku,product,price,cost\n" + "".join(
    f"PL-{at},{name},{GOODS[name]},2\n" for at, name in enumerate(GOODS)
)
SHAPES = (
    "a row a line",
    "told on the first line",
    "numbered on the first line",
    "one cell",
    "side by side",
    "two files",
    "a row a unit",
)
WAYS = {
    "one cell": ("off_order", "order", "nothing"),
    "a row a unit": ("off_line", "off_order", "percent", "nothing"),
}
"""Which columns tell what came off orders, in shapes that cannot tell all of them."""
ANY_WAY = ("off_line", "off_order", "percent", "line", "line beside the price", "order", "nothing")
OF_ORDERS = ("code", "status", "shopper", "zone", "payment", "option", "channel", "refunded", "tax")
DAYS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y %H:%M", "%Y-%m-%d %H:%M:%S")
LISTS = ("{sku} x {units}", "{units}x {sku}", "{units} x {sku}", "{sku}:{units}", "{sku} ({units})")
MONEY = ("{}", "{}", "{} €", "€ {}", "EUR {}")
WESTERN = frozenset(["de", "fr", "es", "it", "nl", "sv", "pt", "da", "no", "fi"])


@dataclass
class Order:
    """lines: which of the goods, and units. percent: off all of it, on the order or on each line. told: what else a
    file may tell of it, by field of the records."""

    number: str
    day: datetime
    lines: list[tuple[int, int]]
    percent: int
    on_the_order: bool
    told: dict[str, str]
    delivery: float
    cancelled: bool
    refunded_half: bool
    returned: list[int] = field(default_factory=list)

    def asked(self, at):
        sku, units = self.lines[at]
        return PRICES[sku] * units

    def off_line(self, at):
        return 0 if self.on_the_order else round(self.asked(at) * self.percent / 100 + 1e-9, 2)

    @property
    def goods(self):
        return sum(map(self.asked, range(len(self.lines))))

    @property
    def off_order(self):
        return round(self.goods * self.percent / 100 + 1e-9, 2) if self.on_the_order else 0

    @property
    def paid(self):
        return round(self.goods - sum(map(self.off_line, range(len(self.lines)))) - self.off_order, 2)

    @property
    def refunded(self):
        return round(self.paid / 2, 2) if self.refunded_half else 0


class Made:
    """A file or two, and the orders they tell. told: the columns beside what every file has."""

    def __init__(self, seed):
        self.dice = dice = random.Random(seed)
        self.language = dice.choice(list(HEADINGS))
        self.words = HEADINGS[self.language]
        self.headings = {key: dice.choice(some) for key, some in self.words.items()}
        self.shape = dice.choice(SHAPES)
        self.way = dice.choice(WAYS.get(self.shape, ANY_WAY))
        self.told = [one for one in OF_ORDERS if dice.random() < 0.35]
        if self.shape not in ("one cell", "side by side", "a row a unit") and dice.random() < 0.25:
            self.told.append("returned")
        self.tells_delivery, self.tells_products = (dice.random() < share for share in (0.65, 0.4))
        self.tells_totals = self.way == "order" or dice.random() < 0.35
        self.comma, self.money = self.language != "en" and dice.random() < 0.8, dice.choice(MONEY)
        self.names_alone = dice.random() < 0.2
        self.minus, self.nothing = dice.choice((1, 1, -1)), dice.choice(("", "0"))
        self.day, self.percent_sign = dice.choice(DAYS), dice.choice(("", " %"))
        self.orders = [self._order(number) for number in range(dice.randint(20, 40))]
        self.files = list(map(self._text, self._tables()))
        latin = self.language in WESTERN and dice.random() < 0.5
        self.encoding = "cp1252" if latin else dice.choice(("utf-8", "utf-8-sig"))

    def _order(self, number):
        dice = self.dice
        comes_off = self.way != "nothing" and dice.random() < 0.35
        units = (1,) if self.shape == "a row a unit" else (1, 1, 1, 2, 3)
        skus = dice.sample(range(len(PRICES)), dice.choice((1, 1, 2, 3)))
        cancelled = "status" in self.told and dice.random() < 0.08
        lines = [(sku, dice.choice(units)) for sku in skus]
        percent = dice.choice((5, 10, 15, 20)) if comes_off else 0
        return Order(
            number=str(10_000 + number),
            day=datetime(2026, 8, 1) + timedelta(minutes=dice.randint(0, 80 * 1440)),
            lines=lines,
            percent=percent,
            on_the_order=self.way in ("off_order", "order"),
            told={
                "code": "LEAF10" if percent else "",
                "shopper": f"c{dice.randint(0, 15)}@post.example",
                "zone": dice.choice(("Home", "Abroad")),
                "payment": dice.choice(("Card", "Invoice")),
                "option": dice.choice(("Door", "Shop")),
                "channel": dice.choice(("web", "market")),
            },
            delivery=0 if sum(PRICES[sku] * many for sku, many in lines) > 60 else dice.choice((4.9, 7.9)),
            cancelled=cancelled,
            refunded_half="refunded" in self.told and not cancelled and dice.random() < 0.1,
            returned=[int("returned" in self.told and dice.random() < 0.08) for _ in lines],
        )

    def _money(self, amount):
        text = f"{amount:.2f}"
        return self.money.format(text.replace(".", ",") if self.comma else text)

    def _of_order(self, order):
        cells = {"number": order.number, "date": order.day.strftime(self.day)}
        if self.tells_delivery:
            cells["delivery"] = self._money(order.delivery)
        if self.tells_totals:
            cells["order"] = self._money(order.paid + (order.delivery if self.tells_delivery else 0))
        if self.way == "off_order":
            cells["off_order"] = self._money(order.off_order * self.minus)
        others = {
            **order.told,
            "status": self.words["status_words"][order.cancelled],
            "refunded": self._money(order.refunded) if order.refunded else self.nothing,
            "tax": self._money(order.paid * 19 / 119),
        }
        return cells | {one: others[one] for one in self.told if one != "returned"}

    def _of_line(self, order, at):
        sku, units = order.lines[at]
        cells = {"sku": f"PL-{sku}", "units": str(units)}
        if self.shape == "a row a unit":
            del cells["units"]
        if self.tells_products or self.names_alone:
            cells["product"] = NAMES[sku]
        if self.names_alone:
            del cells["sku"]
        if self.way != "line":
            cells["price"] = self._money(PRICES[sku])
        if self.way == "off_line":
            cells["off_line"] = self._money(order.off_line(at) * self.minus)
        if self.way == "percent":
            cells["percent"] = f"{order.percent}{self.percent_sign}"
        if self.way.startswith("line"):
            cells["line"] = self._money(order.asked(at) - order.off_line(at))
        return cells | ({"returned": str(order.returned[at])} if "returned" in self.told else {})

    def _tables(self):
        every = [(order, at) for order in self.orders for at in range(len(order.lines))]
        match self.shape:
            case "told on the first line":
                return [
                    [
                        (self._of_order(one) if not at else {"number": one.number}) | self._of_line(one, at)
                        for one, at in every
                    ]
                ]
            case "numbered on the first line":
                return [[(self._of_order(one) if not at else {}) | self._of_line(one, at) for one, at in every]]
            case "two files":
                lines = [{"number": one.number} | self._of_line(one, at) for one, at in every]
                return [list(map(self._of_order, self.orders)), lines]
            case "one cell":
                style, between = self.dice.choice(LISTS), self.dice.choice(("; ", ", ", " | ", "\n"))
                return [[self._of_order(one) | {"product": self._listed(one, style, between)} for one in self.orders]]
            case "side by side":
                return [[self._of_order(one) | self._side_by_side(one) for one in self.orders]]
        return [[self._of_order(one) | self._of_line(one, at) for one, at in every]]

    def _listed(self, order, style, between):
        told = ((NAMES[sku] if self.names_alone else f"PL-{sku}", units) for sku, units in order.lines)
        return between.join(style.format(sku=name, units=units) for name, units in told)

    def _side_by_side(self, order):
        return {
            f"{key} {at + 1}": cell
            for at in range(len(order.lines))
            for key, cell in self._of_line(order, at).items()
        }

    def _text(self, rows):
        keys = list(dict.fromkeys(key for row in rows for key in row))
        others = [key for key in keys if key not in ("number", "date")]
        self.dice.shuffle(others)
        keys = [key for key in keys if key not in others] + others
        between = ";" if self.comma else self.dice.choice(",;\t")
        table = [list(map(self._heading, keys)), *([row.get(key, "") for key in keys] for row in rows)]
        quoted = (['"' + cell.replace('"', '""') + '"' for cell in row] for row in table)
        return "\n".join(map(between.join, quoted))

    def _heading(self, key):
        name, _, number = key.partition(" ")
        return f"{self.headings[name]} {number}".strip()


def is_told(made, order, record):
    """What a record has otherwise than its order, by what it is."""
    lines = sorted((f"PL-{sku}", units) for sku, units in order.lines)
    wrong = {
        "goods": sorted((line.sku, line.quantity) for line in record.lines) != lines,
        "paid": abs(sum(paid(line, PRICES) for line in record.lines) - order.paid * 100) > len(lines),
        "day": record.placed_at.date() != order.day.date(),
        "delivery": made.tells_delivery and record.delivery_paid != round(order.delivery * 100),
        "refunded": record.refunded != round(order.refunded * 100),
        "returned": sorted(line.returned for line in record.lines) != sorted(order.returned),
        "status": says_left_out(record.status) != order.cancelled,
    }
    wrong |= {key: getattr(record, key) != told for key, told in order.told.items() if key in made.told}
    return [key for key, is_wrong in wrong.items() if is_wrong]


@pytest.mark.parametrize("seeds", [range(at, at + 10) for at in range(0, 100, 10)])
def test_orders_are_those_the_file_was_made_of_in_any_language(empty_shop, seeds):
    bring(empty_shop, "goods", GOODS_FILE.encode())
    for seed in seeds:
        made = Made(seed)
        first, *more = (text.encode(made.encoding) for text in made.files)
        read = bring_in.check(
            empty_shop, "orders", first, more=[("lines.csv", one) for one in more], file="orders.csv"
        )
        about = (seed, made.language, made.shape, made.way, made.files[0][:400])
        assert (read.missing, read.rejected) == ([], []), about
        found = {one.number: one for one in read.records}
        assert found.keys() >= {one.number for one in made.orders if not one.cancelled}, about
        for order in made.orders:
            if order.number in found:
                assert is_told(made, order, found[order.number]) == [], (about, order)
