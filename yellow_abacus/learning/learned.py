"""What history says of how shoppers responded to the offers that ran: every figure, how sure it is, and on what it
rests. Nothing of it is taken over until the merchant says so. docs/sums.md, "What history says".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from yellow_abacus.core.clauses.conditions import Only, Products, Spend, Units, Weight
from yellow_abacus.core.clauses.response import MOST, Ranging
from yellow_abacus.core.forecast.volume import NamedDays
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.core.offers import Offer
from yellow_abacus.learning.bunching import TopUps, top_ups
from yellow_abacus.learning.estimate import Estimate
from yellow_abacus.learning.more_orders import MoreOrders, more_orders
from yellow_abacus.learning.ran import Past, Ran, all_ran
from yellow_abacus.learning.shares import share_draws, share_of
from yellow_abacus.learning.take_up import take_up
from yellow_abacus.learning.uptake import Uses, answered, kind_of, uses_of

FEWEST_OF_COHORT = 20
"""First orders, and others, are told apart where there are so many of each."""

NOT_IN_HISTORY = "No order came on the days it ran."
NO_USE = "No order it was open for could have used it."
NOT_EARNED = "No order earned what has to be added."
TOO_FEW_NEAR = "Too few orders lie around what it asks for."
STEPS_UNTOLD = "It has several thresholds: too few orders of other days show what would be there without them."
AS_WIDE = "History cannot tell: the range is as wide as the figure may be."
EXTRA_UNTOLD = "It reached so small a part of the orders that their number cannot tell what it brought."


@dataclass(frozen=True)
class Said:
    """What history says of one figure. said: shares, or for the reach what the threshold counts; None where it has
    nothing to say, and `why`. orders, days: what it rests on."""

    of: Ranging
    said: Estimate | None
    orders: int
    days: int
    why: str = ""
    reach: Estimate | None = None
    falls: bool = True


@dataclass(frozen=True, eq=False)
class Learned:
    """Of one offer. uses: orders that used it. given_away: on those, minor units, as they were charged where that is
    told, else as its sentence says (`charged`); unlike: the variance of that on an order, in squares of its mean;
    goods: what they would have cost. more: by day. top_ups: around its threshold."""

    ran: Ran
    uses: int
    given_away: float
    unlike: float
    goods: float
    charged: bool
    figures: tuple[Said, ...]
    more: MoreOrders
    top_ups: TopUps | None

    @property
    def offer(self) -> Offer:
        return self.ran.offer


def learn(past: Past, offers: Sequence[Offer], named: Sequence[NamedDays] = ()) -> Iterator[float | Learned]:
    """How far it is, 0 to 1, and what history says of each offer, in order."""
    every = all_ran(past, offers)
    more = more_orders(past, every, named)
    for number, (ran, of_it) in enumerate(zip(every, more, strict=True)):
        go_on()
        yield number / len(every)
        yield _of_one(ran, of_it)


def _of_one(ran: Ran, more: MoreOrders) -> Learned:
    used, off = ran.used, ran.past.off_by_cart
    charged = off is not None and float(off[used].sum()) > 0
    given = (off if charged and off is not None else ran.worth_by_cart)[used]
    mean = float(given.mean()) if used.any() else 0.0
    found = _top_ups(ran)
    return Learned(
        ran,
        uses=int(used.sum()),
        given_away=float(given.sum()),
        unlike=float(given.var()) / mean**2 if mean > 0 else 0.0,
        goods=float(ran.past.batch.worth_by_cart[used].sum()),
        charged=charged,
        figures=() if not ran.days else tuple(_figures(ran, more, found)),
        more=more,
        top_ups=found,
    )


def _figures(ran: Ran, more: MoreOrders, found: TopUps | None) -> Iterator[Said]:
    yield from _uptake(ran)
    taken = take_up(ran)
    if taken is not None:
        yield Said("take_up_bp", taken.share, taken.earned, ran.days)
    elif any(one.kind == "buy_get" for one in ran.offer.rewards()):
        yield Said("take_up_bp", None, 0, ran.days, NOT_EARNED)
    if _threshold(ran.offer) is not None:
        yield of_threshold(found, ran.days, STEPS_UNTOLD if ran.offer.steps else TOO_FEW_NEAR)
    yield from _more(ran, more)


def _uptake(ran: Ran) -> Iterator[Said]:
    kind = kind_of(ran)
    if kind is None:
        return
    if kind == "sent":
        used, size = answered(ran)
        yield Said("send_response_bp", share_of(used, size), used, ran.days)
    uses = uses_of(ran)
    if not uses.all_of:
        yield Said("uptake_bp", None, 0, ran.days, NO_USE if ran.open.any() else NOT_IN_HISTORY)
    elif min(uses.of) < FEWEST_OF_COHORT:
        yield Said("uptake_bp", share_of(uses.all_used, uses.all_of), uses.all_of, ran.days)
    else:
        first, others = (share_of(used, of) for used, of in zip(uses.used, uses.of, strict=True))
        yield Said("uptake_bp", others, uses.of[1], ran.days)
        yield Said("uptake_first_bp", first, uses.of[0], ran.days)


def _more(ran: Ran, more: MoreOrders) -> Iterator[Said]:
    first, others = more.extra
    figures: tuple[tuple[Ranging, Estimate | None], ...] = (("extra_bp", others), ("extra_first_bp", first))
    for of, said in figures:
        yield Said(of, said, more.orders, ran.days, "" if said else more.why or EXTRA_UNTOLD)
    yield Said("borrowed_bp", more.borrowed, more.orders, ran.days, "" if more.borrowed else more.why or AS_WIDE)


def _threshold(offer: Offer) -> Spend | Units | Weight | Products | None:
    """What it asks for, where that is one thing."""
    told = [one for one in offer.earned.conditions if not isinstance(one, Only) and one.bound != "at_most"]
    return told[0] if len(told) == 1 and len(offer.earned.conditions) == 1 else None


def of_threshold(found: TopUps | None, days: int, untold: str = TOO_FEW_NEAR) -> Said:
    """What top-ups at a threshold say. days: on which it held. untold: why there are none."""
    if found is None:
        return Said("top_up_bp", None, 0, days, untold)
    orders = found.orders + found.without
    return Said("top_up_bp", found.share, orders, days, "", found.reach, found.falls)


def thresholds_of(offer: Offer) -> list[int]:
    """What it asks for at least, and for each further step, in what that counts; none where that is not one thing."""
    condition = _threshold(offer)
    if condition is None:
        return []
    over = condition.bound == "over"
    return [n * condition.per + over for n in (condition.n, *(step.n for step in offer.steps))]


def _top_ups(ran: Ran) -> TopUps | None:
    condition = _threshold(ran.offer)
    if condition is None or not ran.days:
        return None
    batch = ran.past.batch
    measure: Ints = condition.measure_by_cart(batch, batch.worth_by_line, None)
    held = None
    if ran.offer.given.key is not None:
        uses = uses_of(ran)
        if not uses.all_used:
            return None
        held = partial(_held, uses)
    here, elsewhere = measure[ran.open], measure[ran.lets_in & ~ran.on_its_days]
    first, *further = thresholds_of(ran.offer)
    whole = condition.kind in ("units", "products")
    return top_ups(first, here, elsewhere, further=further, whole=whole, held=held)


def _held(uses: Uses, dice: np.random.Generator, many: int) -> Floats:
    drawn = share_draws(uses.all_used, uses.all_of, dice, many)
    drawn[0] = uses.all_used / uses.all_of
    return drawn


def in_bp(said: Said) -> tuple[int, int, int] | None:
    """Likely, low and high as the merchant may take them over: basis points, within the figure's bounds."""
    if said.said is None:
        return None
    return said.said.within(0.0, MOST[said.of] / WHOLE_BP).in_bp
