"""Matching a file's columns to fields, generously: case, spaces and accents do not matter, and ordinary trade
words of several languages are known.

A new field, or a new word for one, is one entry in headings.toml.
"""

import re
import tomllib
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib import resources


@dataclass(frozen=True)
class Field:
    """key: its name in records. label: what people read, and templates are headed. words: headings it answers to.

    many: several columns may be taken for it together.
    """

    key: str
    label: str
    words: tuple[str, ...]
    required: bool = False
    many: bool = False


def _fields(kind: str) -> tuple[Field, ...]:
    told = tomllib.loads(resources.files(__package__).joinpath("headings.toml").read_text("utf-8"))[kind]
    return tuple(
        Field(key, one["label"], tuple(one["words"]), one.get("required", False), one.get("many", False))
        for key, one in told.items()
    )


Columns = Mapping[str, tuple[int, ...]]
"""Field key → the columns taken for it; several only for fields that take many."""

GOODS = _fields("goods")
ORDERS = _fields("orders")
CODES = _fields("codes")
TARIFFS = _fields("tariffs")
CHARGES = _fields("charges")
SURCHARGES = _fields("surcharges")


def simplify(heading: str) -> str:
    """Lower case, without accents, units and marks: `Poids (kg)` and `poids_kg` → `poids kg`."""
    bare = "".join(ch for ch in unicodedata.normalize("NFKD", heading) if not unicodedata.combining(ch))
    bare = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", bare)
    return re.sub(r"[^\w]+|_+", " ", bare.casefold()).strip()


def match_columns(header: list[str], fields: tuple[Field, ...]) -> dict[str, tuple[int, ...]]:
    """The column taken for each field; fields no column answers to are left out.

    Exact headings go first, then headings that hold all words of a known one; each column serves one field.
    """
    headings = [simplify(heading) for heading in header]
    known = {field.key: [simplify(word) for word in field.words] for field in fields}
    found: dict[str, int] = {}

    def take(key: str, fits: dict[int, int]) -> None:
        free = {at: rank for at, rank in fits.items() if at not in found.values()}
        if key not in found and free:
            found[key] = min(free, key=lambda at: (free[at], at))

    for key, words in known.items():
        take(key, {at: words.index(heading) for at, heading in enumerate(headings) if heading in words})
    for key, words in known.items():
        loose = {}
        for at, heading in enumerate(headings):
            ranks = [rank for rank, word in enumerate(words) if set(word.split()) <= set(heading.split())]
            if ranks:
                loose[at] = ranks[0]
        take(key, loose)
    return {key: (at,) for key, at in found.items()}


def missing_columns(columns: Columns, fields: tuple[Field, ...]) -> list[Field]:
    return [field for field in fields if field.required and field.key not in columns]


def unit_in(heading: str, units: Sequence[str], otherwise: str) -> str:
    """The unit a column's heading names, `otherwise` where it names none of these."""
    words = simplify(heading).split()
    return next((unit for unit in units if unit in words), otherwise)
