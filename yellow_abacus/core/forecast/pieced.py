"""Rows of a set of offers, pieced together from those of sets that come to the same on some carts.

Nothing is copied: a piece names the rows it shares, and says which of them it is and what its offers are called
there. docs/sums.md, "Groups and sums".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.costed import Costed, end_to_end
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.sums import Sums
from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.core.offers import Offer

MOST_ROWS = 0.5
"""Where more than this share of the rows is kept, the others are summed with them, at no weight."""

Source = tuple[int | None, ...]
"""Of each offer its number in another set, None for one that is not there."""


@dataclass(frozen=True, eq=False)
class Piece:
    """Those of `rows` where `kept`, None for all. source: each offer's number in the rows, None where all are there
    in the same order."""

    rows: Costed
    kept: Bools | None = None
    source: Source | None = None

    def on(self, carts: Bools, source: Source) -> "Piece":
        """On some carts, by cart of the mix. source: as other offers have it, by their numbers among this piece's."""
        here: Bools = carts[self.rows.cart_by_row]
        kept = here if self.kept is None else self.kept & here
        if self.source is not None:
            source = tuple(None if at is None else self.source[at] for at in source)
        return Piece(self.rows, kept, source)

    def of_carts(self, carts: Bools) -> Costed:
        """Its rows of some carts."""
        here = carts[self.rows.cart_by_row]
        source = range(len(self.rows.took_effect)) if self.source is None else self.source
        return self.rows.some(np.flatnonzero(here if self.kept is None else self.kept & here), source)

    def took_effect_by_cart(self, at: int, carts: int) -> Floats:
        """As in `Costed`."""
        number = at if self.source is None else self.source[at]
        return np.zeros(carts) if number is None else self.rows.took_effect_by_cart(number, carts, self.kept)

    def summed(self, mix: Mix) -> Sums:
        if self.kept is None or self.kept.mean() > MOST_ROWS:
            found = self.rows.summed(mix, self.kept)
        else:
            found = self.rows.some(np.flatnonzero(self.kept), range(len(self.rows.took_effect))).summed(mix)
        return found if self.source is None else found.with_offers(self.source)


@dataclass(frozen=True, eq=False)
class Pieced:
    """A set of offers and its rows. lasting: whether others are likely to be pieced together from it again: it was
    found whole, or has served before."""

    offers: tuple[Offer, ...]
    pieces: tuple[Piece, ...]
    lasting: bool = False

    def of_carts(self, carts: Bools) -> list[Costed]:
        """The rows of some carts, by cart of the mix."""
        return [one.of_carts(carts) for one in self.pieces]

    def took_effect_by_cart(self, at: int, carts: int) -> Floats:
        """As in `Costed`."""
        return sum((one.took_effect_by_cart(at, carts) for one in self.pieces), start=np.zeros(carts))

    def on(self, carts: Bools, source: Source) -> tuple[Piece, ...]:
        """What it has of some carts."""
        found = (one.on(carts, source) for one in self.pieces)
        return tuple(one for one in found if one.kept is None or one.kept.any())

    def whole(self, carts: int) -> "Pieced":
        """The same of one piece. carts: how many the mix has."""
        rows = end_to_end(self.of_carts(np.ones(carts, dtype=np.bool_)))
        return Pieced(self.offers, (Piece(rows),), self.lasting)


def rows_of_all(sets: Sequence[Pieced]) -> list[Costed]:
    """The rows that sets are made of, each once."""
    return list({id(piece.rows): piece.rows for one in sets for piece in one.pieces}.values())
