"""The plan’s days are over."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    if scene.plan.last_day < scene.today:
        yield Snag(say("The plan’s days are over: no order can come any more."), None, ("last_day",))
