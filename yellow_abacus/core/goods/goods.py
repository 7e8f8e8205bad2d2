"""Goods: one entry a SKU, in SKU order, so a SKU's index also breaks ties between lines.

A SKU's *standing unit price* is what it costs before any offer: the least of the list price, the reduced price in
date, and the quantity price reached; a group's own price stands alone. A SKU without a list price stands at the price
the order paid. docs/sums.md, "Standing price".
"""

from collections.abc import Callable, Collection
from dataclasses import dataclass, field, replace
from datetime import date
from hashlib import blake2b
from typing import Any, Generic, Literal

import numpy as np

from yellow_abacus.core.goods.kits import NO_KITS, KitParts
from yellow_abacus.core.goods.price_list import PriceList, no_prices
from yellow_abacus.core.ground.keeper import Found
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.ground.once import cached_property

Names = Literal["categories", "products", "brands", "tags", "skus"]
"""What goods are known by."""

NO_PRICE = -1
"""Stands in price arrays where a SKU has no such price."""


class _OfNames(Generic[Found]):
    """A property that depends on names alone (`Goods._of_names`), found once for all goods that have the same."""

    def __init__(self, find: "Callable[[Goods], Found]") -> None:
        self._find = find

    def __get__(self, goods: "Goods", _: type) -> Found:
        kept, name = goods._of_names, self._find.__name__
        if name not in kept:
            kept[name] = self._find(goods)
        found: Found = kept[name]
        return found


@dataclass(frozen=True)
class Goods:
    """Everything priced and costed about each SKU.

    list_price, reduced_price: minor units, NO_PRICE where there is none.
    unit_cost: all its parts, minor units, nan where unknown. weight: whole milligrams; volume: cubic millimetres;
    longest: the longest side, millimetres; nan where unknown. stock: units, nan where not counted. brands, tags: of
    each SKU. never_discounted: goods that no offer takes anything off, such as gift cards. gift_only: goods only put
    in, not sold.
    in_category: one row a category of `categories`, one column a SKU. products: the product name of each SKU.
    prices: quantity prices and prices of groups, None for none.
    reduced_first, reduced_last: day numbers (date.toordinal) within which the reduced price holds; None for always.
    tax_classes: of each SKU, empty for the shop's first one. return_rate: share of a line's units that come back.
    commission_bp: of goods, tax included. insured: whether carriers are asked to insure them. least_advertised: the
    price no offer may tell them under, minor units, NO_PRICE for none. kits: which of them are made of others.
    _of_names: what was found of SKUs and of names of products, categories, brands, tags and tax classes alone, kept
    for all goods that have the same.
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
    gift_only: frozenset[str] = frozenset()
    prices: PriceList | None = None
    reduced_first: Ints | None = None
    reduced_last: Ints | None = None
    tax_classes: tuple[str, ...] = ()
    volume: Floats | None = None
    longest: Floats | None = None
    return_rate: Floats | None = None
    commission_bp: Floats | None = None
    insured: Bools | None = None
    least_advertised: Ints | None = None
    kits: KitParts = NO_KITS
    _of_days: dict[int | bytes, "Goods"] = field(default_factory=dict, repr=False)
    _of_names: dict[str, Any] = field(default_factory=dict, repr=False)

    def column(self, name: str) -> Floats:
        """A column of doubles as sums take it, one entry a SKU: what is not known counts as 0."""
        if name not in self._columns:
            told = getattr(self, name)
            found = np.zeros(len(self.skus)) if told is None else np.nan_to_num(np.asarray(told, dtype=np.float64))
            found.flags.writeable = False
            self._columns[name] = found
        return self._columns[name]

    @cached_property
    def _columns(self) -> dict[str, Floats]:
        return {}

    @cached_property
    def price_list(self) -> PriceList:
        return no_prices(len(self.skus)) if self.prices is None else self.prices

    def on_day(self, day: date) -> "Goods":
        """The goods with reduced prices as they are on that day; the same object for days with the same prices."""
        if self.reduced_first is None or self.reduced_last is None:
            return self
        number = day.toordinal()
        known = self._of_days.get(number)
        if known is None:
            in_date = (self.reduced_first <= number) & (number <= self.reduced_last)
            reduced = np.where(in_date, self.reduced_price, NO_PRICE)
            key = reduced.tobytes()
            known = self._of_days.get(key)
            if known is None:
                known = self._of_days[key] = replace(
                    self, reduced_price=reduced, reduced_first=None, reduced_last=None, _of_days={}
                )
            self._of_days[number] = known
        return known

    @cached_property
    def price_key(self) -> bytes:
        """Tells the prices in date from those of other days."""
        return blake2b(self.reduced_price.tobytes(), digest_size=16).digest()

    @cached_property
    def milligrams(self) -> Ints:
        """What a unit of each SKU weighs, 0 where that is not known: whole, so that sums of weights are exact."""
        return np.rint(self.column("weight")).astype(np.int64)

    @cached_property
    def unknown(self) -> Bools:
        """Whether the cost or the weight of each SKU is not known."""
        result: Bools = np.isnan(self.unit_cost) | np.isnan(self.weight)
        return result

    @cached_property
    def unpriced(self) -> Bools:
        """Whether each SKU is sold and has no list price."""
        result: Bools = (self.list_price == NO_PRICE) & self.is_sold
        return result

    @cached_property
    def is_sold(self) -> Bools:
        """Whether each SKU is sold, and not only put in."""
        return np.array([sku not in self.gift_only for sku in self.skus], dtype=np.bool_)

    @_OfNames
    def categories_by_sku(self) -> tuple[Ints, Ints]:
        """The categories of all SKUs one after another, by number, and where each SKU's begin: goods are in few of
        many. The first has one entry more than there are SKUs."""
        category, sku = np.divmod(np.flatnonzero(self.in_category), max(len(self.skus), 1))
        by_sku = np.argsort(sku, kind="stable")
        return np.searchsorted(sku[by_sku], np.arange(len(self.skus) + 1)), category[by_sku]

    @_OfNames
    def by_tax_class(self) -> tuple[tuple[str, ...], Ints]:
        """The tax classes that goods name, and the number among them of each SKU's."""
        told = self.tax_classes or ("",) * len(self.skus)
        number = {name: at for at, name in enumerate(dict.fromkeys(told))}
        return tuple(number), np.array([number[name] for name in told], dtype=np.int64)

    @_OfNames
    def _index(self) -> dict[str, int]:
        return {sku: at for at, sku in enumerate(self.skus)}

    @_OfNames
    def _folded_index(self) -> dict[str, int]:
        return {folded(sku): at for at, sku in enumerate(self.skus)}

    def index_of(self, sku: str) -> int | None:
        return self._index.get(sku)

    def meant_by(self, text: str) -> int | None:
        """The SKU that somebody means who writes so: just that one, else one that differs in case or spelling."""
        exact = self._index.get(text)
        return self._folded_index.get(folded(text)) if exact is None else exact

    def stocks_of(self, sku: int) -> tuple[int, ...]:
        """The SKUs from whose stock a SKU is taken: a kit from that of its parts where any is counted, all else from
        its own."""
        counted = tuple(part for part in self.kits.parts_of(sku) if self.stock[part] >= 0)
        return counted or ((sku,) if self.stock[sku] >= 0 else ())

    @cached_property
    def has_own_stock(self) -> Bools:
        """Whether the stock of each SKU is counted, and is not that of its parts."""
        counted: Bools = self.stock >= 0
        counted[self.kits.kit_by_part[counted[self.kits.part]]] = False
        return counted

    def taken_from(self, sku: int) -> dict[int, int]:
        """The SKUs that take from the stock of one, itself among them, and how many of it a unit of each takes."""
        return {sku: 1} | self.kits.kits_with(sku)

    def in_stock(self, sku: str) -> bool:
        """Whether there is such a SKU and its stock, where it is counted, has not ended."""
        at = self.index_of(sku)
        return at is not None and not self.stock[at] <= 0

    def with_any(self, kind: Names, wanted: Collection[str]) -> Bools:
        """One truth a SKU: whether it has one of the names wanted. Names the shop does not have hold nothing."""
        names = set(wanted) if kind == "skus" else all_folded(wanted)
        if kind == "categories":
            rows = [at for at, name in enumerate(self.categories) if folded(name) in names]
            inside: Bools = np.logical_or.reduce(self.in_category[rows], axis=0, initial=False)
            return inside
        found = np.zeros(len(self.skus), dtype=np.bool_)
        if kind == "skus":
            found[[at for name in names if (at := self.index_of(name)) is not None]] = True
        elif kind == "tags":
            found[[at for at, tags in enumerate(self.tags) if not names.isdisjoint(map(folded, tags))]] = True
        else:
            of_sku = self.products if kind == "products" else self.brands
            found[[at for at, name in enumerate(of_sku) if folded(name) in names]] = True
        return found

    def known(self, kind: Names) -> Collection[str]:
        """All names of a kind that the shop's goods have."""
        return self._known[kind]

    @_OfNames
    def _known(self) -> dict[Names, Collection[str]]:
        return {
            "skus": self._index,
            "products": frozenset(self.products) - {""},
            "brands": frozenset(self.brands) - {""},
            "categories": self.categories,
            "tags": frozenset(tag for tags in set(self.tags) for tag in tags),
        }

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
        """Of one unit, for a shopper of no group: the lesser of list and reduced price, NO_PRICE without either."""
        listed, reduced = self.list_price, self.reduced_price
        both = (listed != NO_PRICE) & (reduced != NO_PRICE)
        result: Ints = np.where(both, np.minimum(listed, reduced), np.maximum(listed, reduced))
        return result

    @_OfNames
    def product_number(self) -> Ints:
        """One number a SKU, the same for SKUs of one product; a SKU without a product name is one of its own."""
        names = [name or f"\0{sku}" for name, sku in zip(self.products, self.skus, strict=True)]
        return np.unique(names, return_inverse=True)[1].astype(np.int64)
