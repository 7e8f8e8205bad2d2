"""How orders went, as a file says it, and which of them are left out for that: cancelled, test and exchange orders
and their like, said in the column of statuses, in one beside it, or in a column of its own for that alone. Those that
were sent and refused, or not fetched, count: they were placed, and cost what sending them did.

>>> says_left_out("Cancelled by the shop"), says_left_out("Partially cancelled"), says_left_out("Paid")
(True, False, False)
>>> says_refused("Delivery failed"), says_left_out("Delivery failed"), says_refused("Payment refused")
(True, False, False)
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.coded_cells import Values
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.headings import has_words, simplify, words_of
from yellow_abacus.files.order_shapes import OF_A_ROW, first_row_of_order, without_lines
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, parse_flag
from yellow_abacus.files.words import so_many

CANCELLED = "cancelled"


@dataclass(frozen=True)
class StatusTold:
    """A status the file tells, how many orders have it, and whether they are left out."""

    status: str
    orders: int
    left_out: bool


def says_left_out(status: str) -> bool:
    """Whether a status has a word that leaves its orders out, of which none says that it is so for a part of them, or
    once they were sent."""
    return has_words(status, "left_out") and not has_words(status, "in_part") and not says_refused(status)


def says_refused(status: str) -> bool:
    """Whether a status says that an order was sent, and not taken or not fetched."""
    apart = has_words(status, "in_part") or has_words(status, "of_payment")
    return has_words(status, "refused") and not apart


def says_all_came_back(status: str) -> bool:
    """Whether a status says no more than that an order came back.

    >>> says_all_came_back("Fully refunded"), says_all_came_back("Refund requested"), says_all_came_back("Paid")
    (True, False, False)
    """
    words = set(simplify(status).split())
    return not words.isdisjoint(words_of("sent_back")) and words <= words_of("sent_back") | words_of("wholly")


def leaves_out(status: str, chosen: Sequence[str] | None) -> bool:
    """chosen: the statuses that were chosen to be left out; None where the words tell."""
    return says_left_out(status) if chosen is None else folded(status) in {folded(one) for one in chosen}


def how_many(status: Values[str], chosen: Sequence[str] | None) -> tuple[StatusTold, ...]:
    """By how many orders have them; alike but for case they are one."""
    counts = np.bincount(status.codes[status.known], minlength=len(status.values))
    found: dict[str, tuple[str, int]] = {}
    for text, count in zip(status.values, counts.tolist(), strict=True):
        name, before = found.get(folded(text), (text, 0))
        found[folded(text)] = name, before + count
    told = [StatusTold(text, count, leaves_out(text, chosen)) for text, count in found.values() if count]
    return tuple(sorted(told, key=lambda one: (-one.orders, one.status)))


def of_refused(statuses: Sequence[StatusTold]) -> list[str]:
    """How many orders were refused on the way, in words where some were."""
    refused = [one for one in statuses if not one.left_out and says_refused(one.status)]
    many = sum(one.orders for one in refused)
    if not many:
        return []
    count = "counts" if many == 1 else "count"
    return [f"{so_many(many, 'order')} {count} as refused on the way: {', '.join(one.status for one in refused)}."]


def told_once(table: Table, columns: Columns) -> tuple[Table, Columns]:
    """A table with several columns of statuses, such as that of sending beside that of paying, as one whose first
    says so where an order is left out, or was refused, for another; any other as it is.

    Where only some of an order's lines are said to be cancelled, those go; the first becomes a row of the order
    itself, without goods.
    """
    first, *others = columns.get("status", (0,))
    if not others or "number" not in columns:
        return table, columns
    columns = {**columns, "status": (first,)}
    for at in others:
        table = without_left_out(table, columns, table.rows.columns[at])
    return table, columns


def without_left_out(table: Table, columns: Columns, beside: Coded) -> Table:
    """The table without lines that a further column of statuses leaves out, and with its status for orders of which
    the first row, and no row otherwise, says so, or that they were refused."""
    out = rows_of(beside, says_left_out)
    says = out | rows_of(beside, says_refused)
    if not says.any():
        return table
    number, status = (table.rows.columns[columns[key][0]] for key in ("number", "status"))
    order = number.codes[first_row_of_order(number)]
    orders, at = np.unique(order, return_index=True)
    first = np.zeros(len(number.texts), dtype=np.int64)
    first[orders] = at
    says_otherwise = np.bincount(order[beside.filled & ~says], minlength=len(number.texts)) > 0
    whole = (says[first] & ~says_otherwise)[order]
    codes = np.where(whole, len(status.texts) + beside.codes[first[order]], status.codes)
    goes = out & ~whole if columns.keys() >= OF_A_ROW else np.zeros_like(says)
    told = Coded([*status.texts, *beside.texts], codes)
    return without_lines(replace(table, rows=table.rows.changed({columns["status"][0]: told})), columns, goes)


def rows_of(status: Coded, says: Callable[[str], bool]) -> Bools:
    """The rows of which a column of statuses says so."""
    found: Bools = np.array([*map(says, status.texts)], dtype=np.bool_)[status.codes]
    return found


def is_cancelled(text: str) -> bool:
    """Whether a cell says that an order was cancelled: by the day, or a word, unless it says no."""
    try:
        return parse_flag(text)
    except BadCellError:
        return True


def with_cancelled(status: Values[str], cancelled: Values[bool]) -> Values[Any]:
    """The status of each order, which is that it was cancelled where that is said apart."""
    is_so = np.array([*cancelled.values, False], dtype=np.bool_)[cancelled.codes]
    if not is_so.any():
        return status
    return Values([*status.values, CANCELLED], np.where(is_so, len(status.values), status.codes))
