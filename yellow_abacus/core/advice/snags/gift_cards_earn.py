"""Gift cards, which nothing comes off, earn offers on other goods."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from yellow_abacus.core.advice.scene import Scene, without
from yellow_abacus.core.advice.snag import Mend, Snag, say
from yellow_abacus.core.clauses.conditions import Condition
from yellow_abacus.core.ground.money import Bools


def find(scene: Scene) -> Iterator[Snag]:
    cards = ~scene.goods.may_be_discounted & scene.goods.is_sold
    if not cards.any():
        return
    holds = scene.carts_with(cards)
    names = [scene.goods.skus[sku] for sku in np.flatnonzero(cards)]
    for at, offer in enumerate(scene.offers):
        earning = [_earned_by(scene, one, cards) for one in offer.earned.conditions]
        if not any(earning):
            continue
        stake, orders = scene.given_on(at, scene.took_effect[at] & scene.rows.of_carts(holds))
        conditions = tuple(
            replace(one, of=without(one.of, names)) if by_cards else one
            for one, by_cards in zip(offer.earned.conditions, earning, strict=True)
        )
        yield Snag(
            say(f"Buying {scene.named(np.flatnonzero(cards))} earns it, though nothing comes off those."),
            at,
            ("earned", "conditions", earning.index(True), "of"),
            stake=stake,
            orders=orders,
            mend=Mend(
                say("Leave them out of what earns it"),
                replace(offer, earned=replace(offer.earned, conditions=conditions)),
            ),
        )


def _earned_by(scene: Scene, condition: Condition, cards: Bools) -> bool:
    counts = condition.kind == "spend" and condition.bound != "at_most"
    return counts and bool((condition.of.holds(scene.goods) & cards).any())
