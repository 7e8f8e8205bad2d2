"""The currency of amounts, where it is told beside them or in their heading: *$12.00*, *Price (USD)*."""

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.goods.records import COSTS, PRICES
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.order_shapes import with_column
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, currency_beside, currency_meant, is_currency, is_currency_sign

AMOUNTS_OF_ORDERS = (
    *("unit_price", "paid_price", "line_asked", "line_total"),
    *("delivery_paid", "order_discount", "line_discount", "refunded"),
)
COSTS_OF_ORDERS = {"delivery_cost": "What carriers asked", "payment_cost": "What being paid cost"}
PRICES_OF_GOODS = (*PRICES, "was_price")
AMOUNTS_OF_GOODS = (*PRICES_OF_GOODS, *COSTS, "case_cost")
LISTS_OF_AMOUNTS = ("quantity_prices", "group_prices")
"""Several in a cell, each behind a colon."""
AMOUNTS_OF_DELIVERY = ("price", "per_kilogram", "charge", "free_from", "from_value", "amount")
TRADED = frozenset(
    [
        *("usd", "eur", "gbp", "jpy", "cny", "chf", "aud", "nzd", "sgd", "hkd", "krw", "inr", "brl", "mxn"),
        *("sek", "nok", "dkk", "isk", "pln", "czk", "huf", "ron", "bgn", "uah", "zar", "ils", "aed"),
    ]
)
"""Currencies that are known in small letters too; others have the letters of words (*all*, *cad.*, *try*)."""
AND = " and "
OTHER_WORDS = frozenset(["ALL", "STD", "TOP", "VAL"])
"""Letters of currencies that are words in capitals."""
_WORD = re.compile(r"[^\W\d_]*[^\w\s()\[\].,:/-]+|[^\W\d_]+")


def currency_headed(heading: str, home: str) -> str:
    """The currency a heading says that amounts are in; empty where it says none, or several.

    >>> [currency_headed(one, "EUR") for one in ("Price (USD)", "total_usd", "Price €/£", "TOTAL ALL", "Price [kr]")]
    ['USD', 'USD', '', '', 'KR']
    """
    meant = {currency_meant(one, home) for one in _WORD.findall(heading) if _is_told(one, heading)}
    return meant.pop() if len(meant) == 1 else ""


def _is_told(word: str, heading: str) -> bool:
    """Whether a word of a heading is a currency, and no other word."""
    if is_currency(word.upper()):
        stands_out = not (heading.isupper() or word in OTHER_WORDS) or f"({word})" in heading
        return word.casefold() in TRADED or (word.isupper() and stands_out)
    return is_currency_sign(word) and (not word.isalpha() or re.search(rf"[(\[]{word}\.?[)\]]", heading) is not None)


def with_currencies(table: Table, columns: Columns, home: str) -> tuple[Table, Columns]:
    """An order file that tells another currency than the shop's beside its amounts, as one with a column of
    currencies; any other as it is."""
    if "currency" in columns:
        return table, columns
    told = [_of_column(table, at, home) for at in _places(columns, AMOUNTS_OF_ORDERS)]
    if all(set(one.used) <= {"", home} for one in told):
        return table, columns
    return with_column(table, columns, "currency", _first_told(told))


def without_foreign_costs(table: Table, columns: Columns, home: str) -> tuple[Columns, list[str]]:
    """The columns of an order file less what orders cost in another currency than the shop's; and that in words."""
    left, says = dict(columns), list[str]()
    for key, what in COSTS_OF_ORDERS.items():
        told = {one for at in columns.get(key, ()) for one in _of_column(table, at, home).used} - {"", home}
        if told:
            del left[key]
            says.append(f"{what} is told in {AND.join(sorted(told))}, and left out: it is taken in {home}.")
    return left, says


@dataclass(frozen=True)
class ForeignAmounts:
    """Of a file of goods, tariffs, charges or surcharges, those in another currency than the shop's, `home`.

    columns: of what field each column with some is, where it is, and the currency of each such text. rates: what one
    unit of a currency is in the shop's, as it was told.
    """

    home: str
    columns: Sequence[tuple[str, int, Mapping[str, str]]]
    rates: Mapping[str, float]

    @property
    def currencies(self) -> tuple[str, ...]:
        return tuple(sorted({one for key, _, told in self.columns if can_be_converted(key) for one in told.values()}))

    def rate(self, key: str, currency: str) -> float | None:
        """What one unit is in the shop's; None where that is not told, or of lists of amounts."""
        return self.rates.get(currency) if can_be_converted(key) else None


def can_be_converted(key: str) -> bool:
    return key not in LISTS_OF_AMOUNTS


def foreign_amounts(table: Table, columns: Columns, home: str, rates: Iterable[tuple[str, float]]) -> ForeignAmounts:
    """rates: what one unit of some currencies is in the shop's."""
    return ForeignAmounts(home, list(_foreign_columns(table, columns, home)), dict(rates))


def _foreign_columns(table: Table, columns: Columns, home: str) -> Iterator[tuple[str, int, Mapping[str, str]]]:
    for key in (*AMOUNTS_OF_GOODS, *LISTS_OF_AMOUNTS, *AMOUNTS_OF_DELIVERY):
        for at in columns.get(key, ()):
            told = zip(table.rows.columns[at].texts, _of_texts(table, at, home), strict=True)
            if foreign := {text: one for text, one in told if one not in ("", home)}:
                yield key, at, foreign


def only_currency(table: Table, columns: Columns, home: str) -> str:
    """The one currency of a goods file's prices, or of its costs where those tell none; empty where they tell none,
    or several, or one that may be many."""
    for keys in (PRICES_OF_GOODS, AMOUNTS_OF_GOODS):
        told = {one for at in _places(columns, keys) for one in _of_column(table, at, home).used} - {""}
        if told:
            return told.pop() if len(told) == 1 and all(map(is_currency, told)) else ""
    return ""


def _places(columns: Columns, keys: Iterable[str]) -> list[int]:
    return [at for key in keys for at in columns.get(key, ())]


def _of_column(table: Table, at: int, home: str) -> Coded:
    """The currency of each cell: that beside its amount, or else that of its heading; empty where there is none."""
    kinds = coded(_of_texts(table, at, home))
    return Coded(kinds.texts, kinds.codes[table.rows.columns[at].codes])


def _of_texts(table: Table, at: int, home: str) -> list[str]:
    """The same of each different text of a column."""
    headed = currency_headed(table.header[at], home) if at < len(table.header) else ""
    texts = table.rows.columns[at].texts
    return [(_beside(text, home) or headed) if text.strip() else "" for text in texts]


def _beside(text: str, home: str) -> str:
    """The currency of a cell's amount; of several, the first that is another than the shop's."""
    amounts = [part.rpartition(":")[2] for part in text.split(";")] if ":" in text else [text]
    told = [one for amount in amounts if (one := currency_beside(amount.strip(), home))]
    return next((one for one in told if one != home), told[0] if told else "")


def _first_told(told: Sequence[Coded]) -> Coded:
    """Of each row what the first column tells, and the others where they tell another: `only_one` refuses those."""
    each = [np.array(one.texts, dtype=object)[one.codes] for one in told]
    return coded([AND.join(dict.fromkeys(filter(None, row))) for row in zip(*each, strict=True)])


def only_one(text: str, home: str) -> str:
    """The currency a cell tells, as `currency_meant`. Raises BadCellError where its row has amounts in several."""
    if AND in text:
        message = f"The amounts of the row are in {text}."
        raise BadCellError(message, "Leave out the columns of all currencies but one.")
    return currency_meant(text, home)
