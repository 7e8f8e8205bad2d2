"""Amounts with tax or without: as their headings say, and brought to the shop's side.

Prices and charges become as the shop's are, costs are taken without tax.
"""

from collections.abc import Sequence
from itertools import pairwise

from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.values import Taxed

COSTS_WITHOUT = "Costs are told with tax, and taken without it."


def taxed_by(headings: Sequence[str]) -> Taxed:
    """Whether amounts are with tax, as their headings say; as the shop's where they say nothing, or both. Sales that
    are called net or gross are so of discounts.

    >>> [taxed_by([one]) for one in ("Price incl. VAT", "Preis exkl.", "Price incl. fuel surcharge", "Prix HT")]
    ['with tax', 'without tax', 'as the shop', 'without tax']
    """
    told = [words for words in map(_words, headings) if words_of("of_discounts").isdisjoint(words)]
    words = set().union(*told)
    without, with_ = (not words.isdisjoint(words_of(what)) for what in ("without_tax", "with_tax"))
    if without == with_:
        return "as the shop"
    return "without tax" if without else "with tax"


def _words(heading: str) -> set[str]:
    """The words of a heading, and each two or three neighbours together, rates of tax aside; without those for
    including and excluding where they may be of anything: with something else than tax behind them."""
    words = simplify(heading).split()
    if words_of("tax").isdisjoint(words):
        words = [word for word in words[:-1] if word not in words_of("including")] + words[-1:]
    without_rates = [word for word in words if not word.isdigit()]
    together = (*pairwise(words), *pairwise(without_rates), *zip(words, words[1:], words[2:], strict=False))
    return {*words, *map(" ".join, together)}


def is_ours(meant: Taxed, taxes: Taxes) -> bool:
    """Whether amounts told so are as the shop's prices are."""
    return meant == "as the shop" or (meant == "with tax") == taxes.included


def price_as_the_shops(amount: int, taxes: Taxes, rate_bp: int, meant: Taxed) -> int:
    """A price or charge that is told as `meant`, on the shop's side of tax, half a minor unit rounded up."""
    if is_ours(meant, taxes):
        return amount
    told, ours = WHOLE_BP, WHOLE_BP + rate_bp
    if not taxes.included:
        told, ours = ours, told
    return (2 * amount * ours + told) // (2 * told)


def cost_without_tax(amount: float, rate_bp: int, meant: Taxed) -> float:
    """Of a cost, to a hundredth of a minor unit.

    >>> cost_without_tax(1200.0, 2000, "with tax"), cost_without_tax(1200.0, 2000, "as the shop")
    (1000.0, 1200.0)
    """
    return round(amount * WHOLE_BP / (WHOLE_BP + rate_bp), 2) if meant == "with tax" else amount


def rate_of_delivery(taxes: Taxes) -> int:
    """By which charges and costs of delivery are taken with tax or without, before there are carts: its class's own,
    or that of goods that name none."""
    return taxes.classes[taxes.class_number(taxes.delivery or "")].rate_bp


def note_of(what: str, taxes: Taxes, meant: Taxed) -> list[str]:
    """What is done with prices or charges that are told so, in words."""
    if is_ours(meant, taxes):
        return []
    return [f"{what} are told {meant}, and taken {'with' if taxes.included else 'without'} it, as your shop’s are."]
