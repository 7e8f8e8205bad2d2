"""Goods told in several tables made one: further columns by SKU, such as costs on a sheet of their own, or products
in one table and their options in another.

>>> from yellow_abacus.files.tables import read_tables
>>> (prices,) = read_tables(b"SKU,Product,Price\\nPOT,Clay pot,12\\nFERN,Fern,9\\n", "prices.csv")
>>> (costs,) = read_tables(b"SKU,Price,Cost\\nFERN,9,4\\nPOT,12,5\\nOLD,1,1\\n", "costs.csv")
>>> both = with_more_columns(prices, costs)
>>> both.header, [row.cells for row in both.rows]
(['SKU', 'Product', 'Price', 'Cost'], [['POT', 'Clay pot', '12', '5'], ['FERN', 'Fern', '9', '4']])
>>> print(*both.says, sep="\\n")
What costs.csv tells goes with the goods of prices.csv, by SKU.
1 SKU of costs.csv is not on prices.csv and is passed over.
Left out, as prices.csv tells it: Price.
"""

from collections.abc import Iterator
from dataclasses import replace
from itertools import product

import numpy as np
from babel.lists import format_list

from yellow_abacus.files.columns import Columns, answering
from yellow_abacus.files.contents import HALF, NEARLY_ALL, columns_that_tell
from yellow_abacus.files.fields import GOODS, OF_GOODS
from yellow_abacus.files.rows import Codes, emptied, found_in, row_of_each
from yellow_abacus.files.tables import Table
from yellow_abacus.files.words import so_many

_PRODUCT = OF_GOODS["product"]
_NUMBERED = replace(_PRODUCT, unlike=_PRODUCT.unlike - {"id", "code"})
"""What numbers products, or is their name."""


def with_more_columns(goods: Table, other: Table) -> Table | None:
    """A table of goods with what another tells of them, by SKU; or, where it tells no products, of those, by what
    numbers them. None where the other tells neither once each, of half the goods at least."""
    told, theirs = columns_that_tell(goods, GOODS), columns_that_tell(other, GOODS)
    if "sku" not in told:
        return None
    if "sku" in theirs:
        keys = [(told["sku"][0], theirs["sku"][0])]
    elif "product" in theirs and "product" not in told:
        keys = list(product(answering(goods.header, _NUMBERED), range(len(other.header))))
    else:
        return None
    least = HALF if "sku" in theirs else NEARLY_ALL
    found = [(len(np.unique(row)), mine, their, row) for mine, their, row in _rows(goods, other, keys, least)]
    if not found:
        return None
    _, mine, their, row = max(found, key=lambda one: one[0])
    return _beside(goods, other, (told, theirs), (mine, their), row)


def _rows(goods: Table, other: Table, keys: list[tuple[int, int]], least: float) -> Iterator[tuple[int, int, Codes]]:
    """Of columns of the two that goods may be found by: the row of the other for each of the goods, -1 for none."""
    for mine, their in keys:
        ours = goods.rows.columns[mine]
        row, told = found_in(ours, row_of_each(other.rows.columns[their])), ours.filled
        if told.any() and (row[told] >= 0).mean() >= least:
            yield mine, their, row


def _beside(goods: Table, other: Table, told: tuple[Columns, Columns], key: tuple[int, int], row: Codes) -> Table:
    mine, theirs = told
    twice = {at for name in mine.keys() & theirs.keys() for at in theirs[name]} - {key[1]}
    taken = [at for at in range(len(other.header)) if at != key[1] and at not in twice]
    none = row < 0
    more = [(other.header[at], emptied(other.rows.columns[at].rows(np.maximum(row, 0)), none)) for at in taken]
    left = len(other.rows) - len(np.unique(row[~none]))
    says = [f"What {other.name} tells goes with the goods of {goods.name}, by {goods.header[key[0]]}."]
    if left:
        what, are = so_many(left, "SKU" if "sku" in theirs else "product"), "is" if left == 1 else "are"
        says.append(f"{what} of {other.name} {are} not on {goods.name} and {are} passed over.")
    if twice:
        names = format_list([other.header[at] for at in sorted(twice)], locale="en")
        says.append(f"Left out, as {goods.name} tells {'it' if len(twice) == 1 else 'them'}: {names}.")
    return goods.with_beside(more, *says)
