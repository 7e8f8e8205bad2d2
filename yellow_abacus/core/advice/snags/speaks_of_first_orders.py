"""Its name, note or code speaks of first orders, and no clause of it does."""

import re
from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say

SPEAKS = re.compile(
    r"\b(first (order|purchase|time)|new (customer|shopper|client)s?|welcome|newcomers?)", re.IGNORECASE
)


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        told = f"{scene.names[at]}. {scene.notes[at]}. {offer.given.code}"
        who = offer.who
        if SPEAKS.search(told) and not who.first_order and who.nth_order is None and not who.groups and not who.tags:
            later = scene.batch.facts.orders_before_by_cart[scene.rows.cart_by_row] > 0
            where = scene.took_effect[at] & later
            stake, orders = scene.given_on(at, where)
            yield Snag(
                say("It speaks of first orders, and is given on any order."),
                at,
                ("who",),
                stake=stake,
                orders=orders,
                mend=Mend(say("Hold it to first orders"), replace(offer, who=replace(who, first_order=True))),
            )
