"""Orders that keep something today and lose money under one offer."""

from collections.abc import Iterator

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, cash, many, say
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Bools, Ints

MOSTLY = 2
"""So many goods are named."""


def find(scene: Scene) -> Iterator[Snag]:
    below = scene.turns_to_loss & (scene.took_effect.sum(axis=0) == 1)
    for at in range(len(scene.offers)):
        where = below & scene.took_effect[at]
        orders = float(scene.likely_by_row[where].sum())
        if orders:
            lost = -float((scene.likely_by_row * scene.kept)[where].sum())
            goods = scene.named(_mostly(scene, where)[:MOSTLY])
            text = say(many(orders), " orders lose money under it, ", cash(lost), f" in all, most with {goods}.")
            yield Snag(text, at, stake=lost, orders=orders)


def _mostly(scene: Scene, where: Bools) -> Ints:
    """SKUs that are more in such orders than elsewhere, by worth, the most first."""
    batch, rows = scene.batch, scene.rows
    orders = summed_by(rows.cart_by_row[where], scene.likely_by_row[where], batch.axes.carts)
    worth = summed_by(batch.sku_by_line, orders[batch.axes.cart_by_line] * batch.worth_by_line, len(batch.goods.skus))
    some = np.flatnonzero(worth > 0)
    found: Ints = some[np.argsort(-worth[some], kind="stable")]
    return found
