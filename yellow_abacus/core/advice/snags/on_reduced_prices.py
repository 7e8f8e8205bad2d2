"""It comes off prices that are reduced already."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        lines = (scene.off_by_line[at] > 0) & scene.batch.reduced_by_line
        if offer.on.reduced == "in" and lines.any():
            on = replace(offer.on, reduced="out")
            stake, orders = scene.off_lines(at, lines)
            yield Snag(
                say("It comes off prices that are reduced already."),
                at,
                ("on", "reduced"),
                stake=stake,
                orders=orders,
                mend=Mend(say("Leave reduced goods out"), replace(offer, on=on)),
            )
