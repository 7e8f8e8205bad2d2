"""A zone to which orders go, and none of the plan."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, many, say
from yellow_abacus.core.ground.axes import summed_by

FEWEST = 0.01


def find(scene: Scene) -> Iterator[Snag]:
    if not scene.offers:
        return
    zone = scene.rows.of_carts(scene.batch.zone_by_cart)
    whole, got = (
        summed_by(zone, weight, len(scene.shop.zones))
        for weight in (scene.orders_by_row, scene.orders_by_row * scene.took_effect.any(axis=0))
    )
    for number, name in enumerate(scene.shop.zone_names):
        if whole[number] > FEWEST * scene.orders and not got[number]:
            orders = float(whole[number])
            yield Snag(say(f"To {name} the plan gives nothing, on ", many(orders), " orders."), orders=orders)
