"""What orders tell of offers that nobody told the shop, as JSON and as text. docs/files.md, "What history says"."""

from collections.abc import Callable, Iterable, Sequence
from datetime import date
from typing import Any

from pydantic import BaseModel

from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.files.words import count, share, so_many
from yellow_abacus.learning.codes_found import FoundCode
from yellow_abacus.learning.free_spells import FreeSpell
from yellow_abacus.learning.gifts_found import FoundGift, GivenFor
from yellow_abacus.learning.ran import Past
from yellow_abacus.learning.spells import Spell
from yellow_abacus.learning.untold import Untold

Money = Callable[[float], str]
"""Minor units as text."""

MOST_FOUND, MOST_SPELLS = 100, 20
"""So many codes are shown, the most used; and so many of everything else."""


class FoundCodeDoc(BaseModel):
    """A code that was used and that no offer knows. off_bp: of the goods; null where orders do not tell."""

    code: str
    first_day: date
    last_day: date
    orders: int
    off_bp: int | None


class FoundSpellDoc(BaseModel):
    """Goods that cost less for some days, which no offer explains. category: that they are most of, empty for none;
    everything: whether they are most of all that was sold then. off_bp: of the usual price."""

    skus: list[str]
    category: str
    everything: bool
    first_day: date
    last_day: date
    orders: int
    off_bp: int


class FoundFreeDoc(BaseModel):
    """Days on which orders to some zones were delivered free from a lower value than usual, which no offer explains;
    minor units."""

    zones: list[str]
    free_from: int
    usual: int
    first_day: date
    last_day: date
    orders: int


class FoundGiftDoc(BaseModel):
    """Goods with a price that orders got for nothing, which no offer explains. skus: one of them each. units: to most
    orders. code: that those orders used, empty for none.

    given_for: every_order of those days, or with that code; value: goods from from_value minor units; goods:
    with_sku; untold where orders tell none of these.
    """

    skus: list[str]
    units: int
    code: str
    given_for: GivenFor
    from_value: int | None
    with_sku: str | None
    first_day: date
    last_day: date
    orders: int


def untold_docs(found: Untold, past: Past) -> dict[str, Any]:
    """By the fields of what history says. past: the history it was found in."""
    goods, zones = past.batch.goods, past.shop.zone_names
    return {
        "found": [_code(one) for one in found.codes[:MOST_FOUND]],
        "others": max(len(found.codes) - MOST_FOUND, 0),
        "spells": [_spell(one, goods) for one in found.spells[:MOST_SPELLS]],
        "freed": [_freed(one, zones) for one in found.freed[:MOST_SPELLS]],
        "gifts": [_gift(one, goods) for one in found.gifts[:MOST_SPELLS]],
    }


def _code(one: FoundCode) -> FoundCodeDoc:
    return FoundCodeDoc(
        code=one.code,
        first_day=date.fromordinal(one.first_day),
        last_day=date.fromordinal(one.last_day),
        orders=one.orders,
        off_bp=None if one.off is None else round(one.off * WHOLE_BP),
    )


def _spell(spell: Spell, goods: Goods) -> FoundSpellDoc:
    return FoundSpellDoc(
        skus=[goods.skus[at] for at in spell.skus],
        category=spell.category,
        everything=spell.everything,
        first_day=date.fromordinal(spell.first_day),
        last_day=date.fromordinal(spell.last_day),
        orders=spell.orders,
        off_bp=round(spell.off * WHOLE_BP),
    )


def _freed(spell: FreeSpell, zones: Sequence[str]) -> FoundFreeDoc:
    return FoundFreeDoc(
        zones=[zones[at] for at in spell.zones],
        free_from=spell.free_from,
        usual=spell.usual,
        first_day=date.fromordinal(spell.first_day),
        last_day=date.fromordinal(spell.last_day),
        orders=spell.orders,
    )


def _gift(gift: FoundGift, goods: Goods) -> FoundGiftDoc:
    return FoundGiftDoc(
        skus=[goods.skus[at] for at in gift.skus],
        units=gift.units,
        code=gift.code,
        given_for=gift.given_for,
        from_value=gift.at if gift.given_for == "value" else None,
        with_sku=goods.skus[gift.at] if gift.given_for == "goods" else None,
        first_day=date.fromordinal(gift.first_day),
        last_day=date.fromordinal(gift.last_day),
        orders=gift.orders,
    )


# --- as text


def untold_lines(
    codes: Iterable[FoundCodeDoc],
    spells: Iterable[FoundSpellDoc],
    freed: Iterable[FoundFreeDoc],
    gifts: Iterable[FoundGiftDoc],
    money: Money,
) -> list[str]:
    """A sentence each."""
    return [
        *map(code_text, codes),
        *map(spell_text, spells),
        *(freed_text(one, money) for one in freed),
        *(gift_text(one, money) for one in gifts),
    ]


def code_text(one: FoundCodeDoc) -> str:
    off = "" if one.off_bp is None else f", {share(one.off_bp / WHOLE_BP)} off"
    return f"No offer knows the code {one.code}: {so_many(one.orders, 'order')} {_days(one)}{off}."


def spell_text(one: FoundSpellDoc) -> str:
    named = "almost everything" if one.everything else one.category or " and ".join(one.skus[:2])
    more = 0 if one.everything or one.category else len(one.skus) - 2
    goods = named if more <= 0 else f"{', '.join(one.skus[:2])} and {count(more)} more"
    less = share(one.off_bp / WHOLE_BP)
    return f"No offer lowers {goods}: {less} less {_days(one)}, in {so_many(one.orders, 'order')}."


def freed_text(one: FoundFreeDoc, money: Money) -> str:
    return (
        f"No offer frees delivery to {', '.join(one.zones)} from {money(one.free_from)}: {_days(one)}, "
        f"{so_many(one.orders, 'order')} that would have paid below {money(one.usual)}."
    )


def gift_text(one: FoundGiftDoc, money: Money) -> str:
    reason = {
        "every_order": ", every order",
        "value": f", from {money(one.from_value or 0)}",
        "goods": f", with {one.with_sku}",
        "untold": "",
    }[one.given_for]
    code = f", with the code {one.code}" if one.code else ""
    goods = " or ".join(one.skus)
    return f"No offer puts in {goods}: {so_many(one.orders, 'order')} {_days(one)} got it for nothing{code}{reason}."


def _days(one: FoundCodeDoc | FoundSpellDoc | FoundFreeDoc | FoundGiftDoc) -> str:
    return f"from {one.first_day} to {one.last_day}"
