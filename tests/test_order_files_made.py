"""Order files made at random, of any columns under any of their headings, come to what their orders were paid.

Each is made of orders of which it is known what was asked, what came off and what delivery was charged; how a file
tells that is drawn. Seeds are fixed: with few orders some files can be read in two ways.
"""

import random
from dataclasses import dataclass
from datetime import date, timedelta

import pytest

from tests.test_bring_in import bring
from yellow_abacus import bring_in

PRICES = (20, 9, 15, 30, 12, 7.5, 49.9)
GOODS = "sku,product,price,cost\n" + "".join(f"PL-{at},Plant {at},{one},2\n" for at, one in enumerate(PRICES))
HEADINGS = {
    "number": ("Order", "Order number", "Order ID", "Order no.", "Bestellnummer", "#"),
    "date": ("Date", "Order date", "Created at", "Placed on", "Datum"),
    "sku": ("SKU", "Item SKU", "Product SKU", "Article number", "Artikelnummer"),
    "units": ("Quantity", "Qty", "Units", "Menge", "Quantity ordered"),
    "price": ("List price", "Unit price", "Price", "Original price", "Einzelpreis"),
    "asked": ("Subtotal", "Line subtotal", "Gross sales", "Item subtotal"),
    "line": ("Line total", "Net sales", "Item total", "Line amount", "Amount"),
    "paid for one": ("Price paid", "Sale price", "Discounted price", "Final price", "Net price"),
    "off line": ("Line discount", "Discount", "Item discount", "Rabatt", "Discounts"),
    "off order": ("Order discount", "Discount", "Discount amount", "Coupon amount", "Total discount"),
    "percent": ("Discount %", "Discount percent", "Rabatt %", "% off"),
    "order": ("Order total", "Grand total", "Total amount", "Amount paid", "Invoice total", "Gesamtbetrag"),
    "delivery": ("Shipping", "Shipping cost", "Delivery", "Postage", "Versandkosten", "Delivery charge"),
    "tax": ("Tax", "VAT", "Tax amount", "Order tax"),
    "code": ("Code", "Coupon code", "Discount code", "Voucher", "Gutscheincode"),
    "status": ("Status", "Order status", "Financial status"),
    "shopper": ("Email", "Customer email", "Customer", "Kunde"),
    "note": ("Notes", "Gift message"),
    "weight": ("Weight", "Total weight"),
    "zone": ("Country", "Shipping country"),
    "payment": ("Payment method", "Payment"),
    "fee": ("Fee", "Transaction fee"),
    "count": ("Items", "Item count", "Number of items"),
}
WAYS = {
    "off line": ("price", "off line"),
    "off order": ("price", "off order"),
    "percent": ("price", "percent"),
    "paid for one": ("price", "paid for one"),
    "line": ("line",),
    "line beside the price": ("price", "line"),
    "all": ("price", "line", "off line"),
    "before and after": ("asked", "line"),
    "order": ("price", "order"),
    "order alone": ("order",),
    "nothing came off": ("price",),
}
"""Which columns tell what orders were paid."""
ON_THE_ORDER = ("off order", "order", "order alone")
BESIDE = ("tax", "code", "status", "shopper", "note", "weight", "zone", "payment", "fee", "count")
TAX = 0.19


@dataclass
class Order:
    """lines: which of the goods, and units. percent: off all of it; of: how that is told."""

    number: int
    lines: list[tuple[int, int]]
    percent: int
    way: str

    def asked(self, line):
        return PRICES[line[0]] * line[1]

    def off(self, line):
        if self.way == "paid for one":
            return round(PRICES[line[0]] * self.percent / 100, 2) * line[1]
        return round(self.asked(line) * self.percent / 100, 2)

    @property
    def paid(self):
        asked = sum(map(self.asked, self.lines))
        if self.way in ON_THE_ORDER:
            return round(asked - round(asked * self.percent / 100, 2), 2)
        return round(asked - sum(map(self.off, self.lines)), 2)

    @property
    def delivery(self):
        return 0 if sum(map(self.asked, self.lines)) > 60 else 4.9

    def cells(self, line, on_top, with_delivery):
        """on_top: whether tax comes on top of prices. with_delivery: whether the file tells it."""
        (sku, units), asked, off = line, self.asked(line), self.off(line)
        tax = round(self.paid * (TAX if on_top else TAX / (1 + TAX)), 2)
        total = self.paid + (self.delivery if with_delivery else 0) + (tax if on_top else 0)
        return {
            "number": self.number,
            "date": date(2026, 9, 1) + timedelta(days=self.number % 60),
            "sku": f"PL-{sku}",
            "units": units,
            "price": f"{PRICES[sku]:.2f}",
            "asked": f"{asked:.2f}",
            "line": f"{asked - off:.2f}",
            "paid for one": f"{PRICES[sku] - off / units:.2f}",
            "off line": f"{off:.2f}",
            "off order": f"{sum(map(self.asked, self.lines)) - self.paid:.2f}",
            "percent": self.percent,
            "order": f"{total:.2f}",
            "delivery": f"{self.delivery:.2f}",
            "tax": f"{tax:.2f}",
            "code": "LEAF" if self.percent else "",
            "status": "paid",
            "shopper": f"c{self.number % 7}@x.example",
            "note": "",
            "weight": 350,
            "zone": "Home",
            "payment": "card",
            "fee": "0.55",
            "count": len(self.lines),
        }


OF_ORDERS = ("off order", "order", "delivery", "tax", "code")


def made(dice):
    """A file, its orders, and whether it tells what delivery was charged."""
    way = dice.choice(list(WAYS))
    orders = [
        Order(
            1_000 + at,
            [
                (sku, dice.choice((1, 1, 1, 2, 3)))
                for sku in dice.sample(range(len(PRICES)), dice.choice((1, 1, 2, 3)))
            ],
            dice.choice((10, 15, 20)) if way != "nothing came off" and dice.random() < 0.3 else 0,
            way,
        )
        for at in range(dice.randint(20, 40))
    ]
    beside = [one for one in BESIDE if dice.random() < 0.4]
    delivery, on_top, on_first = (dice.random() < share for share in (0.7, 0.3, 0.5))
    on_top = on_top and "tax" in beside
    told = [*WAYS[way], *(["delivery"] if delivery else []), *beside]
    dice.shuffle(told)
    columns = ["number", "date", "sku", "units", *told]
    rows = []
    for order in orders:
        for at, line in enumerate(order.lines):
            cells = order.cells(line, on_top, delivery)
            rows.append(["" if at and on_first and one in OF_ORDERS else str(cells[one]) for one in columns])
    text = "\n".join(map(",".join, [[dice.choice(HEADINGS[one]) for one in columns], *rows]))
    return text, orders, delivery


def paid(line, prices):
    """Minor units; at the list price where the file does not tell. prices: of PL-0, PL-1 and so on."""
    if line.paid is not None:
        return line.paid
    each = round(prices[int(line.sku[3:])] * 100) if line.unit_price is None else line.unit_price
    return each * line.quantity


@pytest.mark.parametrize("seeds", [range(at, at + 10) for at in range(0, 60, 10)])
def test_orders_come_to_what_they_were_paid_however_a_file_tells_it(empty_shop, seeds):
    bring(empty_shop, "goods", GOODS.encode())
    for seed in seeds:
        text, orders, tells_delivery = made(random.Random(seed))
        read = bring_in.check(empty_shop, "orders", text.encode())
        assert (read.missing, read.rejected) == ([], []), seed
        found = {one.number: one for one in read.records}
        for order in orders:
            record = found[str(order.number)]
            cents = sum(paid(line, PRICES) for line in record.lines)
            assert cents == pytest.approx(order.paid * 100, abs=len(order.lines)), (seed, order.number, text)
            if tells_delivery:
                assert record.delivery_paid == round(order.delivery * 100), (seed, order.number, text)
