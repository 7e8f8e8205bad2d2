"""Rows above a table, as reports have them: a title, the days it is of, a note.

>>> rows_above([["Sales"], ["March", "2027"], ["Order", "Day", "SKU", "Units"], ["1", "2027-03-01", "A", "2"]])
2
>>> rows_above([["Sale", "", "", "Goods", "", "Paid", ""], ["No", "Day", "Who", "SKU", "Units", "Price", "How"]])
1
>>> rows_above([["Order", "SKU"], ["1", "A"]])
0
"""

import re
from collections.abc import Sequence

LOOKED_AT = 20
"""So many rows that hold anything are looked at for the one that heads the table."""
MOST_FILLED = 2
"""A row above fills no more cells than this, or stands right above one that heads the table and has gaps for it; the
row that heads the table fills more, and at least twice as many as each row above it."""

_FIGURE = re.compile(r"\W*\d")


def begins_with_a_figure(cell: str) -> bool:
    """As headings do not."""
    return _FIGURE.match(cell) is not None


def rows_above(rows: Sequence[Sequence[str]]) -> int:
    """How many of a file's first rows stand above its table; 0 where none is clearly one."""
    filled = [sum(1 for cell in row if cell.strip()) for row in rows]
    for at, count in enumerate(filled):
        heads = not any(map(begins_with_a_figure, rows[at]))
        headed = (
            at + 1 < len(rows) and filled[at + 1] >= 2 * count and not any(map(begins_with_a_figure, rows[at + 1]))
        )
        if count > MOST_FILLED and not (heads and headed):
            above = max(filled[:at], default=0)
            return at if count >= 2 * above > 0 and heads else 0
    return 0
