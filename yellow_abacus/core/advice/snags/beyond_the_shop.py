"""A code the shop’s own software cannot hold."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say


def find(scene: Scene) -> Iterator[Snag]:
    rules = scene.shop.settings.code_rules
    for at, offer in enumerate(scene.offers):
        given = offer.given
        codes = {"itself": (), "codes": given.codes}.get(given.by, (given.code,))
        unfit = next(((code, why) for code in codes if (why := rules.beyond(code))), None)
        if unfit is not None:
            yield Snag(say(f"The code {unfit[0]} {unfit[1]}."), at, ("given",))
