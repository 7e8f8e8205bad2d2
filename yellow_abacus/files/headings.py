"""What a heading, or the name of a table, says in words: an amount, a rate, a total, tax, a unit.

Case, spaces, accents and marks do not matter. The words stand in headings.toml, in several languages.
"""

import re
import tomllib
import unicodedata
from collections.abc import Sequence
from functools import cache, lru_cache
from importlib import resources
from typing import Any

from babel.numbers import list_currencies

MOST_KEPT = 8_000
"""Words whose simple form is kept: somewhat more than all headings there are."""
FEWEST_LETTERS, AN_ENDING = 4, 3
"""Of a heading of one word that is cut short, and of a word that a table may be called by; of what may stand behind
that."""


@lru_cache(MOST_KEPT)
def simplify(heading: str) -> str:
    """Lower case, without accents, units and marks: `Poids (kg)` and `poids_kg` → `poids kg`."""
    bare = heading
    if not heading.isascii():
        bare = "".join(ch for ch in unicodedata.normalize("NFKD", heading) if not unicodedata.combining(ch))
    bare = re.sub(r"(?<=[a-z])(?<!Mw)(?=[A-Z])", " ", bare)  # MwSt is one word
    return re.sub(r"[^\w]+|_+", " ", bare.casefold().replace("ı", "i")).strip()


@cache
def read_headings() -> dict[str, Any]:
    return tomllib.loads(resources.files(__package__).joinpath("headings.toml").read_text("utf-8"))


@cache
def words_of(what: str) -> frozenset[str]:
    """Words that mean something wherever they stand, simplified, such as those of statuses that leave an order
    out."""
    return frozenset(simplify(word) for word in read_headings()["words"][what])


@cache
def _beside_amounts() -> re.Pattern[str]:
    """What stands beside the words for an amount: tax or cents, anywhere; and last a currency."""
    beside = words_of("with_tax") | words_of("without_tax") | words_of("minor")
    currencies = [*map(str.casefold, list_currencies()), *words_of("currency")]
    return re.compile(rf"{_any_of(beside)}|\b(?:{'|'.join(currencies)})$")


def _any_of(words: frozenset[str]) -> str:
    """A pattern of any of some words, the longest first."""
    return rf"\b(?:{'|'.join(sorted(words - {''}, key=len, reverse=True))})\b"


def is_without_tax(heading: str) -> bool:
    """Whether a heading says that its column tells amounts without tax."""
    return has_words(heading, "without_tax")


def without_tax_or_currency(heading: str) -> str:
    """A heading, simplified, without what may stand beside the words for any amount.

    >>> without_tax_or_currency("Unit price excl. VAT (EUR)")
    'unit price'
    """
    return " ".join(_beside_amounts().sub("", simplify(heading)).split())


def has_words(text: str, what: str) -> bool:
    """Whether one of the words of `words_of`, or several in a row, stands somewhere in a text.

    >>> has_words("Partially cancelled", "left_out"), has_words("In part", "in_part"), has_words("Apart", "in_part")
    (True, True, False)
    """
    return bool(_any(what).search(simplify(text)))


@cache
def _any(what: str) -> re.Pattern[str]:
    return re.compile(_any_of(words_of(what)))


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

    >>> [is_of_percentages(one) for one in ("Duty %", "Rabattprozent", "Discount 2 %", "Price incl. 20 % VAT")]
    [True, True, True, False]
    """
    of_tax = not words_of("tax").isdisjoint(simplify(heading).split())
    return says_percent(_A_RATE.sub("", heading) if of_tax else heading)


def says_percent(text: str) -> bool:
    """Whether a heading or a cell speaks of percentages, by their sign or in a word, whatever that is joined to."""
    bare = simplify(text)
    return "%" in text or any(word in bare for word in words_of("percent"))


def is_of_rates(heading: str) -> bool:
    """Whether a heading says that its column of discounts tells percentages."""
    return is_of_percentages(heading) or not words_of("rates").isdisjoint(simplify(heading).split())


def has_currency_sign(text: str) -> bool:
    return any(unicodedata.category(ch) == "Sc" for ch in text)


def tells_an_amount(heading: str) -> bool:
    """Whether a heading says in a word that its column tells amounts, or names a currency.

    >>> [tells_an_amount(one) for one in ("Rabattbetrag", "Discount (EUR)", "Remise €", "Discount value")]
    [True, True, True, False]
    """
    text = simplify(heading)
    return (
        has_currency_sign(heading) or text.endswith(tuple(words_of("amount"))) or bool(_beside_amounts().search(text))
    )


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
    return _is_one_of(heading, "total") or is_of_what_was_paid(heading)


def may_be_of_a_total(heading: str) -> bool:
    """Whether a heading speaks of an amount or a total, in a word, whatever that is joined to; but of tax, weight or
    units.

    >>> [may_be_of_a_total(one) for one in ("Ordretotal", "Celkem za položku", "Zahlbetrag", "Total weight")]
    [True, True, True, False]
    """
    bare = without_tax_or_currency(heading)
    return any(word in bare for word in words_of("sums")) and not has_words(bare, "no_sums")


def is_of_what_was_paid(heading: str) -> bool:
    """Likewise, that it tells what was paid, of a line or of an order."""
    return _is_one_of(heading, "paid")


def _is_one_of(heading: str, what: str) -> bool:
    return bool({simplify(heading), without_tax_or_currency(heading)} & words_of(what))


def unit_in(heading: str, units: Sequence[str], otherwise: str) -> str:
    """The unit a column's heading names, `otherwise` where it names none of these."""
    words = simplify(heading).split()
    return next((unit for unit in units if unit in words), otherwise)
