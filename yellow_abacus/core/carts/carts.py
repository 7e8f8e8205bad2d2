"""A batch of carts: many carts' lines in one set of arrays. A batch of one is a cart.

Lines of one SKU at one standing price are merged, and lie in *line order*: standing unit price high to
low, then SKU. So the way a file splits or orders its lines changes no figure. docs/sums.md, "Carts".
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, fields, replace
from datetime import date
from math import prod
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.facts import Facts, nothing_known
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.price_list import Steps
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.axes import Axes, run_begins, spliced
from yellow_abacus.core.ground.keeper import Apart, Found, Keeper
from yellow_abacus.core.ground.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property

BYTES_A_LINE = 300
"""How much a batch keeps of what was found of it, and how large it counts as a part of another."""
LEAST_KEPT = 1_000_000
"""How much a small batch keeps at least, and counts at least as a part."""
PARTS_KEPT, DAYS_KEPT, FEWEST_PARTS = 1, 2, 8
"""The parts a batch keeps, and the batches at other days' prices, have so many times its own lines at most."""


class CartTooLargeError(ValueError):
    """A cart is worth more before offers than the sums can carry exactly. `cart` is its index."""

    def __init__(self, cart: int) -> None:
        super().__init__(f"cart {cart} is worth more than {LARGEST_CART} minor units before offers")
        self.cart = cart


@dataclass(frozen=True, eq=False)
class RawLines:
    """Lines as orders brought them, in any order, one entry each: index of the cart, index of the SKU, units (1 or
    more), what one was asked in minor units, 0 where that was not said.

    put_in: which an offer put in: they are no goods ordered, and stand in no cart; None for none."""

    cart: Ints
    sku: Ints
    quantity: Ints
    asked: Ints
    put_in: Bools | None = None

    def some(self, lines: Ints) -> "RawLines":
        """Some of them, by index."""
        told = (None if one is None else one[lines] for one in (getattr(self, field.name) for field in fields(self)))
        return RawLines(*told)  # type: ignore[arg-type]

    @cached_property
    def is_put_in(self) -> Bools:
        """Whether an offer put each in."""
        return np.zeros(len(self.cart), dtype=np.bool_) if self.put_in is None else self.put_in

    @property
    def ordered(self) -> "RawLines":
        """Those that are goods ordered."""
        return self if self.put_in is None else self.some(np.flatnonzero(~self.put_in))


@dataclass(frozen=True, eq=False)
class CartBatch(Apart):
    """standing_by_line: unit price in minor units. zone_by_cart: index into the shop's zones.

    reduced_by_line: whether the line stands at its SKU's reduced price, and would cost more without it.
    facts: what is known of each cart besides. raw: the lines it was made of, None where it is a part of a batch.
    """

    goods: Goods
    axes: Axes
    sku_by_line: Ints
    quantity_by_line: Ints
    standing_by_line: Ints
    reduced_by_line: Bools
    zone_by_cart: Ints
    facts: Facts
    raw: RawLines | None = None

    def on_day(self, day: date) -> "CartBatch":
        """The carts at the prices of that day; the same object for days with the same prices."""
        goods = self.goods.on_day(day)
        key = goods.price_key
        if key == self.goods.price_key or self.raw is None:
            return self
        raw = self.raw
        return self._of_days.get(key, lambda: batch_of(goods, self.zone_by_cart, raw, self.facts))

    def remade(self, carts: Ints, goods: Goods, without: Bools | None = None) -> "CartBatch":
        """Some of the carts, by rising index, at the prices of other goods with the same SKUs. without: raw lines to
        leave out, never all of a cart."""
        raw = self.raw
        assert raw is not None, "a part of a batch is not made of lines of its own"
        number = np.full(self.axes.carts, -1)
        number[carts] = np.arange(len(carts))
        kept = number[raw.cart] >= 0
        mine = raw.some(np.flatnonzero(kept if without is None else kept & ~without))
        lines = replace(mine, cart=number[mine.cart])
        return batch_of(goods, self.zone_by_cart[carts], lines, self.facts.some(carts))

    def with_goods(self, goods: Goods, carts: Ints) -> "CartBatch":
        """All the carts where other goods, of the same SKUs, make a difference to some of them, by rising index."""
        part, before = self.remade(carts, goods), self.axes
        sizes = before.lines_by_cart.copy()
        sizes[carts] = part.axes.lines_by_cart
        axes = Axes(np.concatenate(([0], np.cumsum(sizes))))
        here, were = np.zeros(axes.lines, dtype=np.bool_), np.zeros(before.lines, dtype=np.bool_)
        here[axes.lines_of(carts)], were[before.lines_of(carts)] = True, True
        return replace(
            self,
            goods=goods,
            axes=axes,
            sku_by_line=spliced(self.sku_by_line, were, part.sku_by_line, here),
            quantity_by_line=spliced(self.quantity_by_line, were, part.quantity_by_line, here),
            standing_by_line=spliced(self.standing_by_line, were, part.standing_by_line, here),
            reduced_by_line=spliced(self.reduced_by_line, were, part.reduced_by_line, here),
        )

    def let_go(self) -> None:
        """Forget what was found of it, which names it in turn: without that it goes with its last use."""
        for keeper in (self._keeper, self._newest, self._parts, self._of_days):
            keeper.clear()
        for blocks in list(self._blocks.values()):
            for _, block in blocks:
                block.let_go()
        self._blocks.clear()

    @cached_property
    def _of_days(self) -> Keeper:
        return Keeper(self._keeps * DAYS_KEPT, weigh=lambda batch: batch._keeps)

    def kept(self, key: object, find: Callable[[], Found]) -> Found:
        """What `find` finds, kept under `key`. A key must name all that it depends on."""
        return self._keeper.get(key, find)

    @cached_property
    def _keeper(self) -> Keeper:
        return Keeper(self._keeps)

    def newest(self, key: object, find: Callable[[], Found]) -> Found:
        """As `kept`, but of all that is found so the newest alone."""
        return self._newest.get(key, find)

    @property
    def has_newest(self) -> bool:
        return bool(self._newest.newest_first())

    @cached_property
    def _newest(self) -> Keeper:
        return Keeper.of_newest()

    @property
    def _keeps(self) -> int:
        """How many bytes it keeps of what was found of it, and counts where it is kept itself."""
        return max(self.axes.lines * BYTES_A_LINE, LEAST_KEPT)

    @cached_property
    def worth_by_line(self) -> Ints:
        """What the line costs before offers, in minor units."""
        return self.standing_by_line * self.quantity_by_line

    @cached_property
    def worth_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.worth_by_line)

    @cached_property
    def units_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.quantity_by_line)

    def by_line(self, column: Floats) -> Floats:
        """A figure of each SKU, times the line's units."""
        result: Floats = column[self.sku_by_line] * self.quantity_by_line
        return result

    @cached_property
    def weight_by_line(self) -> Ints:
        """Milligrams; goods of unknown weight weigh nothing."""
        return self.goods.milligrams[self.sku_by_line] * self.quantity_by_line

    @cached_property
    def weight_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.weight_by_line)

    @cached_property
    def product_by_line(self) -> Ints:
        return self.goods.product_number[self.sku_by_line]

    @cached_property
    def unit_costs_by_cart(self) -> Floats:
        """Minor units; goods of unknown cost cost nothing."""
        return self.axes.sum_floats_by_cart(self.by_line(self.goods.column("unit_cost")))

    def lines_in(self, scope: Scope) -> Bools:
        """Whether each line's goods are meant; kept, because offers ask again and again."""
        return self.kept(("lines in", scope), lambda: self._lines_in(scope))

    def _lines_in(self, scope: Scope) -> Bools:
        found: Bools = scope.holds(self.goods)[self.sku_by_line]
        return found & ~self.reduced_by_line if scope.reduced == "out" else found

    @cached_property
    def may_be_discounted_by_line(self) -> Bools | None:
        """Whether offers may take something off each line; None where that is so for all."""
        if not self.goods.never_discounted:
            return None
        return self.goods.may_be_discounted[self.sku_by_line]

    def rank_by_line(self, of: Literal["product", "sku"]) -> Ints:
        """Which of its cart's products or SKUs each line is of: 0 for the first in line order."""
        number = self.product_by_line if of == "product" else self.sku_by_line
        cart = self.axes.cart_by_line
        together = np.lexsort((number, cart))
        opens = run_begins(cart[together], number[together])
        first_line = together[opens]
        in_order = np.argsort(first_line)
        first_group = np.searchsorted(first_line[in_order], self.axes.first_line_by_cart)
        rank_of_group = np.empty(len(first_line), dtype=np.int64)
        rank_of_group[in_order] = np.arange(len(first_line)) - first_group[cart[first_line[in_order]]]
        result = np.empty(len(cart), dtype=np.int64)
        result[together] = rank_of_group[np.cumsum(opens) - 1]
        return result

    def blocks(self, lines: int) -> list[tuple[slice, "CartBatch"]]:
        """The batch cut into blocks of so many lines or some less, which of its carts each one holds; kept.

        An even number of them, nearly of one size: two processors have as much to do.
        """
        if self.axes.lines <= lines:
            return [(slice(0, self.axes.carts), self)]
        blocks = 2 * -(-self.axes.lines // (2 * lines))
        carts = -(-self.axes.carts // blocks)
        known = self._blocks.get(carts)
        if known is None:
            ends = range(0, self.axes.carts, carts)
            parts = [slice(start, min(start + carts, self.axes.carts)) for start in ends]
            known = self._blocks[carts] = [(part, self._block(part)) for part in parts]
        return known

    @cached_property
    def _blocks(self) -> dict[int, list[tuple[slice, "CartBatch"]]]:
        return {}

    def _block(self, carts: slice) -> "CartBatch":
        first = self.axes.first_line_by_cart[carts.start : carts.stop + 1]
        lines = slice(int(first[0]), int(first[-1]))
        return CartBatch(
            goods=self.goods,
            axes=Axes(first - first[0]),
            sku_by_line=self.sku_by_line[lines],
            quantity_by_line=self.quantity_by_line[lines],
            standing_by_line=self.standing_by_line[lines],
            reduced_by_line=self.reduced_by_line[lines],
            zone_by_cart=self.zone_by_cart[carts],
            facts=self.facts.some(carts),
        )

    def part(self, carts: Ints) -> "CartBatch":
        """As `some`, the last few of them kept, with all that was found of them."""
        if np.array_equal(carts, np.arange(self.axes.carts)):
            return self
        return self._parts.get(carts.tobytes(), lambda: self.some(carts))

    @cached_property
    def _parts(self) -> Keeper:
        return Keeper(max(self._keeps * PARTS_KEPT, LEAST_KEPT * FEWEST_PARTS), weigh=lambda batch: batch._keeps)

    def some(self, carts: Ints) -> "CartBatch":
        """Some of the carts, by index; one may be named several times, and then is there several times."""
        lines = self.axes.lines_of(carts)
        sizes = self.axes.lines_by_cart[carts]
        return CartBatch(
            goods=self.goods,
            axes=Axes(np.concatenate(([0], np.cumsum(sizes)))),
            sku_by_line=self.sku_by_line[lines],
            quantity_by_line=self.quantity_by_line[lines],
            standing_by_line=self.standing_by_line[lines],
            reduced_by_line=self.reduced_by_line[lines],
            zone_by_cart=self.zone_by_cart[carts],
            facts=self.facts.some(carts),
        )


@dataclass(frozen=True, eq=False)
class Touched:
    """SKUs that are not what they were, and the carts they are in or matter to, by rising index."""

    skus: frozenset[str]
    carts: Ints


def _groups(goods: Goods, facts: Facts, cart_by_line: Ints) -> Iterator[tuple[Bools, Steps]]:
    """Each group that has prices: which lines are of its shoppers, and its steps."""
    for group, steps in goods.price_list.by_group.items():
        yield facts.group.among([group])[cart_by_line], steps


def standing_prices(
    goods: Goods, facts: Facts, cart: Ints, sku: Ints, quantity: Ints, paid: Ints
) -> tuple[Ints, Bools]:
    """Standing unit price of each raw line, and whether that is a reduced price; `paid` serves only where a SKU has
    no list price."""
    list_price, reduced = goods.list_price[sku], goods.reduced_price[sku]
    standing: Ints = np.where(list_price == NO_PRICE, paid, list_price)
    without, own = _quantity_prices(goods, facts, cart, sku, quantity, standing)
    is_reduced = (reduced != NO_PRICE) & (reduced < without) & ~own
    return np.where(is_reduced, reduced, without), is_reduced


def _quantity_prices(
    goods: Goods, facts: Facts, cart: Ints, sku: Ints, quantity: Ints, standing: Ints
) -> tuple[Ints, Bools]:
    """What each raw line would stand at were nothing reduced, and where that is a price of the shopper's group."""
    prices, own = goods.price_list, np.zeros(len(sku), dtype=np.bool_)
    if prices.is_empty:
        return standing, own
    units = np.where(
        prices.by_product[sku],
        _units_together(cart, goods.product_number[sku], quantity),
        _units_together(cart, sku, quantity),
    )
    least = np.minimum(standing, prices.everybody.reached(standing, sku, units))
    for in_group, steps in _groups(goods, facts, cart):
        reached, stands_alone = steps.reached(least, sku, units), steps.own[sku]
        least = np.where(in_group, np.where(stands_alone, reached, np.minimum(least, reached)), least)
        own |= in_group & stands_alone
    return least, own


def _units_together(cart: Ints, number: Ints, quantity: Ints) -> Ints:
    """For each raw line, the units of its cart whose SKU or product has the line's number."""
    _, together = np.unique(cart * (number.max(initial=0) + 1) + number, return_inverse=True)
    return np.bincount(together, weights=quantity).astype(np.int64)[together]


def make_batch(
    goods: Goods,
    zone_by_cart: Ints,
    cart: Ints,
    sku: Ints,
    quantity: Ints,
    paid: Ints,
    facts: Facts | None = None,
) -> CartBatch:
    """As `batch_of`, of lines that are all goods ordered. facts: None where nothing is known."""
    facts = nothing_known(len(zone_by_cart)) if facts is None else facts
    return batch_of(goods, zone_by_cart, RawLines(cart, sku, quantity, paid), facts)


def batch_of(goods: Goods, zone_by_cart: Ints, raw: RawLines, facts: Facts) -> CartBatch:
    """Price, merge and order raw lines into a batch. Raises CartTooLargeError."""
    carts, lines = len(zone_by_cart), raw.ordered
    cart, sku, quantity, paid = lines.cart, lines.sku, lines.quantity, lines.asked
    standing, reduced = standing_prices(goods, facts, cart, sku, quantity, paid)
    order = _line_order(cart, sku, standing)
    cart, sku, quantity, standing = cart[order], sku[order], quantity[order], standing[order]
    first = np.flatnonzero(run_begins(cart, sku, standing))
    merged = np.add.reduceat(quantity, first) if len(first) else quantity[:0]
    first_line = np.searchsorted(cart[first], np.arange(carts + 1))
    batch = CartBatch(
        goods=goods,
        axes=Axes(first_line.astype(np.int64)),
        sku_by_line=sku[first],
        quantity_by_line=merged.astype(np.int64),
        standing_by_line=standing[first],
        reduced_by_line=np.logical_or.reduceat(reduced[order], first) if len(first) else reduced,
        zone_by_cart=zone_by_cart,
        facts=facts,
        raw=raw,
    )
    too_large = np.flatnonzero(batch.worth_by_cart > LARGEST_CART)
    if len(too_large):
        raise CartTooLargeError(int(too_large[0]))
    return batch


def _line_order(cart: Ints, sku: Ints, standing: Ints) -> Ints:
    """By cart, then standing price from high to low, then SKU: by one key where its parts fit in 64 bits."""
    price = standing.max(initial=0) - standing
    sizes = [int(part.max(initial=0)) + 1 for part in (cart, price, sku)]
    if prod(sizes) < np.iinfo(np.int64).max:
        return np.argsort((cart * sizes[1] + price) * sizes[2] + sku, kind="stable")
    return np.lexsort((sku, price, cart))
