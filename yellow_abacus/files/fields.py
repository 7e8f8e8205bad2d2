"""The fields of every kind of file, and the words that headings tell them by.

A new field, or a new word for one, is one entry in headings.toml.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from itertools import product
from typing import Any

from yellow_abacus.core.ground.naming import LONGEST_NAME, LONGEST_TITLE
from yellow_abacus.files.headings import read_headings, simplify

ALONE, WHEREVER, AT_LAST = "=", "*", "~"
"""Begin words that stand for a heading only where they are all of it; those that do wherever they are, first; and
those that do where no other word of their field does."""
LONGEST_LIST = 4_000
"""Letters of a cell that holds several things."""


@dataclass(frozen=True)
class Field:
    """key: its name in records. label: what people read, and templates are headed. words: headings it answers to.

    many: several columns may be taken for it together. longest: letters a cell may have. unless: the fields that
    tell the same in another way, so that it is not needed then. last: it is looked for behind all others. cells: what
    its cells are, as `contents.Contents` tells them apart; empty for anything. unlike: words which, beside its own,
    make a heading that of something else. beside: the key of a field whose words of the last kind are its own, too,
    where that one has a column by its others: *Delivery cost* is what shoppers paid, unless *Delivery charged* is.
    """

    key: str
    label: str
    words: tuple[str, ...]
    required: bool = False
    many: bool = False
    longest: int = LONGEST_NAME
    unless: tuple[str, ...] = ()
    last: bool = False
    cells: str = ""
    unlike: frozenset[str] = frozenset()
    beside: str = ""

    @property
    def is_cost(self) -> bool:
        """Whether it is what something costs the merchant: without tax, where a file has both."""
        return self.key.endswith("_cost")


def _fields(kind: str) -> tuple[Field, ...]:
    told = read_headings()[kind]
    return tuple(
        Field(
            key,
            one["label"],
            _words(one),
            one.get("required", False),
            one.get("many", False),
            {"title": LONGEST_TITLE, "list": LONGEST_LIST}.get(one.get("text", ""), LONGEST_NAME),
            tuple(one.get("unless", ())),
            one.get("last", False),
            one.get("cells", ""),
            _unlike(one),
            one.get("beside", "").rpartition(".")[2],
        )
        for key, one in told.items()
    )


def _another(name: str) -> Mapping[str, Any]:
    """What is told of another field, named as `kind.key`; nothing where the name is empty."""
    kind, _, key = name.partition(".")
    return read_headings()[kind][key] if key else {}


def _unlike(told: Mapping[str, Any]) -> frozenset[str]:
    every = (*_another(told.get("unlike_as", "")).get("unlike", ()), *told.get("unlike", ()))
    return frozenset(map(simplify, every))


def _words(told: Mapping[str, Any]) -> tuple[str, ...]:
    another = _another(told.get("like", ""))
    like = _words(another) if another else ()
    beside = told.get("beside", "")
    at_last = tuple(word for word in _words(_another(beside)) if word.startswith(AT_LAST)) if beside else ()
    made = (" ".join(one) for parts in told.get("made_of", ()) for one in product(*parts))
    return tuple(dict.fromkeys((*like, *told.get("words", ()), *made, *at_last)))


GOODS = _fields("goods")
OF_GOODS = {one.key: one for one in GOODS}
ORDERS = _fields("orders")
OF_ORDERS = {one.key: one for one in ORDERS}
OF_A_LINE = frozenset(
    [
        *("sku", "product", "variant", "quantity", "returned"),
        *("unit_price", "paid_price", "line_asked", "line_total", "line_discount"),
    ]
)
"""Fields that a row of the order itself does not tell of its first line."""
OF_LINES_ALONE = OF_A_LINE | {"items", "part_of", "cancelled_units"}
"""Fields that a table of orders does not tell, where another tells their lines."""
OF_ORDERS_ALONE = tuple(one for one in ORDERS if one.key not in OF_LINES_ALONE)
CODES = _fields("codes")
TARIFFS = _fields("tariffs")
OF_TARIFFS = {one.key: one for one in TARIFFS}
CHARGES = _fields("charges")
OF_CHARGES = {one.key: one for one in CHARGES}
SURCHARGES = _fields("surcharges")


@cache
def known_words() -> frozenset[str]:
    """Every word of any heading of any file: simplified, and with the letters it is written in."""
    every = (GOODS, ORDERS, CODES, TARIFFS, CHARGES, SURCHARGES)
    headings = [word for fields in every for one in fields for word in one.words]
    return frozenset(part for word in headings for part in (*simplify(word).split(), *re.findall(r"\w+", word)))


BESIDE_ORDERS = {
    one.key: replace(
        one, words=(*one.words, *(word for word in OF_ORDERS[one.key].words if not word.startswith(ALONE)))
    )
    for one in _fields("beside_orders")
}
"""Fields that further columns may tell, whose headings stand for them in more words than one."""
