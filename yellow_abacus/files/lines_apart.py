"""Orders told in two tables, one of the orders and one of their lines, made one with a row a line.

>>> from yellow_abacus.files.tables import read_table
>>> orders = read_table(b"order,day,zone\\n1,2027-03-01,Home\\n2,2027-03-02,Islands\\n")
>>> lines = read_table(b"order,SKU,units\\n1,POT,1\\n2,FERN,1\\n1,SOIL,2\\n")
>>> both = orders_with_lines([lines, orders], {"pot", "fern", "soil"})
>>> [row.cells for row in both.table.rows]
[['1', '2027-03-01', 'Home', 'POT', '1'], ['1', '', '', 'SOIL', '2'], ['2', '2027-03-02', 'Islands', 'FERN', '1']]
"""

import re
from collections.abc import Container, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import permutations

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, answering, missing_columns
from yellow_abacus.files.contents import HALF, NEARLY_ALL, Contents, columns_that_tell
from yellow_abacus.files.fields import OF_ORDERS, ORDERS
from yellow_abacus.files.headings import is_called
from yellow_abacus.files.order_shapes import first_row_of_order
from yellow_abacus.files.rows import Coded, Codes, Rows, emptied, found_in, one_below, row_of_each
from yellow_abacus.files.tables import Table
from yellow_abacus.files.words import so_many

SOME = 0.1
"""So many of the numbers of lines are those of orders at least where both are headed as such: the others are told."""

_NUMBER = OF_ORDERS["number"]
_GOODS = ("sku", "product")


@dataclass(frozen=True, eq=False)
class _Key:
    """The columns by which orders and their lines belong together. row: of the order, for each line; -1 where there
    is none."""

    orders: int
    lines: int
    row: Codes
    covers: float


@dataclass(frozen=True, eq=False)
class OrdersWithLines:
    """orders, lines: which of some tables they were."""

    table: Table
    orders: int
    lines: int


def orders_with_lines(tables: Sequence[Table], skus: Container[str]) -> OrdersWithLines | None:
    """The two of some tables that tell most of orders and of their lines, made one: lines stand in the order of
    those; what is told of an order stands on its first line. None where there are none such. skus: of the shop,
    folded."""
    told = [columns_that_tell(table, ORDERS) for table in tables]
    tells_goods = [_tells_goods(*one, skus) for one in zip(tables, told, strict=True)]

    def tell(pair: tuple[int, int]) -> tuple[bool, int]:
        both = {**told[pair[0]], **told[pair[1]]}
        return not missing_columns(both, ORDERS), len(both)

    pairs = [
        (orders, lines)
        for orders, lines in permutations(range(len(tables)), 2)
        if tells_goods[lines]
        and not tells_goods[orders]
        and not is_called(tables[lines].name, "left_out", "sent_back")
    ]
    for orders, lines in sorted(pairs, key=tell, reverse=True):
        if keys := list(_keys(tables[orders], tables[lines])):
            key = max(keys, key=lambda key: (_is_numbered(tables[orders], key), key.covers))
            return OrdersWithLines(_joined(tables[orders], tables[lines], key), orders, lines)
    return None


def _tells_goods(table: Table, known: Columns, skus: Container[str]) -> bool:
    """Whether it tells goods and how many of each, or SKUs of the shop. known: its columns."""
    if "items" in known or ("quantity" in known and not known.keys().isdisjoint(_GOODS)):
        return True
    return Contents(table, skus).most_skus(range(len(table.header)))[0] >= HALF


def _is_numbered(orders: Table, key: _Key) -> bool:
    return key.orders in answering(orders.header, _NUMBER)


def _keys(orders: Table, lines: Table) -> Iterator[_Key]:
    """Those that number every order once, and nearly all lines have. Lines that are whole without their orders go
    only with a table that heads some column as the number of an order: it may be one of shoppers."""
    tells = Contents(lines).tells
    headed = [at for at in answering(lines.header, _NUMBER) if tells(at, _NUMBER)]
    is_whole = not missing_columns(columns_that_tell(lines, ORDERS), ORDERS)
    numbered = answering(orders.header, _NUMBER)
    if is_whole and not numbered:
        return
    for one, column in enumerate(orders.rows.columns):
        if not (rows := row_of_each(column, bare_number)):
            continue
        for other in headed or range(len(lines.header)):
            row = found_in(_of_each_line(lines, other), rows, bare_number)
            covers = len(np.unique(row[row >= 0])) / len(rows)
            least = SOME if headed and one in numbered else NEARLY_ALL
            if (row >= 0).mean() >= least and (headed or covers >= HALF):
                yield _Key(one, other, row, covers)


def _of_each_line(lines: Table, at: int) -> Coded:
    """A column that may stand on the first line of an order alone, on each."""
    column = lines.rows.columns[at]
    return column.rows(first_row_of_order(column))


def bare_number(text: str) -> str:
    """A number as it is compared: `#1001` and `1001.0` are one."""
    return re.sub(r"(?<=\d)\.0+$", "", folded(text).lstrip("# "))


def _joined(orders: Table, lines: Table, key: _Key) -> Table:
    last = len(orders.rows)
    at = np.argsort(np.where(key.row < 0, last, key.row), kind="stable")
    row = key.row[at]
    begins = np.diff(row, prepend=-1) != 0
    known = np.maximum(row, 0)
    number = _of_each_line(lines, key.lines).rows(at)
    numbers = {*answering(orders.header, _NUMBER)}
    header = list(orders.header)
    if not numbers:
        told = lines.header[key.lines]
        header[key.orders] = told if answering([told], _NUMBER) else f"{_NUMBER.label}: {told}"
    columns = list[Coded]()
    for place, column in enumerate(orders.rows.columns):
        if place == key.orders:
            columns.append(number)
        elif place in numbers:
            columns.append(_either(column.rows(known), row >= 0, number))
        else:
            columns.append(emptied(column.rows(known), ~(begins & (row >= 0))))
    others = [place for place in range(len(lines.header)) if place != key.lines]
    columns += [lines.rows.columns[place].rows(at) for place in others]
    rows = Rows(lines.rows.numbers[at], columns, {})
    return replace(
        lines,
        header=[*header, *(lines.header[place] for place in others)],
        rows=rows,
        above=(),
        of_orders=frozenset(range(len(header))),
        says=(*orders.says, *lines.says, *_how(orders, lines, key)),
    )


def _either(column: Coded, here: Bools, other: Coded) -> Coded:
    """A column where it tells something, and another elsewhere."""
    both = one_below(column, other)
    return both.rows(np.where(here, np.arange(len(column)), len(column) + np.arange(len(column))))


def _how(orders: Table, lines: Table, key: _Key) -> Iterator[str]:
    heading = lines.header[key.lines] or orders.header[key.orders]
    yield (
        f"What {orders.name} tells of orders goes with their lines of {lines.name}, by {heading}; rows are numbered "
        f"as those of {lines.name}."
    )
    bare = len(orders.rows) - len(np.unique(key.row[key.row >= 0]))
    if bare:
        have, are = ("has", "is") if bare == 1 else ("have", "are")
        yield f"{so_many(bare, 'order')} {have} no line and {are} passed over."
    if alone := int((key.row < 0).sum()):
        yield f"{so_many(alone, 'line')} {'is' if alone == 1 else 'are'} of no order of {orders.name}."
