"""Goods: one entry a SKU, in SKU order, so a SKU's index also breaks ties between lines.

A SKU's *standing unit price* is what it costs before any offer: the least of the list price and the reduced
price. A SKU without a list price stands at the price the order paid. docs/sums.md, "Standing price".
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from yellow_abacus.core.money import Bools, Floats, Ints

NO_PRICE = -1
"""Stands in price arrays where a SKU has no such price."""


@dataclass(frozen=True)
class Goods:
    """Everything priced and costed about each SKU.

    list_price, reduced_price: minor units, NO_PRICE where there is none.
    unit_cost: minor units, nan where unknown. weight: grams, nan where unknown.
    stock: units, nan where not counted.
    in_category: one row a category of `categories`, one column a SKU. products: the product name of each SKU.
    """

    skus: tuple[str, ...]
    products: tuple[str, ...]
    list_price: Ints
    reduced_price: Ints
    unit_cost: Floats
    weight: Floats
    categories: tuple[str, ...]
    in_category: Bools
    stock: Floats

    @cached_property
    def _index(self) -> dict[str, int]:
        return {sku: at for at, sku in enumerate(self.skus)}

    def index_of(self, sku: str) -> int | None:
        return self._index.get(sku)

    def in_stock(self, sku: str) -> bool:
        """Whether there is such a SKU and its stock, where it is counted, has not ended."""
        at = self.index_of(sku)
        return at is not None and not self.stock[at] <= 0

    @cached_property
    def standing_price(self) -> Ints:
        """The least of list price and reduced price, NO_PRICE where there is neither."""
        listed, reduced = self.list_price, self.reduced_price
        both = (listed != NO_PRICE) & (reduced != NO_PRICE)
        result: Ints = np.where(both, np.minimum(listed, reduced), np.maximum(listed, reduced))
        return result

    @cached_property
    def product_number(self) -> Ints:
        """One number a SKU, the same for SKUs of one product; a SKU without a product name is one of its own."""
        names = [name or f"\0{sku}" for name, sku in zip(self.products, self.skus, strict=True)]
        return np.unique(names, return_inverse=True)[1].astype(np.int64)
