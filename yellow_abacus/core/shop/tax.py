"""Tax on what a shopper pays, and its parts. docs/sums.md, "Tax".

Each SKU is of a tax class, and a class has a rate in each zone. Tax is found for each rate, on the sum of all that is
taxed at it, and shared back over goods, delivery and surcharges.

>>> fifth = (TaxClass("Standard", 2000),)
>>> Taxes(fifth, included=True).of_one(1200, 2000), Taxes(fifth, included=False).of_one(1200, 2000)
(200, 240)
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints, rhu
from yellow_abacus.core.ground.shape import CLOSED


@dataclass(frozen=True)
class RateIn:
    """A class's rate in one zone, by name."""

    zone: str
    rate_bp: int

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class TaxClass:
    """rate_bp: in every zone that `zones` does not name."""

    name: str
    rate_bp: int
    zones: tuple[RateIn, ...] = ()

    __pydantic_config__ = CLOSED

    def rate_in(self, zone: str) -> int:
        return next((one.rate_bp for one in self.zones if one.zone == zone), self.rate_bp)


@dataclass(frozen=True)
class Taxes:
    """The shop's classes; goods that name none of them are of the first. included: whether prices are with tax.

    delivery: the class delivery is taxed by; None to follow the goods of the cart.
    """

    classes: tuple[TaxClass, ...]
    included: bool = True
    delivery: str | None = None

    def class_number(self, name: str) -> int:
        return next((at for at, one in enumerate(self.classes) if one.name == name), 0)

    def unknown_to(self, goods: Goods) -> dict[str, Ints]:
        """The classes that goods name and the shop does not have, and the SKUs of each: taxed as of the first."""
        names, name_of_sku = goods.by_tax_class
        known = {"", *(one.name for one in self.classes)}
        return {name: np.flatnonzero(name_of_sku == at) for at, name in enumerate(names) if name not in known}

    def class_of_sku(self, goods: Goods) -> Ints:
        names, name_of_sku = goods.by_tax_class
        found: Ints = np.array([self.class_number(name) for name in names], dtype=np.int64)[name_of_sku]
        return found

    def rates(self, zones: Sequence[str]) -> Ints:
        """Basis points, one row a zone, one column a class."""
        told = [[one.rate_in(zone) for one in self.classes] for zone in zones] or [[0] * len(self.classes)]
        return np.array(told, dtype=np.int64)

    def of(self, amount: Ints, rate_bp: Ints) -> Ints:
        """The tax on each amount: held in it where prices are with tax, due on top of it where they are not."""
        if self.included:
            return rhu(amount * rate_bp, WHOLE_BP + rate_bp)
        return rhu(amount * rate_bp, WHOLE_BP)

    def of_one(self, amount: int, rate_bp: int) -> int:
        """The tax on one amount by itself."""
        return int(self.of(np.array([amount]), np.array([rate_bp]))[0])

    def without(self, rate_bp: Ints) -> Floats:
        """What part of a price is not tax, for each rate; prices without tax are whole."""
        rate = rate_bp / WHOLE_BP if self.included else np.zeros(rate_bp.shape)
        part: Floats = 1 / (1 + rate)
        return part


STANDARD = Taxes((TaxClass("Standard", 0),))


@dataclass(frozen=True, eq=False)
class TaxTable:
    """Where each row's goods and charges are taxed.

    A row's *slots* are the different rates of its zone, the highest first; classes at one rate share a slot.
    rate_by_slot: basis points, one entry a row of each slot. slot_by_class: one entry a row of each class.
    """

    taxes: Taxes
    batch: CartBatch
    class_by_line: Ints | None
    rate_by_slot: Ints
    slot_by_class: Ints

    def by_slot(self, net_by_line: Ints, net_by_cart: Ints) -> Ints:
        """What goods come to at each rate: one row a slot, one column a cart of the batch."""
        slots, carts = self.rate_by_slot.shape
        found = np.zeros((slots, carts), dtype=np.int64)
        left = net_by_cart
        if self.class_by_line is not None:
            for number in range(1, len(self.slot_by_class)):
                mine = self.batch.axes.sum_by_cart(net_by_line * (self.class_by_line == number))
                self._put(found, number, mine)
                left = left - mine
        self._put(found, 0, left)
        return found

    def with_put_in(self, by_slot: Ints, asked: Sequence[tuple[int, Ints]]) -> Ints:
        """The same with what is asked for things put in: the class, and the amounts."""
        found = by_slot.copy() if asked else by_slot
        for number, amount in asked:
            self._put(found, number, amount)
        return found

    def _put(self, found: Ints, number: int, amount: Ints) -> None:
        slots = np.arange(len(found))[:, None]
        found += np.where(self.slot_by_class[number] == slots, amount, 0)

    def some(self, carts: Ints) -> "TaxTable":
        """Of some rows, by index, to find the tax of what they come to. `batch` stays whole."""
        return replace(self, rate_by_slot=self.rate_by_slot[:, carts], slot_by_class=self.slot_by_class[:, carts])

    def like_goods(self, amount: Ints, goods_by_slot: Ints) -> Ints:
        """An amount split over rates as the goods are, by running total; at the first class's if they come to 0."""
        if len(goods_by_slot) == 1:
            return amount[None, :]
        upto = np.cumsum(goods_by_slot, axis=0)
        shares = _apart(rhu(amount * upto[:-1], np.maximum(upto[-1], 1)), amount)
        nothing = np.flatnonzero(upto[-1] == 0)
        shares[:, nothing] = 0
        shares[self.slot_by_class[0, nothing], nothing] = amount[nothing]
        return shares

    def at_class(self, amount: Ints, name: str) -> Ints:
        """An amount at one class's rate."""
        found = np.zeros_like(self.rate_by_slot)
        self._put(found, self.taxes.class_number(name), amount)
        return found

    def tax(self, by_slot: Ints) -> Ints:
        """The tax on what is taxed at each rate by itself."""
        result: Ints = self._tax_by_slot(by_slot).sum(axis=0)
        return result

    def _tax_by_slot(self, by_slot: Ints) -> Ints:
        return self.taxes.of(by_slot, self.rate_by_slot)

    def shared(self, *parts: Ints) -> Ints:
        """The tax of each part (each one row a slot, one column a cart), found on their sums for each rate: one row a
        part."""
        upto = np.cumsum(parts, axis=0)
        tax = self._tax_by_slot(upto[-1])
        by_slot = _apart(rhu(tax * upto[:-1], np.maximum(upto[-1], 1)), tax)
        result: Ints = by_slot.sum(axis=1)
        return result


def _apart(so_far: Ints, whole: Ints) -> Ints:
    """What each part has, from what they have so far, all but the last of them, and the whole."""
    bounds = np.concatenate((np.zeros_like(whole)[None], so_far, whole[None]))
    result: Ints = bounds[1:] - bounds[:-1]
    return result


def tax_table(taxes: Taxes, zones: Sequence[str], batch: CartBatch) -> TaxTable:
    """Kept with the batch."""
    return batch.kept(("tax", taxes), lambda: _tax_table(taxes, zones, batch))


def _tax_table(taxes: Taxes, zones: Sequence[str], batch: CartBatch) -> TaxTable:
    rates = taxes.rates(zones)
    of_sku = taxes.class_of_sku(batch.goods)
    used = {taxes.class_number(name) for name in (*batch.goods.by_tax_class[0], "", taxes.delivery or "")}
    distinct = [sorted({int(rate) for rate in row}, reverse=True) for row in rates]
    slots = max(len(row) for row in distinct)
    rate_of_slot = np.array([row + [0] * (slots - len(row)) for row in distinct], dtype=np.int64)
    slot_of_class = np.array(
        [[row.index(int(rate)) for rate in told] for row, told in zip(distinct, rates, strict=True)], dtype=np.int64
    )
    return TaxTable(
        taxes=taxes,
        batch=batch,
        class_by_line=of_sku[batch.sku_by_line] if len(used) > 1 else None,
        rate_by_slot=rate_of_slot[batch.zone_by_cart].T,
        slot_by_class=slot_of_class[batch.zone_by_cart].T,
    )
