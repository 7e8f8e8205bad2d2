"""Matching a file's columns to fields, generously: case, spaces and accents do not matter, and ordinary trade
words of several languages are known.

A new field, or a new word for one, is one entry in headings.toml.
"""

import re
import tomllib
import unicodedata
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from importlib import resources
from itertools import product
from typing import Any

from babel.numbers import list_currencies

from yellow_abacus.core.ground.naming import LONGEST_NAME, LONGEST_TITLE
from yellow_abacus.core.ground.once import cached_property

MOST_KEPT = 8_000
"""Words whose simple form is kept: somewhat more than all headings there are."""
LONGEST_LIST = 4_000
"""Letters of a cell that holds several things."""


@dataclass(frozen=True)
class Field:
    """key: its name in records. label: what people read, and templates are headed. words: headings it answers to.

    many: several columns may be taken for it together. longest: letters a cell may have. unless: the fields that
    tell the same in another way, so that it is not needed then. last: it is looked for behind all others. cells: what
    its cells are, as `contents.Contents` tells them apart; empty for anything. unlike: words which, beside its own,
    make a heading that of something else.
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

    @property
    def is_cost(self) -> bool:
        """Whether it is what something costs the merchant: without tax, where a file has both."""
        return self.key.endswith("_cost")


@lru_cache(MOST_KEPT)
def simplify(heading: str) -> str:
    """Lower case, without accents, units and marks: `Poids (kg)` and `poids_kg` → `poids kg`."""
    bare = "".join(ch for ch in unicodedata.normalize("NFKD", heading) if not unicodedata.combining(ch))
    bare = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", bare)
    return re.sub(r"[^\w]+|_+", " ", bare.casefold().replace("ı", "i")).strip()


@cache
def _read() -> dict[str, Any]:
    return tomllib.loads(resources.files(__package__).joinpath("headings.toml").read_text("utf-8"))


def _fields(kind: str) -> tuple[Field, ...]:
    told = _read()[kind]
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
            frozenset(map(simplify, one.get("unlike", ()))),
        )
        for key, one in told.items()
    )


def _words(told: Mapping[str, Any]) -> tuple[str, ...]:
    kind, _, key = told.get("like", "").partition(".")
    like = _words(_read()[kind][key]) if key else ()
    made = (" ".join(one) for parts in told.get("made_of", ()) for one in product(*parts))
    return tuple(dict.fromkeys((*like, *told.get("words", ()), *made)))


Columns = Mapping[str, tuple[int, ...]]
"""Field key → the columns taken for it; several only for fields that take many."""

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


ALONE, WHEREVER, AT_LAST = "=", "*", "~"
"""Begin words that stand for a heading only where they are all of it; those that do wherever they are, first; and
those that do where no other word of their field does."""

BESIDE_ORDERS = {
    one.key: replace(
        one, words=(*one.words, *(word for word in OF_ORDERS[one.key].words if not word.startswith(ALONE)))
    )
    for one in _fields("beside_orders")
}
"""Fields that further columns may tell, whose headings stand for them in more words than one."""

MEASURES = frozenset(["weight", "length", "width", "height", "size", "upto", "heaviest", "longest", "from_weight"])
"""Fields whose headings may name a unit of weight or length; no other field's do."""

_UNITS = frozenset(["g", "gr", "gram", "grams", "gramm", "kg", "oz", "lb", "lbs", "mm", "cm"])


_WORD = re.compile(r"[^\W\d_]+\.?")


NOT_BY_HEADING = {"unit", "unit of length", "tax", "percent"}
"""Cells that a heading alone does not promise: a column *Unit* may tell pieces or packets, one *VAT* or *Discount*
amounts."""
BY_HEADING = {
    **dict.fromkeys(("name", "code", "few"), "no decimals"),
    **dict.fromkeys(("money", "no rates"), "no rates"),
    "rate": "rate",
}
"""What cells must be at least that a heading alone promises: a column *Voucher*, or *Payment*, may tell amounts, one
*Refund %* percentages, and one *Commission €* amounts."""
FEWEST_LETTERS, AN_ENDING = 4, 3
"""Of a heading of one word that is cut short, and of a word that a table may be called by; of what may stand behind
that."""


@cache
def _beside_amounts() -> re.Pattern[str]:
    """What stands beside the words for an amount: tax or cents, anywhere; and last a currency."""
    beside = words_of("with_tax") | words_of("without_tax") | words_of("minor")
    currencies = [*map(str.casefold, list_currencies()), *words_of("currency")]
    return re.compile(rf"{_any_of(beside)}|\b(?:{'|'.join(currencies)})$")


@cache
def _without_tax() -> re.Pattern[str]:
    return re.compile(_any_of(words_of("without_tax")))


def _any_of(words: frozenset[str]) -> str:
    """A pattern of any of some words, the longest first."""
    return rf"\b(?:{'|'.join(sorted(words - {''}, key=len, reverse=True))})\b"


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

    @cached_property
    def amount_words(self) -> str:
        """Its text without what may stand beside the words for any amount."""
        return " ".join(_beside_amounts().sub("", self.text).split())

    @property
    def of_an_amount(self) -> str:
        return self.amount_words.replace(" ", "")

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
        return bool(_without_tax().search(self.text))


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

    def take(
        words: Iterable[_Told],
        find: Callable[[_Told], Sequence[int]],
        can_be: Callable[[int, Field], bool] = can_be,
    ) -> None:
        for told in words:
            field = told.field
            if field.key in found:
                continue
            here = [at for at in find(told) if at not in found.values() and can_be(at, field)]
            if here:
                found[field.key] = min(here, key=lambda at: columns.headings[at].is_without_tax != field.is_cost)

    def not_without_tax(at: int, field: Field) -> bool:
        return (field.is_cost or not columns.headings[at].is_without_tax) and can_be(at, field)

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
    for at, heading in enumerate(columns.headings):
        if at in found.values() or not heading.cut_short:
            continue
        means = {field.key: field for text, field in _first_by_text(fields).items() if heading.stands_for(text)}
        if len(means) == 1 and means.keys().isdisjoint(found) and can_be(at, *means.values()):
            found[means.popitem()[0]] = at
    return {key: (at,) for key, at in found.items()}


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


def unit_in(heading: str, units: Sequence[str], otherwise: str) -> str:
    """The unit a column's heading names, `otherwise` where it names none of these."""
    words = simplify(heading).split()
    return next((unit for unit in units if unit in words), otherwise)


@cache
def words_of(what: str) -> frozenset[str]:
    """Words that mean something wherever they stand, simplified, such as those of statuses that leave an order
    out."""
    return frozenset(simplify(word) for word in _read()["words"][what])


def is_called(name: str, *kinds: str) -> bool:
    """Whether a table is called by one of the words of some kinds of `words_of`.

    >>> is_called("Returned orders", "left_out", "sent_back"), is_called("Returning shoppers", "sent_back")
    (True, False)
    """
    return any(
        part.startswith(word) and len(part) - len(word) <= AN_ENDING
        for part in {*simplify(name).split()} - words_of("returning")
        for kind in kinds
        for word in words_of(kind)
        if len(word) >= FEWEST_LETTERS
    )


_A_RATE = re.compile(r"\d\s*%")
"""Of tax, in a heading that names it."""


def is_of_percentages(heading: str) -> bool:
    """Whether a heading says that its column tells percentages, by their sign or a word for just that.

    >>> [is_of_percentages(one) for one in ("Duty %", "Zoll in Prozent", "Discount 2 %", "Price incl. 20 % VAT")]
    [True, True, True, False]
    """
    words = simplify(heading).split()
    told = heading if words_of("tax").isdisjoint(words) else _A_RATE.sub("", heading)
    return "%" in told or not words_of("percent").isdisjoint(words)


def is_of_rates(heading: str) -> bool:
    """Whether a heading says that its column of discounts tells percentages."""
    return is_of_percentages(heading) or not words_of("rates").isdisjoint(simplify(heading).split())


def tells_an_amount(heading: str) -> bool:
    """Whether a heading says in a word that its column tells amounts, or names a currency.

    >>> [tells_an_amount(one) for one in ("Rabattbetrag", "Discount (EUR)", "Remise €", "Discount value")]
    [True, True, True, False]
    """
    text = simplify(heading)
    signs = any(unicodedata.category(ch) == "Sc" for ch in heading)
    return signs or text.endswith(tuple(words_of("amount"))) or bool(_beside_amounts().search(text))


def ends_in_a_discount(heading: str) -> bool:
    """Whether a heading is one word that ends in that for a discount, as several languages put words together; on
    delivery excepted."""
    text = simplify(heading)
    ends, delivers = tuple(words_of("discount_endings")), tuple(words_of("delivery_beginnings"))
    return " " not in text and text.endswith(ends) and not text.startswith(delivers)


def is_in_minor_units(heading: str) -> bool:
    """Whether a heading says that its column tells amounts in cents, or their like."""
    return not words_of("minor").isdisjoint(simplify(heading).split())


def is_of_a_unit(heading: str) -> bool:
    """Whether a heading says that its column tells amounts of one unit."""
    return not words_of("a_unit").isdisjoint(simplify(heading).split())


def is_of_a_total(heading: str) -> bool:
    """Whether a heading says nothing but that its column tells totals, with tax or a currency beside that."""
    return bool({simplify(heading), _Heading(heading).amount_words} & words_of("total"))
