"""What a priced batch holds, and how results of some carts are put together.

docs/sums.md, "One cart, priced".
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Bools, Ints


@dataclass(frozen=True, eq=False)
class Gift:
    """A reward that puts something in: the index of its offer and SKU, minor units asked and saved a unit."""

    offer: int
    sku: int
    asked: int
    saving: int


@dataclass(frozen=True, eq=False)
class Seen:
    """What one offer met at its turn: net and used units of each line, the delivery charge of each cart."""

    net_by_line: Ints
    used_by_line: Ints
    charge_by_cart: Ints


@dataclass(frozen=True, eq=False)
class Priced:
    """What each shopper sees. All in minor units; goods and delivery as the shop states prices.

    goods_off, delivery_off: one row an offer, one column a cart. put_in: units, one row a gift of `gifts`.
    goods_by_cart: what is asked for things put in included. saved_by_cart: on things put in.
    goods_tax, delivery_tax: the tax. total: what the shopper pays. off_by_line: one row an offer, one column a line,
    where that was asked for. seen: what a watched offer met.
    """

    net_by_line: Ints
    goods_by_cart: Ints
    goods_off: Ints
    gifts: tuple[Gift, ...]
    put_in: Ints
    charge_before_offers: Ints
    charge_by_cart: Ints
    delivery_off: Ints
    goods_tax: Ints
    delivery_tax: Ints
    total: Ints
    off_by_line: Ints | None = None
    seen: Seen | None = None

    @property
    def took_effect(self) -> Bools:
        """One row an offer, one column a cart: it lowered an amount by a minor unit or more, or put something in."""
        effect = (self.goods_off > 0) | (self.delivery_off > 0)
        for gift, units in zip(self.gifts, self.put_in, strict=True):
            effect[gift.offer] |= units > 0
        return effect

    @property
    def saved(self) -> Ints:
        """One row an offer, one column a cart: saved on things put in."""
        saved = np.zeros_like(self.goods_off)
        for gift, units in zip(self.gifts, self.put_in, strict=True):
            saved[gift.offer] += gift.saving * units
        return saved


Put = Callable[[str, Sequence[Ints]], Ints]
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

    def put(name: str, pieces: Sequence[Ints]) -> Ints:
        by_line = _is_by_line(name)
        size = batch.axes.lines if by_line else batch.axes.carts
        result = np.zeros((*pieces[0].shape[:-1], size), dtype=np.int64)
        for at, piece in enumerate(pieces):
            result[..., lines_by_part[at] if by_line else parts[at][0]] = piece
        return result

    return _put_together([priced for _, priced in parts], put)


def _is_by_line(name: str) -> bool:
    return name.endswith("_by_line")


def _put_together(parts: Sequence[Priced], put: Put) -> Priced:
    names = [field.name for field in fields(Priced) if field.name not in ("gifts", "seen")]
    names = [name for name in names if getattr(parts[0], name) is not None]
    arrays = {name: put(name, [getattr(part, name) for part in parts]) for name in names}
    return Priced(**arrays, gifts=parts[0].gifts, seen=_seen_together([part.seen for part in parts], put))


def _seen_together(parts: Sequence[Seen | None], put: Put) -> Seen | None:
    known = [part for part in parts if part is not None]
    if not known:
        return None
    if len(known) < len(parts):
        raise ValueError("an offer is watched on all carts or on none")
    names = [field.name for field in fields(Seen)]
    return Seen(**{name: put(name, [getattr(part, name) for part in known]) for name in names})
