"""Several tables made one: those on the sheets of one file, or of files brought in together.

Tables headed alike, such as a sheet a month, stand below each other; one of orders and one of their lines are joined,
and so are those that tell of the same goods.
What is not taken is named, and files of which nothing is taken are refused.

>>> from yellow_abacus.files.tables import read_tables
>>> march = read_tables(b"order,day,SKU,units\\n1,2027-03-01,POT,1\\n", "march.csv")
>>> april = read_tables(b"order,day,SKU,units\\n1,2027-03-01,POT,1\\n2,2027-04-02,POT,3\\n", "april.csv")
>>> table = one_table([march, april], ORDERS)
>>> [row.cells for row in table.rows]
[['1', '2027-03-01', 'POT', '1'], ['2', '2027-04-02', 'POT', '3']]
>>> print(*table.says, sep="\\n")
april.csv stands below march.csv: its rows are numbered from 4.
1 order of april.csv is on march.csv just the same and counts once.
"""

from collections import Counter
from collections.abc import Container, Sequence
from dataclasses import dataclass, replace

import numpy as np
from babel.lists import format_list

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.files.columns import GOODS, ORDERS, Field, missing_columns, simplify
from yellow_abacus.files.contents import columns_that_tell
from yellow_abacus.files.goods_apart import with_more_columns
from yellow_abacus.files.lines_apart import with_their_lines
from yellow_abacus.files.order_shapes import first_row_of_order
from yellow_abacus.files.rows import Coded, Rows, UnreadableFileError, one_below
from yellow_abacus.files.tables import Table

ALIKE = 0.8
"""So many of the headings of each of two tables headed alike are the other's too."""
MOST_NAMED = 8


@dataclass(frozen=True)
class _Made:
    """A table, and those it is made of, by number."""

    table: Table
    of: tuple[int, ...]


def one_table(files: Sequence[Sequence[Table]], fields: tuple[Field, ...], skus: Container[str] = ()) -> Table:
    """The table to bring in of those in some files, one at least each. fields: of the kind of file; skus: of the
    shop, folded, where it is orders. Raises UnreadableFileError."""
    every = [table for some in files for table in some]
    if len(every) == 1:
        return every[0]
    made = [_Made(table, (at,)) for at, table in enumerate(every)]
    if fields in (GOODS, ORDERS):
        made = _below_each_other(made, fields)
    whole = [one for one in made if _is_whole(one.table, fields)]
    chosen = _with_their_lines(made, skus) if fields is ORDERS else None
    chosen = _with_more_columns(whole, made) if fields is GOODS and whole else chosen
    chosen = chosen or next(iter(whole), made[0])
    _refuse_unused(files, chosen)
    left = [f"“{table.name}”" for at, table in enumerate(every) if at not in chosen.of]
    if not left:
        return chosen.table
    more = [f"{len(left) - MOST_NAMED:,} more"] if len(left) > MOST_NAMED else []
    sheets = "Sheet" if len(left) == 1 else "Sheets"
    told = f"{sheets} not read: {format_list([*left[:MOST_NAMED], *more], locale='en')}."
    return replace(chosen.table, says=(*chosen.table.says, told))


def _is_whole(table: Table, fields: tuple[Field, ...]) -> bool:
    return not missing_columns(columns_that_tell(table, fields), fields)


def _refuse_unused(files: Sequence[Sequence[Table]], chosen: _Made) -> None:
    begins = 0
    for some in files:
        here = range(begins, begins + len(some))
        begins = here.stop
        if not any(at in chosen.of for at in here):
            raise UnreadableFileError(
                f"“{some[0].name}” and “{chosen.table.name}” are not headed alike, nor does one tell the lines of "
                "the other’s orders, or they tell the same orders otherwise.",
                "Bring them in one after another.",
            )


def _with_their_lines(made: Sequence[_Made], skus: Container[str]) -> _Made | None:
    for orders in made:
        for lines in made:
            if orders is not lines and (both := with_their_lines(orders.table, lines.table, skus)) is not None:
                return _Made(both, (*orders.of, *lines.of))
    return None


def _with_more_columns(whole: Sequence[_Made], made: Sequence[_Made]) -> _Made:
    """The table of the most goods that tells what they are or what is asked for them, with what others tell."""
    chosen = max(whole, key=lambda one: (_tells_more(one.table), len(one.table.rows)))
    for other in made:
        if other.of[0] not in chosen.of and (both := with_more_columns(chosen.table, other.table)) is not None:
            chosen = _Made(both, (*chosen.of, *other.of))
    return chosen


def _tells_more(goods: Table) -> bool:
    return not columns_that_tell(goods, GOODS).keys().isdisjoint(["list_price", "product"])


# --- below each other


def _below_each_other(made: Sequence[_Made], fields: tuple[Field, ...]) -> list[_Made]:
    found = list[_Made]()
    for one in made:
        for at, other in enumerate(found):
            if (both := _below(other.table, one.table, fields)) is not None:
                found[at] = _Made(both, (*other.of, *one.of))
                break
        else:
            found.append(one)
    return found


def _below(table: Table, other: Table, fields: tuple[Field, ...]) -> Table | None:
    """A table with the rows of another below its own, in its columns; orders that both tell alike count once. None
    where they are not headed alike, or tell the same orders otherwise, or cannot be told apart by orders."""
    mine, theirs = _headings(table), _headings(other)
    common = mine.keys() & theirs.keys()
    if len(common) < ALIKE * max(len(mine), len(theirs)) or len(common) < 2:
        return None
    names = [*mine, *(name for name in theirs if name not in mine)]
    columns = [one_below(_column(table, mine.get(name)), _column(other, theirs.get(name))) for name in names]
    header = [table.header[mine[name]] if name in mine else other.header[theirs[name]] for name in names]
    many, begins = len(table.rows), int(table.rows.numbers.max())
    extra = table.rows.extra | {many + at: cells for at, cells in other.rows.extra.items()}
    rows = Rows(np.concatenate((table.rows.numbers, begins + other.rows.numbers)), columns, extra)
    says = [
        f"{other.name} stands below {table.name}: its rows are numbered from {begins + int(other.rows.numbers[0]):,}."
    ]
    both = replace(table, header=header, rows=rows)
    if fields is ORDERS:
        again = _told_again(both, many)
        if again is None:
            return None
        left, orders = again
        both = replace(both, rows=rows.some(np.flatnonzero(left)))
        if orders:
            words = "1 order" if orders == 1 else f"{orders:,} orders"
            are = "is on {0} just the same and counts" if orders == 1 else "are on {0} just the same and count"
            says.append(f"{words} of {other.name} {are.format(table.name)} once.")
    return replace(both, says=(*table.says, *says))


def _headings(table: Table) -> dict[tuple[str, int], int]:
    """The column of each heading: simplified, and which of those headed so."""
    seen, found = Counter[str](), dict[tuple[str, int], int]()
    for at, heading in enumerate(table.header):
        name = simplify(heading)
        found[name, seen[name]] = at
        seen[name] += 1
    return found


def _column(table: Table, at: int | None) -> Coded:
    return Coded([""], np.zeros(len(table.rows), dtype=np.int64)) if at is None else table.rows.columns[at]


def _told_again(table: Table, many: int) -> tuple[Bools, int] | None:
    """The rows that stay where orders told above are told again below, and how many those are; None where they are
    told otherwise. many: rows that are above."""
    columns = columns_that_tell(table, ORDERS)
    if "number" not in columns:
        return None
    column = table.rows.columns[columns["number"][0]]
    order = column.codes[first_row_of_order(column)]
    twice = np.intersect1d(order[:many], order[many:])
    left = ~np.isin(order, twice)
    left[:many] = True
    row = np.zeros(len(order), dtype=np.int64)
    for one in table.rows.columns:
        _, row = np.unique(row * len(one.texts) + one.codes, return_inverse=True)
    told = [
        np.unique(np.stack((order, row))[:, some & np.isin(order, twice)], axis=1, return_counts=True)
        for some in (np.arange(len(order)) < many, np.arange(len(order)) >= many)
    ]
    same = all(np.array_equal(one, other) for one, other in zip(*told, strict=True))
    return (left, len(twice)) if same else None
