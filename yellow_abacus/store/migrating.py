"""An older shop file, or a new one, brought to the newest version."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.util import CommandError
from sqlalchemy import Connection, Engine, insert
from sqlalchemy.exc import IntegrityError

from yellow_abacus.store.faults import fault_of
from yellow_abacus.store.models import ShopRow
from yellow_abacus.store.versions import MIGRATIONS

NEW_SHOP = {
    "id": 1,
    "name": "My shop",
    "currency": "EUR",
    "minor_digits": 2,
    "prices_with_tax": True,
    "tax_classes": [{"name": "Standard", "rate_bp": 2000, "zones": []}],
    "tax_said": False,
    "payments": [],
    "picking_per_order": 0.0,
    "codes_per_order": 1,
    "percent_of": "net",
    "delivery_from": "net",
    "data_version": 1,
}


def upgrade(engine: Engine, path: Path, is_new: bool) -> None:
    """All of the way to the newest version, or not at all. path: of the shop file. Raises ShopFileError."""
    config = migration_config()
    try:
        with engine.begin() as connection, _one_transaction(connection):
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            if is_new:
                connection.execute(insert(ShopRow).values(**NEW_SHOP))
    except CommandError as error:
        raise fault_of(path, error) from error


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
