"""What shoppers do: which codes they hold, as a distribution over sets of available offers.

A priced result depends only on the cart and the set of available offers, so the states weigh results and are
never priced twice. docs/sums.md, "States".
"""

from itertools import product

from yellow_abacus.core.money import WHOLE_BP
from yellow_abacus.core.plan import Plan

MOST_CODES = 8
"""Most different codes a plan may have open on one day."""


def available_sets(plan: Plan) -> dict[tuple[int, ...], float]:
    """Each set of available offers and its share of the window's orders; the shares add up to 1.

    Codes are held independently of each other. Offers that share a code share its uptake: the first one's.
    """
    shares: dict[tuple[int, ...], float] = {}
    for opened, days in plan.open_offers_by_days().items():
        uptake: dict[str, float] = {}
        for at in opened:
            key = plan.offers[at].given.key
            if key is not None:
                uptake.setdefault(key, plan.offers[at].response.uptake_bp / WHOLE_BP)
        for holds in product((True, False), repeat=len(uptake)):
            held = dict(zip(uptake, holds, strict=True))
            chance = days / plan.days
            for key, has in held.items():
                chance *= uptake[key] if has else 1 - uptake[key]
            if chance > 0:
                available = tuple(at for at in opened if (key := plan.offers[at].given.key) is None or held[key])
                shares[available] = shares.get(available, 0.0) + chance
    return shares
