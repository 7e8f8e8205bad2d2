"""Order files that tell each order above the rows of its goods, as printed reports do, made rows of one line each.

In words (*Order: 1001, 1 March 2026*), in cells beside their names, on one row or several; or in a row of a table of
orders, below which its goods have headings of their own.

>>> in_words(["Order 1001 - 1 March 2026", "", "Customer:", "S1"])
{'number': '1001', 'date': '1 March 2026', 'shopper': 'S1'}
>>> in_words(["POT-1", "2", "12.50"])
{}
"""

import re
from collections.abc import Container, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, field, replace

import numpy as np

from yellow_abacus.core.ground.naming import LONGEST_TITLE, folded
from yellow_abacus.files.columns import match_columns
from yellow_abacus.files.dates import parse_moment
from yellow_abacus.files.fields import OF_A_LINE, OF_ORDERS, ORDERS
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.rows import Row, Rows, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.titles import LOOKED_AT, begins_with_a_figure
from yellow_abacus.files.values import BadCellError

_OF_AN_ORDER = tuple(one for one in ORDERS if one.key not in OF_A_LINE and one.key != "items")
_GOODS = (OF_ORDERS["sku"], OF_ORDERS["product"], OF_ORDERS["quantity"])
_FIELDS = {simplify(word): one.key for one in reversed(_OF_AN_ORDER) for word in one.words}

_APART = re.compile(r"\s{2,}|\s+[-–—·|/]\s+|[;|\t\n]|,\s")
_NAMED = re.compile(r"(?:^|(?<=\s))((?:[^\W\d_]+\.?\s){0,3}[^\W\d_]+\.?)\s*:(?!\S*//)")
"""Words with a colon behind them; not the address of a page."""
MOST_BEFORE_A_DAY = 3
"""Words."""
_HOLDS_A_FIGURE = re.compile(r"\d")
_NUMBERED = re.compile(r"([^\d#№]*[\s#№])\s*(\S*\d\S*)(.*)")
"""Words; the first that holds a figure; and what is said behind it."""
MOST_OF_A_SHORT = 3
"""Letters of a word such as *no* or *nr*."""


def told_above(table: Table, skus: Container[str]) -> Table:
    """A table whose orders stand above the rows of their goods as one with a row a line, which tells its order too;
    any other as it is. skus: of the shop, folded."""
    header = Row(int(table.rows.numbers[0]) - 1, table.header)
    first = [*table.above, header, *table.rows[:LOOKED_AT]]
    tells_words = any("number" in in_words(row.cells) for row in first)
    heads = next((row.cells for row in first if _head_goods(row.cells)), None)
    if heads is None or (heads is table.header and not tells_words):
        return table
    known = match_columns(table.header, ORDERS)
    if "quantity" in known and "number" in known:
        return table
    orders: list[_Order] = []
    if "number" in known and "number" not in in_words(table.header):
        orders = _in_a_table(table, heads)
    elif tells_words:
        orders = _in_words_above([*table.above, header, *table.rows], heads, header.number, skus)
    orders = [one for one in orders if one.lines]
    return replace(_one_row_a_line(table, heads, orders), above=(), of_orders=frozenset()) if orders else table


@dataclass(frozen=True)
class _Order:
    """told: of it, by what heads it."""

    told: dict[str, str] = field(default_factory=dict)
    lines: list[Row] = field(default_factory=list)


def _head_goods(cells: Sequence[str]) -> bool:
    """Whether cells are headings of goods and how many of each."""
    filled = [cell for cell in cells if cell.strip()]
    if any(map(begins_with_a_figure, filled)):
        return False
    known = match_columns(filled, _GOODS)
    return "quantity" in known and len(known) > 1


def _in_a_table(table: Table, heads: Sequence[str]) -> list[_Order]:
    """The orders of a table of those: its rows right above headings of goods, or that begin further left than they
    do."""
    rows, order, found = list(table.rows), _Order(), list[_Order]()
    head = [_filled(row.cells) == _filled(heads) for row in rows]
    for at, row in enumerate(rows):
        if head[at] or _is_a_sum(row):
            continue
        if _begins(row.cells) < _begins(heads) or head[at + 1 : at + 2] == [True]:
            order = _Order(dict(zip(table.header, row.cells, strict=False)))
            found.append(order)
        elif order.told:
            order.lines.append(row)
    return found


def _in_words_above(rows: Sequence[Row], heads: Sequence[str], header: int, skus: Container[str]) -> list[_Order]:
    """The orders that are told in words, as far as any are below the table's header. header: its row."""
    quantity = match_columns(list(heads), _GOODS)["quantity"][0]
    order, found, below = _Order(), list[_Order](), False
    for row in rows:
        told = {} if any(folded(cell.strip()) in skus for cell in row.cells) else in_words(row.cells)
        named = any(_NAMED.search(cell) for cell in row.cells if len(cell) <= LONGEST_TITLE)
        tells_none = (named and not begins_with_a_figure(_cell(row, quantity))) or _is_a_sum(row)
        if "number" in told:
            order, below = _Order(told), below or row.number >= header
            found.append(order)
        elif told and (named or not order.lines):
            order.told.update(told)
        elif row.number > header and not tells_none and _filled(row.cells) != _filled(heads):
            order.lines.append(row)
    return found if below else []


def _is_a_sum(row: Row) -> bool:
    return simplify("".join(_filled(row.cells)[:1])) in words_of("total")


def _filled(cells: Sequence[str]) -> list[str]:
    return [cell.strip() for cell in cells if cell.strip()]


def _begins(cells: Sequence[str]) -> int:
    """The first cell that is filled."""
    return next((at for at, cell in enumerate(cells) if cell.strip()), len(cells))


def _ends(cells: Sequence[str]) -> int:
    """Behind the last cell that is filled."""
    return len(cells) - _begins(cells[::-1])


def _cell(row: Row, at: int) -> str:
    return row.cells[at].strip() if at < len(row.cells) else ""


def _one_row_a_line(table: Table, heads: Sequence[str], orders: Sequence[_Order]) -> Table:
    """What is told of an order stands on its first line."""
    names = list(dict.fromkeys(name for one in orders for name in one.told))
    headings = [OF_ORDERS[name].label if name in OF_ORDERS else name for name in names]
    rows = [(row, one.told if at == 0 else {}) for one in orders for at, row in enumerate(one.lines)]
    width = max(map(_ends, (heads, *(row.cells for row, _ in rows))))
    told = [coded([mine.get(name, "") for _, mine in rows]) for name in names]
    lines = [coded([_cell(row, at) for row, _ in rows]) for at in range(width)]
    numbers = np.array([row.number for row, _ in rows], dtype=np.int64)
    header = [*headings, *heads[:width], *[""] * (width - len(heads))]
    return replace(table, header=header, rows=Rows(numbers, [*told, *lines], {}))


# --- an order in words


def in_words(cells: Sequence[str]) -> dict[str, str]:
    """What a row tells of an order in words, by field."""
    found: dict[str, str] = {}
    filled = [cell for cell in _filled(cells) if len(cell) <= LONGEST_TITLE]
    for cell, beside in zip(filled, [*filled, ""][1:], strict=True):
        if _is_a_name(cell):
            told = [] if _is_a_name(beside) else [(_meant(cell), beside)]
        else:
            told = [one for part in _APART.split(cell) for one in _in_a_part(part.strip())]
        for key, value in told:
            if key and value and (key != "number" or _HOLDS_A_FIGURE.search(value)):
                found.setdefault(key, value)
    return found


def _is_a_name(cell: str) -> bool:
    return cell.endswith(":") or _meant(cell) is not None


def _meant(name: str) -> str | None:
    """The field of an order that a name stands for."""
    return _FIELDS.get(simplify(name))


def _in_a_part(text: str) -> Iterator[tuple[str | None, str]]:
    """Fields and what is told of them: behind names with colons, or the number or the day of an order by itself."""
    names = [(one.start() + _before_a_name(one[1]), one.end()) for one in _NAMED.finditer(text)]
    ends = [*(begins for begins, _ in names), len(text)]
    before = text[: ends[0]].strip()
    for (begins, behind), end in zip(names, ends[1:], strict=True):
        yield _meant(text[begins:behind]), text[behind:end].strip()
    if (told := _NUMBERED.fullmatch(before)) and _is_of_an_order(told[1]):
        yield "number", told[2].strip("(),.")
        before = told[3]
    yield "date", _day_in(before)


def _before_a_name(words: str) -> int:
    """How many letters of some words stand before the name that they end with; 0 where no name is known."""
    starts = [0, *(space.end() for space in re.finditer(r"\s+", words))]
    return next((start for start in starts if _meant(words[start:])), 0)


def _is_of_an_order(words: str) -> bool:
    """Whether words are those for an order or its number, or the first of them and a short one for number."""
    *others, last = words.split() or [""]
    return _meant(words) == "number" or (
        len(simplify(last)) <= MOST_OF_A_SHORT and _meant(" ".join(others)) == "number"
    )


def _day_in(text: str) -> str:
    """The day, and the time, that a text ends with (*of 1 March 2026*); empty where it does not."""
    text = text.strip(" ()")
    starts = [0, *(space.end() for space in re.finditer(r"\s+", text))][: MOST_BEFORE_A_DAY + 1]
    return next((text[start:] for start in reversed(starts) if _is_day(text[start:])), "")


def _is_day(text: str) -> bool:
    if text.isdecimal():
        return False
    for order in ("day first", "month first"):
        with suppress(BadCellError):
            parse_moment(text, order)
            return True
    return False
