"""Something put in, of which there is less in stock than the plan gives away."""

from collections.abc import Iterator
from datetime import date

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.offers import PutIn


def find(scene: Scene) -> Iterator[Snag]:
    course = scene.forecaster.course(scene.plan, scene.forecaster.drawn(scene.plan))
    for limit, ends in zip(course.limits, course.ends, strict=True):
        if not limit.put_in or np.isnan(ends[0]):
            continue
        sku = scene.goods.skus[limit.sku]
        taken = {scene.goods.skus[one] for one in scene.goods.taken_from(limit.sku)}
        day = date.fromordinal(int(np.ceil(ends[0]) - 1))
        for at, offer in enumerate(scene.offers):
            puts_in = [one for one in offer.rewards() if isinstance(one, PutIn)]
            if any(not taken.isdisjoint(one.all_skus(scene.goods)) for one in puts_in):
                stock = int(limit.most)
                yield Snag(say(f"The {stock:,} in stock of {sku} are gone on {day.day} {day:%B}."), at, ("gives",))
