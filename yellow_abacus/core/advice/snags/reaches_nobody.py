"""None of the carts to expect meets what it asks for."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    for at in range(len(scene.offers)):
        if not scene.alone(at).took_effect[at].any():
            yield Snag(say("None of the carts to expect meets what it asks for."), at, ("earned",))
