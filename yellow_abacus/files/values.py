"""Cells to values: numbers with any decimal mark, yes and no in several languages; days are for `dates`.

A column is read one way throughout. What way is found from all its cells (`Reading`), shown before anything is
saved, and can be chosen by hand.
"""

import re
import unicodedata
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from functools import cache
from itertools import chain
from typing import Literal

from babel.numbers import get_currency_symbol, list_currencies

from yellow_abacus.files.headings import is_of_percentages, is_of_rates, simplify, tells_an_amount, words_of

DecimalMark = Literal[".", ","]
DateOrder = Literal["day first", "month first", "year first"]


class BadCellError(ValueError):
    """A cell that cannot be read. message: what is wrong. mend: what to do."""

    def __init__(self, message: str, mend: str) -> None:
        super().__init__(message)
        self.message, self.mend = message, mend


Taxed = Literal["as the shop", "with tax", "without tax"]
RatesOf = Literal["theirs", "ours"]
"""Whether a rate is what one unit of an order's currency is in the shop's own, or the other way round."""


@dataclass(frozen=True)
class Reading:
    """How numbers and dates of a file are read.

    Of orders besides: whether prices are with tax; left_out: the statuses of orders that are left out, None for those
    that ordinary words say; rates: what one unit of a currency is in the shop's own, by currency; rates_of: how those
    in a column of the file are told; no_goods: names of rows without goods, and whether those are passed over, chosen
    against what ordinary words say or beside it; clock: the one on which times told in UTC are put, by its IANA name,
    empty for none.
    """

    decimal_mark: DecimalMark
    date_order: DateOrder
    taxed: Taxed = "as the shop"
    left_out: tuple[str, ...] | None = None
    rates: tuple[tuple[str, float], ...] = ()
    rates_of: RatesOf = "theirs"
    no_goods: tuple[tuple[str, bool], ...] = ()
    clock: str = ""


_BARE_NUMBER = re.compile(r"[-+]?\d+(?:\.\d+)?")
_PLAIN = {".": re.compile(r"-?[0-9]+(?:\.[0-9]+)?"), ",": re.compile(r"-?[0-9]+(?:,[0-9]+)?")}
"""What most cells are: nothing to take apart."""
_BESIDE = re.compile(r"[^\d\s.,'’()+-]")
"""What no number has."""
_GROUPED = {
    ".": re.compile(r"[-+]?(?:\d{1,3}(?:([,'’ ])\d{3})(?:\1\d{3})*|\d{1,2}(?:,\d{2})+,\d{3})(?:\.\d+)?"),
    ",": re.compile(r"[-+]?\d{1,3}(?:([.'’ ])\d{3})(?:\1\d{3})*(?:,\d+)?"),
}
"""In threes, and before the last three in twos, as in India."""
MOST_FIGURES = 30
LONGEST_NUMBER = 40
"""Letters of a cell that holds one number, its currency or unit included."""

SIGNS = {
    **{"kr": ("SEK", "DKK", "NOK", "ISK"), "zł": ("PLN",), "kč": ("CZK",), "ft": ("HUF",), "lei": ("RON", "MDL")},
    **{"fr": ("CHF",), "sfr": ("CHF",), "tl": ("TRY",), "лв": ("BGN",), "руб": ("RUB",), "грн": ("UAH",)},
    **{"din": ("RSD",), "kn": ("HRK",), "rs": ("INR", "PKR"), "rp": ("IDR",)},
    **{"円": ("JPY",), **dict.fromkeys("元圆圓", ("CNY", "TWD")), "원": ("KRW",)},
}
"""Currencies as people write them, besides their three letters and their signs; and which they may be."""


def is_currency_sign(text: str) -> bool:
    """Whether the text is a currency: its sign, alone or with letters (`US$`), its three letters, or `kr`."""
    bare = text.strip().rstrip(".")
    if bare.casefold() in SIGNS or bare.upper() in _currencies():
        return True
    signs = [ch for ch in bare if unicodedata.category(ch) == "Sc"]
    return len(signs) == 1 and len(bare) <= 3


def currency_meant(text: str, home: str) -> str:
    """The three letters of the currency that a text stands for, the shop's own where it can be that; the text in
    capitals where nothing is known of it. home: the shop's own.

    >>> [currency_meant(text, "CAD") for text in ("eur", "€", "$", "US$", "kr.", "SFr", "gold")]
    ['EUR', 'EUR', 'CAD', 'USD', 'KR', 'CHF', 'GOLD']
    """
    bare = unicodedata.normalize("NFKC", text).strip().rstrip(".")
    if bare.upper() in _currencies():
        return bare.upper()
    known = SIGNS.get(bare.casefold(), ()) or _currencies_by_sign().get(bare, ())
    if home in known or get_currency_symbol(home, "en").endswith(bare or " "):
        return home
    return known[0] if len(known) == 1 else bare.upper()


def unsigned(text: str) -> str:
    """An amount without the minus before it, with a currency in front or not.

    >>> unsigned("-4.50"), unsigned("€ -4.50"), unsigned("EUR − 4,50"), unsigned("4.50")
    ('4.50', '€ 4.50', 'EUR 4,50', '4.50')
    """
    return _MINUS.sub(r"\1", text.strip(), count=1)


_MINUS = re.compile(r"^([^\d\-−]*)[-−]\s*(?=\D*\d)")


def currency_beside(text: str, home: str) -> str:
    """The currency that stands beside a number, as `currency_meant` has it; empty where none does.

    >>> [currency_beside(text, "CAD") for text in ("12.00", "$12.00", "US$ 12", "12,00 zł", "3 pcs")]
    ['', 'CAD', 'USD', 'PLN', '']
    """
    if len(text) > LONGEST_NUMBER or _BESIDE.search(text) is None:
        return ""
    _, beside = _apart(unicodedata.normalize("NFKC", text))
    if not beside or not is_currency_sign(beside):
        return ""
    meant, own = currency_meant(beside, home), get_currency_symbol(home, "en")[-1:]
    return home if own and own in beside and not is_currency(meant) else meant


def is_currency(text: str) -> bool:
    """Whether the text is the three letters of a currency."""
    return text in _currencies()


@cache
def _currencies_by_sign() -> dict[str, tuple[str]]:
    signs = {code: get_currency_symbol(code, "en") for code in sorted(_currencies())}
    return {**{sign: (code,) for code, sign in signs.items() if sign != code}, "US$": ("USD",)}


@cache
def _currencies() -> frozenset[str]:
    return frozenset(list_currencies())


def nothing_else(text: str) -> bool:
    """For numbers that stand alone."""
    return not text


def one_of(words: Collection[str]) -> Callable[[str], bool]:
    """For numbers with one of these units."""
    return lambda text: text.casefold().rstrip(".") in words


_LISTED = re.compile(r"[;|\n]|,\s")
"""Between numbers of which one cell has several."""
_MARK = re.compile(r"([.,])(\d+)")


def guess_decimal_mark(cells: Iterable[str], separator: str) -> DecimalMark:
    """The decimal mark of a file, from the cells of its number columns."""
    votes = {".": 0, ",": 0}
    for cell in chain.from_iterable(map(_LISTED.split, cells)):
        marks = _MARK.findall(cell)
        if not marks:
            continue
        mark, after = marks[-1]
        if len(marks) > 1 and all(one == mark for one, _ in marks):
            votes["," if mark == "." else "."] += 3
        elif len(after) != 3 or len(marks) > 1:
            votes[mark] += 2
    if votes["."] == votes[","]:
        return "," if separator == ";" else "."
    return "." if votes["."] > votes[","] else ","


def parse_number(text: str, mark: DecimalMark, beside: Callable[[str], bool] = nothing_else) -> Decimal:
    """A number with thousands marks and decimal mark, and nothing around it but what may stand `beside` it.

    Raises BadCellError: a cell is a number, or it is a fault; figures are never picked out of words.
    """
    if len(text) <= MOST_FIGURES and _PLAIN[mark].fullmatch(text):
        return Decimal(text.replace(",", "."))
    bare, around = _apart(unicodedata.normalize("NFKC", text[: LONGEST_NUMBER + 1]).replace("−", "-"))
    if len(text) > LONGEST_NUMBER or not (around == "" or beside(around)):
        raise _not_a_number(text, mark)
    if _GROUPED[mark].fullmatch(bare):
        bare = re.sub(r"['’ ]|" + re.escape("," if mark == "." else "."), "", bare)
    if mark == ",":
        bare = bare.replace(".", "?").replace(",", ".")
    if not _BARE_NUMBER.fullmatch(bare) or len(bare) > MOST_FIGURES:
        raise _not_a_number(text, mark)
    return Decimal(bare)


def number_if_any(text: str, mark: DecimalMark, beside: Callable[[str], bool] = nothing_else) -> Decimal | None:
    """As `parse_number`; None where the text is no number."""
    try:
        return parse_number(text, mark, beside)
    except BadCellError:
        return None


def _apart(text: str) -> tuple[str, str]:
    """The number in a cell, with its sign, and what stands before or behind it; brackets make it negative."""
    told = " ".join(text.split())
    sign = ""
    if told.startswith("(") and told.endswith(")"):
        told, sign = told[1:-1].strip(), "-"
    digits = [at for at, ch in enumerate(told) if ch.isascii() and ch.isdigit()]
    if not digits:
        return told, ""
    first, last = digits[0], digits[-1]
    if first and told[first - 1] in ".,":  # .5
        first -= 1
    before, number, behind = told[:first].strip(), told[first : last + 1], told[last + 1 :].strip()
    if number.startswith((".", ",")):
        number = "0" + number
    for one in "-+":
        if before.startswith(one) or before.endswith(one):
            before, sign = before.strip(one).strip(), sign + one
    if behind in (".", ",", ".-", ",-", ".–", ",–"):  # 12,- as prices are written
        behind = ""
    if behind.endswith("-") and not sign:  # 12.50-
        behind, sign = behind[:-1].strip(), "-"
    return sign + number, f"{before}{behind}" if not (before and behind) else f"{before} {behind}"


def _not_a_number(text: str, mark: DecimalMark) -> BadCellError:
    shown = text if len(text) <= LONGEST_NUMBER else text[:LONGEST_NUMBER] + "…"
    return BadCellError(f"“{shown}” is not a number.", f"Write it like {'1234.50' if mark == '.' else '1234,50'}.")


def parse_money(text: str, mark: DecimalMark, minor_digits: int, *, largest: int, extra_digits: int = 0) -> Decimal:
    """An amount in minor units, from 0 to `largest`, with up to `extra_digits` digits behind the minor unit."""
    value = parse_number(text, mark, is_currency_sign).scaleb(minor_digits)
    if value < 0:
        raise BadCellError(f"“{text}” is below 0.", "Write an amount of 0 or more, or leave the cell empty.")
    if value > largest:
        raise BadCellError(f"“{text}” is larger than any price can be.", "Check for a missing decimal mark.")
    if value != round(value, extra_digits):
        digits = minor_digits + extra_digits
        raise BadCellError(f"“{text}” has more than {digits} decimals.", f"Round it to {digits} decimals.")
    return value


def rounded_money(text: str, mark: DecimalMark, minor_digits: int, *, largest: int) -> int:
    """An amount in whole minor units, half of one rounded away from zero: files tell shares of rounded sums."""
    value = parse_money(text, mark, minor_digits, largest=largest, extra_digits=MOST_DECIMALS)
    return int(value.to_integral_value(ROUND_HALF_UP))


MOST_DECIMALS = 12


def finer_money(text: str, mark: DecimalMark, minor_digits: int, *, largest: int) -> tuple[int, bool]:
    """As `rounded_money`, and whether anything was rounded."""
    value = parse_money(text, mark, minor_digits, largest=largest, extra_digits=MOST_DECIMALS)
    whole = int(value.to_integral_value(ROUND_HALF_UP))
    return whole, whole != value


_PIECES = frozenset(
    [
        *("x", "pcs", "pc", "pieces", "units", "unit", "stk", "st", "stück", "szt", "pz", "ud", "uds"),
        *("db", "ks", "kpl", "kos", "adet", "un", "buc", "stuks", "pezzi", "kom", "tk", "gab", "vnt", "stykki"),
        *("шт", "бр", "τεμ", "個", "点", "个", "件", "개"),
    ]
)


def parse_count(text: str, mark: DecimalMark, *, least: int, largest: int) -> int:
    value = parse_number(text, mark, one_of(_PIECES))
    if value != value.to_integral_value():
        raise BadCellError(f"“{text}” is not a whole number.", "Write a whole number.")
    if value < least:
        raise BadCellError(f"“{text}” is below {least}.", f"Write {least} or more.")
    if value > largest:
        raise BadCellError(f"“{text}” is too large.", f"Write {largest:,} or less.")
    return int(value)


_GRAMS = {
    **dict.fromkeys(("g", "gr", "gram", "grams"), Decimal(1)),
    **dict.fromkeys(("kg", "kilo", "kilos"), Decimal(1000)),
    **dict.fromkeys(("oz", "ounce", "ounces"), Decimal("28.349523125")),
    **dict.fromkeys(("lb", "lbs", "pound", "pounds"), Decimal("453.59237")),
}
_MILLIMETRES = {
    "mm": Decimal(1),
    "cm": Decimal(10),
    "m": Decimal(1000),
    **dict.fromkeys(("in", "inch", "inches"), Decimal("25.4")),
}
_POUNDS_AND_OUNCES = re.compile(
    r"(\d[\d.,]*\s*(?:lbs?|pounds?)\.?),?\s*(\d[\d.,]*\s*(?:oz|ounces?)\.?)", re.IGNORECASE
)
_INCHES = re.compile("[\"″”]|''")
WEIGHTS, LENGTHS = tuple(_GRAMS), ("mm", "cm", "inch", "inches", "in", "m")
"""Units a column's heading may name."""

HEAVIEST, LONGEST = 2_000_000, 100_000


def bare_unit(text: str) -> str:
    """A unit as it is known here: `Lb.` → `lb`."""
    return text.strip().rstrip(".").casefold()


def is_weight_unit(text: str) -> bool:
    return bare_unit(text) in _GRAMS


def is_length_unit(text: str) -> bool:
    return bare_unit(text) in _MILLIMETRES


def parse_weight(text: str, mark: DecimalMark, unit_of_column: str) -> float:
    """Grams, from a number with its unit, or in the unit the column's heading names; to a milligram.

    >>> parse_weight("2 lb 3 oz", ".", "g"), parse_weight("0,9", ",", "kg")
    (992.234, 900.0)
    """
    if both := _POUNDS_AND_OUNCES.fullmatch(text.strip()):
        return round(sum(parse_weight(part, mark, unit_of_column) for part in both.groups()), 3)
    grams = parse_number(text, mark, one_of(_GRAMS)) * _unit(
        text, _GRAMS, unit_of_column, "a weight in g, kg, oz or lb", "250 g"
    )
    if not 0 <= grams <= HEAVIEST:
        raise BadCellError(f"“{text}” cannot be a weight.", "Write a weight from 0 to 2,000 kg.")
    return float(round(grams, 3))


def parse_length(text: str, mark: DecimalMark, unit_of_column: str) -> int:
    """Whole millimetres, from a number with its unit, or in the unit the column's heading names.

    >>> parse_length("12 in", ".", "mm"), parse_length('12"', ".", "mm"), parse_length("12", ".", "cm")
    (305, 305, 120)
    """
    text = _INCHES.sub(" in", text)
    unit = _unit(text, _MILLIMETRES, unit_of_column, "a length in mm, cm, m or in", "30 cm")
    length = round(parse_number(text, mark, one_of(_MILLIMETRES)) * unit)
    if not 0 <= length <= LONGEST:
        raise BadCellError(f"“{text}” cannot be a side of a parcel.", "Write a length from 0 to 100 m.")
    return length


def parse_size(text: str, mark: DecimalMark, unit_of_column: str) -> tuple[int, int, int]:
    """Three sides in millimetres, from `30 x 20 x 12.5 cm`."""
    sides = [side for side in re.split(r"[x×*]", _INCHES.sub(" in", text.lower())) if side.strip()]
    if len(sides) != 3:
        raise BadCellError(f"“{text}” is not a size of three sides.", "Write it like 30 x 20 x 12 cm.")
    unit = re.sub(r"[^a-z]", "", sides[-1]) or unit_of_column
    one, two, three = (parse_length(side, mark, unit) for side in sides)
    return one, two, three


def _unit(text: str, known: Mapping[str, Decimal], otherwise: str, what: str, example: str) -> Decimal:
    named = re.sub(r"[^a-z]", "", text.lower()) or otherwise
    if named not in known:
        raise BadCellError(f"“{text}” is not {what}.", f"Write it like {example}.")
    return known[named]


def parse_rate(text: str, mark: DecimalMark, *, most: int = 10_000) -> int:
    """Basis points, from a percentage with or without its sign."""
    value = parse_number(text, mark, one_of(("%",))).scaleb(2)
    if value != value.to_integral_value():
        raise BadCellError(f"“{text}” has more than two decimals.", "Round it to two decimals.")
    if not 0 <= value <= most:
        raise BadCellError(f"“{text}” is not between 0 and {most / 100:g} %.", "Write a percentage, like 4.5.")
    return int(value)


def parse_rate_off(text: str, mark: DecimalMark, *, shares: bool) -> int:
    """Basis points, from what was taken off in percent, with or without its sign; shares: of 1, where none has it."""
    bare = unsigned(text)
    told = parse_number(bare.rstrip("%").strip(), mark) * (100 if shares and not bare.endswith("%") else 1)
    if not 0 <= told <= 100:
        raise BadCellError(f"“{text}” is not between 0 and 100 %.", "Write a rate, or an amount of money.")
    return round(told * 100)


def are_percentages(heading: str, texts: Collection[str]) -> bool:
    """Whether a column tells percentages, by its heading or most of its cells."""
    return is_of_percentages(heading) or sum(text.rstrip().endswith("%") for text in texts) * 2 > len(texts)


def are_rates(heading: str, texts: Collection[str]) -> bool:
    """Whether a column of what was taken off tells percentages, or shares of 1, by its heading or its cells.

    >>> are_rates("Discount", ["10 %", ""]), are_rates("Discount", ["0.1", ""]), are_rates("Discount, EUR", ["0.1"])
    (True, True, False)
    """
    return is_of_rates(heading) or any("%" in text for text in texts) or are_shares(heading, texts)


FEWEST_SHARES = 5


def are_shares(heading: str, texts: Iterable[str]) -> bool:
    """Whether what was taken off is told as shares of 1, as sums are not written: all below 1 and without a last 0
    (nothing too), so many of them or all twentieths; and its heading does not say that it is money."""
    if tells_an_amount(heading):
        return False
    told = set(map(unsigned, texts)) - _NONE_OFF
    if not told or not all(map(_SHARE.fullmatch, told)):
        return False
    return len(told) >= FEWEST_SHARES or all(map(_TWENTIETHS.fullmatch, told))


_NONE_OFF = frozenset(["", "0", "0.0", "0,0"])
_SHARE, _TWENTIETHS = re.compile(r"0?[.,]\d?[1-9]"), re.compile(r"0?[.,](?:[1-9]|\d5)")


_CUT_SHORT = re.compile(r"\d[.,]\d+E\+\d+", re.IGNORECASE)
CUT_SHORT = "is a long number that a spreadsheet cut short."
NOT_CUT_SHORT = "Show its column as text, or without decimals, in the spreadsheet, and save the file again."


def is_cut_short(text: str) -> bool:
    """Whether a spreadsheet wrote what numbers something as it showed it, without its last digits.

    >>> is_cut_short("8,71123E+12"), is_cut_short("8711231234567"), is_cut_short("12E+3")
    (True, False, False)
    """
    return _CUT_SHORT.fullmatch(text.strip()) is not None


def parse_flag(text: str) -> bool:
    bare = text.strip()
    word = simplify(bare) if bare.isalnum() else bare  # signs tell something else: -1, 1 %
    if word in words_of("yes"):
        return True
    if word in words_of("no"):
        return False
    raise BadCellError(f"“{text}” is neither yes nor no.", "Write yes or no.")


def name_if_any(text: str) -> str:
    """A name; empty where the cell says in words that there is none.

    >>> [name_if_any(one) for one in ("SPRING10", "None", "no", "Ohne")]
    ['SPRING10', '', '', '']
    """
    return "" if simplify(text) in words_of("none") | words_of("no") else text


def parse_first_order(text: str, *, asks_for_returning: bool = False) -> bool:
    """Whether a cell says that an order is its shopper's first: by a word for shoppers who are new or come again, or
    by yes or no to its heading.

    >>> parse_first_order("New"), parse_first_order("yes"), parse_first_order("yes", asks_for_returning=True)
    (True, True, False)
    """
    word = simplify(text)
    if word in words_of("first") | words_of("returning"):
        return word in words_of("first")
    return parse_flag(text) != asks_for_returning


def split_names(text: str) -> tuple[str, ...]:
    """The names in a cell that may hold several, parted by ; or |, each once; quotation marks keep those inside."""
    found = (told[0].replace('""', '"') if told[0] else told[1].strip() for told in _ONE_NAME.findall(text))
    return tuple(dict.fromkeys(name for name in found if name.strip()))


def split_tags(text: str) -> tuple[str, ...]:
    """As `split_names`; where nothing else parts them, commas do."""
    return split_names(text if _PARTED.search(text) else text.replace(",", ";"))


_PARTED = re.compile(r'[;|"]')
_ONE_NAME = re.compile(r'\s*(?:"((?:[^"]|"")*)"|([^;|]+))\s*(?:[;|]|$)')


def join_names(names: Iterable[str]) -> str:
    """Names as `split_names` reads them back."""
    return "; ".join(f'"{name.replace(chr(34), chr(34) * 2)}"' if _QUOTED.search(name) else name for name in names)


_QUOTED = re.compile(r'[;|",]|^\s|\s$')
