"""The goods as a merchant looks through them: what each SKU sells, keeps and bears, found, shown and put in order.

docs/sums.md, "Margins".

>>> sorted(["pot 10", "Pot 9", "\u00e9tag\u00e8re"], key=natural)
['\u00e9tag\u00e8re', 'Pot 9', 'pot 10']
"""

import re
import unicodedata
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np

from yellow_abacus.core.costing.margins import Margins, deepest_discount, delivery_of_units, margins
from yellow_abacus.core.forecast.outlook import Bare
from yellow_abacus.core.forecast.sums import LEDGER
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.making_goods import GoodTable, make_goods, table_of
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.shop.shop import Shop

DAYS_A_MONTH, SHORT_WEEKS = 30, 4

Show = Literal["all", "missing", "losing", "delivery", "short", "kits", "gifts"]
"""missing: lacking a figure. losing: money as they stand; delivery: once delivered. short: of stock, SHORT_WEEKS."""

By = Literal["product", "kept", "margin", "deepest", "units", "weeks"]
"""In order of name, or of a figure: least first, but for units a month."""


@dataclass(frozen=True, eq=False)
class Shelf:
    """All goods of a shop at a day's prices. units: expected over so many days as were counted; taken: those from its
    stock, what goes with kits included.

    delivery: what delivering a unit takes on average beyond what shoppers paid for it, minor units, nan where it was
    never ordered. All one entry a SKU.
    """

    shop: Shop
    table: GoodTable
    goods: Goods
    units: Floats
    taken: Floats
    delivery: Floats
    counted_days: int

    def of_one(self, record: GoodRecord, parts: Iterable[GoodRecord], day: date) -> "Shelf":
        """A shelf with one SKU, as it is told, and the parts it is made of; it sells as it did."""
        table = table_of([*parts, record])
        known = {sku: at for at, sku in enumerate(self.table.skus) if sku in table}

        def of(figures: Floats, otherwise: float) -> Floats:
            return np.array([figures[known[sku]] if sku in known else otherwise for sku in table.skus])

        told = of(self.units, 0.0), of(self.taken, 0.0), of(self.delivery, np.nan)
        return Shelf(self.shop, table, make_goods(table).on_day(day), *told, self.counted_days)

    # --- figures, one entry a SKU

    @cached_property
    def a_month(self) -> Floats:
        return self.units / self.counted_days * DAYS_A_MONTH

    @cached_property
    def weeks(self) -> Floats:
        """Of stock at what is taken from it a week; nan where stock is not counted or nothing is taken."""
        a_week = np.maximum(self.taken / self.counted_days * 7, 1e-9)
        weeks = np.where(self.taken > 0, self.goods.stock / a_week, np.nan)
        return np.where(self.taken > 0, self.goods.kits.as_parts(weeks, np.arange(len(weeks))), np.nan)

    @cached_property
    def standing(self) -> Ints:
        """What a unit stands at today, NO_PRICE where it has no list price."""
        return np.where(self.goods.list_price == NO_PRICE, NO_PRICE, self.goods.standing_price)

    @cached_property
    def margins(self) -> Margins:
        return margins(self.shop, self.goods, self.standing)

    @cached_property
    def deepest(self) -> Floats:
        return deepest_discount(self.shop, self.goods, self.standing)

    @cached_property
    def deepest_delivered(self) -> Floats:
        return deepest_discount(self.shop, self.goods, self.standing, self.delivery)

    # --- looking through them

    def found(self, text: str = "", show: Show = "all", category: str = "", by: By = "product") -> Ints:
        """Places of the goods that hold the text and are to be shown, in order."""
        wanted = text.strip().lower()
        here = self._shown(show).copy()
        if category:
            goods = self.goods
            named = goods.in_category[goods.categories.index(category)] if category in goods.categories else False
            here &= named
        if wanted:
            here &= np.fromiter((wanted in one for one in self._texts), dtype=np.bool_, count=len(self._texts))
        order = self._in_order(by)
        return order[here[order]]

    def _shown(self, show: Show) -> Bools:
        match show:
            case "all":
                return np.ones(len(self.table), dtype=np.bool_)
            case "missing":
                return self.lacking
            case "losing":
                return np.nan_to_num(self.margins.kept) < 0
            case "delivery":
                return np.nan_to_num(self.deepest_delivered) < 0
            case "short":
                return np.nan_to_num(self.weeks, nan=np.inf) < SHORT_WEEKS
            case "kits":
                return self._kits
            case "gifts":
                return np.array(self.table.columns["gift_only"], dtype=np.bool_)

    @cached_property
    def lacking(self) -> Bools:
        """Goods that lack a purchase cost, a weight, or a list price of their own to give; a kit's parts give it its
        cost and weight."""
        return np.where(self.goods.unknown, ~self._kits, self.goods.unpriced)

    @cached_property
    def _kits(self) -> Bools:
        return np.array([bool(kit) for kit in self.table.columns["kit"]], dtype=np.bool_)

    @cached_property
    def _texts(self) -> Sequence[str]:
        columns = self.table.columns
        names = ("sku", "product", "option", "brand", "categories", "tags")
        parts = zip(*(columns[name] for name in names), strict=True)
        return [" ".join((*names, *categories, *tags)).lower() for *names, categories, tags in parts]

    def _in_order(self, by: By) -> Ints:
        if by not in self._orders:
            figure: dict[By, Callable[[], Floats]] = {
                "kept": lambda: self.margins.kept,
                "margin": lambda: self.margins.kept / (self.margins.price - self.margins.tax),
                "deepest": lambda: np.where(np.isnan(self.deepest_delivered), self.deepest, self.deepest_delivered),
                "units": lambda: -self.a_month,
                "weeks": lambda: self.weeks,
            }
            if by == "product":
                self._orders[by] = self._by_name()
            else:
                names = self._in_order("product")
                told = np.nan_to_num(figure[by]()[names], nan=np.inf)
                self._orders[by] = names[np.argsort(told, kind="stable")]
        return self._orders[by]

    @cached_property
    def _orders(self) -> dict[By, Ints]:
        return {}

    def _by_name(self) -> Ints:
        """By what people call it, then by SKU; goods without a name stand where their SKU does."""
        columns = self.table.columns
        keys = [
            (natural(product or sku), natural(option), natural(sku))
            for sku, product, option in zip(*(columns[name] for name in ("sku", "product", "option")), strict=True)
        ]
        return np.array(sorted(range(len(keys)), key=keys.__getitem__), dtype=np.int64)


def make_shelf(
    shop: Shop, table: GoodTable, goods: Goods, parts: Sequence[tuple[Bare, Floats]], counted_days: int
) -> Shelf:
    """parts: the carts orders are of, at the day's prices with no offer running, and how many of each there are over
    so many days."""
    units, delivery = np.zeros((2, len(table)))
    for bare, orders in parts:
        of_part = delivery_of_units(bare.mix.batch, bare.figures.by_cart[LEDGER], orders)
        units, delivery = units + of_part[0], delivery + of_part[1]
    each = np.where(units > 0, delivery / np.where(units > 0, units, 1), np.nan)
    taken = goods.kits.with_kits(units, np.arange(len(units)))
    return Shelf(shop, table, goods, units, taken, each, counted_days)


_NUMBER = re.compile(r"(\d+)")


def natural(text: str) -> tuple[str | int, ...]:
    """A key by which names stand as people look for them: without regard to case and accents, 2 before 10."""
    plain = "".join(ch for ch in unicodedata.normalize("NFKD", text.casefold()) if not unicodedata.combining(ch))
    return tuple(int(part) if at % 2 else part for at, part in enumerate(_NUMBER.split(plain)))
