"""It would apply to some carts, and others are always better for the shopper, or first."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    for at in range(len(scene.offers)):
        alone = scene.alone(at).took_effect[at]
        if alone.any() and not scene.took_effect[at].any():
            others = scene.took_effect[:, alone].sum(axis=1)
            text = "It is never applied"
            if others.any():
                text += f": {scene.names[int(others.argmax())]} always takes its place"
            yield Snag(say(f"{text}."), at, ("alongside",), orders=float(scene.orders_by_row[alone].sum()))
