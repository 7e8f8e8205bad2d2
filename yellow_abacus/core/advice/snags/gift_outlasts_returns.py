"""Goods that earned a gift are sent back, or taken out again, and the gift stays."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, many, say
from yellow_abacus.core.offers import PutIn
from yellow_abacus.core.pricing.returns import back

FEWEST = 0.03
"""So many of the orders at least send something back."""


def find(scene: Scene) -> Iterator[Snag]:
    batch, unit_cost = scene.batch, scene.goods.column("unit_cost")
    any_returned = scene.rows.of_carts(back(batch).any_returned)
    for at, offer in enumerate(scene.offers):
        gifts = [one for one in offer.gives if isinstance(one, PutIn) and not one.amount]
        asked = any(one.bound != "at_most" for one in offer.earned.conditions)
        weight = scene.likely_by_row * scene.took_effect[at]
        if not gifts or not asked or not weight.sum():
            continue
        sent_back = float((weight * any_returned).sum())
        if sent_back < FEWEST * weight.sum():
            continue
        costs = sum(one.quantity * share * unit_cost[sku] for one in gifts for sku, share in one.choices(scene.goods))
        text = say("On ", many(sent_back), " orders something comes back after the gift was in; the gift is kept.")
        yield Snag(text, at, ("gives",), stake=sent_back * float(costs), orders=sent_back)
