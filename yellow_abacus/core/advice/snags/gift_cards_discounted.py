"""Goods that look like gift cards, and are not kept from being discounted."""

import re
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, without
from yellow_abacus.core.advice.snag import Mend, Snag, say

LOOKS_LIKE = re.compile(r"gift ?(card|certificate|voucher)|voucher", re.IGNORECASE)


def find(scene: Scene) -> Iterator[Snag]:
    goods = scene.goods
    cards = (
        np.array([bool(LOOKS_LIKE.search(name)) for name in goods.products], dtype=np.bool_) & goods.may_be_discounted
    )
    if not cards.any():
        return
    lines = cards[scene.batch.sku_by_line]
    for at, offer in enumerate(scene.offers):
        off, _ = scene.off_lines(at, lines)
        if off:
            names = tuple(goods.skus[sku] for sku in np.flatnonzero(cards))
            on = without(offer.on, names)
            yield Snag(
                say(f"It comes off {scene.named(np.flatnonzero(cards))}: money sold below its worth."),
                at,
                ("on",),
                stake=off,
                mend=Mend(say("Leave them out"), replace(offer, on=on)),
            )
