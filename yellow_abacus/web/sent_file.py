"""A file in a form, and how large it may be where that differs."""

from typing import Annotated, Any

from flask_openapi3 import FileStorage
from pydantic import BeforeValidator


def _is_file(value: Any) -> Any:
    if isinstance(value, str):
        raise ValueError("It is text where a file is meant")
    return value


SentFile = Annotated[FileStorage, BeforeValidator(_is_file)]

SHOP_FILE, LARGEST_SHOP = "/api/shop.sqlite", 1_000_000_000
"""Where a whole shop is sent to, and its bytes at most: it is written through to a file, not read at once."""
