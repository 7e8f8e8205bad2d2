"""Steps at which more units cost less in all than fewer."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.clauses.conditions import Units
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.problem import Path
from yellow_abacus.core.offers import PercentOff, Reward


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        rates = [_rate(gives) for gives in offer.gives_by_step]
        if not isinstance(next(iter(offer.earned.conditions), None), Units):
            continue
        below = 0
        for number, (n, rate) in enumerate(zip(scene.thresholds(at), rates, strict=True)):
            if rate is None:
                break
            paid, before = n * (WHOLE_BP - rate), (n - 1) * (WHOLE_BP - below)
            if 0 < paid < before:
                path: Path = ("earned", "conditions", 0, "n") if number == 0 else ("steps", number - 1, "n")
                text = f"{n} units cost as {paid / WHOLE_BP:.1f} do, and {n - 1} as {before / WHOLE_BP:.1f}."
                yield Snag(say(text), at, path)
            below = rate


def _rate(gives: tuple[Reward, ...]) -> int | None:
    """The percentage off, where that is all that is given."""
    (first, *more) = gives
    return first.percent_bp if isinstance(first, PercentOff) and not more else None
