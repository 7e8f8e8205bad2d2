"""A threshold that most carts are past already: it rewards what comes anyway."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, whole
from yellow_abacus.core.advice.snag import Mend, Snag, cash, part_of, say
from yellow_abacus.core.carts.spread import round_width
from yellow_abacus.core.clauses.conditions import Spend

MOST = 0.75
"""So many of the carts at least are past it."""
ABOVE = 1.15


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        condition = next(iter(offer.earned.conditions), None)
        if not isinstance(condition, Spend) or condition.bound == "at_most" or not whole(condition.of):
            continue
        worth, share = scene.batch.worth_by_cart, scene.mix.share_by_cart
        past = float(share[condition.reached(worth, condition.n)].sum())
        if past < MOST:
            continue
        in_order = np.argsort(worth, kind="stable")
        middle = int(worth[in_order][np.searchsorted(np.cumsum(share[in_order]), 0.5)])
        higher = max(round_width(middle * ABOVE), condition.n + 1)
        conditions = (replace(condition, n=higher), *offer.earned.conditions[1:])
        mended = replace(offer, earned=replace(offer.earned, conditions=conditions))
        stake, orders = scene.given_on(at, scene.took_effect[at])
        yield Snag(
            say(part_of(past), " of carts come to ", cash(condition.n), " anyway: it changes little in them."),
            at,
            ("earned", "conditions", 0, "n"),
            stake=stake,
            orders=orders,
            mend=Mend(say("Ask for ", cash(higher)), mended) if not offer.steps else None,
        )
