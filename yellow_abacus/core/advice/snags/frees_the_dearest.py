"""Of goods that cost differently, the dearest unit is the one given."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, cash, say
from yellow_abacus.core.offers import BuyGet


def find(scene: Scene) -> Iterator[Snag]:
    price = scene.goods.standing_price
    for at, offer in enumerate(scene.offers):
        dear = [one for one in offer.gives if isinstance(one, BuyGet) and one.units_from == "dearest"]
        inside = price[offer.on.holds(scene.goods) & (price > 0)]
        if dear and len(inside) and inside.max() > inside.min():
            gives = tuple(
                replace(one, units_from="cheapest") if isinstance(one, BuyGet) else one for one in offer.gives
            )
            yield Snag(
                say("Of all that may be given, the dearest unit is: up to ", cash(float(inside.max())), "."),
                at,
                ("gives", offer.gives.index(dear[0]), "units_from"),
                mend=Mend(say("Give the cheapest"), replace(offer, gives=gives)),
            )
