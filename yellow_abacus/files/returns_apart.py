"""Units sent back, told in a table of their own, put beside the lines they were of.

>>> from yellow_abacus.files.tables import read_tables
>>> (orders,) = read_tables(b"order,day,SKU,units\\n1,2027-03-01,POT,1\\n1,2027-03-01,FERN,2\\n2,2027-03-02,POT,1\\n")
>>> (back,) = read_tables(b"order,SKU,units,status\\n1,fern,2,received\\n2,POT,1,rejected\\n", "returns")
>>> both = with_returns(orders, back)
>>> both.header[-1], [row.cells[-1] for row in both.rows], both.says[0]
('Units sent back', ['', '2', ''], 'What returns tells of units sent back goes with their lines, by order and SKU.')
"""

import re
from collections import Counter, defaultdict
from collections.abc import Mapping

import numpy as np

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, answering
from yellow_abacus.files.contents import NEARLY_ALL, columns_that_tell
from yellow_abacus.files.facts_apart import added_up, headed_in_full, left_out, of_each_order, whose
from yellow_abacus.files.fields import OF_ORDERS, ORDERS
from yellow_abacus.files.headings import is_called
from yellow_abacus.files.rows import Coded, Codes, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.words import so_many

_RETURNED, _REFUNDED = OF_ORDERS["returned"], OF_ORDERS["refunded"]
UNITS = ("returned", "quantity")
NAMES = ("product", "variant")
_UNITS = re.compile(r"[-−]?(\d{1,7})(?:[.,]0+)?")


def with_returns(orders: Table, back: Table) -> Table | None:
    """A table of orders with what another tells of units sent back, and of money given back for them. None where it
    tells of none, or not of the goods of these orders, or they tell it themselves."""
    theirs = columns_that_tell(headed_in_full(back), ORDERS)
    if not ("returned" in theirs or is_called(back.name, "sent_back")):
        return None
    told = columns_that_tell(orders, ORDERS)
    if "returned" in told:
        return None
    goods = ("sku",) if "sku" in told and "sku" in theirs else tuple(key for key in NAMES if key in told)
    units = _units(back, theirs)
    if not goods or not theirs.keys() >= {*goods} or units is None or (of := whose(orders, back, told)) is None:
        return None
    counts = (of.row >= 0) & ~left_out(back, theirs) & (units > 0)
    sent_back = Counter[tuple[int, str]]()
    of_goods = zip(of.row[counts].tolist(), _names(back, theirs, goods, np.flatnonzero(counts)), strict=True)
    for key, many in zip(of_goods, units[counts].tolist(), strict=True):
        sent_back[key] += many
    lines = _lines(orders, told, goods, of.row[counts])
    lacking = sum(key not in lines for key in sent_back)
    if not sent_back or lacking > (1 - NEARLY_ALL) * len(sent_back):
        return None
    beside = [(_RETURNED.label, _beside_lines(sent_back, lines, len(orders.rows)))]
    if "refunded" in theirs and "refunded" not in told:
        money = added_up(orders, of, back, theirs["refunded"][0], counts)
        beside += [(_REFUNDED.label, money)] if money is not None else []
    named = back.header[theirs[goods[0]][0]]
    says = [
        f"What {back.name} tells of units sent back goes with their lines, by {of.heading} and {named}.",
        *of.of_none(back),
    ]
    if lacking:
        says.append(f"{so_many(lacking, 'time')} it tells of goods that their order does not have.")
    return orders.with_beside(beside, *says, of_lines=1)


def _beside_lines(
    sent_back: Mapping[tuple[int, str], int], lines: Mapping[tuple[int, str], list[int]], rows: int
) -> Coded:
    """Lines of the same goods of an order share what came back of those."""
    texts = [""] * rows
    for key, many in sent_back.items():
        at = lines.get(key, [])
        for place, line in enumerate(at):
            texts[line] = str(many // len(at) + (place < many % len(at)))
    return coded(texts)


def _units(back: Table, theirs: Columns) -> Codes | None:
    """Units that came back, by row: one each where no column tells how many; None where that is no number."""
    key = next((key for key in UNITS if key in theirs), None)
    if key is None:
        headed = any(answering(back.header, OF_ORDERS[one]) for one in UNITS)
        return None if headed else np.ones(len(back.rows), dtype=np.int64)
    column = back.rows.columns[theirs[key][0]]
    found = [_UNITS.fullmatch(text.strip() or "0") for text in column.texts]
    if not all(one or not used for one, used in zip(found, column.is_used.tolist(), strict=True)):
        return None
    return np.array([int(one[1]) if one else 0 for one in found], dtype=np.int64)[column.codes]


def _names(table: Table, columns: Columns, goods: tuple[str, ...], rows: Codes) -> list[str]:
    """What rows tell of their goods, folded."""
    each = list[list[str]]()
    for column in (table.rows.columns[columns[key][0]] for key in goods):
        texts = [folded(text.strip()) for text in column.texts]
        each.append([texts[code] for code in column.codes[rows].tolist()])
    return ["\n".join(names) for names in zip(*each, strict=True)]


def _lines(
    orders: Table, told: Columns, goods: tuple[str, ...], concerned: Codes
) -> dict[tuple[int, str], list[int]]:
    """The lines of some orders, told by their first row, by that and their goods."""
    first = of_each_order(orders, told)
    rows = np.flatnonzero(np.isin(first, concerned))
    found = defaultdict[tuple[int, str], list[int]](list)
    for order, name, row in zip(first[rows].tolist(), _names(orders, told, goods, rows), rows.tolist(), strict=True):
        found[order, name].append(row)
    return found
