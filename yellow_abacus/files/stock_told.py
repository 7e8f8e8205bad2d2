"""What files of goods tell of stock: in a column or a row for each place it lies at, in numbers or in words.

>>> [stock_of(one, ".") for one in ("105", "5; 100", "50+", "-3", "sold out", "unlimited")]
[105, 105, 50, 0, 0, None]
"""

import re
from collections import defaultdict
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from functools import cache

import numpy as np
from babel.lists import format_list

from yellow_abacus.core.ground.money import Ints
from yellow_abacus.files.columns import Columns, answering, free_columns, match_columns
from yellow_abacus.files.contents import Contents
from yellow_abacus.files.fields import OF_GOODS
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.reading import decimal_mark_of
from yellow_abacus.files.rows import Coded, Codes, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, DecimalMark, number_if_any, parse_count

STOCK = OF_GOODS["stock"]
MOST_STOCK = 1_000_000_000
FEWEST_SUMS = 2
"""So many goods that are in stock tell that a column is what others come to together."""
AND = "; "
"""Between what a row tells of several places."""

_ENDLESS = "∞"
_AT_LEAST = re.compile(r"(?:[>≥+]=?\s*)?([^>≥+]*?)\s*\+?")


def stock_of(text: str, mark: DecimalMark) -> int | None:
    """Units in stock, at one place or more: none where more were sold than there are; None where they are not
    counted. Raises BadCellError."""
    places = [_at_a_place(one, mark) for one in text.split(AND)]
    counted = [one for one in places if one is not None]
    return min(sum(counted), MOST_STOCK) if len(counted) == len(places) else None


def _at_a_place(text: str, mark: DecimalMark) -> int | None:
    word = simplify(text)
    if text.strip() == _ENDLESS or word in words_of("unlimited") or word in words_of("in_stock"):
        return None
    if word in words_of("sold_out"):
        return 0
    number = _AT_LEAST.fullmatch(text.strip())
    return max(parse_count(number[1] if number else text, mark, least=-MOST_STOCK, largest=MOST_STOCK), 0)


def with_stock_of_places(table: Table, columns: Columns, contents: Contents) -> Columns:
    r"""The columns, with all that tell stock where each tells it of a place of its own: headings that differ in the
    place alone. Where one is what the others come to together, that alone.

    >>> from yellow_abacus.files.tables import read_table
    >>> table = read_table(b"SKU,Stock Rome,Stock Oslo,Stock value\nA,1,2,30\\n")
    >>> with_stock_of_places(table, {"sku": (0,), "stock": (1,)}, Contents(table))["stock"]
    (1, 2)
    """
    if "stock" not in columns or (heading := simplify(table.header[columns["stock"][0]])) in _known():
        return columns
    mine, places = heading.split(), [*columns["stock"]]
    for at in set(answering(table.header, STOCK)) & set(free_columns(table.header, columns)):
        theirs = simplify(table.header[at]).split()
        both = [word for word in mine if word in theirs]
        apart = len(both) < min(len(mine), len(theirs)) and match_columns([" ".join(both)], (STOCK,))
        if apart and " ".join(theirs) not in _known() and contents.can_be(at, STOCK):
            places.append(at)
    if len(places) == 1:
        return columns
    mark = decimal_mark_of(table, columns)
    units = np.array([_units(table.rows.columns[at], mark) for at in places])
    summed = [
        at
        for at, one in zip(places, units, strict=True)
        if (2 * one == units.sum(axis=0)).all() and (one > 0).sum() >= FEWEST_SUMS
    ]
    return {**columns, "stock": tuple(summed[:1] if len(places) > 2 and summed else sorted(places))}


def _units(column: Coded, mark: DecimalMark) -> Ints:
    """By row; 0 where a cell tells none."""
    each = np.zeros(len(column.texts), dtype=np.int64)
    for code, text in enumerate(column.texts):
        with suppress(BadCellError):
            each[code] = (stock_of(text, mark) or 0) if text.strip() else 0
    units: Ints = each[column.codes]
    return units


@cache
def _known() -> frozenset[str]:
    return frozenset(simplify(word) for word in STOCK.words)


def a_row_a_sku(table: Table, columns: Columns, mark: DecimalMark) -> Table:
    """A table that tells stock in a row for each place, as one with a row a SKU; any other as it is.

    It does where each row of a SKU names another place, and those rows tell nothing else that differs.
    """
    if not {"sku", "stock", "place"} <= columns.keys():
        return table
    rows = table.rows
    sku, place = (rows.columns[columns[key][0]] for key in ("sku", "place"))
    first, of_row = np.unique(sku.codes, return_index=True, return_inverse=True)[1:]
    both = np.unique(np.stack([sku.codes, place.codes]), axis=1)
    if len(first) == len(rows) or both.shape[1] < len(rows) or not place.filled.all():
        return table
    others = {at for key, some in columns.items() if key not in ("stock", "place") for at in some}
    if any(_differs(rows.columns[at], first[of_row]) for at in others):
        return table
    told = defaultdict[int, list[str]](list)
    for row, each in enumerate(of_row.tolist()):
        told[each] += filter(None, (_cell(rows.columns[at], row) for at in columns["stock"]))
    order = np.argsort(first)
    merged = {at: Coded([""], np.zeros(len(first), dtype=np.int64)) for at in columns["stock"]}
    merged[columns["stock"][0]] = coded([_together(told[each], mark) for each in order.tolist()])
    return replace(table, rows=rows.some(first[order]).changed(merged))


def _together(cells: Sequence[str], mark: DecimalMark) -> str:
    """What several cells come to as one; themselves where some cannot be read."""
    if not cells:
        return ""
    every = AND.join(cells)
    try:
        units = stock_of(every, mark)
    except BadCellError:
        return every
    return _ENDLESS if units is None else str(units)


def notes_of_stock(table: Table, merged: Table, columns: Columns, mark: DecimalMark) -> list[str]:
    """What is done with its stock, in words. merged: the table with a row a SKU."""
    notes, some = list[str](), columns.get("stock", ())
    if len(some) > 1:
        headings = format_list([f"“{table.header[at]}”" for at in some], locale="en")
        notes.append(f"Stock is that of {headings} together.")
    if len(merged.rows) < len(table.rows):
        place = table.header[columns["place"][0]]
        notes.append(f"Rows of a SKU that differ in “{place}” are one, with their stock together.")
    if any(_is_below(text, mark) for at in some for text in table.rows.columns[at].used):
        notes.append("Stock below 0 is taken as 0.")
    return notes


def _differs(column: Coded, first: Codes) -> bool:
    """Whether some row tells something else than another. first: of each row that other one."""
    return bool((column.filled & (column.codes != column.codes[first])).any())


def _cell(column: Coded, row: int) -> str:
    return column.texts[column.codes[row]].strip()


def _is_below(text: str, mark: DecimalMark) -> bool:
    number = number_if_any(text.strip(), mark)
    return number is not None and number < 0
