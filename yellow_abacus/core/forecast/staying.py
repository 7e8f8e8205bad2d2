"""Who still comes where an offer that runs today is dropped.

The history holds the orders that running offers bring. Without one, of the orders it takes effect on only so many
come as would have come anyway: one in (1 + the orders it brings, as a share of those). docs/sums.md, "Today".
"""

from hashlib import blake2b

import numpy as np

from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.offers import Offer


def those_that_stay(outlook: Outlook, mix: Mix, plan: Plan, today: tuple[Offer, ...]) -> Mix:
    """The carts of a mix, each as often as it comes without the offers dropped. today: the offers open then."""
    told = {one.offer.id: one.stay_by_cohort for one in plan.dropped if one.stay_by_cohort != (1.0, 1.0)}
    dropped = [at for at, offer in enumerate(today) if offer.id in told]
    if not dropped:
        return mix
    branched = mix.branched(today)
    took_effect = outlook.as_today(branched, today, plan.apply).took_effect
    cohort = branched.groups.cohort[branched.groups.number_by_cart]
    stays: Floats = np.ones(branched.batch.axes.carts)
    for at in dropped:
        stays = stays * (1 - took_effect[at] * (1 - np.array(told[today[at].id])[cohort]))
    stays = _of_carts(mix, branched, stays)
    key = blake2b(stays.tobytes(), digest_size=16).digest()
    return mix.weighed(mix.weights + key, lambda: mix.share_by_cart * stays, mix.times)


def _of_carts(mix: Mix, branched: Mix, by_branch: Floats) -> Floats:
    """Figures of branches of carts as those of the carts, on average."""
    if branched is mix:
        return by_branch
    cart: Ints = np.arange(len(by_branch))
    at = branched
    while at is not mix and at.origin is not None:
        at, of = at.origin
        cart = cart if of is None else of[cart]
    carts, weight = mix.batch.axes.carts, branched.share_by_cart
    whole = summed_by(cart, weight, carts)
    result: Floats = np.where(
        whole > 0, summed_by(cart, weight * by_branch, carts) / np.where(whole > 0, whole, 1.0), 1.0
    )
    return result
