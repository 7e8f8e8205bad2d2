"""What reading a goods file and reading an order file have in common: cells by field, and collected rejections."""

from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import floor
from typing import Any, TypeVar

from yellow_abacus.core.goods.records import COST_PARTS
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.ground.naming import LONGEST_TITLE
from yellow_abacus.files.coded_cells import CodedCells
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import ForeignAmounts, can_be_converted
from yellow_abacus.files.dates import guess_date_order
from yellow_abacus.files.fields import Field
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, DecimalMark, Reading, Taxed, guess_decimal_mark
from yellow_abacus.files.with_tax import taxed_by

Value = TypeVar("Value")
Progress = Callable[[float], None]

NUMBER_FIELDS = (
    *("list_price", "going_price", "reduced_price", "least_advertised", *COST_PARTS),
    *("paid_price", "line_asked", "line_total", "line_discount", "order_discount"),
    *("order_total", "delivery_paid", "delivery_cost", "payment_cost", "refunded", "rate"),
    *("assembly_cost", "unit_price", "weight", "length", "width", "height", "quantity", "stock"),
    *("price", "upto", "per_kilogram", "charge", "from_value", "free_from", "amount"),
)
PRICES_OF_ORDERS = ("unit_price", "paid_price", "line_asked", "line_total")
WHERE_CHOSEN = "The shop's own currency is chosen at Delivery, The whole shop."
DATE_FIELDS = ("date", "reduced_from", "reduced_to")


@dataclass
class Cells:
    """One row's cells by field key. A cell that cannot be read becomes a rejection and reads as None.

    number: of the row, as a spreadsheet has it. at: the same by index. told: each row's text of the fields that have
    a column. known: what was read of fields, their texts and the units beside them, which all rows share: each is
    parsed once. rates: of fields and their texts that are in another currency, what one unit is in the shop's.
    """

    number: int
    at: int
    told: Mapping[str, Sequence[str]]
    labels: Mapping[str, str]
    known: dict[tuple[str, str, str], Any]
    rates: Mapping[tuple[str, str], float]
    rejected: list[Rejection]

    def text(self, key: str) -> str:
        told = self.told.get(key)
        return "" if told is None else told[self.at]

    def read(self, key: str, parse: Callable[[str], Value], unit: str = "") -> Value | None:
        """The parsed cell; None where it is empty or unreadable. unit: that the row tells for it, by which `parse`
        reads it."""
        text = self.text(key)
        if not text:
            return None
        found: Value | None = self.known.get((key, text, unit))
        if found is None:
            try:
                told: Any = parse(text)
                rate = self.rates.get((key, text))
                found = self.known[key, text, unit] = told if rate is None else in_the_shops(told, rate)
            except BadCellError as error:
                self.reject(key, error.message, error.mend)
        return found

    def reject(self, key: str, message: str, mend: str) -> None:
        self.rejected.append(Rejection(self.number, self.labels.get(key, key), message, mend))


def in_the_shops(amount: Any, rate: float) -> Any:
    """An amount in another currency, in the shop's: prices, which are whole, to a minor unit, costs to a hundredth
    of one. Raises BadCellError."""
    if amount * rate > LARGEST_CART:
        raise BadCellError("At this rate it is more than any amount can be.", "Check the rate.")
    return floor(amount * rate + 0.5) if isinstance(amount, int) else round(amount * rate, 2)


def cells_by_row(table: Table, columns: Columns, fields: Sequence[Field], foreign: ForeignAmounts) -> Iterator[Cells]:
    """The cells of each row; those in a currency whose rate is not told are rejected."""
    cells = CodedCells(table, columns, fields)
    between = {one.key: ", " if one.longest == LONGEST_TITLE else "; " for one in fields}
    told = {
        key: _by_row([cells.text(key, which) for which in range(len(some))], between[key])
        for key, some in columns.items()
        if some
    }
    _reject_foreign(cells, foreign)
    cells.reject_long_rows()
    rejected = defaultdict[int, list[Rejection]](list)
    for at, one in zip(cells.rejected_at, cells.rejected, strict=True):
        rejected[at].append(one)
    rates = {
        (key, text.strip()): rate
        for key, _, of_text in foreign.columns
        for text, currency in of_text.items()
        if (rate := foreign.rate(key, currency)) is not None
    }
    labels, known = {one.key: one.label for one in fields}, dict[tuple[str, str, str], Any]()
    for at, number in enumerate(cells.numbers.tolist()):
        yield Cells(number, at, told, labels, known, rates, rejected.get(at, []))


def _by_row(columns: Sequence[Coded], between: str) -> list[str]:
    """The text of each row; what several columns tell as one, with something between them."""
    each = [column.cells for column in columns]
    return each[0] if len(each) == 1 else [between.join(filter(None, told)) for told in zip(*each, strict=True)]


def _reject_foreign(cells: CodedCells, foreign: ForeignAmounts) -> None:
    """Rows with an amount in a currency whose rate is not told."""
    for key, at, of_text in foreign.columns:
        column = cells.text(key, cells.columns[key].index(at))
        currencies = {text.strip(): one for text, one in of_text.items() if foreign.rate(key, one) is None}
        bad = dict[int, tuple[str, str]]()
        for code, text in enumerate(column.texts):
            if one := currencies.get(text):
                say = f"Say what one {one} is in {foreign.home}, or write" if can_be_converted(key) else "Write"
                message = f"“{text}” is in {one}, and the shop counts in {foreign.home}."
                bad[code] = message, f"{say} it in {foreign.home}. {WHERE_CHOSEN}"
        cells.reject_coded(key, column.codes, bad)


def guess_reading(table: Table, columns: Columns) -> Reading:
    """How the file's numbers and dates are read, from all that its cells say."""
    return Reading(
        decimal_mark=decimal_mark_of(table, columns),
        date_order=guess_date_order(_texts(table, columns, DATE_FIELDS)),
        taxed=_guess_taxed(table, columns),
    )


def decimal_mark_of(table: Table, columns: Columns) -> DecimalMark:
    return guess_decimal_mark(_texts(table, columns, NUMBER_FIELDS), table.separator)


def _texts(table: Table, columns: Columns, keys: Sequence[str]) -> list[str]:
    wanted = [at for key in keys for at in columns.get(key, ())]
    return [text.strip() for at in wanted for text in table.rows.columns[at].texts]


def _guess_taxed(table: Table, columns: Columns) -> Taxed:
    """Whether prices of orders, list prices of goods, or charges are with tax, where their headings say so."""
    keys = (*PRICES_OF_ORDERS, "list_price", "price", "per_kilogram", "charge", "amount")
    return taxed_by([table.header[at] for key in keys for at in columns.get(key, ())])
