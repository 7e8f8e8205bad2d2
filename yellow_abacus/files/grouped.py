"""Files in which one thing takes several rows: what it says once stands on its first row, a step on each."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Generic, TypeVar

from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import ForeignAmounts
from yellow_abacus.files.fields import Field
from yellow_abacus.files.reading import Cells, cells_by_row
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.tables import Table

Thing = TypeVar("Thing")


@dataclass
class Block:
    """The rows of one thing, by its name (or names)."""

    name: tuple[str, ...]
    rows: list[Cells] = field(default_factory=list)

    def once(self, key: str) -> Cells:
        """The first row that says something of `key`; the first one of all where none does."""
        return next((cells for cells in self.rows if cells.text(key)), self.rows[0])

    def tells(self, key: str) -> bool:
        return any(cells.text(key) for cells in self.rows)


@dataclass(frozen=True)
class Read(Generic[Thing]):
    things: list[Thing]
    rejected: list[Rejection]


def read_blocks(
    table: Table,
    columns: Columns,
    fields: Sequence[Field],
    foreign: ForeignAmounts,
    named_by: Sequence[str],
    make: Callable[[Block], Thing | None],
    problems: Callable[[Thing], list[tuple[str, Problem]]],
) -> Read[Thing]:
    """Rows with the same names, or no names after them, belong together; a thing is taken whole or not at all.

    foreign: its amounts in other currencies. make: one thing of its rows; None where cells were rejected. problems:
    what makes no sense, by field.
    """
    blocks: dict[tuple[str, ...], Block] = {}
    name: tuple[str, ...] = ()
    rejected: list[Rejection] = []
    for cells in cells_by_row(table, columns, fields, foreign):
        told = tuple(cells.text(key) for key in named_by)
        name = told if all(told) else name if not any(told) else ()
        if not name:
            missing = next(key for key, text in zip(named_by, told, strict=True) if not text)
            cells.reject(missing, "The name is missing.", "Write it on the first row.")
            rejected += cells.rejected
            continue
        blocks.setdefault(name, Block(name)).rows.append(cells)
    things: list[Thing] = []
    for block in blocks.values():
        thing = make(block)
        if thing is not None:
            for key, problem in problems(thing):
                block.once(key).reject(key, problem.message, problem.mend)
        found = [one for cells in block.rows for one in cells.rejected]
        if found:
            told_rows = {one.row for one in found}
            rejected += found
            for cells in block.rows:
                if cells.number not in told_rows:
                    message = f"{' · '.join(block.name)} is left out whole: row {found[0].row} is not good."
                    cause = found[0].row
                    rejected.append(Rejection(cells.number, "whole row", message, f"Mend row {cause}.", cause))
        elif thing is not None:
            things.append(thing)
    return Read(things, sorted(rejected, key=lambda one: one.row))
