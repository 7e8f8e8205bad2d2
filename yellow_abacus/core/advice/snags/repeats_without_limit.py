"""It is earned again and again, with nothing to end it on one order."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say
from yellow_abacus.core.offers import BuyGet, GoodsSet


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        limits = offer.limits
        if offer.earned.repeat == "each_time" and limits.times is None and limits.amount is None:
            uses = any(isinstance(one, BuyGet | GoodsSet) for one in offer.rewards())
            if uses and limits.units is not None:
                continue
            mended = replace(offer, limits=replace(limits, times=MOST_TIMES))
            yield Snag(
                say("It counts each time, as often as a cart is large."),
                at,
                ("earned", "repeat"),
                mend=Mend(say(f"Limit it to {MOST_TIMES} times an order"), mended),
            )


MOST_TIMES = 3
