"""Order files whose cells hold lines with a name before each thing they tell, made rows of one line each.

`sku: A-1 | quantity: 2 | price: 12.50`, several one behind the other, or the same as JSON; in one column or several.
"""

import json
import re
from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from yellow_abacus.files.columns import match_columns
from yellow_abacus.files.fields import OF_ORDERS
from yellow_abacus.files.order_shapes import with_others
from yellow_abacus.files.rows import Coded, UnreadableFileError, coded
from yellow_abacus.files.tables import Table

Line = Mapping[str, str]

LOOKED_AT = 20
"""Different texts of a column, of which every one must tell lines."""
LONGEST_CELL = 100_000
"""Letters. Longer ones tell no lines."""
MOST_KEYS = 40
MOST_LINES = 1_500_000
"""As many as a file of a row a line may have."""
_TOO_MANY = UnreadableFileError(f"The file tells over {MOST_LINES:,} lines.", "Split it, and bring in the parts.")
LINE = "Line "
"""Stands before the name of each thing in the headings that come of them."""

_KEYED = re.compile(r"\s*([^\W\d][\w .-]{0,40}?)\s*[:=]\s*(.*)", re.DOTALL)
_PARTS = re.compile(r"[|;,\n]")
_SKU, _QUANTITY = OF_ORDERS["sku"], OF_ORDERS["quantity"]


def lines_in_cells(table: Table) -> Table:
    """A table whose cells hold lines with names before what they tell as one with a row a line and a column for each
    thing they tell; any other as it is. Raises UnreadableFileError."""
    places = [at for at, column in enumerate(table.rows.columns) if _holds_lines(column)]
    if not places:
        return table
    told = [_every_line(table.rows.columns[at]) for at in places]
    codes = [table.rows.columns[at].codes.tolist() for at in places]
    of_row = [
        [line for texts, mine in zip(told, codes, strict=True) for line in texts[mine[row]]] or [dict[str, str]()]
        for row in range(len(table.rows))
    ]
    many = [len(lines) for lines in of_row]
    if sum(many) > MOST_LINES:
        raise _TOO_MANY
    row = np.repeat(np.arange(len(of_row)), many)
    lines = [line for mine in of_row for line in mine]
    keys = list(dict.fromkeys(key for line in lines for key in line))[:MOST_KEYS]
    told_by_key = {f"{LINE}{key}": coded([line.get(key, "") for line in lines]) for key in keys}
    return with_others(table, places, told_by_key, row)


def _every_line(column: Coded) -> list[list[Line]]:
    """Of each text of a column. Raises UnreadableFileError."""
    found, left = [], MOST_LINES
    for text in column.texts:
        found.append(_lines(text))
        left -= len(found[-1])
        if left < 0:
            raise _TOO_MANY
    return found


def _holds_lines(column: Coded) -> bool:
    texts = [text for text in column.used if text.strip()][:LOOKED_AT]
    return bool(texts) and all(map(_tells_goods, texts))


def _tells_goods(text: str) -> bool:
    """Whether each line of a cell tells an SKU and how many of it."""
    if ":" not in text and "=" not in text:
        return False
    found = _lines(text)
    return bool(found) and all(
        match_columns(list(line), (_SKU,)) and match_columns(list(line), (_QUANTITY,)) for line in found
    )


def _lines(text: str) -> list[Line]:
    text = text.strip()
    if len(text) > LONGEST_CELL:
        return []
    return _of_json(text) if text.startswith(("[", "{")) else list(_of_names(text))


def _of_json(text: str) -> list[Line]:
    try:
        told: Any = json.loads(text)
    except (ValueError, RecursionError):
        return []
    every = told if isinstance(told, list) else [told]
    return [
        {str(key): _plain(value) for key, value in one.items() if not isinstance(value, dict | list)}
        for one in every
        if isinstance(one, dict)
    ]


def _plain(value: Any) -> str:
    return "" if value is None else str(value)


def _of_names(text: str) -> Iterator[Line]:
    """A line ends where a name comes again; what stands behind a separator without a name belongs to what is before
    it."""
    line: dict[str, str] = {}
    begins, name = 0, ""
    ends = [*(found.start() for found in _PARTS.finditer(text)), len(text)]
    for end in ends:
        part = text[begins:end]
        if told := _KEYED.fullmatch(part.lstrip("|;,\n ")):
            name = told[1]
            if name in line:
                yield line
                line = {}
            line[name] = told[2].strip()
        elif name and part.strip("|;,\n "):
            line[name] += part.rstrip()
        begins = end
    if line:
        yield line
