"""Delivery is lowered on orders whose carriage costs more than they keep."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Said, Snag, cash, many, say
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import MILLIGRAMS
from yellow_abacus.core.offers import DeliveryReward, Offer


def find(scene: Scene) -> Iterator[Snag]:
    zone = scene.rows.of_carts(scene.batch.zone_by_cart)
    for at, offer in enumerate(scene.offers):
        if not offer.works_on_delivery:
            continue
        where = scene.turns_to_loss & (scene.priced.delivery_off[at] > 0)
        lost = summed_by(zone[where], -(scene.likely_by_row * scene.kept)[where], len(scene.shop.zones))
        for number in np.argsort(-lost, kind="stable")[:1]:
            if lost[number] <= 0:
                continue
            name = scene.shop.zone_names[number]
            there = where & (zone == number)
            lightest = int(scene.rows.of_carts(scene.batch.weight_by_cart)[there].min())
            mended, label = _mended(offer, name, lightest, scene.shop.zone_names)
            orders = many(float(scene.likely_by_row[there].sum()))
            lost_there = cash(float(lost[number]))
            yield Snag(
                say(f"To {name}, ", orders, " orders cost more to carry than they keep, ", lost_there, " in all."),
                at,
                ("gives",),
                stake=float(lost.sum()),
                orders=float(scene.likely_by_row[where].sum()),
                mend=Mend(label, mended),
            )


def _mended(offer: Offer, zone: str, lightest: int, zones: Sequence[str]) -> tuple[Offer, Said]:
    """Without the zone; or, where no other is left, without carts as heavy as the lightest that loses."""
    if any(one != zone for one in offer.where.names_in(zones)):
        return replace(offer, where=offer.where.without_zone(zone)), say(f"Leave {zone} out")
    grams = lightest // MILLIGRAMS
    gives = tuple(
        replace(one, below_weight=max(grams, 1)) if isinstance(one, DeliveryReward) else one for one in offer.gives
    )
    return replace(offer, gives=gives), say(f"Only below {grams / 1000:g} kg")
