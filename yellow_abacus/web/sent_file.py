"""A file in a form, and how large it may be."""

from dataclasses import dataclass
from typing import Annotated, Any

from flask_openapi3 import FileStorage
from pydantic import BeforeValidator

from yellow_abacus.files.tables import LARGEST_FILE


def _is_file(value: Any) -> Any:
    if isinstance(value, str):
        raise ValueError("It is text where a file is meant")
    return value


SentFile = Annotated[FileStorage, BeforeValidator(_is_file)]


@dataclass(frozen=True)
class Bound:
    """How large a request may be, in bytes, and what to do with more."""

    most: int
    mend: str


USUAL = Bound(LARGEST_FILE, "Cut it by month.")
BOUNDS = {
    # Written through to a file, not read at once.
    "/api/shop.sqlite": Bound(1_000_000_000, "Start the server with it: yellow-abacus serve --shop."),
}
"""Of paths that take more, or less."""


def bound_of(path: str) -> Bound:
    return BOUNDS.get(path, USUAL)
