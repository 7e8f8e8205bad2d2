"""Money and shares in words, for text outside the browser. The browser's twin is `frontend/src/pieces/figures.ts`."""

from collections.abc import Iterable
from decimal import ROUND_HALF_UP, Decimal, localcontext
from functools import lru_cache

from babel.numbers import format_currency, format_decimal, get_currency_symbol

from yellow_abacus.core.forecast.answer import CountFigure, MoneyFigure, Part, ShareFigure

MOST_TOLD = 4_000
"""Amounts in words are kept: one answer tells the same many times."""


@lru_cache(MOST_TOLD)
def money(amount: float, currency: str, minor_digits: int, *, whole: bool = False) -> str:
    """Minor units as text, losses with a minus sign; `whole` leaves the minor digits off."""
    digits = "#,##0" if whole or not minor_digits else "#,##0." + "0" * minor_digits
    apart = "\u00a0" if get_currency_symbol(currency, locale="en")[-1].isalpha() else ""
    with localcontext(rounding=ROUND_HALF_UP):
        value = Decimal(str(abs(amount))).scaleb(-minor_digits)
        text = format_currency(value, currency, format=f"¤{apart}{digits}", locale="en", currency_digits=False)
    return text if amount >= 0 or _is_nothing(text) else "−" + text


def share(value: float) -> str:
    """A share as a percentage: one decimal below 10 %, none from there on."""
    return f"{_number(value * 100)}\u00a0%"


def count(value: float) -> str:
    """A number of orders: one decimal below 10, none from there on."""
    return _number(value)


def so_many(value: float, one: str) -> str:
    """So many of something: *1 order*, *12 orders*."""
    many = count(value)
    return f"{many} {one}" if many == "1" else f"{many} {one}s"


def _number(value: float) -> str:
    with localcontext(rounding=ROUND_HALF_UP):
        text = format_decimal(value, "#,##0.#" if abs(value) < FEW else "#,##0", locale="en")
    return text.replace("-", "" if _is_nothing(text) else "−")


def _is_nothing(text: str) -> bool:
    """Whether a figure, as it is shown, is nothing: then it has no sign."""
    return not any(ch in "123456789" for ch in text)


FEW = 9.95
"""What is shown as less than ten is shown with a decimal."""


def sentence(parts: Iterable[Part], currency: str, minor_digits: int, *, whole: bool) -> str:
    told = []
    for part in parts:
        if isinstance(part, MoneyFigure):
            told.append(money(part.amount, currency, minor_digits, whole=whole) + part.after)
        elif isinstance(part, CountFigure):
            told.append(count(part.count) + part.after)
        elif isinstance(part, ShareFigure):
            told.append(share(part.share) + part.after)
        else:
            told.append(part.text)
    return "".join(told)
