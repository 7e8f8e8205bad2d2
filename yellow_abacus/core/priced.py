"""What a priced batch holds, and how results of some carts are put together.

docs/sums.md, "One cart, priced".
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import LARGEST_CHARGE, Bools, Floats, Ints


@dataclass(frozen=True, eq=False)
class Gift:
    """A reward that puts something in: the index of its offer and SKU; asked and standing, minor units a unit."""

    offer: int
    sku: int
    asked: int
    standing: int

    @property
    def saving(self) -> int:
        """What a shopper saves on a unit."""
        return max(self.standing - self.asked, 0)

    @property
    def worth(self) -> int:
        """A unit's standing price, or what is asked where that is more; at least 1."""
        return max(self.asked, self.standing, 1)

    @property
    def most(self) -> int:
        """The most units of it in one cart that the sums can carry exactly."""
        return LARGEST_CHARGE // self.worth


class TooMuchPutInError(ValueError):
    """An offer puts more in a cart than the sums can carry exactly. offer: its id."""

    def __init__(self, offer: str) -> None:
        super().__init__(f"offer {offer} puts in more than {LARGEST_CHARGE} minor units' worth")
        self.offer = offer


def effective(goods_off: Ints, delivery_off: Ints, gifts: Sequence[Gift], put_in: Ints) -> Bools:
    """One row an offer, one column a cart: it lowered an amount by a minor unit or more, or put something in."""
    effect: Bools = (goods_off > 0) | (delivery_off > 0)
    for gift, units in zip(gifts, put_in, strict=True):
        effect[gift.offer] |= units > 0
    return effect


@dataclass(frozen=True, eq=False)
class Priced:
    """What each shopper sees. All in minor units; goods and delivery as the shop states prices.

    goods_off, delivery_off: one row an offer, one column a cart. put_in: units, one row a gift of `gifts`.
    goods_by_cart: what is asked for things put in included. option_by_cart: of delivery (`Delivery`).
    goods_tax, delivery_tax, surcharge_tax: the tax. total: what the shopper pays without surcharges by choice: those
    are expected amounts, chosen_by_cart, with their chosen_tax. stood: one row an offer, one column a cart: where it
    took effect at any moment, and so shut others out, also where nothing of that is left. off_by_line: one row an
    offer, one column a line, and met_by_line, what each line still cost at each offer's turn, where asked for.
    """

    net_by_line: Ints
    goods_by_cart: Ints
    goods_off: Ints
    gifts: tuple[Gift, ...]
    put_in: Ints
    option_by_cart: Ints
    charge_before_offers: Ints
    charge_by_cart: Ints
    delivery_off: Ints
    surcharge_by_cart: Ints
    chosen_by_cart: Floats
    goods_tax: Ints
    delivery_tax: Ints
    surcharge_tax: Ints
    chosen_tax: Floats
    total: Ints
    stood: Bools
    off_by_line: Ints | None = None
    met_by_line: Ints | None = None

    @property
    def took_effect(self) -> Bools:
        """Where each offer took effect: one row an offer, one column a cart."""
        return effective(self.goods_off, self.delivery_off, self.gifts, self.put_in)

    @property
    def saved(self) -> Ints:
        """One row an offer, one column a cart: saved on things put in."""
        saved = np.zeros_like(self.goods_off)
        for gift, units in zip(self.gifts, self.put_in, strict=True):
            saved[gift.offer] += gift.saving * units
        return saved

    @property
    def less_put_in(self) -> Ints:
        """The total less the standing price of all that is put in: what the best set for the shopper has least of."""
        standing = [gift.standing * units for gift, units in zip(self.gifts, self.put_in, strict=True)]
        return self.total - sum(standing, start=np.zeros_like(self.total))


Put = Callable[[str, Sequence[NDArray[Any]]], NDArray[Any]]
"""Makes one array of several, given its name."""


def end_to_end(parts: Sequence[Priced]) -> Priced:
    """Results of neighbouring blocks of carts as one."""
    return _put_together(parts, lambda name, pieces: np.concatenate(pieces, axis=-1))


def chosen(batch: CartBatch, wins: Bools, one: Priced, other: Priced) -> Priced:
    """Cart by cart, `one` where it wins and `other` elsewhere."""
    on_line = batch.axes.spread(wins)
    return _put_together([one, other], lambda name, pieces: np.where(on_line if _is_by_line(name) else wins, *pieces))


def joined(batch: CartBatch, parts: Sequence[tuple[Ints, Priced]]) -> Priced:
    """Results of some carts each (by index), put back in the batch's order."""
    (carts, whole), *_ = parts
    if len(carts) == batch.axes.carts:
        return whole
    lines_by_part = [batch.axes.lines_of(carts) for carts, _ in parts]

    def put(name: str, pieces: Sequence[NDArray[Any]]) -> NDArray[Any]:
        by_line = _is_by_line(name)
        size = batch.axes.lines if by_line else batch.axes.carts
        result = np.zeros((*pieces[0].shape[:-1], size), dtype=pieces[0].dtype)
        for at, piece in enumerate(pieces):
            result[..., lines_by_part[at] if by_line else parts[at][0]] = piece
        return result

    return _put_together([priced for _, priced in parts], put)


def some_of(priced: Priced, batch: CartBatch, carts: slice) -> Priced:
    """The result of neighbouring carts of the batch alone."""
    if carts == slice(0, batch.axes.carts):
        return priced
    first = batch.axes.first_line_by_cart
    lines = slice(int(first[carts.start]), int(first[carts.stop]))
    return _put_together([priced], lambda name, pieces: pieces[0][..., lines if _is_by_line(name) else carts])


def _is_by_line(name: str) -> bool:
    return name.endswith("_by_line")


def _put_together(parts: Sequence[Priced], put: Put) -> Priced:
    names = [field.name for field in fields(Priced) if field.name != "gifts"]
    names = [name for name in names if getattr(parts[0], name) is not None]
    arrays = {name: put(name, [getattr(part, name) for part in parts]) for name in names}
    return Priced(**arrays, gifts=parts[0].gifts)
