"""What the cells of a column can be: a heading is only believed where they can be what it says.

Columns hold each different text once, so that a file of a million rows is looked at as quickly as a small one.
"""

import re
from collections.abc import Callable, Collection, Container, Iterable, Sequence
from itertools import islice

import numpy as np

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.columns import Columns, match_columns
from yellow_abacus.files.dates import guess_date_order, parse_moment
from yellow_abacus.files.fields import OF_LINES_ALONE, OF_ORDERS_ALONE, Field
from yellow_abacus.files.headings import has_currency_sign, is_of_percentages, simplify, tells_an_amount, words_of
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import (
    BadCellError,
    are_percentages,
    are_rates,
    is_length_unit,
    is_weight_unit,
    parse_first_order,
)

MOST_LOOKED_AT = 2_000
"""Different texts of a column."""
LONGEST = 200
"""Letters of a cell that are looked at."""
HALF = 0.5
"""So many of a column's different cells are SKUs of the shop where it is one of SKUs."""
NEARLY_ALL = 0.9
"""So many of a column's different cells are days where it is one of days."""
MOST_STATUSES = 12
"""An order can have, in words of its own for each."""
MOST_TAXES = 12
"""Different cells of a column of tax."""
FEW_OF = 20
"""From so many rows on, names that many rows share are at most half as many as the rows."""

_NUMBER = re.compile(
    r"[^\w]*(?:[^\W\d_]{1,3}[^\w]*)?\d[\d .,'’\u00a0\u202f]*(?:[eE][-+]?\d+)?[^\w]*(?:[^\W\d_]{1,8}\.?)?"
)
"""With what may stand beside an amount: a sign, a currency, a unit."""
_AMOUNT = re.compile(r"\D*(?=[\d ]*[.,]\d*[1-9])[\d ]+[.,]\d{1,2}\D*")
"""One that is not whole."""
_DECIMAL = re.compile(r"[-+]?(?:[^\W\d_]{1,3}\.?)?\W{0,2}\d[\d ]*[.,]\d{2}\W{0,2}(?:[^\W\d_]{1,3}\.?)?")
_BEHIND = re.compile(r"[(\[:=]\s*[-+]?\W?\d+[.,]\d{2}\W{0,3}$")
"""An amount behind what it is of: *SUMMER10 (-5.00)*."""
_BARE = re.compile(r"[-+]?\d+(?:[.,]\d+)?")
_TAX = re.compile(r"[0-4]?\d(?:[.,]\d0*)?|50|0?[.,][0-4]\d{0,2}")
"""A rate without its sign: tax is told to a tenth of a per cent at most, or as a share of 1."""
_ORDER_NUMBER = re.compile(r"#\s?\d+|(?:[^\W\d_]{1,8}[\s./_-]?)?\d{2,}(?:[/_-]\w+)*")


class Contents:
    """The columns of a table by what their cells can be. skus: those of the shop, folded."""

    def __init__(self, table: Table, skus: Container[str] = ()) -> None:
        self._table, self._skus = table, skus

    def can_be(self, at: int, field: Field) -> bool:
        """Whether a column's cells can be a field's; where all are empty they can."""
        texts = self._texts(at)
        return not texts or self._are(at, texts, field)

    def tells(self, at: int, field: Field) -> bool:
        """The same, and some cell is filled."""
        texts = self._texts(at)
        return bool(texts) and self._are(at, texts, field)

    def may_tell_later(self, at: int, field: Field) -> bool:
        """Whether a column is empty in this file, and may be a field's in the next; none that is needed."""
        return not field.required and not self._texts(at) and self._stands_there(at, field)

    def _are(self, at: int, texts: list[str], field: Field) -> bool:
        if not self._stands_there(at, field) or not self._may_be_headed(self._table.header[at], texts, field):
            return False
        return not field.cells or _MAY_BE[field.cells](texts, self._column(at))

    def _may_be_headed(self, heading: str, texts: list[str], field: Field) -> bool:
        """Whether a heading and its cells do not tell percentages where a field is of money, or money where it is of
        percentages."""
        match field.cells:
            case "percent":
                return are_rates(heading, texts)
            case "rate":
                return is_of_percentages(heading) or not tells_an_amount(heading)
            case "money" | "no rates":
                return not are_percentages(heading, texts)
        return True

    def _stands_there(self, at: int, field: Field) -> bool:
        """Whether a table that is made of one of orders and one of their lines may tell a field in a column: of lines
        in one of theirs, and of orders in one of theirs where there is one."""
        of_orders = self._table.of_orders
        if at in of_orders:
            return field.key not in OF_LINES_ALONE
        return not of_orders or field.key not in self._told_of_orders

    @cached_property
    def _told_of_orders(self) -> Collection[str]:
        """Fields that columns of orders tell."""
        of_orders = sorted(self._table.of_orders)

        def can_be(place: int, field: Field) -> bool:
            return self.tells(of_orders[place], field)

        return match_columns([self._table.header[at] for at in of_orders], OF_ORDERS_ALONE, can_be=can_be).keys()

    def share_of_skus(self, at: int) -> float:
        """The share of a column's different texts that are SKUs of the shop."""
        texts = self._texts(at)
        return float(np.mean([folded(text) in self._skus for text in texts])) if texts else 0.0

    def most_skus(self, columns: Iterable[int]) -> tuple[float, int]:
        """The greatest share of SKUs in some columns, and the first of them that has it; of no column 0, and any."""
        share, at = max(((self.share_of_skus(at), -at) for at in columns), default=(0.0, 0))
        return share, -at

    def parts_orders(self, free: Sequence[int], date: int | None) -> int | None:
        """The column that numbers orders, where one can be told from its cells alone: all filled, numbered, those of
        an order together and on one day. Of several that with the fewest orders; None where none parts the rows."""
        found = [(many, at) for at in free if (many := self._orders_by(at, date))]
        return min(found)[1] if found else None

    def _orders_by(self, at: int, date: int | None) -> int:
        """How many orders there are where a column numbers them; 0 where it cannot."""
        column = self._column(at)
        if not column.filled.all() or not all(map(_ORDER_NUMBER.fullmatch, self._texts(at))):
            return 0
        begins = np.flatnonzero(np.diff(column.codes, prepend=-1))
        many = len(np.unique(column.codes))
        named = all(text.startswith("#") for text in self._texts(at))
        if len(begins) != many or many < 2 or (many == len(column) and not named):
            return 0
        if date is not None:
            day = self._column(date)
            here = np.flatnonzero(day.filled)
            of_order = column.codes[here]
            both = np.unique(of_order * len(day.texts) + day.codes[here])
            if len(both) != len(np.unique(of_order)):
                return 0
        return many

    def only_days(self, free: Iterable[int]) -> int | None:
        """The one column whose cells are days, or moments, as nobody writes anything else; None where none or several
        are."""
        return self._only(free, _are_days)

    def only_statuses(self, free: Iterable[int]) -> int | None:
        """The one column of few different cells of which some leaves its order out, or says it was refused, and none
        that goods came back; None where none or several are."""
        return self._only(free, _are_statuses)

    def _only(self, free: Iterable[int], are: Callable[[Sequence[str]], bool]) -> int | None:
        """The one column whose texts are such; None where none or several are."""
        found = [at for at in free if are(self._texts(at))]
        return found[0] if len(found) == 1 else None

    def _column(self, at: int) -> Coded:
        return self._table.rows.columns[at]

    def _texts(self, at: int) -> list[str]:
        filled = (bare for text in self._column(at).used if (bare := text.strip()[:LONGEST]))
        return list(islice(filled, MOST_LOOKED_AT))


def columns_that_tell(table: Table, fields: tuple[Field, ...]) -> Columns:
    """The column that answers to each field, if its cells are what that has: no heading is believed against them."""
    own, contents = {one.key: one for one in fields}, Contents(table)
    return match_columns(table.header, fields, can_be=lambda at, field: contents.tells(at, own[field.key]))


def _are_numbers(texts: Sequence[str], _column: Coded) -> bool:
    return sum(_NUMBER.fullmatch(text) is not None for text in texts) * 2 >= len(texts)


def _are_anything(_texts: Sequence[str], _column: Coded) -> bool:
    return True


def _are_counts(texts: Sequence[str], _column: Coded) -> bool:
    return all(
        _NUMBER.fullmatch(text) and not _AMOUNT.fullmatch(text) and not has_currency_sign(text) for text in texts
    )


def _are_dates(texts: Sequence[str], _column: Coded) -> bool:
    return sum(any(map(str.isdigit, text)) for text in texts) * 2 >= len(texts)


def _are_days(texts: Sequence[str]) -> bool:
    return bool(texts) and sum(map(_is_day, texts)) >= NEARLY_ALL * len(texts)


def _are_statuses(texts: Sequence[str]) -> bool:
    if len(texts) > MOST_STATUSES:
        return False
    told = frozenset(map(simplify, texts))
    return told.isdisjoint(words_of("sent_back")) and not told.isdisjoint(words_of("left_out") | words_of("refused"))


def _is_day(text: str) -> bool:
    if _BARE.fullmatch(text):  # it might be any number
        return False
    try:
        parse_moment(text, guess_date_order([text]))
    except BadCellError:
        return False
    return True


def _are_names(texts: Sequence[str], _column: Coded) -> bool:
    return sum(_BARE.fullmatch(text) is None for text in texts) * 2 > len(texts)


def _are_categories(texts: Sequence[str], _column: Coded) -> bool:
    """What goods may be put in, rather than whether they are products, variants or simple."""
    return not words_of("kinds_of_goods").issuperset(map(simplify, texts))


def _are_codes(texts: Sequence[str], column: Coded) -> bool:
    behind = sum(_BEHIND.search(text) is not None for text in texts) * 2 > len(texts)
    return _are_names(texts, column) and _are_no_decimals(texts, column) and not behind


def _are_few(texts: Sequence[str], column: Coded) -> bool:
    return _are_not_amounts(texts, column) and _are_no_decimals(texts, column) and _are_shared(column)


def _are_shared(column: Coded) -> bool:
    """Whether many rows have the same cells, or there are few rows."""
    filled = int(column.filled.sum())
    return filled < FEW_OF or len(column.used) * 2 <= filled


def _are_not_amounts(texts: Sequence[str], _column: Coded) -> bool:
    return sum(_AMOUNT.fullmatch(text) is not None for text in texts) * 2 <= len(texts)


def _are_no_decimals(texts: Sequence[str], _column: Coded) -> bool:
    return sum(_DECIMAL.fullmatch(text) is not None for text in texts) * 2 <= len(texts)


def _are_flags(texts: Sequence[str], _column: Coded) -> bool:
    return sum(map(_is_flag, texts)) * 2 >= len(texts)


def _is_flag(text: str) -> bool:
    try:
        parse_first_order(text)
    except BadCellError:
        return False
    return True


def _are_taxes(texts: Sequence[str], column: Coded) -> bool:
    """Rates, names of classes, or whether goods are taxed: few, and no amounts."""
    return (
        _are_shared(column) and len(texts) <= MOST_TAXES and all(map(_TAX.fullmatch, filter(_BARE.fullmatch, texts)))
    )


def _are_units(texts: Sequence[str], _column: Coded) -> bool:
    return all(map(is_weight_unit, texts))


def _are_units_of_length(texts: Sequence[str], _column: Coded) -> bool:
    return all(map(is_length_unit, texts))


_MAY_BE = {
    "unit": _are_units,
    "unit of length": _are_units_of_length,
    "number": _are_numbers,
    "percent": _are_numbers,
    "money": _are_numbers,
    "no rates": _are_anything,
    "rate": _are_anything,
    "count": _are_counts,
    "date": _are_dates,
    "name": _are_names,
    "list": _are_names,
    "categories": _are_categories,
    "code": _are_codes,
    "few": _are_few,
    "id": _are_not_amounts,
    "no decimals": _are_no_decimals,
    "flag": _are_flags,
    "tax": _are_taxes,
}
