"""Every cart's reason for every offer: it applied, or the first thing that kept it from applying.

Reasons are judged with the offers it conflicts with absent: an offer that would then take effect was shut out.
docs/sums.md, "Why, and why not".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reasons import NUMBER, Reason, Verdict, delivers, gates, takes_part, verdict
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.pricing.together import Together
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
    priced: Priced,
    apply: Apply = "best",
    is_open: Bools | None = None,
    held: Bools | None = None,
) -> list[Why]:
    """One `Why` an offer. rows: each with a cart of its own. priced: those, as `price` prices them with these offers.

    is_open, held: one row an offer, one column a cart: whether its days hold the cart's, and whether the shopper
    holds its code; None for everywhere.
    """
    batch = rows.batch
    everywhere = np.ones((len(offers), batch.axes.carts), dtype=np.bool_)
    is_open = everywhere if is_open is None else is_open
    held = everywhere if held is None else held
    together = Together(offers, shop.settings)
    available = is_open & held & takes_part(offers, shop, batch)
    alone: dict[bytes, Priced] = {}
    found = []
    for at, offer in enumerate(offers):
        absent = together.in_its_way(at, available)
        there = available & ~absent
        key = there.tobytes()
        if key not in alone:
            alone[key] = price(shop, rows, offers, apply, there, traced=True)
        judged = verdict(offer, batch, alone[key].by_line.met[at])
        reason = judged.reason
        reason[alone[key].took_effect[at]] = NUMBER["shut_out"]
        for name, passes in reversed(_gates(offer, shop, rows, is_open[at], held[at])):
            reason[~passes] = NUMBER[name]
        reason[priced.took_effect[at]] = NUMBER["applied"]
        short_by = np.where(reason == NUMBER["short"], judged.short_by, 0)
        found.append(Why(reason, short_by, judged.short_of, _shut_out_by(reason, priced, absent)))
    return found


def _gates(offer: Offer, shop: Shop, rows: Rows, is_open: Bools, held: Bools) -> list[tuple[Reason, Bools]]:
    """All that may keep an offer out, in the order reasons are told."""
    batch = rows.batch
    closed: list[tuple[Reason, Bools]] = [
        ("out_of_dates", is_open),
        ("not_this_destination", delivers(offer, shop, batch.zone_by_cart, rows.option_by_row)),
        ("no_code", held),
    ]
    return sorted([*closed, *gates(offer, shop, batch)], key=lambda gate: NUMBER[gate[0]])


def _shut_out_by(reason: Ints, priced: Priced, absent: Bools) -> Ints:
    by = np.full(len(reason), NOBODY)
    shut = reason == NUMBER["shut_out"]
    for other in reversed(range(len(priced.stood))):
        by[shut & priced.stood[other] & absent[other]] = other
    return by
