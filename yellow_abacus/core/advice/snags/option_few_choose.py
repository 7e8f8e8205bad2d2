"""Delivery is lowered by an option that fewer choose than another."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, part_of, say
from yellow_abacus.core.offers import DeliveryReward


def find(scene: Scene) -> Iterator[Snag]:
    delivery, rows = scene.shop.delivery, scene.rows
    for at, offer in enumerate(scene.offers):
        named = {name for one in offer.rewards() if isinstance(one, DeliveryReward) for name in one.options}
        touched = scene.carts_of(scene.alone(at).delivery_off[at] > 0)[rows.cart_by_row]
        if not named or not touched.any():
            continue
        by_name: dict[str, float] = {}
        for number in np.unique(rows.option_by_row[touched]).tolist():
            name = delivery.name_of(number)
            weight = float(scene.orders_by_row[touched & (rows.option_by_row == number)].sum())
            by_name[name] = by_name.get(name, 0.0) + weight
        most = max(by_name, key=lambda name: by_name[name])
        if most not in named:
            share = by_name[most] / sum(by_name.values())
            options = tuple(dict.fromkeys((*sorted(named), most)))
            gives = tuple(
                replace(one, options=options) if isinstance(one, DeliveryReward) and one.options else one
                for one in offer.gives
            )
            yield Snag(
                say(part_of(share), f" of such shoppers choose {most}, which is not lowered."),
                at,
                ("gives",),
                orders=by_name[most],
                mend=Mend(say(f"Lower {most} too"), replace(offer, gives=gives)),
            )
