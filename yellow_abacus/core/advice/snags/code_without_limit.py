"""A code that whoever learns of it may use as often as they like."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        limits, given = offer.limits, offer.given
        if given.by not in ("code", "link"):
            continue
        if limits.uses is None and limits.uses_per_shopper is None and limits.spending is None:
            yield Snag(
                say(f"Whoever learns of {given.code} may use it as often as they like."),
                at,
                ("given",),
                mend=Mend(say("Once for each shopper"), replace(offer, limits=replace(limits, uses_per_shopper=1))),
            )
