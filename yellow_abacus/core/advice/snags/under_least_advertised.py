"""A price that goods may not be advertised at, told by an offer anybody can see."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, without
from yellow_abacus.core.advice.snag import Mend, Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    least = scene.goods.least_advertised
    if least is None or (least < 0).all():
        return
    batch = scene.batch
    bound = least[batch.sku_by_line] * batch.quantity_by_line
    for at, offer in enumerate(scene.offers):
        if offer.given.by not in ("itself", "link"):
            continue
        left = batch.worth_by_line - scene.off_by_line[at]
        under = (bound > 0) & (scene.off_by_line[at] > 0) & (left < bound)
        if under.any():
            skus = np.unique(batch.sku_by_line[under])
            mended = replace(offer, on=without(offer.on, [scene.goods.skus[sku] for sku in skus]))
            yield Snag(
                say(f"It tells a price under the least that {scene.named(skus)} may be advertised at."),
                at,
                ("on",),
                orders=float(scene.orders_by_line[under].sum()),
                mend=Mend(say("Leave those out"), mended),
            )
