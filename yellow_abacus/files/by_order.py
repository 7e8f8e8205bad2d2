"""Which rows are of which order, and what they tell of it: once, again on each of them, or in parts.

>>> from yellow_abacus.files.fields import ORDERS
>>> from yellow_abacus.files.tables import read_table
>>> rows = "A-1,POT,2", ",FERN,3", "A-2,POT,1", "A-1,SOIL,1", "A-3,POT,4", "A-3,SOIL,5"
>>> table = read_table("\\n".join(["order,SKU,discount", *rows]).encode())
>>> cells = CodedCells(table, {"number": (0,), "sku": (1,), "order_discount": (2,)}, ORDERS)
>>> by = ByOrder(cells)
>>> by.names, by.order.tolist()
(['A-1', 'A-2', 'A-3'], [0, 0, 1, 0, 2, 2])
>>> by.amounts("order_discount", cells.read("order_discount", int)).numbers().tolist()
[6, 1, 9]
"""

from typing import Any

import numpy as np

from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.files.coded_cells import NONE, CodedCells, Values
from yellow_abacus.files.values import CUT_SHORT, NOT_CUT_SHORT, is_cut_short

FEWEST_IN_PARTS, PART_OF_THOSE = 2, 0.5
"""So many orders, and that share of those of several lines, must tell unlike amounts on their lines."""


class ByOrder:
    """Rows without an order number belong to the one above. order: of each row, in the order they are met; names,
    first_row: of each order; many: how many there are."""

    def __init__(self, cells: CodedCells) -> None:
        self._cells = cells
        number = cells.text("number")
        filled = cells.filled("number")
        row = np.maximum.accumulate(np.where(filled, np.arange(len(filled)), NONE)) if len(filled) else number.codes
        lost = np.flatnonzero(row == NONE)
        cells.reject("number", "The order number is missing.", "Write it on the order's first row.", lost)
        for at, text in enumerate(number.texts):
            if is_cut_short(text):
                cells.reject("number", f"{text} {CUT_SHORT}", NOT_CUT_SHORT, np.flatnonzero(number.codes == at))
        code = np.where(row == NONE, NONE, number.codes[np.maximum(row, 0)])
        kinds, first, order = np.unique(code, return_index=True, return_inverse=True)
        by_first = np.argsort(first)
        place = np.empty(len(kinds), dtype=np.int64)
        place[by_first] = np.arange(len(kinds))
        self.order = place[order]
        self.many = len(kinds)
        self.first_row = first[by_first]
        self.names = ["" if kinds[at] == NONE else number.texts[kinds[at]] for at in by_first]

    def once(self, key: str, told: Values[Any], which: int = 0) -> Values[Any]:
        """What each order says of it first; rows that say otherwise are rejected."""
        says = np.flatnonzero(told.known)
        orders, first = np.unique(self.order[says], return_index=True)
        row = np.full(self.many, NONE)
        row[orders] = says[first]
        code = np.where(row == NONE, NONE, told.codes[np.maximum(row, 0)])
        text, numbers = self._cells.text(key, which), self._cells.numbers
        mend = "Write the same in all rows of an order, or only in its first."
        for other in says[told.codes[says] != code[self.order[says]]].tolist():
            order = self.order[other]
            said = text.texts[text.codes[other]]
            message = f"Order {self.names[order]} says “{said}” here and otherwise in row {numbers[row[order]]}."
            self._cells.reject(key, message, mend, np.array([other]))
        return Values(told.values, code)

    def unless_nothing(self, key: str, told: Values[int], which: int = 0) -> Values[int]:
        """The same, without those of 0 in rows of orders that tell another one too."""
        nothing = told.known & (told.numbers(0) == 0)
        tells_some = np.bincount(self.order[told.known & ~nothing], minlength=self.many) > 0
        return self.once(
            key, Values(told.values, np.where(nothing & tells_some[self.order], NONE, told.codes)), which
        )

    def amounts(self, key: str, told: Values[int], which: int = 0) -> Values[int]:
        """The same, of amounts that each line may tell its part of."""
        return self._summed(told) or self.unless_nothing(key, told, which)

    def _summed(self, told: Values[int]) -> Values[int] | None:
        """Amounts of the order where each line tells its part of them; None where they are told once an order, or
        again on each of its lines."""
        says = np.flatnonzero(told.known)
        if len(says) == len(np.unique(self.order[says])):
            return None
        order, amount = self.order[says], told.numbers(0)[says]
        least, most = np.full(self.many, LARGEST_CART), np.zeros(self.many, dtype=np.int64)
        np.minimum.at(least, order, amount)
        np.maximum.at(most, order, amount)
        several = (np.bincount(order, minlength=self.many) > 1) & (most > 0)
        if (several & (least < most)).sum() < max(FEWEST_IN_PARTS, several.sum() * PART_OF_THOSE):
            return None
        sums = np.bincount(order, amount, self.many).astype(np.int64)
        values, code = np.unique(sums, return_inverse=True)
        tells = np.bincount(order, minlength=self.many) > 0
        return Values(values.tolist(), np.where(tells, code, NONE))
