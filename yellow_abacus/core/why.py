"""Every cart's reason for every offer: it applied, or the first thing that kept it from applying.

Reasons are judged with the offers it conflicts with absent: an offer that would then take effect was shut out.
docs/sums.md, "Why, and why not".
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.branches import Branch, likeliest
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.pricing import Apply, paying, price
from yellow_abacus.core.reasons import NUMBER, Reason, Verdict, delivers, gates, takes_part, verdict
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.together import Together

NOBODY = -1


@dataclass(frozen=True, eq=False)
class Why(Verdict):
    """shut_out_by: index of the first offer that took effect and does not go with it, NOBODY elsewhere."""

    shut_out_by: Ints


def why(
    shop: Shop,
    batch: CartBatch,
    branch: Sequence[Offer] | Branch,
    priced: Priced,
    apply: Apply = "best",
    is_open: Bools | None = None,
    held: Bools | None = None,
) -> list[Why]:
    """One `Why` an offer. priced: the batch as `price` prices it in this branch with just these offers available.

    is_open, held: one row an offer, one column a cart: whether its days hold the cart's, and whether the shopper
    holds its code; None for everywhere.
    """
    if not isinstance(branch, Branch):
        branch = likeliest(shop, batch, branch)
    offers, batch = branch.offers, paying(shop, batch, branch.payment)
    everywhere = np.ones((len(offers), batch.axes.carts), dtype=np.bool_)
    is_open = everywhere if is_open is None else is_open
    held = everywhere if held is None else held
    together = Together(offers, shop.settings)
    available = is_open & held & takes_part(offers, shop, batch)
    alone: dict[tuple[tuple[int, ...], bytes], Priced] = {}
    found = []
    for at, offer in enumerate(offers):
        absent = together.in_its_way(at, available)
        beside = tuple(other for other in range(len(offers)) if other == at or not absent[other].all())
        there = (available & ~absent)[list(beside)]
        key = (beside, there.tobytes())
        if key not in alone:
            some = replace(branch, offers=tuple(offers[other] for other in beside))
            alone[key] = price(shop, batch, some, apply, watched=True, available=there)
        met, number = alone[key].met_by_line, beside.index(at)
        assert met is not None
        judged = verdict(offer, batch, met[number])
        reason = judged.reason
        reason[alone[key].took_effect[number]] = NUMBER["shut_out"]
        for name, passes in reversed(_gates(offer, shop, batch, branch.option_by_cart, is_open[at], held[at])):
            reason[~passes] = NUMBER[name]
        reason[priced.took_effect[at]] = NUMBER["applied"]
        short_by = np.where(reason == NUMBER["short"], judged.short_by, 0)
        found.append(Why(reason, short_by, judged.short_of, _shut_out_by(reason, priced, absent)))
    return found


def _gates(
    offer: Offer, shop: Shop, batch: CartBatch, option_by_cart: Ints, is_open: Bools, held: Bools
) -> list[tuple[Reason, Bools]]:
    """All that may keep an offer out, in the order reasons are told."""
    closed: list[tuple[Reason, Bools]] = [
        ("out_of_dates", is_open),
        ("not_this_destination", delivers(offer, shop, batch, option_by_cart)),
        ("no_code", held),
    ]
    return sorted([*closed, *gates(offer, shop, batch)], key=lambda gate: NUMBER[gate[0]])


def _shut_out_by(reason: Ints, priced: Priced, absent: Bools) -> Ints:
    by = np.full(len(reason), NOBODY)
    shut = reason == NUMBER["shut_out"]
    for other in reversed(range(len(priced.stood))):
        by[shut & priced.stood[other] & absent[other]] = other
    return by
