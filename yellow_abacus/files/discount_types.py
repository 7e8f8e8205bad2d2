"""Discounts in orders that a column beside them calls percentages or amounts: *Discount type*, with *percentage* and
*fixed* in its cells.

>>> from yellow_abacus.files.tables import read_table
>>> header = "order,day,sku,units,price,discount,discount type"
>>> rows = ("1,2027-03-01,POT,1,19.90,10,percentage", "2,2027-03-01,POT,2,19.90,5,fixed")
>>> table = with_rates_marked(read_table("\\n".join((header, *rows)).encode()))
>>> [row.cells[5] for row in table.rows], table.says
(['10%', '5'], ('What is told in “discount” is a percentage where “discount type” says so.',))
"""

from dataclasses import replace
from typing import Literal

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.files.amounts_told import A_CENT, MOST, AmountsTold
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.contents import columns_that_tell
from yellow_abacus.files.fields import ORDERS
from yellow_abacus.files.headings import says_percent, tells_an_amount
from yellow_abacus.files.reading import decimal_mark_of
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.totals_told import DISCOUNTS
from yellow_abacus.files.values import are_rates

MOST_PERCENT = 100
MOST_TYPES = 8
"""Different cells of a column of types."""


def with_rates_marked(table: Table) -> Table:
    """The table with a sign behind the discounts that a column says to be percentages; as it is where none does, or
    where those can be what percentages came to."""
    types = [at for at in range(len(table.header)) if _are_types(table.rows.columns[at])]
    if not types:
        return table
    columns = columns_that_tell(table, ORDERS)
    free = set(free_columns(table.header, columns))
    types = [at for at in types if at in free]
    for key in sorted(DISCOUNTS):
        for at in columns.get(key, ()):
            header, texts = table.header[at], table.rows.columns[at].used
            if types and not tells_an_amount(header) and not are_rates(header, texts):
                table = _marked(table, columns, key, at, min(types, key=lambda one: abs(one - at)))
    return table


def _are_types(column: Coded) -> bool:
    used = column.used
    return len(used) <= MOST_TYPES and any(map(says_percent, used)) and not any(map(_has_digits, used))


def _has_digits(text: str) -> bool:
    return any(map(str.isdigit, text))


def _marked(table: Table, columns: Columns, key: str, at: int, types: int) -> Table:
    """types: the column that tells what those in column `at` are."""
    type_of, told = table.rows.columns[types], table.rows.columns[at]
    percent = np.array([says_percent(text) for text in type_of.texts], dtype=np.bool_)[type_of.codes]
    some = percent & told.filled
    may_be = _may_be(table, columns, key, at, some)
    if "rates" not in may_be:
        return table
    heading, says_so = table.header[at], table.header[types]
    if "amounts" in may_be:
        says = (
            f"“{heading}” is read as amounts, though “{says_so}” calls some percentages: write 10 % where it is one."
        )
        return replace(table, says=(*table.says, says))
    texts = [*told.texts, *(f"{text.strip()}%" for text in told.texts)]
    marked = Coded(texts, np.where(some, told.codes + len(told.texts), told.codes))
    says = f"What is told in “{heading}” is a percentage where “{says_so}” says so."
    return replace(table, rows=table.rows.changed({at: marked}), says=(*table.says, says))


def _may_be(table: Table, columns: Columns, key: str, at: int, some: Bools) -> set[Literal["rates", "amounts"]]:
    """What the discounts that some rows tell can be: rates are whole or half percentages, and amounts nearly all
    whole ones of what they came off, where a column calls them percentages."""
    amounts = AmountsTold(table, columns, decimal_mark_of(table, columns))
    off, asked = amounts.taken_off(at), np.nan_to_num(amounts.asked)
    if key == "order_discount" and "number" in columns:
        asked = amounts.by_order(asked)[amounts.orders[0]]
    here = some[: len(off)] & (off > 0)
    told, of = off[here], asked[here]
    found = set[Literal["rates", "amounts"]]()
    if len(told) and (told <= MOST_PERCENT).all() and (told * 2 % 1 == 0).all():
        found.add("rates")
    rate = np.rint(100 * told / np.maximum(of, A_CENT)) / 100
    if len(told) and ((np.abs(rate * of - told) <= A_CENT) & (rate <= 1)).mean() >= MOST:
        found.add("amounts")
    return found
