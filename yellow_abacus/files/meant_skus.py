"""Which of the shop's SKUs an order file means, that tells them, alone or beside names, or the names alone.

>>> [sku_beside_a_name(text, {"hf-1"}) for text in ("HF-1 - Fern", "Fern [HF-1]", "HF-1 (x2)", "HF-1; HF-2")]
['HF-1', 'HF-1', '', '']
"""

import re
from collections import Counter, defaultdict
from collections.abc import Callable, Collection, Container, Iterable, Mapping, Sequence
from dataclasses import replace
from difflib import get_close_matches

from yellow_abacus.core.ground.naming import LONGEST_TITLE, folded
from yellow_abacus.files.columns import Columns, answering
from yellow_abacus.files.contents import HALF, NEARLY_ALL, Contents
from yellow_abacus.files.fields import OF_ORDERS, Field
from yellow_abacus.files.headings import simplify
from yellow_abacus.files.order_shapes import items_in, told_by_name, with_others
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError

_SEVERAL = re.compile(r"[;\n]")
_BESIDE = (
    re.compile(r"(?P<sku>\S+)\s*(?:[:|]|\s[-–—]\s)\s*(?P<name>.+)", re.DOTALL),
    re.compile(r"(?P<name>.+?)\s*(?:[:|]|\s[-–—])\s*(?P<sku>\S+)", re.DOTALL),
    re.compile(r"(?P<name>.+?)\s*[(\[]\s*(?:SKU\s*:?\s*)?(?P<sku>\S+)\s*[)\]]", re.DOTALL | re.IGNORECASE),
)
_NAME = re.compile(r"[^\W\d_]{2}")
_NUMBER = re.compile(r"\d{1,3}$")
LOOKED_AT = 200
"""Different cells of a column, of which nearly all must tell names of goods for more of them to be looked at."""


def with_skus_alone(table: Table, skus: Container[str]) -> Table:
    """A table that tells SKUs nowhere but beside names, in one cell (*HF-1 – Fern*, *Fern (HF-1)*), as one that tells
    them alone; any other as it is, and also one whose cells may tell units too. skus: of the shop, folded."""
    columns = table.rows.columns
    tells_skus = Contents(table, skus).most_skus(range(len(columns)))[0] >= HALF
    if tells_skus or not answering(table.header, OF_ORDERS["quantity"]):
        return table
    for at, column in enumerate(columns):
        filled = [text for text in column.used if text.strip()]
        alone = {text: sku for text in filled if (sku := sku_beside_a_name(text, skus))}
        if len(alone) >= NEARLY_ALL * len(filled) > 0:
            told_alone = Coded([alone.get(text, text) for text in column.texts], column.codes)
            return replace(table, rows=table.rows.changed({at: told_alone}))
    return table


BY_NAME = "SKU, by its name"
"""Heads the SKUs of goods that a file tells by their names."""


def with_skus_of_names(table: Table, skus: Container[str], named: Callable[[], Mapping[str, Sequence[str]]]) -> Table:
    """A table that tells goods by names alone, in a column, in several side by side or all of an order in one cell,
    as one that tells their SKUs beside; any other as it is, and also where one name is that of several SKUs. skus: of
    the shop, folded. named: finds those that go by each name, simplified."""
    columns = table.rows.columns
    if Contents(table, skus).most_skus(range(len(columns)))[0] >= HALF:
        return table
    known, told = named(), dict[str, Coded]()
    for heading, column in zip(table.header, columns, strict=False):
        number = _NUMBER.search(heading)
        if (found := _skus_named(column, known)) is not None:
            told.setdefault(f"{BY_NAME} {number[0]}" if number else BY_NAME, found)
    return with_others(table, (), told) if told else table


def goods_are_named(table: Table, columns: Columns) -> bool:
    """Whether a table tells goods by their names, with the SKUs of those beside or without."""
    return told_by_name(columns) or tells_skus_by_name(table, columns)


def tells_skus_by_name(table: Table, columns: Columns) -> bool:
    """Whether its SKUs are those of names, as `with_skus_of_names` has them."""
    places = (*columns.get("sku", ()), *columns.get("items", ()))
    return any(at < len(table.header) and table.header[at] == BY_NAME for at in places)


def notes_of_names(table: Table, columns: Columns) -> list[str]:
    """That goods are found by their names, in words, where they are."""
    return ["Goods are found by their names."] if goods_are_named(table, columns) else []


def _skus_named(column: Coded, named: Mapping[str, Sequence[str]]) -> Coded | None:
    """The column with names as SKUs, in a list of them too; None where too few are names, or one is of several."""
    used = [text for text in column.used if text.strip()]
    if not _are_names(_things(used[:LOOKED_AT], named), named):
        return None
    told = _things(used, named)
    if not _are_names(told, named):
        return None

    def sku(name: str, units: str) -> str:
        meant = next(iter(named.get(simplify(name), ())), name)
        return f"{units} x {meant}" if units else meant

    meant = {text: "; ".join(sku(*one) for one in some) for text, some in told.items()}
    return Coded([meant.get(text, text) for text in column.texts], column.codes)


def _things(texts: Iterable[str], named: Container[str]) -> dict[str, list[tuple[str, str]]]:
    """Name and units of each thing that cells tell; no units where a cell tells none."""
    told = {text: items_in(text) for text in texts}
    return {
        text: [(text, "")] if simplify(text) in named or [name for name, _ in some] == [text.strip()] else some
        for text, some in told.items()
    }


def _are_names(told: Mapping[str, Sequence[tuple[str, str]]], named: Mapping[str, Sequence[str]]) -> bool:
    """Whether nearly all things are names of goods, and none is the name of several SKUs."""
    skus = [named.get(simplify(name), ()) for some in told.values() for name, _ in some]
    return 0 < NEARLY_ALL * len(skus) <= sum(map(bool, skus)) and all(len(one) <= 1 for one in skus)


def sku_beside_a_name(text: str, skus: Container[str]) -> str:
    """The SKU that a cell tells beside a name; empty where it does not, or tells several things."""
    if len(text) > LONGEST_TITLE or _SEVERAL.search(text):
        return ""
    found = (told for pattern in _BESIDE if (told := pattern.fullmatch(text.strip())))
    return next((told["sku"] for told in found if folded(told["sku"]) in skus and _NAME.search(told["name"])), "")


def with_leading_zeros(table: Table, sku: Field, known: Collection[str]) -> Table:
    """A table whose SKUs of digits alone lack the zeros they begin with, as spreadsheets leave them off, or have them
    where the shop's lack them, as one that tells the shop's; but for those that may be several, or stand beside the
    one they may be. known: the shop's.

    >>> from yellow_abacus.files.fields import OF_ORDERS
    >>> from yellow_abacus.files.tables import read_table
    >>> table = read_table(b"order,SKU,units\\n1,123,2\\n2,77,3\\n")
    >>> [row.cells[1] for row in with_leading_zeros(table, OF_ORDERS["sku"], ["00123", "077", "0077"]).rows]
    ['00123', '77']
    """
    whole, told = defaultdict[str, set[str]](set), {folded(text) for text in known}
    for text in filter(str.isdecimal, known):
        whole[text.lstrip("0")].add(text)
    for at in answering(table.header, sku) if whole else ():
        column = table.rows.columns[at]
        used = {text.strip() for text in column.used}
        meant = {
            bare: whole[bare.lstrip("0")] for bare in used - told if bare.isdecimal() and bare.lstrip("0") in whole
        }
        many = Counter(one for some in meant.values() for one in some)
        alone = {
            bare: one
            for bare, some in meant.items()
            for one in some
            if len(some) == many[one] == 1 and one not in used
        }
        if alone:
            bare, one = min(alone.items())
            are = "SKU is" if len(alone) == 1 else "SKUs are"
            says = (
                f"{len(alone):,} {are} taken for yours but for the zeros they begin with, such as {bare} for {one}."
            )
            whole_texts = Coded([alone.get(text.strip(), text) for text in column.texts], column.codes)
            table = replace(table, rows=table.rows.changed({at: whole_texts}), says=(*table.says, says))
    return table


MOST_HINTS = 10
"""For so many unknown SKUs a near one is looked for: each takes a look at all SKUs of the shop."""


class MeantSkus:
    """The SKUs a shop has, and which one somebody means who writes so.

    named: those that go by each name of product and option, simplified, where a file tells goods by their names; None
    where it tells SKUs.
    """

    def __init__(self, skus: Iterable[str], named: Mapping[str, Sequence[str]] | None) -> None:
        self.names = list(skus)
        self._number = {sku: at for at, sku in enumerate(self.names)}
        self.folded = {folded(sku): at for at, sku in enumerate(self.names)}
        self._named, self.told_in = named, "sku" if named is None else "product"
        self._hints = 0

    def meant_by(self, text: str) -> int:
        """Index into `names`. Raises BadCellError."""
        at = self._number.get(text, self.folded.get(folded(text)))
        if at is not None:
            return at
        if self._named is None:
            raise BadCellError(f"Goods has no SKU “{text}”.", self._mend(text, self.folded))
        if several := self._named.get(simplify(text)):
            mend = "Bring in a column of SKUs, or one of the products' options."
            raise BadCellError(f"Goods has {len(several)} SKUs by the name “{text}”.", mend)
        raise BadCellError(f"Goods has no product “{text}”.", self._mend(text, self._named))

    def _mend(self, text: str, known: Collection[str]) -> str:
        """What to do about an unknown one; a near one is looked for a few times, and never for bare numbers."""
        hint = "Bring"
        if self._hints < MOST_HINTS and not text.isdecimal():
            self._hints += 1
            near = get_close_matches(folded(text), known, n=1)
            name = self.names[self.folded[near[0]]] if near and near[0] in self.folded else "".join(near)
            hint = f"Did you mean “{name}”? Otherwise bring" if near else hint
        return f"{hint} in its product first."
