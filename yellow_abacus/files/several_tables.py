"""Several tables made one: those on the sheets of one file, or of files brought in together.

Tables headed alike, such as a sheet a month, stand below each other; those of orders, their lines, their shoppers,
what came back and how they were paid and delivered are joined, and so are those that tell of the same goods, and
tariffs, which are called by their table too where two tell one of a name. What is not taken is named, and files of
which nothing is taken are refused.

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
from collections.abc import Callable, Container, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from babel.lists import format_list

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, missing_columns
from yellow_abacus.files.contents import columns_that_tell
from yellow_abacus.files.facts_apart import with_facts
from yellow_abacus.files.fields import CHARGES, GOODS, ORDERS, TARIFFS, Field
from yellow_abacus.files.goods_apart import with_more_columns
from yellow_abacus.files.headings import is_called, simplify, words_of
from yellow_abacus.files.lines_apart import orders_with_lines
from yellow_abacus.files.order_shapes import first_row_of_order
from yellow_abacus.files.returns_apart import with_returns
from yellow_abacus.files.rows import Coded, Rows, UnreadableFileError, one_below
from yellow_abacus.files.shoppers_apart import with_their_shoppers
from yellow_abacus.files.tables import Table
from yellow_abacus.files.words import so_many

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
        return _counting_as_orders(every[0]) if fields is ORDERS else every[0]
    made = [_Made(table, (at,)) for at, table in enumerate(_called_apart(every) if fields is TARIFFS else every)]
    if fields is ORDERS:
        made.sort(key=lambda one: _is_aside(one.table))
    if fields in (GOODS, ORDERS, TARIFFS, CHARGES):
        made = _below_each_other(made, fields)
    whole = [one for one in made if _is_whole(one.table, fields)]
    chosen = _with_their_lines(made, skus) if fields is ORDERS else None
    chosen = _with_more_columns(whole, made) if fields is GOODS and whole else chosen
    chosen = chosen or next(iter(whole), made[0])
    if fields is ORDERS:
        for both in (with_their_shoppers, with_returns, with_facts):
            chosen = _with_more(chosen, made, both)
    _refuse_unused(files, chosen, fields)
    left = [table for at, table in enumerate(every) if at not in chosen.of]
    says = tuple(_not_read(left, chosen.table, fields))
    return replace(chosen.table, says=(*chosen.table.says, *says)) if says else chosen.table


def _counting_as_orders(table: Table) -> Table:
    """A table that stands alone, which says so where by its name it should not."""
    if not _is_aside(table) or _sent_back(table, columns_that_tell(table, ORDERS)).all():
        return table
    says = (
        f"By its name, {table.name} is of orders that do not count or came back. What it tells counts as orders all "
        "the same, unless it is brought in together with those."
    )
    return replace(table, says=(*table.says, says))


def _not_read(tables: Sequence[Table], chosen: Table, fields: tuple[Field, ...]) -> Iterator[str]:
    """Which tables are not read, by why that is."""
    aside = ", by its name of orders that do not count or came back"
    otherwise = f", as orders of “{chosen.name}” are told otherwise there"
    by_why: dict[str, list[str]] = {"": [], aside: [], otherwise: []}
    for table in tables:
        why = ""
        if fields is ORDERS and _is_aside(table):
            why = aside
        elif fields is ORDERS and _tell_orders_alike(chosen, table):
            why = otherwise
        by_why[why].append(f"“{table.name}”")
    for why, names in by_why.items():
        if names:
            more = [f"{len(names) - MOST_NAMED:,} more"] if len(names) > MOST_NAMED else []
            sheets = "Sheet" if len(names) == 1 else "Sheets"
            yield f"{sheets} not read{why}: {format_list([*names[:MOST_NAMED], *more], locale='en')}."


def _is_whole(table: Table, fields: tuple[Field, ...]) -> bool:
    return not missing_columns(columns_that_tell(table, fields), fields)


def _refuse_unused(files: Sequence[Sequence[Table]], chosen: _Made, fields: tuple[Field, ...]) -> None:
    begins = 0
    for some in files:
        here = range(begins, begins + len(some))
        begins = here.stop
        if not any(at in chosen.of for at in here):
            both = f"“{some[0].name}” and “{chosen.table.name}”"
            why = "cannot be brought in together: they are not headed alike."
            if fields is ORDERS:
                why = (
                    "are not headed alike, nor do both tell of the same orders; or they tell those otherwise, or one "
                    "is by its name of orders that do not count or came back."
                )
            elif fields is GOODS:
                why = "are not headed alike, and do not tell of the same goods."
            raise UnreadableFileError(f"{both} {why}", "Bring them in one after another.")


def _with_their_lines(made: Sequence[_Made], skus: Container[str]) -> _Made | None:
    found = orders_with_lines([one.table for one in made], skus)
    return None if found is None else _Made(found.table, (*made[found.orders].of, *made[found.lines].of))


def _with_more_columns(whole: Sequence[_Made], made: Sequence[_Made]) -> _Made:
    """The table of the most goods that tells what they are or what is asked for them, with what others tell."""
    chosen = max(whole, key=lambda one: (_tells_more(one.table), len(one.table.rows)))
    return _with_more(chosen, made, with_more_columns)


def _with_more(chosen: _Made, made: Sequence[_Made], both: Callable[[Table, Table], Table | None]) -> _Made:
    for other in made:
        if other.of[0] not in chosen.of and (table := both(chosen.table, other.table)) is not None:
            chosen = _Made(table, (*chosen.of, *other.of))
    return chosen


def _tells_more(goods: Table) -> bool:
    return not columns_that_tell(goods, GOODS).keys().isdisjoint(["list_price", "product"])


def _called_apart(tables: Sequence[Table]) -> Sequence[Table]:
    """Tables of tariffs, these called by their table too where two tables have one of the same name."""
    places = [columns_that_tell(table, TARIFFS).get("name", ()) for table in tables]
    told = [table.rows.columns[at] for table, some in zip(tables, places, strict=True) for at in some]
    names = Counter(folded(text.strip()) for column in told for text in column.used if text.strip())
    if all(many == 1 for many in names.values()):
        return tables
    return [_called(table, some[0]) if some else table for table, some in zip(tables, places, strict=True)]


def _called(table: Table, at: int) -> Table:
    column = table.rows.columns[at]
    texts = [f"{table.name}, {text.strip()}" if text.strip() else text for text in column.texts]
    return replace(table, rows=table.rows.changed({at: Coded(texts, column.codes)}))


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
    if not _are_headed_alike(table, other, within=fields in (TARIFFS, CHARGES)):
        return None
    if fields is ORDERS and _is_aside(other) and not _sent_back(other, columns_that_tell(other, ORDERS)).all():
        return None
    mine, theirs = _headings(table), _headings(other)
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
            are, count = ("is", "counts") if orders == 1 else ("are", "count")
            told = f"{so_many(orders, 'order')} of {other.name} {are} on {table.name} just the same"
            says.append(f"{told} and {count} once.")
    return replace(both, says=(*table.says, *says))


def _are_headed_alike(table: Table, other: Table, *, within: bool = False) -> bool:
    """within: it will do that one has all headings of the other."""
    mine, theirs = _headings(table).keys(), _headings(other).keys()
    both = len(mine & theirs)
    return both >= 2 and (
        both >= ALIKE * max(len(mine), len(theirs)) or (within and both in (len(mine), len(theirs)))
    )


def _tell_orders_alike(table: Table, other: Table) -> bool:
    return _are_headed_alike(table, other) and "number" in columns_that_tell(other, ORDERS)


def _is_aside(table: Table) -> bool:
    """Whether a table is called as orders are that do not count, or that came back."""
    return is_called(table.name, "left_out", "sent_back")


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
    told otherwise, by more than units sent back. many: rows that are above."""
    columns = columns_that_tell(table, ORDERS)
    if "number" not in columns:
        return None
    number = table.rows.columns[columns["number"][0]]
    order, below = number.codes[first_row_of_order(number)], np.arange(len(table.rows)) >= many
    is_sum = np.array([simplify(text) in words_of("total") for text in number.texts], dtype=np.bool_)
    twice = np.isin(order, np.intersect1d(order[~below], order[below])) & ~is_sum[order]
    row = order
    for column in table.rows.columns:
        _, row = np.unique(row * len(column.texts) + column.codes, return_inverse=True)
    more = np.bincount(row, np.where(below, 1, -1))
    otherwise = np.isin(order, order[twice & (more[row] != 0)])
    if (otherwise & below & ~_sent_back(table, columns)).any():
        return None
    again = twice & below & ~otherwise
    return ~again, len(np.unique(order[again]))


def _sent_back(table: Table, columns: Columns) -> Bools:
    """The rows that tell fewer units than none."""
    if "quantity" not in columns:
        return np.zeros(len(table.rows), dtype=np.bool_)
    units = table.rows.columns[columns["quantity"][0]]
    return np.array([text.strip().startswith(("-", "−")) for text in units.texts], dtype=np.bool_)[units.codes]
