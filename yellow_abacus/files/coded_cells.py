"""A table's cells by field, column by column: each different text is read once, and what is wrong with it told for
every row that has it.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Generic, TypeVar

import numpy as np

from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.naming import unfit
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.fields import Field
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError

Value = TypeVar("Value")
NONE = -1


@dataclass(frozen=True, eq=False)
class Values(Generic[Value]):
    """values: each different one once. codes: which of them each row has, NONE for none."""

    values: list[Value]
    codes: Ints

    @property
    def known(self) -> Bools:
        return self.codes != NONE

    def numbers(self, otherwise: int = NONE) -> Ints:
        """Whole numbers by row."""
        told = np.array([*self.values, otherwise], dtype=np.int64)
        return told[self.codes]


@dataclass(eq=False)
class CodedCells:
    """The cells of a table as some fields have them. rejected_at: the row of each cell that is, by index."""

    table: Table
    columns: Columns
    fields: Sequence[Field]
    rejected: list[Rejection] = field(default_factory=list)
    rejected_at: list[int] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._labels = {one.key: one.label for one in self.fields}
        self._longest = {one.key: one.longest for one in self.fields}

    @property
    def numbers(self) -> Ints:
        """Of the rows, as a spreadsheet has them."""
        return self.table.rows.numbers

    @property
    def is_bad(self) -> Bools:
        """The rows with anything rejected."""
        return among(self.rejected_at, len(self.table.rows))

    def has(self, key: str) -> bool:
        return bool(self.columns.get(key))

    def heading(self, key: str, which: int = 0) -> str:
        """Of its column; empty where there is none, or the file does not head it. which: of several."""
        header, at = self.table.header, self.columns.get(key, ())
        return header[at[which]] if at and at[which] < len(header) else ""

    def headings(self, key: str) -> list[str]:
        """Of all its columns."""
        return [self.heading(key, which) for which in range(len(self.columns.get(key, ())))]

    def filled(self, key: str) -> Bools:
        """The rows whose cell holds anything."""
        return self.text(key).filled

    def text(self, key: str, which: int = 0) -> Coded:
        """Each row's cell without blanks around it; empty where there is none, or one that is no text. which: of
        several columns."""
        if (key, which) not in self._texts:
            self._texts[key, which] = self._text(key, which)
        return self._texts[key, which]

    @cached_property
    def _texts(self) -> dict[tuple[str, int], Coded]:
        return {}

    @cached_property
    def _empty(self) -> Coded:
        """What a field without a column tells: one for all of those, as it takes a number a row."""
        return Coded([""], np.zeros(len(self.table.rows), dtype=np.int64))

    def _text(self, key: str, which: int) -> Coded:
        rows, at = self.table.rows, self.columns.get(key, ())
        if not at:
            return self._empty
        column = rows.columns[at[which]]
        stripped = [text.strip() for text in column.texts]
        number = {text: at for at, text in enumerate(dict.fromkeys(["", *stripped]))}
        wrong = {text: told for text in number if text and (told := unfit(text, self._longest[key]))}
        found = np.array([number["" if text in wrong else text] for text in stripped] or [0], dtype=np.int64)
        mend = "Shorten it, or write it again."
        bad = {code: (f"The cell {wrong[text]}.", mend) for code, text in enumerate(stripped) if text in wrong}
        self.reject_coded(key, column.codes, bad)
        return Coded(list(number), found[column.codes])

    def read(self, key: str, parse: Callable[[str], Value], which: int = 0) -> Values[Value]:
        """What each cell says, as `parse` reads it; one that cannot be read is rejected. which: as in `text`."""
        return self.read_coded(key, self.text(key, which), parse)

    def read_coded(self, key: str, told: Coded, parse: Callable[[str], Value]) -> Values[Value]:
        """As `read`, of cells that stand in no column of their own."""
        values: dict[Value, int] = {}
        found = np.full(len(told.texts), NONE)
        used = np.zeros(len(told.texts), dtype=np.bool_)
        used[told.codes] = True
        bad: dict[int, tuple[str, str]] = {}
        for code, text in enumerate(told.texts):
            if not text or not used[code]:
                continue
            try:
                found[code] = values.setdefault(parse(text), len(values))
            except BadCellError as error:
                bad[code] = error.message, error.mend
        self.reject_coded(key, told.codes, bad)
        return Values(list(values), found[told.codes])

    def reject(self, key: str, message: str, mend: str, rows: Ints) -> None:
        """rows: by index."""
        self._reject(key, rows, [(message, mend)] * len(rows))

    def reject_coded(self, key: str, codes: Ints, bad: dict[int, tuple[str, str]]) -> None:
        """Rows by what is wrong with the text they have: message and mend by its code."""
        if not bad:
            return
        is_bad = np.zeros(int(codes.max()) + 1, dtype=np.bool_)
        is_bad[[code for code in bad if code < len(is_bad)]] = True
        rows = np.flatnonzero(is_bad[codes])
        self._reject(key, rows, [bad[code] for code in codes[rows].tolist()])

    def _reject(self, key: str, rows: Ints, why: Sequence[tuple[str, str]]) -> None:
        """why: message and mend for each of the rows."""
        label = self._labels.get(key, key)
        self.rejected += [
            Rejection(number, label, *told) for number, told in zip(self.numbers[rows].tolist(), why, strict=True)
        ]
        self.rejected_at += rows.tolist()

    def reject_long_rows(self) -> None:
        """Rows with more cells than the header has."""
        width, mend = len(self.table.header), "Put cells that hold the separator in quotation marks."
        for row, extra in self.table.rows.extra.items():
            if any(cell.strip() for cell in extra):
                message = f"The row has {width + len(extra)} cells, the header {width}."
                self.reject("whole row", message, mend, np.array([row]))
