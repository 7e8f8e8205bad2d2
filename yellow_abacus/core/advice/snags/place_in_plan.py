"""An offer that offers before it in the plan take out of reach."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, many, say
from yellow_abacus.core.clauses.conditions import Spend


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        conditions = offer.earned.conditions
        on_net = [one for one in conditions if isinstance(one, Spend) and one.at == "net" and one.bound != "at_most"]
        if not on_net or not scene.took_effect.shape[1]:
            continue
        stood = scene.stood
        in_its_way = stood[scene.together.conflicts[at]].any(axis=0)
        where = scene.alone(at).took_effect[at] & ~scene.took_effect[at] & ~in_its_way & (stood.sum(axis=0) > 0)
        orders = float(scene.orders_by_row[where].sum())
        if orders:
            standing = tuple(replace(one, at="standing") if one in on_net else one for one in conditions)
            yield Snag(
                say("On ", many(orders), " orders, what others take off first takes it out of reach."),
                at,
                ("earned", "conditions", conditions.index(on_net[0])),
                orders=orders,
                mend=Mend(
                    say("Count spend before discounts"),
                    replace(offer, earned=replace(offer.earned, conditions=standing)),
                ),
            )
