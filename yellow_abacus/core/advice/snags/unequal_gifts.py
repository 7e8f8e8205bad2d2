"""A choice of gifts of very unequal cost, of which all may take the dearest."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, cash, say
from yellow_abacus.core.offers import PutIn

UNEQUAL = 2.0


def find(scene: Scene) -> Iterator[Snag]:
    unit_cost = scene.goods.column("unit_cost")
    for at, offer in enumerate(scene.offers):
        for number, reward in enumerate(offer.gives):
            if not isinstance(reward, PutIn):
                continue
            choices = reward.choices(scene.goods)
            costs = [float(unit_cost[sku]) for sku, _ in choices]
            if len(costs) < 2 or max(costs) < UNEQUAL * min(costs):
                continue
            expected = sum(cost * share for cost, (_, share) in zip(costs, choices, strict=True))
            orders = float(scene.likely_by_row[scene.took_effect[at]].sum())
            dearest = scene.goods.skus[choices[costs.index(max(costs))][0]]
            fair = tuple(scene.goods.skus[sku] for sku, _ in choices if unit_cost[sku] < UNEQUAL * min(costs))
            fewer = replace(reward, skus=fair, categories=(), shares_bp=())
            gives = (*offer.gives[:number], fewer, *offer.gives[number + 1 :])
            yield Snag(
                say(
                    f"All may take {dearest}, which costs ",
                    cash(max(costs)),
                    " where the cheapest costs ",
                    cash(min(costs)),
                    ".",
                ),
                at,
                ("gives", number),
                stake=orders * reward.quantity * (max(costs) - expected),
                orders=orders,
                mend=Mend(say("Leave the dear ones out"), replace(offer, gives=gives)),
            )
