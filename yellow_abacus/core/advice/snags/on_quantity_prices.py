"""It comes off quantity prices, which are lowered already."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    batch, goods = scene.batch, scene.goods
    single = goods.standing_price[batch.sku_by_line]
    lowered = (single > 0) & (batch.standing_by_line < single)
    for at in range(len(scene.offers)):
        lines = (scene.off_by_line[at] > 0) & lowered
        stake, orders = scene.off_lines(at, lines)
        if stake:
            text = say("It comes off quantity prices and prices of groups, which are lowered already.")
            yield Snag(text, at, ("on",), stake=stake, orders=orders)
