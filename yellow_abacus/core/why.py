"""Every cart's reason for every offer: it applied, or the first thing that kept it from applying.

Reasons are judged with the offers it conflicts with absent: an offer that would then take effect was shut out.
docs/sums.md, "Why, and why not".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.pricing import Apply, price
from yellow_abacus.core.reasons import NUMBER, Reason, Verdict, gates, verdict
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
    offers: Sequence[Offer],
    priced: Priced,
    apply: Apply = "best",
    is_open: Bools | None = None,
    held: Bools | None = None,
) -> list[Why]:
    """One `Why` an offer. priced: the batch as `price` prices it with just these offers available.

    is_open, held: one row an offer, one column a cart: whether its days hold the cart's, and whether the shopper
    holds its code; None for everywhere.
    """
    everywhere = np.ones((len(offers), batch.axes.carts), dtype=np.bool_)
    is_open = everywhere if is_open is None else is_open
    held = everywhere if held is None else held
    together = Together(offers, shop.settings)
    return [_why(shop, batch, together, at, priced, apply, is_open, held) for at in range(len(offers))]


def _why(
    shop: Shop,
    batch: CartBatch,
    together: Together,
    at: int,
    priced: Priced,
    apply: Apply,
    is_open: Bools,
    held: Bools,
) -> Why:
    offer, took_effect = together.offers[at], priced.took_effect
    beside = together.beside(at)
    alone = price(
        shop,
        batch,
        [together.offers[other] for other in beside],
        apply,
        watched=beside.index(at),
        available=(is_open & held)[beside],
    )
    assert alone.seen is not None
    judged = verdict(offer, shop, batch, alone.seen)
    reason = judged.reason
    shut = alone.took_effect[beside.index(at)]
    reason[shut] = NUMBER["shut_out"]
    closed: list[tuple[Reason, Bools]] = [("out_of_dates", is_open[at]), *gates(offer, shop, batch)]
    after_code = [gate for gate in closed if NUMBER[gate[0]] > NUMBER["no_code"]]
    before_code = [gate for gate in closed if gate not in after_code]
    for name, passes in reversed([*before_code, ("no_code", held[at]), *after_code]):
        reason[~passes] = NUMBER[name]
    reason[took_effect[at]] = NUMBER["applied"]
    others = [other for other in range(len(together.offers)) if other not in beside]
    by = np.full(batch.axes.carts, NOBODY)
    for other in reversed(others):
        by[(reason == NUMBER["shut_out"]) & took_effect[other]] = other
    short_by = np.where(reason == NUMBER["short"], judged.short_by, 0)
    return Why(reason, short_by, judged.short_of, by)
