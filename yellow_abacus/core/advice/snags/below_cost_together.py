"""Offers none of which loses money on an order by itself, and that do together."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, cash, many, say
from yellow_abacus.core.pricing.pricing import alike


def find(scene: Scene) -> Iterator[Snag]:
    below = (scene.kept < 0) & (scene.kept_today >= 0) & (scene.took_effect.sum(axis=0) > 1)
    for rows, among in alike(scene.took_effect[:, below]):
        where = np.flatnonzero(below)[rows]
        orders = float(scene.likely_by_row[where].sum())
        if not orders:
            continue
        lost = -float((scene.likely_by_row * scene.kept)[where].sum())
        names = [scene.names[at] for at in among]
        text = say(
            f"{' and '.join(names)} together lose money on ", many(orders), " orders, ", cash(lost), " in all."
        )
        last = scene.plan.offers[among[-1]]
        apart = replace(last.alongside, never_with=tuple({*last.alongside.never_with, *_ids(scene, among[:-1])}))
        mended = replace(last, alongside=apart)
        yield Snag(
            text,
            among[-1],
            ("alongside",),
            stake=lost,
            orders=orders,
            mend=Mend(say(f"Never together with {' or '.join(names[:-1])}"), mended),
        )


def _ids(scene: Scene, among: list[int]) -> list[str]:
    return [scene.plan.offers[at].id for at in among]
