"""How a command ends where something cannot be read, written or listened on: in a sentence."""

from pathlib import Path

from sqlalchemy.exc import DatabaseError

from yellow_abacus.listening import AddressError
from yellow_abacus.store.faults import ShopFileError, fault_of
from yellow_abacus.store.reading_back import NotReadBackError


def said_of(error: Exception, shop_path: Path | None) -> str | None:
    """None for what no command expects."""
    match error:
        case ShopFileError() | AddressError():
            return str(error)
        case DatabaseError():
            return str(fault_of(shop_path or Path("the shop file"), error))
        case NotReadBackError():
            return "A figure in it is larger than any can be. Nothing was changed."
        case OSError():
            return f"{error.filename or 'The disk'}: {error.strerror or error}."
    return None
