"""How many take a reward they have to add themselves: of the orders that earn it, the share that holds it.

Some orders hold the reward anyway. How many is seen on days without the offer, and left out: if a share `q` of the
orders that would earn it holds it then, and a share `h` does while it runs, then `(h − q) / (1 − q)` took it up.
docs/sums.md, "What history says".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.adding import rewards_held
from yellow_abacus.learning.estimate import Estimate, between
from yellow_abacus.learning.ran import Ran
from yellow_abacus.learning.shares import DRAWS, SEED, share_draws, share_of

FEWEST = 20
"""Orders without the offer that tell how many hold the reward anyway."""


@dataclass(frozen=True)
class TakenUp:
    """share: of those who have to add it. earned: orders of its days."""

    share: Estimate
    earned: int


def take_up(ran: Ran) -> TakenUp | None:
    """None where the offer gives nothing to add, or no order earned it."""
    found = rewards_held(ran.past.shop, ran.past.batch, ran.on_any_day)
    if found is None:
        return None
    earns, holds = found
    if ran.offer.given.key is not None:
        earns = earns & (ran.used | ~ran.on_its_days)
    here, elsewhere = earns & ran.open, earns & ran.lets_in & ~ran.on_its_days
    earned, held = int(here.sum()), int((here & holds).sum())
    others, anyway = int(elsewhere.sum()), int((elsewhere & holds).sum())
    if not earned:
        return None
    if others < FEWEST:
        return TakenUp(share_of(held, earned), earned)
    dice = np.random.default_rng(SEED)
    h, q = share_draws(held, earned, dice, DRAWS), share_draws(anyway, others, dice, DRAWS)
    h_likely, q_likely = held / earned, anyway / others
    likely = (h_likely - q_likely) / (1 - q_likely) if q_likely < 1 else 0.0
    return TakenUp(between((h - q) / (1 - q), likely), earned)
