"""Cart types sketched by hand, as the carts they stand for.

A sketch is a cart, or a family of carts: each line takes one SKU of the goods it may be of, and a number of units
between two bounds. All of its carts are made where they are few; else so many of them that each SKU, number of units
and zone has its share. docs/sums.md, "Sketched carts".

>>> soil = SketchedLine(Scope(categories=("Soils",)), least=1, most=3)
>>> list(Sketch("Balcony starters", 1_500, (soil,)).problems())
[]
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import UNKNOWN, Facts, Labels, nothing_known
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED

MOST_LINES, MOST_UNITS = 20, 1_000
MOST_DRAWN = 240
"""A sketch that stands for more carts than this, zones and shoppers aside, is drawn so many times."""
SEED = 11


@dataclass(frozen=True)
class SketchedLine:
    """One SKU `of` some goods, from least to most units, each number as likely."""

    of: Scope
    least: int = 1
    most: int = 1

    __pydantic_config__ = CLOSED

    def sold(self, goods: Goods) -> Bools:
        """Which SKUs it may be: those meant that are sold and have a price."""
        found: Bools = self.of.holds(goods) & goods.is_sold & (goods.list_price != NO_PRICE)
        return found


@dataclass(frozen=True)
class ZoneShare:
    """The share of a sketch's orders that go to a zone (basis points)."""

    zone: str
    share_bp: int

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Sketch:
    """share_bp: of all orders. zones: empty for where other orders go. first_bp: the share of first orders, None for
    as many as among other orders.

    first_day, last_day: the days on which such carts come, both included; None where that end is open.
    """

    name: str
    share_bp: int
    lines: tuple[SketchedLine, ...]
    zones: tuple[ZoneShare, ...] = ()
    first_bp: int | None = None
    first_day: date | None = None
    last_day: date | None = None

    __pydantic_config__ = CLOSED

    def comes_on(self, day: date) -> bool:
        return (self.first_day is None or day >= self.first_day) and (self.last_day is None or day <= self.last_day)

    def problems(self) -> Iterator[Problem]:
        name = f"“{self.name}”" if self.name else "The sketch"
        if not self.name.strip():
            yield Problem(("name",), "A cart type has no name.", "Give it one.")
        if not 0 <= self.share_bp <= WHOLE_BP:
            yield Problem(("share_bp",), f"{name} has a share no type can have.", "Choose from 0 to 100 %.")
        if not 1 <= len(self.lines) <= MOST_LINES:
            yield Problem(("lines",), f"{name} holds nothing, or too much.", f"Give it 1 to {MOST_LINES} lines.")
        for number, line in enumerate(self.lines):
            if not 1 <= line.least <= line.most <= MOST_UNITS:
                message = f"{name} has a line of {line.least} to {line.most} units."
                yield Problem(("lines", number, "most"), message, f"Choose from 1 to {MOST_UNITS:,}.")
        if self.zones and not any(one.share_bp > 0 for one in self.zones):
            yield Problem(("zones",), f"{name} goes to no zone.", "Give one a share.")
        if any(not 0 <= one.share_bp <= WHOLE_BP for one in self.zones):
            yield Problem(("zones",), f"{name} has a zone with a share none can have.", "Choose from 0 to 100 %.")
        if self.first_bp is not None and not 0 <= self.first_bp <= WHOLE_BP:
            yield Problem(("first_bp",), f"{name} has a share of first orders none can have.", "Choose 0 to 100 %.")
        if self.first_day and self.last_day and self.last_day < self.first_day:
            yield Problem(("last_day",), f"{name} ends before it starts.", "Choose a later last day.")

    def problems_in(self, goods: Goods, zone_names: Sequence[str]) -> Iterator[Problem]:
        """What is wrong with a sound sketch in a shop."""
        for number, line in enumerate(self.lines):
            if not line.sold(goods).any():
                message = f"“{self.name}” has a line of goods the shop does not sell, or not at a list price."
                yield Problem(("lines", number, "of"), message, "Choose other goods for it.")
        known = {folded(name) for name in zone_names}
        for number, one in enumerate(self.zones):
            if folded(one.zone) not in known:
                message = f"“{self.name}” goes to “{one.zone}”, which is no zone of the shop."
                yield Problem(("zones", number, "zone"), message, "Choose one of the zones at Delivery.")


@dataclass(frozen=True, eq=False)
class Usual:
    """What other orders are like. units_by_sku: ordered; zone_shares: one entry a zone, adding up to 1.

    first_share: of first orders, None where that is not known. currency: of the shop.
    """

    units_by_sku: Floats
    zone_shares: Floats
    first_share: float | None
    currency: str


@dataclass(frozen=True, eq=False)
class Drawn:
    """The carts of some sketches. sketch_by_cart: of which. share_by_cart: how likely one of its sketch is that cart.

    Times are not known of them.
    """

    batch: CartBatch
    sketch_by_cart: Ints
    share_by_cart: Floats


def drawn(sketches: Sequence[Sketch], goods: Goods, zone_names: Sequence[str], usual: Usual) -> Drawn:
    """The carts that sketches stand for which have no problems in the shop. Raises CartTooLargeError."""
    sketch, share, zone, before = [], [], [], []
    cart_by_line, sku_by_line, units_by_line = [], [], []
    carts = 0
    for number, one in enumerate(sketches):
        skus, units, likely = _fillings(one, goods, usual)
        for where, to_zone in _zones(one, zone_names, usual):
            for orders_before, of_such in _shoppers(one, usual):
                many = len(likely)
                sketch.append(np.full(many, number))
                share.append(likely * to_zone * of_such)
                zone.append(np.full(many, where))
                before.append(np.full(many, orders_before))
                cart_by_line.append(np.repeat(np.arange(carts, carts + many), len(one.lines)))
                sku_by_line.append(skus.ravel())
                units_by_line.append(units.ravel())
                carts += many
    cart, sku, quantity = (np.concatenate(parts) for parts in (cart_by_line, sku_by_line, units_by_line))
    no_price = np.zeros(len(cart), dtype=np.int64)
    facts = _facts(np.concatenate(before), usual.currency)
    batch = make_batch(goods, np.concatenate(zone), cart, sku, quantity, no_price, facts)
    return Drawn(batch, np.concatenate(sketch), np.concatenate(share))


def _fillings(sketch: Sketch, goods: Goods, usual: Usual) -> tuple[Ints, Ints, Floats]:
    """SKU and units of each line, one row a cart, and how likely each cart is."""
    choices = [_choices(line, goods, usual) for line in sketch.lines]
    ways = [len(likely) for _, _, likely in choices]
    if np.prod(np.array(ways, dtype=np.float64)) <= MOST_DRAWN:
        at = np.indices(ways).reshape(len(ways), -1)
        share = np.prod([likely[one] for (_, _, likely), one in zip(choices, at, strict=True)], axis=0)
    else:
        draws = np.random.default_rng(SEED)
        evenly = (np.arange(MOST_DRAWN) + 0.5) / MOST_DRAWN
        at = np.array(
            [
                np.searchsorted(np.cumsum(likely)[:-1], draws.permutation(evenly), side="right")
                for _, _, likely in choices
            ]
        )
        share = np.full(MOST_DRAWN, 1 / MOST_DRAWN)
    skus = np.array([sku[one] for (sku, _, _), one in zip(choices, at, strict=True)]).T
    units = np.array([units[one] for (_, units, _), one in zip(choices, at, strict=True)]).T
    return skus, units, share


def _choices(line: SketchedLine, goods: Goods, usual: Usual) -> tuple[Ints, Ints, Floats]:
    """SKU and units of each way to fill a line, and how likely: SKUs as they sell, or evenly where none did."""
    skus, numbers = np.flatnonzero(line.sold(goods)), np.arange(line.least, line.most + 1)
    sold = usual.units_by_sku[skus]
    likely = sold / sold.sum() if sold.sum() else np.full(len(skus), 1 / len(skus))
    bought = likely > 0
    skus, likely = skus[bought], likely[bought]
    return np.repeat(skus, len(numbers)), np.tile(numbers, len(skus)), np.repeat(likely / len(numbers), len(numbers))


def _zones(sketch: Sketch, zone_names: Sequence[str], usual: Usual) -> list[tuple[int, float]]:
    """The zones a sketch's orders go to, and the share each has."""
    shares = usual.zone_shares
    if sketch.zones:
        told = {folded(one.zone): one.share_bp for one in sketch.zones}
        shares = np.array([told.get(folded(name), 0) for name in zone_names], dtype=np.float64)
    return [(zone, float(share / shares.sum())) for zone, share in enumerate(shares) if share > 0]


def _shoppers(sketch: Sketch, usual: Usual) -> list[tuple[int, float]]:
    """Orders before, and the share of shoppers who have so many."""
    first = usual.first_share if sketch.first_bp is None else sketch.first_bp / WHOLE_BP
    if first is None:
        return [(UNKNOWN, 1.0)]
    return [(before, share) for before, share in ((0, first), (1, 1 - first)) if share > 0]


def _facts(orders_before_by_cart: Ints, currency: str) -> Facts:
    carts = len(orders_before_by_cart)
    home = Labels((currency,), np.zeros(carts, dtype=np.int64))
    return replace(nothing_known(carts), orders_before_by_cart=orders_before_by_cart, currency=home)
