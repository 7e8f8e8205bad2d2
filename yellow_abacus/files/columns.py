"""Matching a file's columns to fields, generously: case, spaces and accents do not matter, and ordinary trade
words of several languages are known.
"""

import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.files.fields import ALONE, AT_LAST, WHEREVER, Field
from yellow_abacus.files.headings import FEWEST_LETTERS, is_without_tax, simplify, without_tax_or_currency

Columns = Mapping[str, tuple[int, ...]]
"""Field key → the columns taken for it; several only for fields that take many."""

MEASURES = frozenset(["weight", "length", "width", "height", "size", "upto", "heaviest", "longest", "from_weight"])
"""Fields whose headings may name a unit of weight or length; no other field's do."""

_UNITS = frozenset(["g", "gr", "gram", "grams", "gramm", "kg", "oz", "lb", "lbs", "mm", "cm"])


_WORD = re.compile(r"[^\W\d_]+\.?")


NOT_BY_HEADING = {"unit", "unit of length", "tax", "percent", "categories"}
"""Cells that a heading alone does not promise: a column *Unit* may tell pieces or packets, one *VAT* or *Discount*
amounts, one *Type* whether goods are variants."""
BY_HEADING = {
    **dict.fromkeys(("name", "code", "few"), "no decimals"),
    **dict.fromkeys(("money", "no rates"), "no rates"),
    "list": "name",
    "rate": "rate",
}
"""What cells must be at least that a heading alone promises: a column *Voucher*, or *Payment*, may tell amounts, one
*Refund %* percentages, one *Items* how many, and one *Commission €* amounts."""


@dataclass(frozen=True)
class _Told:
    """One word of a field's, simplified. rank: behind how many of its others it stands."""

    field: Field
    rank: int
    text: str
    alone: bool
    wherever: bool
    at_last: bool

    @cached_property
    def squeezed(self) -> str:
        return self.text.replace(" ", "")

    @cached_property
    def words(self) -> frozenset[str]:
        return frozenset(self.text.split())


@lru_cache
def _told(fields: tuple[Field, ...]) -> tuple[_Told, ...]:
    return tuple(
        _Told(
            field,
            rank,
            simplify(word),
            word.lstrip(AT_LAST).startswith(ALONE),
            word.startswith(WHEREVER),
            word.startswith(AT_LAST),
        )
        for field in fields
        for rank, word in enumerate(field.words)
    )


@lru_cache
def _by_part(fields: tuple[Field, ...]) -> Mapping[str, Sequence[int]]:
    """The places of the words that a heading with some part may say: by their longest part, and by all of them."""
    found: dict[str, list[int]] = defaultdict(list)
    for place, told in enumerate(_told(fields)):
        for part in {told.squeezed, max(told.words, key=lambda word: (len(word), word))}:
            found[part].append(place)
    return found


@lru_cache
def _first_by_text(fields: tuple[Field, ...]) -> Mapping[str, Field]:
    """The first field each word is of: some are those of two, whose cells tell them apart."""
    return {told.text: told.field for told in reversed(_told(fields))}


@dataclass(frozen=True)
class _Heading:
    """A heading as it is compared: simplified, without spaces, and its words with what neighbours make together."""

    told: str

    @cached_property
    def text(self) -> str:
        return simplify(self.told)

    @property
    def squeezed(self) -> str:
        return self.text.replace(" ", "")

    @property
    def of_an_amount(self) -> str:
        return without_tax_or_currency(self.told).replace(" ", "")

    @cached_property
    def cut_short(self) -> tuple[str, ...]:
        """Its words, where a full stop says that some are cut short; else none."""
        words = _WORD.findall(self.told)
        return tuple(map(simplify, words)) if any(word.endswith(".") for word in words) else ()

    def stands_for(self, word: str) -> bool:
        """Whether each of its words, cut short as they are, begins that of a known heading."""
        words, mine = word.split(), self.cut_short
        if len(mine) == 1 and len(mine[0]) < FEWEST_LETTERS:
            return False
        return len(words) == len(mine) > 0 and all(map(str.startswith, words, mine))

    @cached_property
    def alone(self) -> frozenset[str]:
        return frozenset(self.text.split())

    @cached_property
    def words(self) -> frozenset[str]:
        words = self.text.split()
        runs = ("".join(words[at : at + many]) for many in (1, 2, 3) for at in range(len(words) - many + 1))
        return frozenset(runs)

    def may_be_of(self, told: _Told) -> bool:
        """Whether nothing beside the words of a known heading makes it that of something else.

        One that names a unit of weight or length is only held to be a field that has one.
        """
        if told.field.key not in MEASURES and not _UNITS.isdisjoint(self.alone):
            return False
        return told.field.unlike.isdisjoint(self.alone - told.words)

    @property
    def is_without_tax(self) -> bool:
        return is_without_tax(self.told)


class _Header:
    """A file's headings, found by what they say: each way gives their columns from the left."""

    def __init__(self, header: Sequence[str]) -> None:
        self.headings = [_Heading(heading) for heading in header]
        self._by_spelling = _columns_by([one.squeezed] for one in self.headings)
        self._by_amount = _columns_by([one.of_an_amount] for one in self.headings)
        self._by_word = _columns_by(one.words for one in self.headings)

    def may_say(self, fields: tuple[Field, ...]) -> list[_Told]:
        """The words of fields that some heading may have, in their order."""
        by_part, told = _by_part(fields), _told(fields)
        parts = self._by_spelling.keys() | self._by_amount.keys() | self._by_word.keys()
        return [told[place] for place in sorted({place for part in parts for place in by_part.get(part, ())})]

    def spelt(self, told: _Told) -> Sequence[int]:
        return self._by_spelling.get(told.squeezed, ())

    def of_an_amount(self, told: _Told) -> Sequence[int]:
        return self._by_amount.get(told.squeezed, ())

    def holding(self, told: _Told) -> Sequence[int]:
        """The columns whose headings have all its words, parted by spaces or hyphens or not at all."""
        every = set.intersection(*(set(self._by_word.get(word, ())) for word in told.words))
        every.update(self._by_word.get(told.squeezed, ()))
        return sorted(at for at in every if self.headings[at].may_be_of(told))


def _columns_by(texts: Iterable[Iterable[str]]) -> Mapping[str, Sequence[int]]:
    """texts: of each column."""
    found: dict[str, list[int]] = defaultdict(list)
    for at, some in enumerate(texts):
        for text in some:
            found[text].append(at)
    return found


def _anything(_at: int, _field: Field) -> bool:
    return True


def _by_its_own_words(columns: _Header, every: Sequence[_Told], field: str, at: int | None) -> bool:
    """Whether the column taken for a field has one of its words that are not of the last kind, and none of those that
    is longer. every: the words of all fields."""
    held = [told for told in every if told.field.key == field and at in columns.holding(told)]
    return bool(held) and not max(held, key=lambda told: len(told.text)).at_last


def match_columns(
    header: list[str],
    fields: tuple[Field, ...],
    chosen: Mapping[str, int] | None = None,
    can_be: Callable[[int, Field], bool] = _anything,
) -> dict[str, tuple[int, ...]]:
    """The column taken for each field; fields no column answers to are left out.

    Words that tell wherever they are go first, then exact headings, headings that hold all words of a known one,
    longer ones first, and those cut short that can only mean one field; each column serves one field. Of two that
    differ in tax alone, the one with tax is taken, of costs the one without.

    chosen: columns taken by hand, by field. can_be: whether the cells of a column can be a field's; where no other
    column answers, an exact heading is believed if its cells can be anything, or if it is of names, anything but
    amounts.
    """
    columns = _Header(header)
    every = columns.may_say(fields)
    found: dict[str, int] = dict(chosen or {})

    def is_beside(field: Field) -> bool:
        return not field.beside or _by_its_own_words(columns, every, field.beside, found.get(field.beside))

    def take(
        words: Iterable[_Told],
        find: Callable[[_Told], Sequence[int]],
        can_be: Callable[[int, Field], bool] = can_be,
    ) -> None:
        for told in words:
            field = told.field
            if field.key in found or (told.at_last and not is_beside(field)):
                continue
            here = [at for at in find(told) if at not in found.values() and can_be(at, field)]
            if told.at_last and field.beside:  # else it may be the same amount with tax and without
                here = [at for at in here if without_tax(at) == without_tax(found[field.beside])]
            if here:
                found[field.key] = min(here, key=lambda at: without_tax(at) != field.is_cost)

    def without_tax(at: int) -> bool:
        return columns.headings[at].is_without_tax

    def not_without_tax(at: int, field: Field) -> bool:
        return (field.is_cost or not without_tax(at)) and can_be(at, field)

    for last in (False, True):
        of_these = [told for told in every if told.field.last == last]
        for at_last in (False, True):
            words = [told for told in of_these if told.at_last == at_last]
            partly = [told for told in words if not told.alone]
            take([told for told in words if told.wherever], columns.holding)
            for may in (not_without_tax, can_be):
                take(words, columns.spelt, may)
                take(words, columns.of_an_amount, may)
            take(sorted(partly, key=lambda told: (-len(told.text), told.rank)), columns.holding)
        believed = [told for told in of_these if told.field.cells not in NOT_BY_HEADING]
        take(
            sorted(believed, key=lambda told: told.at_last),
            columns.spelt,
            lambda at, field: can_be(at, replace(field, cells=BY_HEADING.get(field.cells, ""))),
        )
    _take_cut_short(columns, fields, found, can_be)
    return {key: (at,) for key, at in found.items()}


def _take_cut_short(
    columns: _Header, fields: tuple[Field, ...], found: dict[str, int], can_be: Callable[[int, Field], bool]
) -> None:
    """Headings cut short that can only mean one field, and are taken for none yet."""
    for at, heading in enumerate(columns.headings):
        if at in found.values() or not heading.cut_short:
            continue
        means = {
            field.key: field
            for text, field in _first_by_text(fields).items()
            if heading.stands_for(text) and not field.beside
        }
        if len(means) == 1 and means.keys().isdisjoint(found) and can_be(at, *means.values()):
            found[means.popitem()[0]] = at


def answering(header: list[str], field: Field) -> list[int]:
    """The columns whose headings answer to a field in any way."""
    return [at for at in range(len(header)) if match_columns([header[at]], (field,))]


class NoSuchColumnError(ValueError):
    """A column chosen by hand that is not there, or a field there is none of."""


def chosen_columns(header: list[str], fields: tuple[Field, ...], told: Iterable[str]) -> dict[str, int]:
    """Columns chosen as `Their heading=field`; fields by key or label. Raises NoSuchColumnError."""
    known = {simplify(name): one.key for one in fields for name in (one.label, one.key)}
    headings = {simplify(heading): at for at, heading in reversed(list(enumerate(header)))}
    found: dict[str, int] = {}
    for text in told:
        heading, sign, name = text.rpartition("=")
        if not sign or simplify(heading) not in headings:
            raise NoSuchColumnError(f"The file has no column “{heading}”. Its columns: {', '.join(header)}.")
        if simplify(name) not in known:
            raise NoSuchColumnError(f"There is no field “{name}”. Use one of {', '.join(one.key for one in fields)}.")
        found[known[simplify(name)]] = headings[simplify(heading)]
    return found


def free_columns(header: Sequence[str], columns: Columns) -> list[int]:
    """The columns that are taken for nothing."""
    taken = {at for some in columns.values() for at in some}
    return [at for at in range(len(header)) if at not in taken]


def not_understood(header: list[str], columns: Columns) -> list[str]:
    """Headings of columns that are taken for nothing."""
    return [header[at] for at in free_columns(header, columns) if header[at]]


def missing_columns(columns: Columns, fields: tuple[Field, ...]) -> list[Field]:
    return [
        one for one in fields if one.required and one.key not in columns and columns.keys().isdisjoint(one.unless)
    ]
