"""Goods files that tell what is common to the variants of a product once: in a row of the product's own, which its
variants name by its SKU or id or stand below, or in the row of the first of them.
"""

import re
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from yellow_abacus.core.ground.axes import among, run_begins
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.files.columns import Columns, free_columns, match_columns
from yellow_abacus.files.fields import OF_GOODS
from yellow_abacus.files.goods_shapes import filled_in
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.rows import Coded, found_in, row_of_each
from yellow_abacus.files.tables import Table
from yellow_abacus.files.words import so_many

OF_A_PRODUCT = frozenset(["product", "brand", "categories", "tags", "tax_class"])
"""What the first variant of a product tells of the others."""
OF_A_VARIANT = frozenset(["sku", "option", "stock", "place", "kit", "kit_units", "variant_of"])
"""What no product tells of its variants."""
PRICES = ("list_price", "was_price", "going_price", "price_discount", "reduced_price", "reduced_from", "reduced_to")
"""Of which a variant that tells one has no other from its product."""
SOLD_BY = (PRICES, ("purchase_cost", "case_cost"), ("stock",))
"""A row that tells nothing of the first of these that the file tells, or 0, is of no goods that are sold."""
VARIANT_OF = "variant_of"
NONE = -1


@dataclass(frozen=True, eq=False)
class _Products:
    """By row, that of its product, NONE where it is no variant. are_variants: whether that is a variant itself."""

    of: Ints
    are_variants: bool

    @property
    def has_variants(self) -> Bools:
        return among(self.of[self.of >= 0], len(self.of))


def with_variants(table: Table, columns: Columns) -> tuple[Table, int]:
    """A table whose variants each tell what their product does, without rows of products that are not sold
    themselves, and how many those are; any other as it is."""
    named = next(_named_by_variants(table, columns, columns.get(VARIANT_OF, ())), None)
    products = named[1] if named else _above_variants(table, columns)
    if products is None:
        return table, 0
    told = dict[int, Coded]()
    for keys in _inherited(columns, products):
        places = [at for key in keys for at in columns[key]]
        inherits = (products.of >= 0) & ~filled_in(table, columns, keys)
        for at in places:
            column = table.rows.columns[at]
            told[at] = Coded(column.texts, np.where(inherits, column.codes[products.of], column.codes))
    if not products.are_variants and {"product", "option"} <= columns.keys():
        at = columns["product"][0]
        told[at] = _named_as_their_product(told[at], filled_in(table, columns, ["option"]), products)
    is_sold = filled_in(table, columns, ["sku"]) & _are_sold(table, columns)
    keeps = ~products.has_variants | is_sold | products.are_variants
    rows = table.rows.changed(told)
    return replace(table, rows=rows if keeps.all() else rows.some(np.flatnonzero(keeps))), int((~keeps).sum())


def _named_as_their_product(names: Coded, tell_options: Bools, products: _Products) -> Coded:
    """The names of products, where those of variants begin with their product's and their option is told besides."""
    variants = np.flatnonzero((products.of >= 0) & tell_options & names.filled[products.of])
    each = zip(names.rows(variants).cells, names.rows(products.of[variants]).cells, strict=True)
    begins = np.array([name.startswith(of.strip()) for name, of in each], dtype=np.bool_)
    codes = names.codes.copy()
    codes[variants[begins]] = names.codes[products.of[variants[begins]]]
    return Coded(names.texts, codes)


def with_all_options(table: Table, columns: Columns, by_hand: Collection[str] = ()) -> Columns:
    """The columns, with all that tell options, such as size and colour, unless some are chosen by hand; but what is
    told in another already, and names of options rather than which of them a variant has.

    >>> from yellow_abacus.files.tables import read_table
    >>> told = "SKU,Size,Colour,Option 1,Variant\\nA,S,red,Size,S\\nB,M,red,Size,M\\n"
    >>> with_all_options(read_table(told.encode()), {"sku": (0,), "option": (1,)})["option"]
    (1, 2)
    """
    if "option" not in columns or "option" in by_hand:
        return columns
    every, found = table.rows.columns, [*columns["option"]]
    for at in free_columns(table.header, columns):
        texts = [text for text in every[at].used if text.strip()]
        if texts and _is_of_options(table.header[at]) and not all(map(_is_of_options, texts)):
            told_so_far = zip(*(every[one].cells for one in found), strict=True)
            if not all(_is_told(text, so_far) for text, so_far in zip(every[at].cells, told_so_far, strict=True)):
                found.append(at)
    return {**columns, "option": tuple(found)}


@cache
def _is_of_options(text: str) -> bool:
    return bool(match_columns([text], (OF_GOODS["option"],)))


def _is_told(text: str, so_far: Iterable[str]) -> bool:
    return any(text.strip() in one for one in so_far)


def notes_of_variants(products: int) -> list[str]:
    """That some rows are no goods of their own, in words where some are.

    >>> notes_of_variants(1)
    ['1 row is of a product that is sold in variants: what it tells is theirs.']
    """
    says = "1 row is of a product that is sold in variants: what it tells is theirs."
    if products > 1:
        says = f"{so_many(products, 'row')} are of products that are sold in variants: what they tell is theirs."
    return [says] if products else []


def _inherited(columns: Columns, products: _Products) -> Iterable[list[str]]:
    """The fields that variants have from their product, those that go together as one."""
    if products.are_variants:
        return [[key] for key in columns if key in OF_A_PRODUCT]
    apart = [[key] for key in columns if key not in OF_A_VARIANT and key not in PRICES]
    prices = [key for key in PRICES if key in columns]
    return [*apart, prices] if prices else apart


def _are_sold(table: Table, columns: Columns) -> Bools:
    """By row; all where the file tells nothing that says so."""
    keys = next((keys for keys in SOLD_BY if not columns.keys().isdisjoint(keys)), ())
    found = np.full(len(table.rows), not keys)
    for column in (table.rows.columns[at] for key in keys for at in columns.get(key, ())):
        found |= np.array([bool(_SOME.search(text)) for text in column.texts], dtype=np.bool_)[column.codes]
    return found


_SOME = re.compile(r"[1-9]")
"""What amounts above 0 have."""


def with_products_named(table: Table, columns: Columns) -> Columns:
    """The columns, with the one in which variants name their products by SKU or id: it is headed so, or none of the
    rows it names tells a price as the others do."""
    if VARIANT_OF in columns or "sku" not in columns:
        return columns
    free, sold = free_columns(table.header, columns), _are_sold(table, columns)
    for at, products in _named_by_variants(table, columns, free):
        is_headed = not words_of("of_a_product").isdisjoint(simplify(table.header[at]).split())
        if is_headed or (sold[products.of >= 0].all() and not sold[products.has_variants].any()):
            return {**columns, VARIANT_OF: (at,)}
    return columns


def _named_by_variants(table: Table, columns: Columns, places: Iterable[int]) -> Iterator[tuple[int, _Products]]:
    """Those of some columns in which some rows name others by their SKU or id, which name none themselves."""
    every = table.rows.columns
    keys = [every[at] for at in (*columns["sku"], *free_columns(table.header, columns))]
    rows_of_keys = [rows for key in keys if (rows := row_of_each(key))]
    for at in places:
        names = every[at].filled
        if not names.any() or names.all():
            continue
        for rows in rows_of_keys:
            products = _Products(np.where(names, found_in(every[at], rows), NONE), are_variants=False)
            if (products.of[names] >= 0).all() and not names[products.has_variants].any():
                yield at, products
                break


def _above_variants(table: Table, columns: Columns) -> _Products | None:
    """Where rows without a product stand below one with it that has no SKU; or all tell an option, as that row does
    unless it is not sold; or a column that stands for nothing else goes on in them, and changes with each product."""
    if "product" not in columns:
        return None
    bare = ~filled_in(table, columns, ["product"])
    if not bare.any() or bare[0]:
        return None
    row = np.maximum.accumulate(np.where(bare, 0, np.arange(len(bare))))
    products = _Products(np.where(bare, row, NONE), are_variants=True)
    first, sold = products.has_variants, _are_sold(table, columns)
    named, tells_option = (filled_in(table, columns, [key]) for key in ("sku", "option"))
    are_bare = bool(named[bare].all()) and not named[first].any()
    are_headers = are_bare or (bool(sold[bare].all()) and not sold[first].any())
    if are_bare or (tells_option[bare].all() and (are_headers or tells_option[first].all())):
        return replace(products, are_variants=not are_headers)
    goes_on = any(_goes_on(table.rows.columns[at], bare) for at in free_columns(table.header, columns))
    return products if goes_on else None


def _goes_on(column: Coded, bare: Bools) -> bool:
    begins = run_begins(column.codes)
    return bool(column.filled.all() and not begins[bare].any() and begins[~bare].all())
