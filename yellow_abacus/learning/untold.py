"""All that orders tell of offers which nobody told the shop."""

from collections.abc import Sequence
from dataclasses import dataclass

from yellow_abacus.learning.codes_found import FoundCode, codes_found
from yellow_abacus.learning.free_spells import FreeSpell, free_spells
from yellow_abacus.learning.gifts_found import FoundGift, gifts_found
from yellow_abacus.learning.ran import Past, Ran
from yellow_abacus.learning.spells import Spell, spells_found


@dataclass(frozen=True)
class Untold:
    """codes: that were used. spells: of lower prices. freed: of delivery free from less. gifts: that were put in."""

    codes: list[FoundCode]
    spells: list[Spell]
    freed: list[FreeSpell]
    gifts: list[FoundGift]


def untold(past: Past, ran: Sequence[Ran]) -> Untold:
    """ran: the offers told."""
    return Untold(codes_found(past, ran), spells_found(past, ran), free_spells(past, ran), gifts_found(past))
