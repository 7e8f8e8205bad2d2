"""Offers none of which loses money on an order by itself, and that do together."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.losing import losing
from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, cash, many, say


def find(scene: Scene) -> Iterator[Snag]:
    for one in losing(scene):
        *others, last = one.offers
        if not others:
            continue
        names = [scene.names[at] for at in one.offers]
        together = f"{' and '.join(names)} together lose money on "
        offer = scene.plan.offers[last]
        never = {*offer.alongside.never_with, *(scene.plan.offers[at].id for at in others)}
        mended = replace(offer, alongside=replace(offer.alongside, never_with=tuple(never)))
        yield Snag(
            say(together, many(one.orders), " orders, ", cash(one.lost), " in all."),
            last,
            ("alongside",),
            stake=one.lost,
            orders=one.orders,
            mend=Mend(say(f"Never together with {' or '.join(names[:-1])}"), mended),
        )
