"""Conditions, or a condition and a reward, that no cart can meet together."""

from collections.abc import Iterator
from itertools import combinations

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.clauses.conditions import Condition, Only
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import DeliveryReward, GoodsSet, Offer, PutIn


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        conditions = offer.earned.conditions
        if offer.earned.need == "all":
            for (_, one), (second, other) in combinations(enumerate(conditions), 2):
                if _apart(one, other) or _apart(other, one):
                    yield Snag(say("No cart can meet both of its conditions."), at, ("earned", "conditions", second))
        for number, only in enumerate(conditions):
            if isinstance(only, Only) and offer.earned.need == "all" and not _has_reward(scene, offer, only.of):
                text = say("Where nothing but those goods is in the cart, what it gives is not.")
                yield Snag(text, at, ("earned", "conditions", number))


def _apart(least: Condition, most: Condition) -> bool:
    """Whether one asks for more than the other allows, of the same goods."""
    if isinstance(least, Only) or isinstance(most, Only) or least.kind != most.kind or least.of != most.of:
        return False
    if least.bound == "at_most" or most.bound != "at_most":
        return False
    return least.n > most.n or (least.n == most.n and least.bound == "over")


def _has_reward(scene: Scene, offer: Offer, only: Scope) -> bool:
    """Whether goods the offer is on may be among goods that are all there is in the cart."""
    on_lines = [one for one in offer.rewards() if not isinstance(one, PutIn | DeliveryReward | GoodsSet)]
    return not on_lines or bool((only.holds(scene.goods) & offer.on.holds(scene.goods)).any())
