"""What shoppers do: which codes they hold, as a distribution over sets of available offers.

A priced result depends only on the cart and the set of available offers, so the states weigh results and are
never priced twice. docs/sums.md, "States".
"""

from collections.abc import Iterable, Iterator
from datetime import date
from itertools import product

from yellow_abacus.core.forecast.plan import Opened, Plan, merged
from yellow_abacus.core.forecast.volume import Volume
from yellow_abacus.core.ground.money import Floats

MOST_CODES = 8
"""Most different codes a plan may have open on one day."""


def available_sets(plan: Plan, days: Iterable[date], volume: Volume) -> list[tuple[Opened, Floats]]:
    """Each set of available offers, and the orders by weekday that meet it on some days of the plan."""
    return merged(
        (tuple(one for one in opened if (key := one[1].given.key) is None or key in held), chance * orders)
        for opened, orders in open_sets(plan, days, volume)
        for held, chance in held_codes(opened)
    )


def open_sets(plan: Plan, days: Iterable[date], volume: Volume) -> list[tuple[Opened, Floats]]:
    """Each set of open offers, and the orders by weekday of the days on which it is."""
    return merged((plan.opened_on(day), volume.by_weekday([day])) for day in days)


def held_codes(opened: Opened) -> Iterator[tuple[frozenset[str], float]]:
    """Every set of codes a shopper may hold, and the chance of it.

    Codes are held independently of each other. Offers that share a code share its uptake: the first one's.
    """
    uptake: dict[str, float] = {}
    for _, offer in opened:
        if offer.given.key is not None:
            uptake.setdefault(offer.given.key, offer.response.uptake)
    for holds in product((True, False), repeat=len(uptake)):
        chance = 1.0
        for share, has in zip(uptake.values(), holds, strict=True):
            chance *= share if has else 1 - share
        if chance > 0:
            yield frozenset(key for key, has in zip(uptake, holds, strict=True) if has), chance
