"""Orders that would get either of two offers, though both were announced."""

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, many, say

FEWEST = 0.005


def find(scene: Scene) -> Iterator[Snag]:
    alone = [scene.alone(at) for at in range(len(scene.offers))]
    for first, at in combinations(range(len(scene.offers)), 2):
        if not scene.together.conflicts[first, at]:
            continue
        both = alone[first].took_effect[first] & alone[at].took_effect[at]
        orders = float(scene.orders_by_row[both].sum())
        if orders <= FEWEST * scene.orders:
            continue
        missed = np.minimum(*((scene.bare.total - alone[one].less_put_in)[both] for one in (first, at)))
        text = say(many(orders), f" orders meet what {scene.names[first]} asks for too, and get one of the two.")
        stake = float((missed * scene.orders_by_row[both]).sum())
        yield Snag(text, at, ("alongside",), stake=max(stake, 0.0), orders=orders)
