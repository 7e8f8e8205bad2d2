"""What orders cost to deliver, zone by zone and option by option, beside what the shop's tariffs say.
docs/sums.md, "What orders cost to deliver".
"""

from collections.abc import Collection, Iterator
from dataclasses import dataclass

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.core.delivery.parcels import load_of
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.ground.money import LARGEST_CHARGE, Ints
from yellow_abacus.core.ground.naming import LONGEST_NAME
from yellow_abacus.files.shop_json import terms_of
from yellow_abacus.learning.parcel_costs import ParcelCost, parcel_cost
from yellow_abacus.orders_alike import FEWEST_ORDERS, Beside, BesideSet, alike, meant, of_late
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.models import ZoneRow
from yellow_abacus.store.settings import save_tariffs, zone_rows


@dataclass(frozen=True)
class DeliveryCost:
    """What orders of one zone cost to deliver by one option, as they name it; by none where they name none.

    days: the last of history that they are of, None for all. orders: that tell it; cost: of all of them together,
    minor units. ours: the shop's option of that name, or all those of the zone where they name none. by_tariffs: what
    the tariffs of those say that the same orders cost; None where one of them has none. found: what one cost by its
    weight.
    """

    zone: int
    option: str
    days: int | None
    orders: int
    cost: int
    ours: tuple[str, ...]
    by_tariffs: float | None
    found: ParcelCost

    def tariff(self, zone: str) -> Tariff:
        """Of what they cost. zone: its name."""
        option = self.ours[0] if len(self.ours) == 1 else self.option
        way = f"{option} to {zone}" if option else zone
        return self.found.tariff(f"{way[: LONGEST_NAME - len(AS_IT_COST)]}{AS_IT_COST}")


AS_IT_COST = ", as it cost"


def delivery_cost(loaded: LoadedShop) -> list[DeliveryCost]:
    """Zone by zone, the option most orders went by first. An order that cost nothing tells nothing."""
    tells = _tells(loaded)
    found = [
        _cost_of(loaded, zone, option, carts)
        for zone, option, carts in alike(loaded, tells)
        if len(carts) >= FEWEST_ORDERS
    ]
    return sorted(found, key=lambda one: (one.zone, -one.orders))


def cost_beside_tariffs(loaded: LoadedShop) -> BesideSet:
    """What orders cost to deliver, beside what the shop's tariffs say."""

    def both(some: Ints) -> Iterator[Beside]:
        for zone, option, carts in alike(loaded, some):
            by_tariffs = _by_tariffs(loaded, meant(loaded.shop.delivery, zone, option), carts)
            if by_tariffs is not None:
                yield Beside(len(carts), float(loaded.orders.delivery_cost[carts].sum()), by_tariffs)

    return BesideSet(loaded.orders.day, _tells(loaded), both)


def go_by_costs(session: Session, loaded: LoadedShop, ways: Collection[tuple[str, str]]) -> int:
    """Keep what orders cost as tariffs, by which some options go from now on, and by no other; how many there are.

    ways: zone and option, by name. Raises SettingsError.
    """
    names, tariffs = loaded.shop.zone_names, dict[tuple[str, str], Tariff]()
    for one in delivery_cost(loaded):
        way = (names[one.zone], *one.ours)
        if len(way) == 2 and way in ways:
            tariffs.setdefault(way, one.tariff(way[0]))
    save_tariffs(session, [terms_of(tariff) for tariff in tariffs.values()])
    for row in zone_rows(session):
        _go_by(row, {option: tariff.name for (zone, option), tariff in tariffs.items() if zone == row.name})
    return len(tariffs)


def _go_by(row: ZoneRow, tariffs: dict[str, str]) -> None:
    """tariffs: their names, by option."""
    if tariffs:
        row.options = [
            one | {"tariffs": [tariffs[one["name"]]], "preferred": []} if one["name"] in tariffs else one
            for one in row.options
        ]


def _tells(loaded: LoadedShop) -> Ints:
    cost = loaded.orders.delivery_cost
    return np.flatnonzero((cost > 0) & (cost <= LARGEST_CHARGE))


def _cost_of(loaded: LoadedShop, zone: int, option: str, carts: Ints) -> DeliveryCost:
    delivery, cost = loaded.shop.delivery, loaded.orders.delivery_cost
    weight = loaded.batch.weight_by_cart + delivery.packaging_weight
    days, some, found = of_late(
        loaded.orders.day,
        carts,
        cost,
        find=lambda some: parcel_cost(weight[some], cost[some]),
        told=lambda found, late: found.asked(weight[late]),
    )
    ours = meant(delivery, zone, option)
    return DeliveryCost(
        zone=zone,
        option=option,
        days=days,
        orders=len(some),
        cost=int(cost[some].sum()),
        ours=tuple(map(delivery.name_of, ours)),
        by_tariffs=_by_tariffs(loaded, ours, some),
        found=found,
    )


def _by_tariffs(loaded: LoadedShop, options: list[int], carts: Ints) -> float | None:
    """What the tariffs of some options say that orders cost, each by its own or by all as shoppers choose them; None
    where there is none, or one without tariffs."""
    delivery = loaded.shop.delivery
    if not options or not all(delivery.options[at][1].tariffs for at in options):
        return None
    batch = loaded.batch.some(carts)
    load, shares = load_of(batch), [delivery.options[at][1].share_bp for at in options]
    costs = [delivery.carriage(load, np.full(len(carts), at)).cost for at in options]
    batch.let_go()
    return float(np.average([cost.sum() for cost in costs], weights=shares if any(shares) else None))
