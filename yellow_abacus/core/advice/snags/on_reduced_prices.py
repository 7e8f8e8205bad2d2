"""It comes off prices that are reduced already."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say
from yellow_abacus.core.ground.money import Bools


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        lines = (scene.off_by_line[at] > 0) & scene.batch.reduced_by_line
        if offer.on.reduced == "in" and lines.any():
            on = replace(offer.on, reduced="out")
            yield Snag(
                say("It comes off prices that are reduced already."),
                at,
                ("on", "reduced"),
                stake=float((scene.off_by_line[at] * scene.orders_by_line)[lines].sum()),
                orders=_orders(scene, lines),
                mend=Mend(say("Leave reduced goods out"), replace(offer, on=on)),
            )


def _orders(scene: Scene, lines: Bools) -> float:
    has = scene.batch.axes.sum_by_cart(lines.astype(np.int64)) > 0
    return float(scene.orders_by_cart[has].sum())
