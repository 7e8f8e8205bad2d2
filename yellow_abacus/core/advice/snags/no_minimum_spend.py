"""An amount off an order, however small the order is."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, cash, say
from yellow_abacus.core.clauses.conditions import Spend
from yellow_abacus.core.offers import AmountOff

TIMES = 4
"""An amount off should not be more than one part in so many of an order."""


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        amounts = [one.amount for one in offer.gives if isinstance(one, AmountOff)]
        if not amounts or any(one.bound != "at_most" for one in offer.earned.conditions):
            continue
        small = scene.rows.of_carts(scene.batch.worth_by_cart) < TIMES * max(amounts)
        where = scene.took_effect[at] & small
        conditions = (*offer.earned.conditions, Spend(TIMES * max(amounts)))
        mended = replace(offer, earned=replace(offer.earned, conditions=conditions))
        stake, orders = scene.given_on(at, where)
        yield Snag(
            say(cash(max(amounts)), " off asks for no spend: it comes off the smallest orders too."),
            at,
            ("earned",),
            stake=stake,
            orders=orders,
            mend=Mend(say("Ask for ", cash(TIMES * max(amounts)), " of goods"), mended),
        )
