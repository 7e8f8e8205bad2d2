"""From which order on an offer of a plan was used up: by its uses or spending in all, or by one shopper.

Orders come one after another, by day and minute. An offer that runs without the plan has no beginning to count from,
and is left alone.
"""

from collections.abc import Sequence

import numpy as np

from yellow_abacus.core.carts.facts import Facts
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer


def beyond_limits(offers: Sequence[Offer], works: Bools, given: Floats, day: Ints, facts: Facts) -> Bools:
    """On which orders offers took effect that had reached their limits by then: one row an offer, one column an
    order.

    First those of limits per shopper; where there are none, of limits in all those of the offer that ends first
    alone, for what comes after may go otherwise without it. works, given: whether each took effect, and what it gave
    away, minor units.
    """
    in_time = np.lexsort((facts.minute_by_cart, day))
    found: Bools = np.zeros(works.shape, dtype=np.bool_)
    limited = [at for at, offer in enumerate(offers) if not offer.runs]
    for at in limited:
        most = offers[at].limits.uses_per_shopper
        if most is not None:
            found[at] = _once_more(most, works[at], facts.shopper.number_by_cart, in_time)
    if found.any():
        return found
    ends = {at: _end(offers[at], works[at][in_time], given[at][in_time]) for at in limited}
    going_on = [at for at in limited if works[at][in_time[ends[at] :]].any()]
    if going_on:
        ended = min(going_on, key=lambda at: ends[at])
        later = in_time[ends[ended] :]
        found[ended, later] = works[ended, later]
    return found


def _end(offer: Offer, works: Bools, given: Floats) -> int:
    """From which order on, in time, it has reached a limit in all."""
    end = len(works)
    if offer.most_uses is not None:
        end = min(end, int(np.searchsorted(np.cumsum(works), offer.most_uses)) + 1)
    if offer.limits.spending is not None:
        end = min(end, int(np.searchsorted(np.cumsum(given), offer.limits.spending)) + 1)
    return end


def _once_more(most: int, works: Bools, shopper: Ints, in_time: Ints) -> Bools:
    """Uses by a shopper who had used it so often; shoppers who are not known are not held."""
    found: Bools = np.zeros(len(works), dtype=np.bool_)
    uses = in_time[(works & (shopper >= 0))[in_time]]
    by_shopper = uses[np.argsort(shopper[uses], kind="stable")]
    whose = shopper[by_shopper]
    before = np.arange(len(whose)) - np.searchsorted(whose, whose)
    found[by_shopper[before >= most]] = True
    return found
