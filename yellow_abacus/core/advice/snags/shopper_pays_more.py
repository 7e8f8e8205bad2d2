"""A discount that drops carts under free delivery or a quantity price, so that shoppers pay more than without."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, cash, many, say


def find(scene: Scene) -> Iterator[Snag]:
    more = scene.priced.total - scene.bare.total
    for at in range(len(scene.offers)):
        where = (more > 0) & scene.took_effect[at]
        orders = float(scene.likely_by_row[where].sum())
        if orders:
            paid = float((scene.likely_by_row * more)[where].sum())
            text = say("On ", many(orders), " orders the shopper pays more than without it, ", cash(paid), " in all.")
            yield Snag(text, at, stake=paid, orders=orders)
