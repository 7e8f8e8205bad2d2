"""Told as a reduction, and no lower than the lowest price of the 30 days before."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.ground.axes import among


def find(scene: Scene) -> Iterator[Snag]:
    lowest = scene.lowest
    if lowest is None:
        return
    batch = scene.batch
    before = lowest[batch.sku_by_line] * batch.quantity_by_line
    for at, offer in enumerate(scene.offers):
        if offer.given.by != "itself":
            continue
        left = batch.worth_by_line - scene.off_by_line[at]
        as_low = (before > 0) & (scene.off_by_line[at] > 0) & (left >= before)
        if as_low.any():
            there = among(batch.sku_by_line[as_low], len(batch.goods.skus))
            names = scene.named(scene.sold_in(there))
            text = f"{names} went as low in the 30 days before: it may not be told as a reduction."
            yield Snag(say(text), at, ("on",), orders=scene.orders_with(there))
