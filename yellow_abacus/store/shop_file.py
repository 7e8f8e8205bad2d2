"""Opening a shop file: made if it is not there, brought up to the newest version if it is older.

Who reads sees one state of the shop throughout a session, also while somebody writes (SQLite's write-ahead log). Who
writes begins as a writer, so that nothing read before a change is stale when the change is made; writers wait for
each other. docs/files.md, "The shop file".
"""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import datetime
from itertools import count
from pathlib import Path
from threading import Lock
from typing import Any, Literal

from pydantic_core import to_json
from sqlalchemy import Connection, Engine, NullPool, create_engine, event, inspect, text
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

from yellow_abacus.store.faults import NotAShopFileError, ShopBusyError, ShopFileError, damaged, fault_of
from yellow_abacus.store.history import redo, undo, watch
from yellow_abacus.store.in_columns import ReadBeside
from yellow_abacus.store.models import Base, ShopRow
from yellow_abacus.store.reading_back import read_back
from yellow_abacus.store.versions import newest_version

PATIENCE = 15
"""Seconds a writer waits for others before it gives up."""

BEYOND = 2
"""Versions that the data of a shop put in place of another is ahead of both: what changed in between is not known."""


class ShopFile:
    """One shop. Sessions are short; writing happens in `changing`, which records how to undo it."""

    def __init__(self, path: Path, beside: ReadBeside | None = None) -> None:
        """beside: its large tables, where they are being read already. Raises ShopFileError: nothing was touched
        where the file is not, or cannot be, a shop of ours."""
        self.path, self._beside = path, beside
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise ShopFileError(f"The folder {path.parent} cannot be made: {error.strerror}.") from error
        is_new = _look_at(path)
        self.engine, self._writer = _engine(path, "BEGIN"), _engine(path, "BEGIN IMMEDIATE")
        self._adder = _engine(path, "BEGIN IMMEDIATE", looks_up=False)
        self._turn = Lock()
        try:
            _bring_up(path, is_new)
            with self._writing() as session:
                if session.get(ShopRow, 1) is None:
                    raise NotAShopFileError(f"The settings in {path} are lost. Take a copy of it from before.")
        except (DatabaseError, sqlite3.Error) as error:
            self.close()
            raise fault_of(path, error) from error
        except ShopFileError:
            self.close()
            raise

    def read_already(self) -> ReadBeside | None:
        """The large tables, for the first who asks."""
        beside, self._beside = self._beside, None
        return beside

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session that sees one state of the shop from its first look on."""
        with Session(self.engine) as session:
            yield session

    @contextmanager
    def changing(self, label: str, *, adds_only: bool = False) -> Iterator[Session]:
        """A session whose changes are saved together or not at all, as one undoable change.

        adds_only: it takes no row away, and looked up itself what its new rows refer to. What could not be read back
        is not saved. Raises ShopBusyError where others write for too long.
        """
        with self._writing(self._adder if adds_only else self._writer) as session, watch(session, label) as recorder:
            yield session
            session.flush()
            read_back(session, recorder.images)

    def undo(self) -> str | None:
        """Take back the newest change that is not undone; its label, or None where there is none."""
        with self._writing() as session:
            return undo(session)

    def redo(self) -> str | None:
        """Make the oldest undone change again; its label, or None where there is none."""
        with self._writing() as session:
            return redo(session)

    @contextmanager
    def _writing(self, engine: Engine | None = None) -> Iterator[Session]:
        with self._alone():
            try:
                with Session(engine or self._writer) as session, session.begin():
                    yield session
            except DatabaseError as error:
                fault = fault_of(self.path, error)
                if isinstance(fault, NotAShopFileError):
                    raise  # something in the change itself
                raise fault from error

    @contextmanager
    def _alone(self) -> Iterator[None]:
        """While nobody else here writes. Raises ShopBusyError."""
        if not self._turn.acquire(timeout=PATIENCE):
            raise ShopBusyError(self.path)
        try:
            yield
        finally:
            self._turn.release()

    def copy_to(self, path: Path) -> None:
        """A whole copy of the shop as it is now, in one file with nothing beside it; it opens like any other."""
        with closing(sqlite3.connect(self.path, timeout=PATIENCE)) as here, closing(sqlite3.connect(path)) as there:
            here.backup(there)
            there.execute("PRAGMA journal_mode = DELETE")

    def put_in_its_place(self, path: Path) -> Path:
        """The shop of another file in place of this one, all of it or nothing; where a copy of this one is kept.

        The other file is brought up to the newest version on the way. Its data gets a version neither had, so that
        nothing counted before is taken for it. Raises ShopFileError.
        """
        if _look_at(path):
            raise NotAShopFileError(f"{path} has no shop in it.")
        other = ShopFile(path)
        try:
            with other._writing() as session:
                if session.scalars(text("PRAGMA quick_check")).first() != "ok":
                    raise damaged(path)
                if lacking := _lacking(session.connection()):
                    raise NotAShopFileError(f"{path} has no {lacking}, which every shop has.")
                shop = session.get_one(ShopRow, 1)
                shop.data_version = max(shop.data_version, self.data_version()) + BEYOND
        except DatabaseError as error:
            raise fault_of(path, error) from error
        finally:
            other.close()
        with self._alone():
            kept = self._aside()
            try:
                self.copy_to(kept)
                with closing(sqlite3.connect(path)) as there, closing(sqlite3.connect(self.path)) as here:
                    there.backup(here)
            except sqlite3.Error as error:
                raise fault_of(self.path, error) from error
        return kept

    def _aside(self) -> Path:
        """Where a copy of this shop is kept, beside it, under a name that tells when."""
        stem = f"{self.path.stem}-before-{datetime.now():%Y-%m-%d-%H%M%S}"
        names = (f"{stem}{f'-{number}' if number > 1 else ''}{self.path.suffix}" for number in count(1))
        return next(path for name in names if not (path := self.path.with_name(name)).exists())

    def data_version(self) -> int:
        """Rises with every change. Asked before each answer, so without a session."""
        with self.engine.connect() as connection:
            return int(connection.exec_driver_sql("select data_version from shop").scalar_one())

    def close(self) -> None:
        self.engine.dispose()
        self._writer.dispose()
        self._adder.dispose()


CACHE_KB = 32_000
"""How much of the file a connection keeps at hand."""


def _engine(path: Path, begin: Literal["BEGIN", "BEGIN IMMEDIATE"], *, looks_up: bool = True) -> Engine:
    """Connections whose transactions begin when SQLAlchemy's do, and not at the first write as the driver would.

    looks_up: whether each row that is written has to refer to one there is, which for a million rows takes half the
    time.
    """
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": PATIENCE}, json_serializer=_as_json)

    def connected(connection: Any, _record: Any) -> None:
        connection.isolation_level = None
        connection.execute(f"PRAGMA foreign_keys = {'ON' if looks_up else 'OFF'}")
        connection.execute(f"PRAGMA cache_size = -{CACHE_KB}")

    event.listen(engine, "connect", connected)
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql(begin))
    return engine


def _as_json(value: Any) -> str:
    return to_json(value).decode()


def _look_at(path: Path) -> bool:
    """Whether the shop is still to be made. Raises ShopFileError for a file that is not ours to open."""
    if not path.exists() or path.stat().st_size == 0:
        return True
    try:
        with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True, timeout=PATIENCE)) as file:
            tables = {name for (name,) in file.execute("select name from sqlite_master where type = 'table'")}
    except sqlite3.Error as error:
        raise fault_of(path, error) from error
    if tables and not {"alembic_version", "shop"} <= tables:
        raise NotAShopFileError(f"{path} is another program's, not a shop file. Nothing in it was touched.")
    return not tables


def _lacking(connection: Connection) -> str | None:
    """A column of a shop that is not there, though the file says that it is of the newest version."""
    found = inspect(connection)
    tables = set(found.get_table_names())
    for table in Base.metadata.sorted_tables:
        there = {one["name"] for one in found.get_columns(table.name)} if table.name in tables else set()
        for column in table.columns:
            if column.name not in there:
                return f"{table.name}.{column.name}"
    return None


def _bring_up(path: Path, is_new: bool) -> None:
    """To the newest version, of which most shops are. Raises ShopFileError."""
    with closing(sqlite3.connect(path, timeout=PATIENCE)) as file:
        told = [] if is_new else file.execute("select version_num from alembic_version").fetchall()
        if told != [(newest_version(),)]:
            from yellow_abacus.store.migrating import upgrade

            upgrade(
                create_engine(f"sqlite:///{path}", connect_args={"timeout": PATIENCE}, poolclass=NullPool),
                path,
                is_new,
            )
        file.execute("PRAGMA journal_mode = WAL")
