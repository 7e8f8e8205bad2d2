"""What orders tell and nobody told the shop, as text."""

from datetime import date
from functools import partial

from yellow_abacus.files.untold_json import (
    FoundCodeDoc,
    FoundFreeDoc,
    FoundGiftDoc,
    FoundSpellDoc,
    code_text,
    freed_text,
    gift_text,
    spell_text,
)
from yellow_abacus.files.words import money

EUROS = partial(money, currency="EUR", minor_digits=2)
DAYS = {"first_day": date(2026, 3, 1), "last_day": date(2026, 3, 14)}


def test_each_is_told_in_a_sentence():
    code = FoundCodeDoc(code="NEWLEAF", orders=1, off_bp=850, **DAYS)
    assert (
        code_text(code) == "No offer knows the code NEWLEAF: 1 order from 2026-03-01 to 2026-03-14, 8.5\u00a0% off."
    )
    freed = FoundFreeDoc(zones=["Islands"], free_from=2_000, usual=6_000, orders=1_234, **DAYS)
    assert freed_text(freed, EUROS) == (
        "No offer frees delivery to Islands from €20.00: from 2026-03-01 to 2026-03-14, "
        "1,234 orders that would have paid below €60.00."
    )


def test_goods_that_cost_less_are_named_by_what_they_are_most_of():
    def told(*skus: str, category: str = "", everything: bool = False) -> str:
        spell = FoundSpellDoc(
            skus=list(skus), category=category, everything=everything, orders=40, off_bp=2_000, **DAYS
        )
        return spell_text(spell).removesuffix(": 20\u00a0% less from 2026-03-01 to 2026-03-14, in 40 orders.")

    assert told("A") == "No offer lowers A"
    assert told("A", "B") == "No offer lowers A and B"
    assert told("A", "B", "C", "D") == "No offer lowers A, B and 2 more"
    assert told("A", "B", category="Soil") == "No offer lowers Soil"
    assert told("A", "B", category="Soil", everything=True) == "No offer lowers almost everything"


def test_a_gift_is_told_with_what_it_was_given_for():
    def told(given_for: str, code: str = "", **more: object) -> str:
        gift = {"skus": ["A", "B"], "units": 1, "code": code, "from_value": None, "with_sku": None, "orders": 40}
        said = gift_text(FoundGiftDoc(given_for=given_for, **{**gift, **more}, **DAYS), EUROS)
        return said.removeprefix(
            "No offer puts in A or B: 40 orders from 2026-03-01 to 2026-03-14 got it for nothing"
        )

    assert told("every_order") == ", every order."
    assert told("value", from_value=4_000) == ", from €40.00."
    assert told("goods", with_sku="C") == ", with C."
    assert told("untold", code="THANKS") == ", with the code THANKS."
