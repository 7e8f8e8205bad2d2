"""A limit or a condition on shoppers that those whom nobody knows escape, or miss."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, part_of, say
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.ground.money import WHOLE_BP

FEWEST = 0.05
"""So many orders at least are of shoppers nobody knows."""


def _share(scene: Scene) -> float:
    """As the merchant says, or as many as the orders say."""
    told = scene.shop.settings.unknown_bp
    if told is not None:
        return told / WHOLE_BP
    unknown = scene.batch.facts.shopper.number_by_cart == UNKNOWN
    return float(scene.mix.share_by_cart[unknown].sum())


def find(scene: Scene) -> Iterator[Snag]:
    share = _share(scene)
    if share < FEWEST:
        return
    orders = scene.orders * share
    for at, offer in enumerate(scene.offers):
        who = offer.who
        if offer.limits.uses_per_shopper is not None:
            text = say(
                part_of(share), " of orders are of shoppers nobody knows: a limit for each does not hold them."
            )
            yield Snag(text, at, ("limits", "uses_per_shopper"), orders=orders)
        if who.groups or who.tags or who.shoppers:
            text = say(
                part_of(share), " of orders are of shoppers nobody knows: they miss it, though they may be meant."
            )
            yield Snag(text, at, ("who",), orders=orders)
        elif who.except_groups or who.except_tags or who.except_shoppers or who.first_order:
            text = say(part_of(share), " of orders are of shoppers nobody knows: they get it, whoever they are.")
            yield Snag(text, at, ("who",), orders=orders)
