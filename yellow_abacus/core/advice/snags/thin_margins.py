"""A percentage off everything, goods that keep less than that among them."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, whole, without
from yellow_abacus.core.advice.snag import Mend, Snag, part_of, say
from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.offers import PercentOff


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        rates = [one.percent_bp for one in offer.rewards() if isinstance(one, PercentOff)]
        if not rates or not whole(replace(offer.on, except_skus=(), reduced="in")):
            continue
        into = offer.on.holds(scene.goods) & scene.goods.may_be_discounted
        thin = scene.sold_in(into & (scene.most_off < max(rates) / WHOLE_BP))
        if not len(thin):
            continue
        lines = np.isin(scene.batch.sku_by_line, thin)
        mended = replace(offer, on=without(offer.on, [scene.goods.skus[sku] for sku in thin]))
        yield Snag(
            say(f"It is on all goods, and {scene.named(thin)} keep less than ", part_of(max(rates) / WHOLE_BP), "."),
            at,
            ("on",),
            stake=scene.off_lines(at, lines)[0],
            orders=scene.orders_with(among(thin, len(scene.goods.skus))),
            mend=Mend(say("Leave those out"), mended),
        )
