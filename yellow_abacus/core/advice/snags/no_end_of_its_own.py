"""It runs for as long as a long plan does, with no last day of its own."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say

LONG = 92
"""Days: a quarter of a year."""


def find(scene: Scene) -> Iterator[Snag]:
    if scene.plan.days <= LONG:
        return
    for at, offer in enumerate(scene.plan.offers):
        if offer.when.last_day is None:
            last = scene.plan.first_day + timedelta(days=LONG - 1)
            mended = replace(offer, when=replace(offer.when, last_day=last))
            text = say(f"It has no last day of its own, and runs all {scene.plan.days} days of the plan.")
            yield Snag(text, at, ("when",), mend=Mend(say(f"End it after {LONG} days"), mended))
