"""Opening a shop file: made if it is not there, brought up to the newest version if it is older."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util import CommandError
from sqlalchemy import Connection, create_engine, event, select
from sqlalchemy.exc import DatabaseError, IntegrityError
from sqlalchemy.orm import Session

from yellow_abacus.store.history import watch
from yellow_abacus.store.models import ShopRow

MIGRATIONS = Path(__file__).parent / "migrations"

NEW_SHOP = {
    "id": 1,
    "name": "My shop",
    "currency": "EUR",
    "minor_digits": 2,
    "prices_with_tax": True,
    "tax_classes": [{"name": "Standard", "rate_bp": 2000, "zones": []}],
    "payments": [],
    "picking_per_order": 0.0,
    "codes_per_order": 1,
    "percent_of": "net",
    "delivery_from": "net",
    "data_version": 1,
}


class NotAShopFileError(Exception):
    """The file cannot be opened as a shop."""


class ShopFile:
    """One shop. Sessions are short; writing happens in `changing`, which records how to undo it."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        self.engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 20})
        event.listen(self.engine, "connect", _foreign_keys)
        try:
            self._upgrade()
        except (DatabaseError, CommandError) as error:
            self.engine.dispose()
            raise NotAShopFileError(
                f"{path} is not a shop file of this or an older version of Yellow Abacus."
            ) from error

    def _upgrade(self) -> None:
        """All of the way to the newest version, or not at all."""
        config = migration_config()
        newest = ScriptDirectory.from_config(config).get_current_head()
        with self.engine.connect() as connection:
            is_newest = MigrationContext.configure(connection).get_current_revision() == newest
        if not is_newest:
            with self.engine.begin() as connection, _one_transaction(connection):
                config.attributes["connection"] = connection
                command.upgrade(config, newest or "head")
        with Session(self.engine) as session, session.begin():
            if session.get(ShopRow, 1) is None:
                session.add(ShopRow(**NEW_SHOP))

    @contextmanager
    def reading(self) -> Iterator[Session]:
        with Session(self.engine) as session:
            yield session

    @contextmanager
    def changing(self, label: str) -> Iterator[Session]:
        """A session whose changes are saved together or not at all, as one undoable change."""
        with Session(self.engine) as session, session.begin(), watch(session, label):
            yield session

    def data_version(self) -> int:
        with self.reading() as session:
            return session.scalars(select(ShopRow.data_version)).one()

    def close(self) -> None:
        self.engine.dispose()


@contextmanager
def _one_transaction(connection: Connection) -> Iterator[None]:
    """One transaction for changes of tables too, which SQLite's driver would leave out of its own.

    A table is changed by making it anew, so others may point to nothing for a moment; not at the end.
    """
    driver: Any = connection.connection.dbapi_connection
    driver.isolation_level = None
    driver.execute("PRAGMA foreign_keys = OFF")
    driver.execute("BEGIN IMMEDIATE")
    try:
        yield
        if driver.execute("PRAGMA foreign_key_check").fetchone():
            raise IntegrityError("PRAGMA foreign_key_check", None, ValueError("rows that point to nothing"))
        driver.execute("COMMIT")
    except BaseException:
        if driver.in_transaction:
            driver.execute("ROLLBACK")
        raise
    finally:
        driver.execute("PRAGMA foreign_keys = ON")
        driver.isolation_level = ""


def migration_config() -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    return config


def _foreign_keys(connection: Any, _record: Any) -> None:
    connection.execute("PRAGMA foreign_keys = ON")
