"""What priced rows hold, and how results of some rows are put together.

docs/sums.md, "One cart, priced".
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers.gifts import Gift


def effective(goods_off: Ints, delivery_off: Ints, gifts: Sequence[Gift], put_in: Ints) -> Bools:
    """One row an offer, one column a cart: it lowered an amount by a minor unit or more, or put something in."""
    effect: Bools = (goods_off > 0) | (delivery_off > 0)
    for gift, units in zip(gifts, put_in, strict=True):
        effect[gift.offer] |= units > 0
    return effect


@dataclass(frozen=True, eq=False)
class ByLine:
    """What became of each line, where each row has a cart of its own; minor units, one column a line.

    net: what it comes to. met, off: one row an offer: what it still cost at the offer's turn, and what that took off.
    """

    net: Ints
    met: Ints
    off: Ints


@dataclass(frozen=True, eq=False)
class Priced:
    """What each shopper sees, row by row (`Rows`). All in minor units; goods and delivery as the shop states prices.

    goods_off, delivery_off: one row an offer, one column a row. put_in: units, one row a gift of `gifts`;
    choice_by_row as in `Rows`. goods_by_row: what is asked for things put in included.
    goods_tax, delivery_tax, surcharge_tax: the tax. total: what the shopper pays without surcharges by choice: those
    are expected amounts, chosen_by_row, with their chosen_tax. stood: one row an offer: where it took effect at any
    moment, and so shut others out, also where nothing of that is left. from_lines: what lines come to in commission
    and returns, as `returns.FromLines` reads it. funded: what suppliers pay. returned_more: what it costs that more
    comes back. lines: only where it was asked for.
    """

    gifts: tuple[Gift, ...]
    choice_by_row: Ints
    goods_by_row: Ints
    goods_off: Ints
    put_in: Ints
    charge_before_offers: Ints
    charge_by_row: Ints
    delivery_off: Ints
    surcharge_by_row: Ints
    chosen_by_row: Floats
    goods_tax: Ints
    delivery_tax: Ints
    surcharge_tax: Ints
    chosen_tax: Floats
    total: Ints
    stood: Bools
    from_lines: Floats
    funded: Floats
    returned_more: Floats
    lines: ByLine | None = None

    @property
    def took_effect(self) -> Bools:
        """Where each offer took effect: one row an offer, one column a row."""
        return effective(self.goods_off, self.delivery_off, self.gifts, self.put_in)

    @property
    def by_line(self) -> ByLine:
        """What became of each line; it must have been asked for."""
        assert self.lines is not None
        return self.lines

    @property
    def saved(self) -> Ints:
        """One row an offer, one column a row: saved on things put in."""
        saved = np.zeros_like(self.goods_off)
        for gift, units, choice in self._gifts():
            saved[gift.offer] += gift.saving[choice] * units
        return saved

    @property
    def less_put_in(self) -> Ints:
        """The total less the standing price of all that is put in: what the best set for the shopper has least of."""
        standing = [gift.standing[choice] * units for gift, units, choice in self._gifts()]
        return self.total - sum(standing, start=np.zeros_like(self.total))

    def sku_of(self, gift: int) -> Ints:
        """Which SKU of a gift each row's shopper takes, by index."""
        result: Ints = self.gifts[gift].skus[self.choice_by_row[gift]]
        return result

    def _gifts(self) -> "zip[tuple[Gift, Ints, Ints]]":
        return zip(self.gifts, self.put_in, self.choice_by_row, strict=True)

    def some(self, rows: Ints, axes: Axes) -> "Priced":
        """Of some rows, by rising index. axes: of the batch, for the lines."""
        lines = axes.lines_of(rows) if self.lines is not None else rows
        return _put_together([self], lambda by_line, pieces: pieces[0].take(lines if by_line else rows, axis=-1))


Put = Callable[[bool, Sequence[NDArray[Any]]], NDArray[Any]]
"""Makes one array of several; first told is whether they are by line."""


def end_to_end(parts: Sequence[Priced]) -> Priced:
    """Results of neighbouring rows as one."""
    if len(parts) == 1:
        return parts[0]
    return _put_together(parts, lambda by_line, pieces: np.concatenate(pieces, axis=-1))


def chosen(axes: Axes, wins: Bools, one: Priced, other: Priced) -> Priced:
    """Row by row, `one` where it wins and `other` elsewhere. axes: of the batch, for the lines."""
    on_line = axes.spread(wins) if one.lines is not None else wins
    return _put_together([one, other], lambda by_line, pieces: np.where(on_line if by_line else wins, *pieces))


def joined(axes: Axes, rows: int, parts: Sequence[tuple[Ints, Priced]]) -> Priced:
    """Results of some rows each (by index), put back in order. rows: how many there are. axes: as in `chosen`."""
    (first, whole), *_ = parts
    if len(first) == rows:
        return whole
    lines_by_part = [axes.lines_of(at) if whole.lines is not None else at for at, _ in parts]

    def put(by_line: bool, pieces: Sequence[NDArray[Any]]) -> NDArray[Any]:
        size = axes.lines if by_line else rows
        result = np.zeros((*pieces[0].shape[:-1], size), dtype=pieces[0].dtype)
        for (at, _), lines, piece in zip(parts, lines_by_part, pieces, strict=True):
            result[..., lines if by_line else at] = piece
        return result

    return _put_together([priced for _, priced in parts], put)


def _put_together(parts: Sequence[Priced], put: Put) -> Priced:
    arrays = [one.name for one in fields(Priced) if one.name not in ("gifts", "lines")]
    lines = None
    if parts[0].lines is not None:
        names = [one.name for one in fields(ByLine)]
        lines = ByLine(**{name: put(True, [getattr(part.lines, name) for part in parts]) for name in names})
    found: dict[str, Any] = {name: put(False, [getattr(part, name) for part in parts]) for name in arrays}
    return replace(parts[0], **found, lines=lines)
