"""What every kind of table is read into: numbered rows of text cells, held in columns of coded texts.

A column keeps each different text once and a number for each row: a million rows take little room, and whatever is
found of a text, such as the amount it stands for, is found once.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import compress
from typing import overload

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.naming import folded

Codes = NDArray[np.int64]
ROWS_AT_ONCE = 20_000
NEARLY_ALL = 0.9
"""So many of its rows a column fills at least that tells them apart."""


class UnreadableFileError(Exception):
    """The file cannot be read at all. message: what is wrong. mend: what to do. row: where, if known."""

    def __init__(self, message: str, mend: str, row: int | None = None) -> None:
        super().__init__(f"{message} {mend}")
        self.message, self.mend, self.row = message, mend, row


@dataclass(frozen=True)
class Row:
    """number: as a spreadsheet would number it, the header being 1."""

    number: int
    cells: list[str]


@dataclass(frozen=True, eq=False)
class Coded:
    """A column: each different text once, and which of them each row has."""

    texts: list[str]
    codes: Codes

    def __len__(self) -> int:
        return len(self.codes)

    @property
    def cells(self) -> list[str]:
        """The text of each row."""
        return list(map(self.texts.__getitem__, self.codes.tolist()))

    def rows(self, at: Codes) -> "Coded":
        return Coded(self.texts, self.codes[at])

    @property
    def is_used(self) -> NDArray[np.bool_]:
        """Whether some row has each of the texts."""
        return among(self.codes, len(self.texts))

    @property
    def used(self) -> list[str]:
        """The texts that some row has."""
        return list(compress(self.texts, self.is_used))

    @property
    def filled(self) -> NDArray[np.bool_]:
        """The rows whose cell holds anything."""
        filled: NDArray[np.bool_] = np.array([bool(one.strip()) for one in self.texts], dtype=np.bool_)[self.codes]
        return filled


def emptied(column: Coded, rows: NDArray[np.bool_]) -> Coded:
    """The column with nothing in some rows."""
    return Coded([*column.texts, ""], np.where(rows, len(column.texts), column.codes)) if rows.any() else column


def coded(texts: Sequence[str]) -> Coded:
    numbers = _Numbers()
    codes = np.fromiter(map(numbers.__getitem__, texts), dtype=np.int64, count=len(texts))
    return Coded(list(numbers), codes)


def one_below(column: Coded, other: Coded) -> Coded:
    """The rows of another column below those of one."""
    known = _Numbers()
    codes = [np.array([known[text] for text in one.texts], dtype=np.int64)[one.codes] for one in (column, other)]
    return Coded(list(known), np.concatenate(codes))


def row_of_each(column: Coded, bare: Callable[[str], str] = folded) -> dict[str, int]:
    """The row that has each text of a column that tells nearly all rows apart; none where it does not. bare: how
    texts are compared."""
    if len(column.used) < NEARLY_ALL * len(column):
        return {}
    filled = np.flatnonzero(column.filled)
    texts = [bare(column.texts[code].strip()) for code in column.codes[filled].tolist()]
    rows = dict(zip(texts, filled.tolist(), strict=True))
    return rows if len(rows) == len(texts) >= NEARLY_ALL * len(column) else {}


def found_in(column: Coded, rows: Mapping[str, int], bare: Callable[[str], str] = folded) -> Codes:
    """What each row's text stands for among some, -1 for none. rows, bare: as in `row_of_each`."""
    found = np.array([rows.get(bare(text.strip()), -1) for text in column.texts], dtype=np.int64)
    return found[column.codes]


class _Numbers(dict[str, int]):
    """The number of each text, in the order they are met."""

    def __missing__(self, text: str) -> int:
        number = self[text] = len(self)
        return number


class Rows(Sequence[Row]):
    """Rows in columns. numbers: of each row. extra: cells of rows that have more than the header, by index."""

    def __init__(self, numbers: Codes, columns: list[Coded], extra: dict[int, list[str]]) -> None:
        self.numbers, self.columns, self.extra = numbers, columns, extra

    def __len__(self) -> int:
        return len(self.numbers)

    def some(self, at: Codes) -> "Rows":
        """Some of the rows, each once, by index."""
        place = {row: number for number, row in enumerate(at.tolist())} if self.extra else {}
        extra = {place[row]: cells for row, cells in self.extra.items() if row in place}
        return Rows(self.numbers[at], [one.rows(at) for one in self.columns], extra)

    def changed(self, columns: Mapping[int, Coded]) -> "Rows":
        """The rows with other columns in some places."""
        every = [columns.get(place, column) for place, column in enumerate(self.columns)]
        return Rows(self.numbers, every, self.extra)

    @overload
    def __getitem__(self, at: int) -> Row: ...
    @overload
    def __getitem__(self, at: slice) -> list[Row]: ...
    def __getitem__(self, at: int | slice) -> Row | list[Row]:
        if isinstance(at, slice):
            return [self[one] for one in range(*at.indices(len(self)))]
        at = range(len(self))[at]
        cells = [column.texts[column.codes[at]] for column in self.columns]
        return Row(int(self.numbers[at]), cells + self.extra.get(at, []))

    def __iter__(self) -> Iterator[Row]:
        return (self[at] for at in range(len(self)))


def in_columns(rows: Iterable[tuple[int, list[str]]], width: int) -> Rows:
    """Numbered cells of each row, held in columns; those of shorter rows are empty."""
    lookups = [_Numbers() for _ in range(width)]
    parts: list[list[Codes]] = [[] for _ in range(width)]
    numbers: list[int] = []
    extra: dict[int, list[str]] = {}
    some: list[list[str]] = []

    def put_away() -> None:
        for column, lookup, mine in zip(zip(*some, strict=True), lookups, parts, strict=True):
            mine.append(np.fromiter(map(lookup.__getitem__, column), dtype=np.int64, count=len(column)))
        some.clear()

    for number, cells in rows:
        if len(cells) != width:
            if len(cells) > width:
                extra[len(numbers)] = cells[width:]
            cells = (cells + [""] * width)[:width]
        numbers.append(number)
        some.append(cells)
        if len(some) == ROWS_AT_ONCE:
            put_away()
    if some:
        put_away()
    none = np.zeros(0, dtype=np.int64)
    columns = [
        Coded(list(lookup), np.concatenate(mine) if mine else none)
        for lookup, mine in zip(lookups, parts, strict=True)
    ]
    return Rows(np.array(numbers, dtype=np.int64), columns, extra)
