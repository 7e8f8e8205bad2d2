"""Goods: one entry a SKU, in SKU order, so a SKU's index also breaks ties between lines.

A SKU's *standing unit price* is what it costs before any offer: the least of the list price and the reduced
price. A SKU without a list price stands at the price the order paid. docs/sums.md, "Standing price".
"""

from collections.abc import Collection
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yellow_abacus.core.money import Bools, Floats, Ints

Names = Literal["categories", "products", "brands", "tags", "skus"]
"""What goods are known by."""

NO_PRICE = -1
"""Stands in price arrays where a SKU has no such price."""


@dataclass(frozen=True)
class Goods:
    """Everything priced and costed about each SKU.

    list_price, reduced_price: minor units, NO_PRICE where there is none.
    unit_cost: minor units, nan where unknown. weight: grams, nan where unknown.
    stock: units, nan where not counted. brands, tags: of each SKU.
    never_discounted: goods that no offer takes anything off, such as gift cards.
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
    brands: tuple[str, ...] = ()
    tags: tuple[tuple[str, ...], ...] = ()
    never_discounted: frozenset[str] = frozenset()

    @cached_property
    def _index(self) -> dict[str, int]:
        return {sku: at for at, sku in enumerate(self.skus)}

    def index_of(self, sku: str) -> int | None:
        return self._index.get(sku)

    def in_stock(self, sku: str) -> bool:
        """Whether there is such a SKU and its stock, where it is counted, has not ended."""
        at = self.index_of(sku)
        return at is not None and not self.stock[at] <= 0

    def with_any(self, kind: Names, wanted: Collection[str]) -> Bools:
        """One truth a SKU: whether it has one of the names wanted. Names the shop does not have hold nothing."""
        names = set(wanted)
        if kind == "categories":
            rows = [at for at, name in enumerate(self.categories) if name in names]
            inside: Bools = np.logical_or.reduce(self.in_category[rows], axis=0, initial=False)
            return inside
        found = np.zeros(len(self.skus), dtype=np.bool_)
        if kind == "skus":
            found[[at for name in names if (at := self.index_of(name)) is not None]] = True
        elif kind == "tags":
            found[[at for at, tags in enumerate(self.tags) if not names.isdisjoint(tags)]] = True
        else:
            of_sku = self.products if kind == "products" else self.brands
            found[[at for at, name in enumerate(of_sku) if name in names]] = True
        return found

    def known(self, kind: Names) -> Collection[str]:
        """All names of a kind that the shop's goods have."""
        match kind:
            case "skus":
                return self._index
            case "categories":
                return self.categories
            case "tags":
                return {tag for tags in self.tags for tag in tags}
        return {*(self.products if kind == "products" else self.brands)} - {""}

    @cached_property
    def may_be_discounted(self) -> Bools:
        result: Bools = np.array([sku not in self.never_discounted for sku in self.skus], dtype=np.bool_)
        return result

    @cached_property
    def looked_up(self) -> dict[object, Bools]:
        """Scopes that were looked up before, so that a large batch does so once for all its blocks."""
        return {}

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
