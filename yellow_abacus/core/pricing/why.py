"""Every cart's reason for every offer: it applied, or the first thing that kept it from applying.

Reasons are judged with the offers it conflicts with absent: an offer that would then take effect was shut out.
docs/sums.md, "Why, and why not".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.reasons import NUMBER, Reason, Verdict, all_passed, delivers, gates, verdict
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.core.pricing.trace import new_trace
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.shop import Shop

NOBODY = -1


@dataclass(frozen=True, eq=False)
class Why(Verdict):
    """shut_out_by: index of the first offer that took effect and does not go with it, NOBODY elsewhere."""

    shut_out_by: Ints


def why(
    shop: Shop,
    rows: Rows,
    offers: Sequence[Offer],
    priced: Priced | None,
    apply: Apply = "best",
    is_open: Bools | None = None,
    held: Bools | None = None,
    among: Sequence[int] | None = None,
    reaches: Bools | None = None,
) -> list[Why]:
    """One `Why` an offer, of those `among` them by number, None for all.

    rows: each with a cart of its own. priced: those, as `price` prices them with these offers; None where none of
    these reaches any. is_open, held: one row
    an offer, one column a cart: whether its days hold the cart's, and whether the shopper holds its code; None for
    everywhere. reaches: where each could take effect, if that is known already; it may hold more carts.
    """
    batch = rows.batch
    everywhere = np.ones((len(offers), batch.axes.carts), dtype=np.bool_)
    is_open = everywhere if is_open is None else is_open
    held = everywhere if held is None else held
    told = [gates(offer, shop, batch) for offer in offers]
    available = is_open & held & all_passed(told, batch.axes.carts)
    alone = _Alone(shop, rows, Together(offers, shop.settings), apply, available, priced, reaches)
    applied, stood = (~everywhere, ~everywhere) if priced is None else (priced.took_effect, priced.stood)
    found = []
    for at in range(len(offers)) if among is None else among:
        offer, absent = offers[at], alone.absent(at)
        kept_out = _all_gates(offer, shop, rows, is_open[at], held[at], told[at])
        open_question = np.logical_and.reduce([~applied[at], *(passes for _, passes in kept_out)])
        took_effect, met = alone.turn(at, open_question)
        judged = verdict(offer, batch, met)
        reason = judged.reason
        reason[took_effect] = NUMBER["shut_out"]
        for name, passes in reversed(kept_out):
            reason[~passes] = NUMBER[name]
        reason[applied[at]] = NUMBER["applied"]
        short_by = np.where(reason == NUMBER["short"], judged.short_by, 0)
        found.append(Why(reason, short_by, judged.short_of, _shut_out_by(reason, stood, absent)))
    return found


@dataclass(frozen=True, eq=False)
class _Alone:
    """Carts with the offers an offer conflicts with absent.

    An offer that reaches a cart neither by itself nor by what others leave of it needs no pricing there; nor does a
    cart that none of those absent reaches, where `priced` tells of lines: all is as it is there.
    """

    shop: Shop
    rows: Rows
    together: Together
    apply: Apply
    available: Bools
    priced: Priced | None
    reaches: Bools | None

    @cached_property
    def _reached(self) -> Bools:
        known = self.reaches
        return self.available & (
            reached(self.together.offers, self.shop, self.rows.batch) if known is None else known
        )

    def absent(self, at: int) -> Bools:
        return self.together.in_its_way(at, self.available)

    def turn(self, at: int, asked: Bools) -> tuple[Bools, Ints]:
        """Whether the offer then takes effect, and what each line costs at its turn; on the carts asked for."""
        batch = self.rows.batch
        took_effect, met = np.zeros(batch.axes.carts, dtype=np.bool_), batch.worth_by_line
        if self.priced is None:
            return took_effect, met
        absent = self.absent(at)
        there = self._reached & ~absent
        if self.priced.lines is not None:
            met, asked = self.priced.lines.met[at], asked & (self._reached & absent).any(axis=0)
            met = np.where(batch.axes.spread(asked), batch.worth_by_line, met)
        if not asked.any():
            return took_effect, met
        on_goods = self._walk_alone_tells(at, [bool(one.any()) for one in there])
        if on_goods is not None:
            there &= on_goods[:, None]
        carts = np.flatnonzero(asked & there.any(axis=0))
        if not len(carts):
            return took_effect, met
        there[at] = self.available[at]
        rows = self.rows.once(carts)
        if on_goods is None:
            priced = price(self.shop, rows, self.together.offers, self.apply, there=there[:, carts], traced=True)
            took_effect[carts], met_there = priced.took_effect[at], priced.by_line.met[at]
        else:
            took_effect[carts], met_there = self._walked(at, rows.batch, there[:, carts])
        if rows is not self.rows:
            rows.batch.let_go()
        met = met.copy()
        met[batch.axes.lines_of(carts)] = met_there
        return took_effect, met

    def _walk_alone_tells(self, at: int, present: Sequence[bool]) -> Bools | None:
        """The offers to walk through where goods need no check-out to tell: where none of them is in another's way.

        present: which offers are there. Offers on delivery that yield have their turn after all goods.
        """
        offers = self.together.offers
        before = [
            number
            for number, (offer, here) in enumerate(zip(offers, present, strict=True))
            if here and (offer.works_on_goods or not offer.alongside.yields_at_all)
        ]
        some = Together([offers[one] for one in before], self.shop.settings)
        if offers[at].works_on_delivery or not some.all_go_together:
            return None
        return np.array([one in before and offers[one].works_on_goods for one in range(len(offers))])

    def _walked(self, at: int, batch: CartBatch, there: Bools) -> tuple[Bools, Ints]:
        offers = self.together.offers
        trace = new_trace(len(offers), batch.worth_by_line)
        walk = Walk(self.shop, batch, offers, trace)
        for one in range(at + 1):
            if there[one].any():
                walk.goods_turn(one, there[one])
        return walk.took_effect()[at], trace.met_by_line[at]


def _all_gates(
    offer: Offer, shop: Shop, rows: Rows, is_open: Bools, held: Bools, told: list[tuple[Reason, Bools]]
) -> list[tuple[Reason, Bools]]:
    """All that may keep an offer out, in the order reasons are told. told: its gates, as `gates` has them."""
    closed: list[tuple[Reason, Bools]] = [
        ("out_of_dates", is_open),
        ("not_this_destination", delivers(offer, shop, rows.batch.zone_by_cart, rows.option_by_row)),
        ("no_code", held),
    ]
    return sorted([*closed, *told], key=lambda gate: NUMBER[gate[0]])


def _shut_out_by(reason: Ints, stood: Bools, absent: Bools) -> Ints:
    by = np.full(len(reason), NOBODY)
    shut = reason == NUMBER["shut_out"]
    for other in reversed(range(len(stood))):
        by[shut & stood[other] & absent[other]] = other
    return by
