"""An offer held to zones, where the shop learns only at check-out where a cart goes."""

from collections.abc import Iterator

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.offers import DeliveryReward


def find(scene: Scene) -> Iterator[Snag]:
    if scene.shop.settings.zone_known:
        return
    for at, offer in enumerate(scene.offers):
        rewards = [one for one in offer.rewards() if isinstance(one, DeliveryReward) and one.zones]
        if offer.where.zones or offer.where.except_zones or rewards:
            text = say("Where a cart goes is known only at check-out: shoppers elsewhere see it, and then lose it.")
            yield Snag(text, at, ("where",), orders=_elsewhere(scene, at))


def _elsewhere(scene: Scene, at: int) -> float:
    """Orders to zones that have none of it."""
    zone = scene.batch.zone_by_cart
    has = np.unique(zone[scene.carts_of(scene.alone(at).took_effect[at])])
    return float(scene.orders_by_cart[~np.isin(zone, has)].sum())
