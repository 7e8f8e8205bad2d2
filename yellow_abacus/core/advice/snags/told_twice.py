"""Two offers that do the same."""

from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.offers import Alongside, Given, Offer, Response


def find(scene: Scene) -> Iterator[Snag]:
    for (first, one), (at, other) in combinations(enumerate(scene.plan.offers), 2):
        if _bare(one) == _bare(other):
            yield Snag(say(f"It does just what {scene.names[first]} does."), at)


def _bare(offer: Offer) -> Offer:
    """Without what tells two of them apart and does nothing."""
    return replace(offer, id="", response=Response(), alongside=Alongside(), given=Given())
