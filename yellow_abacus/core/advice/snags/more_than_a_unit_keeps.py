"""An amount off each unit that is more than a unit keeps."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, without
from yellow_abacus.core.advice.snag import Mend, Snag, say
from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.offers import AmountOffEach, UnitPrice


def find(scene: Scene) -> Iterator[Snag]:
    price, most = scene.goods.standing_price, scene.most_off
    for at, offer in enumerate(scene.offers):
        off = np.zeros(len(price))
        for reward in offer.gives:
            if isinstance(reward, AmountOffEach):
                off = np.maximum(off, reward.amount)
            elif isinstance(reward, UnitPrice):
                off = np.maximum(off, price - reward.amount)
        into = offer.on.holds(scene.goods) & scene.goods.may_be_discounted & (price > 0)
        deep = scene.sold_in(into & (off > 0) & (off >= most * price))
        if len(deep):
            inside = among(deep, len(price))
            mended = replace(offer, on=without(offer.on, [scene.goods.skus[sku] for sku in deep]))
            yield Snag(
                say(f"It takes more off a unit than {scene.named(deep)} keep{'s' if len(deep) == 1 else ''}."),
                at,
                ("gives",),
                orders=scene.orders_with(inside),
                mend=Mend(say("Leave those out"), mended) if len(deep) < into.sum() else None,
            )
