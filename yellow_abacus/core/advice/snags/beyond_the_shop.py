"""What the shop's own software cannot hold: a code, or more offers open at once than it takes."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    rules = scene.shop.settings.code_rules
    for at, offer in enumerate(scene.offers):
        unfit = next(((code, why) for code in offer.given.written if (why := rules.beyond(code))), None)
        if unfit is not None:
            yield Snag(say(f"The code {unfit[0]} {unfit[1]}."), at, ("given",))
    settings = scene.shop.settings
    yield from _at_once(scene, settings.most_by_itself, "without a code", by_itself=True)
    yield from _at_once(scene, settings.most_by_code, "with a code", by_itself=False)


def _at_once(scene: Scene, most: int | None, words: str, *, by_itself: bool) -> Iterator[Snag]:
    if most is None:
        return
    for day in scene.plan.window():
        opened = [at for at, one in scene.plan.opened_on(day) if (one.given.key is None) is by_itself]
        if len(opened) > most:
            text = f"On {day.day} {day:%B} {len(opened)} offers {words} are open; your shop holds {most} at once."
            yield Snag(say(text), opened[-1], ("when",))
            return
