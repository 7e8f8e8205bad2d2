"""Orders on which fewer offers would have cost the shopper less."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, cash, many, say


def find(scene: Scene) -> Iterator[Snag]:
    costs = scene.priced.less_put_in
    several = scene.took_effect.sum(axis=0) > 1
    for at in range(len(scene.offers)):
        where = several & scene.took_effect[at]
        if not where.any():
            continue
        less = costs - scene.alone(at).less_put_in
        where &= less > 0
        orders = float(scene.likely_by_row[where].sum())
        if orders:
            paid = float((scene.likely_by_row * less)[where].sum())
            text = say("Alone it would cost the shopper less on ", many(orders), " orders, ", cash(paid), " in all.")
            yield Snag(text, at, ("alongside",), stake=paid, orders=orders)
