"""Order files made at random whose amounts are with tax or without, said in their headings or not, are read as the
shop's prices are.

Shops count with tax or without, at one rate or two; prices, delivery and discounts of a file may be on either side,
totals are with tax. Seeds are fixed: with few orders some files can be read in two ways.
"""

import random
from dataclasses import dataclass

import pytest

from tests.test_bring_in import bring
from yellow_abacus import bring_in

WITH_TAX = (2000, 900, 1500, 3000, 1200, 750, 4990, 425, 11900)
STANDARD, REDUCED = 2000, 500
RATES = tuple(REDUCED if at in (1, 4, 5) else STANDARD for at in range(len(WITH_TAX)))
SIDES = {
    "en": (("excl. VAT", "ex tax", "net"), ("incl. VAT", "gross")),
    "de": (("netto", "ohne MwSt.", "zzgl. 20 % MwSt."), ("brutto", "inkl. MwSt.")),
    "fr": (("HT",), ("TTC",)),
    "es": (("sin IVA", "s/ IVA"), ("con IVA", "IVA incl.")),
    "no": (("eks. mva",), ("inkl. mva",)),
    "hr": (("bez PDV-a",), ("s PDV-om",)),
}
HEADINGS = {
    "en": ("Unit price", "Line total", "Line discount", "Order discount", "Order total", "Shipping"),
    "de": ("Einzelpreis", "Positionssumme", "Positionsrabatt", "Bestellrabatt", "Gesamtsumme", "Versandkosten"),
    "fr": ("Prix unitaire", "Total ligne", "Remise ligne", "Remise commande", "Total commande", "Frais de port"),
    "es": (
        "Precio unitario",
        "Total línea",
        "Descuento línea",
        "Descuento pedido",
        "Total pedido",
        "Gastos de envío",
    ),
    "no": ("Enhetspris", "Linjesum", "Linjerabatt", "Ordrerabatt", "Ordresum", "Frakt"),
    "hr": ("Jedinična cijena", "Iznos stavke", "Popust stavke", "Popust narudžbe", "Ukupan iznos", "Dostava"),
}
NAMES = ("price", "line", "off_line", "off_order", "total", "delivery")
WAYS = ("off_line", "off_order", "percent", "line", "line beside the price", "total", "nothing")


def rounded(amount):
    return int(amount + 0.5)


def without(amount, rate):
    return rounded(amount * 10_000 / (10_000 + rate))


def with_tax(amount, rate):
    return rounded(amount * (10_000 + rate) / 10_000)


@dataclass
class Line:
    sku: int
    units: int
    asked: int
    off: int
    share_off: int = 0

    @property
    def paid(self):
        return self.asked - self.off - self.share_off


class Made:
    """A file, and by order what was paid for its goods and for delivery, as the shop's prices are."""

    def __init__(self, seed):
        self.dice = dice = random.Random(seed)
        self.language = dice.choice(list(HEADINGS))
        self.shop_with_tax, self.file_with_tax = dice.random() < 0.65, dice.random() < 0.5
        self.rates = (STANDARD,) * len(RATES) if dice.random() < 0.5 else RATES
        self.listed = self._sided(WITH_TAX, to_with_tax=self.shop_with_tax)
        shown = self.listed if self.shop_with_tax else tuple(map(with_tax, self.listed, self.rates))
        self.prices = self._sided(shown, to_with_tax=self.file_with_tax)
        self.says, self.says_all = dice.random() < 0.6, dice.random() < 0.5
        self.way, self.tax = dice.choice(WAYS), dice.choice(("none", "Tax", "VAT rate"))
        self.tells_totals = self.way == "total" or dice.random() < 0.5
        # at several rates a charge is taxed as the goods of its order are, which no amount of it tells
        self.tells_delivery = len(set(self.rates)) == 1 and dice.random() < 0.7
        self.delivery_says = dice.choice((None, None, True, False))
        self.paid, self.delivery, rows = {}, {}, []
        for number in range(10_000, 10_000 + dice.randint(40, 80)):
            rows += self._rows(str(number))
        keys = list(dict.fromkeys(key for row in rows for key in row))
        table = [list(map(self._heading, keys)), *([row.get(key, "") for key in keys] for row in rows)]
        self.file = "\n".join(";".join(f'"{cell}"' for cell in row) for row in table)

    def _sided(self, amounts, *, to_with_tax):
        return tuple(amounts) if to_with_tax else tuple(map(without, amounts, self.rates))

    def _to_shop(self, amount, rate):
        if self.file_with_tax == self.shop_with_tax:
            return amount
        return with_tax(amount, rate) if self.shop_with_tax else without(amount, rate)

    def _rows(self, number):
        dice = self.dice
        percent = dice.choice((5, 10, 15, 20)) if self.way != "nothing" and dice.random() < 0.35 else 0
        on_the_order = self.way in ("off_order", "total")
        lines = []
        for sku in dice.sample(range(len(RATES)), dice.choice((1, 1, 2, 3))):
            units = dice.choice((1, 1, 1, 2, 3))
            asked = self.prices[sku] * units
            lines.append(Line(sku, units, asked, 0 if on_the_order else rounded(asked * percent / 100)))
        off = rounded(sum(line.asked for line in lines) * percent / 100) if on_the_order else 0
        self._share(lines, off)
        taxed = [line.paid if self.file_with_tax else with_tax(line.paid, self.rates[line.sku]) for line in lines]
        self.delivery[number] = shown = dice.choice((0, 490, 790))
        charge = shown if self.shop_with_tax else with_tax(shown, STANDARD)
        self.paid[number] = sum(self._to_shop(line.paid, self.rates[line.sku]) for line in lines)
        of_order = {"number": number, "date": f"2026-09-{dice.randint(1, 28):02d}"}
        if self.tells_delivery:
            is_with = self.file_with_tax if self.delivery_says is None else self.delivery_says
            of_order["delivery"] = charge if is_with else without(charge, STANDARD)
        if self.way == "off_order":
            of_order["off_order"] = off
        if self.tells_totals:
            of_order["total"] = sum(taxed) + (charge if self.tells_delivery else 0)
        if self.tax == "Tax":
            of_order["Tax"] = sum(taxed) - sum(
                without(one, self.rates[line.sku]) for one, line in zip(taxed, lines, strict=True)
            )
        return [self._cells(of_order | self._of_line(line, percent)) for line in lines]

    def _share(self, lines, off):
        goods, upto, given = sum(line.asked for line in lines), 0, 0
        for line in lines:
            upto += line.asked
            line.share_off = rounded(off * upto / goods) - given
            given += line.share_off

    def _of_line(self, line, percent):
        told = {"sku": f"PL-{line.sku}", "units": str(line.units)}
        if self.way != "line":
            told["price"] = self.prices[line.sku]
        if self.way == "off_line":
            told["off_line"] = line.off
        if self.way == "percent":
            told["Discount %"] = f"{percent} %"
        if self.way.startswith("line"):
            told["line"] = line.paid
        if self.tax == "VAT rate":
            told["VAT rate"] = f"{self.rates[line.sku] // 100} %"
        return told

    def _cells(self, row):
        return {key: cell if isinstance(cell, str) else f"{cell / 100:.2f}" for key, cell in row.items()}

    def _heading(self, key):
        heading = dict(zip(NAMES, HEADINGS[self.language], strict=True)).get(key, key)
        says = {
            "price": self.file_with_tax if self.says else None,
            "line": self.file_with_tax if self.says else None,
            "off_line": self.file_with_tax if self.says and self.says_all else None,
            "off_order": self.file_with_tax if self.says and self.says_all else None,
            "total": True if self.says and self.says_all else None,
            "delivery": self.delivery_says,
        }.get(key)
        return heading if says is None else f"{heading} {self.dice.choice(SIDES[self.language][says])}"

    @property
    def goods_file(self):
        side = "incl." if self.shop_with_tax else "excl."
        rows = (
            f"PL-{at},Plant {at},{price / 100},2,{rate // 100} %"
            for at, (price, rate) in enumerate(zip(self.listed, self.rates, strict=True))
        )
        return "\n".join([f"sku,product,price {side} tax,cost,tax rate", *rows])


@pytest.mark.parametrize("seed", range(60))
def test_orders_come_to_what_was_paid_on_the_shops_side_of_tax(empty_shop, seed):
    made = Made(seed)
    bring(empty_shop, "goods", made.goods_file.encode())
    read = bring_in.check(empty_shop, "orders", made.file.encode())
    assert (read.missing, read.rejected) == ([], [])
    found = {one.number: one for one in read.records}
    assert found.keys() == made.paid.keys()
    for number, order in found.items():
        units = sum(line.quantity for line in order.lines)
        paid = sum(
            line.unit_price * line.quantity if line.paid is None else line.paid for line in order.lines
        )  # to the cent of each unit: a price without tax was rounded
        assert abs(paid - made.paid[number]) <= units + 1, (number, made.file[:400])
        if made.tells_delivery:
            assert abs(order.delivery_paid - made.delivery[number]) <= 1, (number, made.file[:400])
