"""What brings the amounts of an order file to the shop's side of tax.

What orders paid for delivery is with tax or without as its heading says, else as the prices of the file are, unless
orders' totals show that it is not, or it is what charges are that shoppers see: round.
"""

from collections.abc import Sequence

import numpy as np

from yellow_abacus.core.goods.records import OrderLines
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.amounts_told import A_CENT, A_HUNDREDTH, FEWEST, MOST, AmountsTold
from yellow_abacus.files.by_order import ByOrder
from yellow_abacus.files.coded_cells import CodedCells, Values
from yellow_abacus.files.columns import free_columns
from yellow_abacus.files.order_shop import OrderShop
from yellow_abacus.files.order_totals import may_be_of_an_order
from yellow_abacus.files.values import Reading, Taxed
from yellow_abacus.files.with_tax import is_ours, rate_of_delivery, taxed_by

FIVES, NINES, TENS = 5, 9, 10
"""Charges end in 0, 5 or 9."""


class OrderTaxes:
    """skus: the names that lines' numbers stand for. zone: as it is told, by order."""

    def __init__(
        self,
        cells: CodedCells,
        reading: Reading,
        shop: OrderShop,
        by: ByOrder,
        skus: Sequence[str],
        zone: Values[str],
    ) -> None:
        self._cells, self._reading, self._shop, self._by, self._zone = cells, reading, shop, by, zone
        classes = (shop.taxes.class_number(shop.tax_classes.get(name, "")) for name in skus)
        self._class_of = np.fromiter(classes, dtype=np.int64)

    def of_goods(self, sku: Ints, meant: Taxed) -> Floats:
        """What amounts for goods are multiplied by to be as the shop has them, by row. meant: as the file does."""
        if is_ours(meant, self._shop.taxes):
            return np.ones(len(sku))
        return self._with_or_without[self._class_of[sku], self._zone.codes[self._by.order]]

    @cached_property
    def _with_or_without(self) -> Floats:
        """What brings an amount to the shop's side of tax: one row a tax class, one column a zone told, and last one
        for orders that tell none."""
        taxes, known = self._shop.taxes, self._shop.zones
        zones = [known.get(folded(name), name) for name in self._zone.values]
        first = next(iter(known.values()), "")
        rates = np.array([[one.rate_in(name) for name in (*zones, first)] for one in taxes.classes]) / WHOLE_BP
        return 1 + rates if taxes.included else 1 / (1 + rates)

    def of_delivery(self, lines: OrderLines, charges: Ints, rates: Floats) -> Floats:
        """As `of_goods`, of what was paid for delivery, by order. charges: that, as it is told; rates: what one unit
        of the order's currency is in the shop's."""
        told_apart = taxed_by([self._cells.heading("delivery_paid")])
        meant = self._reading.taxed if told_apart == "as the shop" else told_apart
        ours = np.ones(self._by.many)
        if is_ours(meant, self._shop.taxes):
            return ours
        factor = self._on_delivery(lines, meant)
        if told_apart == "as the shop" and self._are_ours(lines, charges, rates, factor):
            return ours
        return factor

    def _on_delivery(self, lines: OrderLines, meant: Taxed) -> Floats:
        """By its own class, or as the goods are taxed. meant: the other side of tax than the shop's prices."""
        taxes = self._shop.taxes
        if taxes.delivery is not None:
            return self._with_or_without[taxes.class_number(taxes.delivery), self._zone.codes]
        worth = np.maximum(lines.worth, 1)  # where no price is told, all lines are alike
        there, here = map(self._by_order, (worth / self.of_goods(lines.sku, meant), worth))
        return here / there

    def _are_ours(self, lines: OrderLines, charges: Ints, rates: Floats, factor: Floats) -> bool:
        """Whether charges are on the shop's side of tax though prices are not. factor: what brings them there where
        they are not, by order."""
        unit = 10**self._shop.digits
        goods = self._by_order(lines.worth / self.of_goods(lines.sku, "with tax")) / rates / unit
        brought = np.rint(charges * factor).astype(np.int64)
        tax = 1.0 if self._shop.taxes.included else 1 / factor
        table = self._cells.table
        amounts = AmountsTold(table, self._cells.columns, self._reading.decimal_mark, len(table.rows))
        for charge in (charges, brought):
            if self._totals_come_to(amounts, goods, charge * tax / unit):
                return charge is charges
        return _are_round(charges) and not _are_round(brought)

    def _totals_come_to(self, amounts: AmountsTold, goods: Floats, charge: Floats) -> bool:
        """Whether some column tells just goods and delivery of nearly all orders that paid for delivery: both by
        order, in units of the currency."""
        header, columns = amounts.table.header, amounts.columns
        free = [at for at in free_columns(header, columns) if may_be_of_an_order(header[at])]
        some: Bools = (goods > 0) & (charge > 0)
        within = A_CENT + A_HUNDREDTH * charge  # goods are rounded line by line, and tax is more of it
        return bool(some.sum() >= FEWEST) and any(
            (np.abs(amounts.numbers(at)[self._by.first_row] - goods - charge) <= within)[some].mean() >= MOST
            for at in (*columns.get("order_total", ()), *free)
            if amounts.tells_numbers(at)
        )

    def _by_order(self, amount: Floats | Ints) -> Floats:
        return np.bincount(self._by.order, amount, self._by.many).astype(np.float64)

    @property
    def of_carriers_costs(self) -> float:
        """What a carrier's costs are multiplied by to be without tax; they are in the shop's own currency."""
        meant = taxed_by([self._cells.heading("delivery_cost")])
        return 1 / (1 + rate_of_delivery(self._shop.taxes) / WHOLE_BP) if meant == "with tax" else 1.0


def _are_round(charges: Ints) -> bool:
    """Whether nearly all charges are, minor units.

    >>> [_are_round(np.array(one)) for one in ([490, 799, 0], [583, 951], [0])]
    [True, False, False]
    """
    each = np.unique(charges[charges > 0])
    is_round = (each % FIVES == 0) | (each % TENS == NINES)
    return bool(len(each) > 0 and is_round.mean() >= MOST)
