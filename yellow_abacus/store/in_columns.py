"""The large tables of a shop file in columns, read on connections of their own beside whatever else is done.

SQLite makes one text of each column, and leaves Python free meanwhile: a million lines take a third of a second so,
and four times that row by row. Reading needs nothing but Python's own library, so that it can begin before the rest
of us is there. What was read is taken only while the shop is as it was then.
"""

import sqlite3
from collections.abc import Callable, Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

Columns = dict[str, Any]
"""By name: whole numbers as one text with spaces between, figures with a point as a list, all else as a JSON list."""


def read_orders(connection: sqlite3.Connection) -> Columns:
    """All orders, by rising id. Of those that do not count, most whose imports are taken back are left out."""
    numbers = {
        "id": "id",
        "zone_id": "zone_id",
        "first_order": "coalesce(first_order, -1)",
        "import_id": "coalesce(import_id, 0)",
        "delivery_paid": "coalesce(delivery_paid, -1)",
        "delivery_cost": "coalesce(delivery_cost, -1)",
        "payment_cost": "coalesce(payment_cost, -1)",
    }
    names = ["placed_at", "shopper", "shopper_group", "tags", "channel"]
    names += ["payment", "currency", "option", "code", "status"]
    which = _apart(connection, "id")
    return _one_row(connection, _as_texts(numbers) | _as_json(names), f"(select * from orders {which} order by id)")


def read_lines(connection: sqlite3.Connection) -> Columns:
    """The lines of those orders, in order of rows. units: sent back, times UNITS, and ordered: one number is read
    faster than two."""
    numbers = {
        "good_id": "good_id",
        "units": f"quantity + returned * {UNITS}",
        "asked": "coalesce(unit_price, (paid + quantity / 2) / quantity, 0)",
        "paid": "coalesce(paid, unit_price * quantity, -1)",
    }
    return _of_lines(connection, numbers)


UNITS = 2**32
"""More than are ordered in a line."""


def read_line_orders(connection: sqlite3.Connection) -> Columns:
    """Of each of those lines its order: apart, so that two threads have as much to read each."""
    return _of_lines(connection, {"order_id": "order_id"})


def _of_lines(connection: sqlite3.Connection, numbers: dict[str, str]) -> Columns:
    """In order of rows, whatever columns are asked for: an index would give some of them in another."""
    return _one_row(connection, _as_texts(numbers), f"order_lines not indexed {_apart(connection, 'order_id')}")


def read_goods(connection: sqlite3.Connection) -> Columns:
    """All goods. A text of a figure with a point does not hold all of its digits, so those are read row by row."""
    kinds = {name: kind for _, name, kind, *_ in connection.execute("pragma table_info(goods)")}
    pointed = [name for name, kind in kinds.items() if kind in ("DOUBLE", "FLOAT")]
    found = _one_row(
        connection, _as_json(name for name in kinds if name not in pointed), "(select * from goods order by id)"
    )
    rows = connection.execute(f"select {', '.join(pointed)} from goods order by id").fetchall()
    return found | dict(zip(pointed, zip(*rows, strict=True) if rows else [()] * len(pointed), strict=True))


_TAKEN_BACK = """
    select min(orders.id), max(orders.id)
    from orders join imports on imports.id = orders.import_id
    where not imports.live
        and orders.id not in (select order_id from told_again join imports on imports.id = import_id where live)
    group by imports.id having max(orders.id) - min(orders.id) + 1 = count(*)
"""
"""The first and last id of each import's orders of which none counts and between which no others are."""


def _apart(connection: sqlite3.Connection, order_id: str) -> str:
    """That orders are apart from those. order_id: a column."""
    ends = connection.execute(_TAKEN_BACK).fetchall()
    return f"where {' and '.join(f'{order_id} not between {a} and {b}' for a, b in ends)}" if ends else ""


def _as_texts(numbers: dict[str, str]) -> dict[str, str]:
    return {name: f"group_concat({told}, ' ')" for name, told in numbers.items()}


def _as_json(names: Iterable[str]) -> dict[str, str]:
    return {name: f"json_group_array({name})" for name in names}


def _one_row(connection: sqlite3.Connection, made: dict[str, str], table: str) -> Columns:
    row = connection.execute(f"select {', '.join(made.values())} from {table}").fetchone()
    return {name: told or "" for name, told in zip(made, row, strict=True)}


class State(NamedTuple):
    """What a shop file is the same by. schema: counted up by SQLite with every change of a table."""

    version: int
    schema: int


def state_of(connection: sqlite3.Connection) -> State:
    (version,), (schema,) = (
        connection.execute(asked).fetchone() for asked in ("select data_version from shop", "pragma schema_version")
    )
    return State(version, schema)


Read = Callable[[sqlite3.Connection], Columns]


def columns_in(session: "Session", read: Read, beside: "ReadBeside | None" = None) -> Columns:
    """A table as the session sees it. beside: where it may have been read already."""
    driver: Any = session.connection().connection.dbapi_connection
    found = None if beside is None else beside.take(read, state_of(driver))
    return read(driver) if found is None else found


OF_ORDERS = (read_lines, read_orders, read_line_orders)
LARGE = (read_lines, read_goods, read_orders, read_line_orders)
"""What reads the large tables, the slowest first."""


class ReadBeside:
    """Large tables, being read in two threads from the moment it is made."""

    def __init__(self, path: Path, reads: Iterable[Read] = LARGE) -> None:
        threads = ThreadPoolExecutor(2)
        self._found: dict[Read, Future[tuple[State, Columns] | None]] = {
            read: threads.submit(_read_at, path, read) for read in reads
        }
        threads.shutdown(wait=False)

    def take(self, read: Read, now: State) -> Columns | None:
        """A table, once; None where the shop has changed since, or it could not be read."""
        asked = self._found.pop(read, None)
        found = None if asked is None else asked.result()
        return found[1] if found is not None and found[0] == now else None


def _read_at(path: Path, read: Read) -> tuple[State, Columns] | None:
    """None for what cannot be read: who opens the shop for all else is told why."""
    try:
        with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as connection:
            connection.execute("begin")  # from here on the file stays as it is for this connection
            return state_of(connection), read(connection)
    except sqlite3.Error:
        return None
