"""What can be wrong with a shop file, in plain words."""

import sqlite3
from pathlib import Path

from sqlalchemy.exc import DBAPIError


class ShopFileError(Exception):
    """The shop file cannot be opened, read or written; the message says why, and what to do."""


class NotAShopFileError(ShopFileError):
    """The file cannot be opened as a shop."""


class ShopBusyError(ShopFileError):
    """Somebody else is writing, and went on for longer than one waits."""

    def __init__(self, path: Path) -> None:
        super().__init__(f"Something else is being saved in {path}. Nothing of this was; try again in a moment.")


class ShopFullError(ShopFileError):
    """There is no room to write."""


def damaged(path: Path) -> NotAShopFileError:
    return NotAShopFileError(f"{path} is damaged. Take a copy of it from before.")


def fault_of(path: Path, error: Exception) -> ShopFileError:
    """What an error of SQLite, or of bringing the file up to date, means for who opens or uses the shop."""
    driver = error.orig if isinstance(error, DBAPIError) else error
    code = getattr(driver, "sqlite_errorcode", None)
    match None if code is None else code & 0xFF:
        case sqlite3.SQLITE_BUSY | sqlite3.SQLITE_LOCKED:
            return ShopBusyError(path)
        case sqlite3.SQLITE_FULL:
            return ShopFullError(f"The disk that holds {path} is full. Nothing was saved; make room and try again.")
        case sqlite3.SQLITE_READONLY | sqlite3.SQLITE_PERM | sqlite3.SQLITE_CANTOPEN:
            return ShopFileError(f"{path} cannot be written. Check who may write it, and its folder.")
        case sqlite3.SQLITE_IOERR:
            return ShopFileError(f"The disk that holds {path} cannot be read or written.")
        case sqlite3.SQLITE_CORRUPT:
            return damaged(path)
    return NotAShopFileError(f"{path} is not a shop file of this or an older version of Yellow Abacus.")
