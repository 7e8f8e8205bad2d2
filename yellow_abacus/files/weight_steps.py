"""Steps of weight as rate cards tell them: up to how much, in words or as a span, and each kilogram more."""

import re
from collections.abc import Iterable

from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.values import WEIGHTS

_NUMBER = re.compile(r"\d+(?:[.,]\d+)?")
MOST_KILOGRAMS = 100
"""Steps that name no unit are kilograms where all are below."""


def is_step(text: str) -> bool:
    """Whether a cell or heading is a step of weight, with its unit, or what a kilogram more is."""
    words = simplify(text).split()
    return is_more(text) or (bool(_NUMBER.search(text)) and any(_unit_of(word) for word in words))


def _unit_of(word: str) -> str:
    return next((unit for unit in WEIGHTS if re.fullmatch(rf"\d*{unit}", word)), "")


def is_start(heading: str) -> bool:
    """Whether a heading tells from what weight a step holds: that is where the one below ends."""
    return not words_of("weight_from").isdisjoint(simplify(heading).split())


def is_more(text: str) -> bool:
    """Whether a cell or heading stands for each kilogram beyond the last step."""
    words = f" {simplify(text)} "
    return any(f" {word} " in words for word in words_of("each_kilogram_more"))


def usual_unit(texts: Iterable[str]) -> str:
    """The unit of weights that name none."""
    told = [float(number.replace(",", ".")) for text in texts for number in _NUMBER.findall(text)[-1:]]
    return "kg" if told and max(told) < MOST_KILOGRAMS else "g"


def upto_of(text: str) -> str:
    """The weight up to which a step holds, of a cell that tells a span, or words beside it; empty for any weight. A
    cell that says anything else stays as it is.

    >>> [upto_of(text) for text in ("0 - 1 kg", "up to 2.5kg", "5", "over 30 kg", "10–20", "any", "2 dogs")]
    ['1 kg', '2.5 kg', '5', '', '20', '', '2 dogs']
    """
    numbers, words = _NUMBER.findall(text), [word for word in simplify(text).split() if not word.isdecimal()]
    units = [unit for word in words if (unit := _unit_of(word))]
    beside = {word for word in words if not _unit_of(word)}
    is_any = not beside.isdisjoint(words_of("any_weight")) or "+" in text
    if not beside <= words_of("weight_span") | words_of("any_weight") | words_of("weight_from"):
        return text
    if (is_any and len(numbers) < 2) or not text.strip():
        return ""
    return f"{numbers[-1]} {' '.join(units[-1:])}".strip() if numbers else text
