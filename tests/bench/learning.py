"""How often what history says holds what was so, over made-up shops with a known truth, and how near it comes."""

import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from tests.bench.timing import judge
from tests.learning.made_shops import Truth, coded, from_spend, made_shop, off_all, packet_beside_a_pot
from tests.learning.test_next_offers import campaigns
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.offers import Offer
from yellow_abacus.learning.estimate import Estimate
from yellow_abacus.learning.learned import Learned, learn
from yellow_abacus.learning.next_offers import Next

SHOPS, FEWEST_INSIDE, ORDERS = 100, 83, 6_000
LARGE_SHOPS, LARGE_ORDERS = 20, 30_000
CAMPAIGNS = 10
NOTHING_MORE = Truth(extra=0.0, borrowed=0.0)


@dataclass(frozen=True)
class Kind:
    """figures: name of the estimate → of the truth. near: the most its median error may be in large shops."""

    offer: Callable[[int], Offer]
    truth: Truth
    figures: dict[str, str]
    near: dict[str, float]


KINDS = {
    "a code": Kind(
        lambda at: coded(at, 28),
        NOTHING_MORE,
        {"uptake_bp": "uptake", "uptake_first_bp": "uptake_first"},
        {"uptake_bp": 0.25},
    ),
    "messages": Kind(
        lambda at: coded(at, 14, sends=Sends(size=800, response_bp=0)),
        NOTHING_MORE,
        {"send_response_bp": "answers"},
        {},
    ),
    "a threshold": Kind(
        lambda at: from_spend(at, 90),
        NOTHING_MORE,
        {"top_up_bp": "top_up", "reach": "reach"},
        {"top_up_bp": 0.25, "reach": 0.25},
    ),
    "a reward to add": Kind(
        lambda at: packet_beside_a_pot(at, 60), NOTHING_MORE, {"take_up_bp": "take_up"}, {"take_up_bp": 0.25}
    ),
    "more orders": Kind(
        lambda at: off_all(at, 21),
        Truth(),
        {"extra_bp": "extra", "extra_first_bp": "extra", "borrowed_bp": "borrowed"},
        {"extra_bp": 0.35},
    ),
    "nothing happened": Kind(
        lambda at: off_all(at, 21),
        NOTHING_MORE,
        {"extra_bp": "extra", "extra_first_bp": "extra", "borrowed_bp": "borrowed"},
        {},
    ),
}


def run() -> None:
    for name, kind in KINDS.items():
        _of_kind(name, kind, SHOPS, ORDERS)
    for name, kind in KINDS.items():
        if kind.near:
            _of_kind(name, kind, LARGE_SHOPS, LARGE_ORDERS, judged=False)
    _next_messages()


def _next_messages() -> None:
    """How near the next of many campaigns is told, each from those before it."""
    inside, given, told = 0, 0, 0
    errors, same = np.zeros(2), np.zeros(2)
    for seed in range(CAMPAIGNS):
        sent = campaigns(np.random.default_rng(seed), 24, 0.5)
        for at in range(8, len(sent)):
            found, came, last = Next("sent", tuple(sent[:at])).sent_to(sent[at].of), sent[at], sent[at - 1]
            inside += found.uses.low <= came.used <= found.uses.high
            away = found.given_away
            assert away is not None
            given += away.low <= came.given_away <= away.high
            errors += abs(found.uses.likely - came.used), abs(away.likely - came.given_away)
            same += abs(last.used - came.used), abs(last.given_away - came.given_away)
            told += 1
    print(f"  {told} next messages: uses held {inside / told:.0%}, given away {given / told:.0%}")
    judge("next messages: uses that do not hold, of a hundred", 100 - inside / told * 100, 17, unit="")
    for name, error in zip(("uses", "given away"), (errors / same * 100).tolist(), strict=True):
        judge(f"next messages: error of {name}, of that of the same as last time", error, 50, unit=" %")


def _of_kind(name: str, kind: Kind, shops: int, orders: int, *, judged: bool = True) -> None:
    """judged: by how many ranges hold; else by how near the likely figures are."""
    inside, silent = dict.fromkeys(kind.figures, 0), dict.fromkeys(kind.figures, 0)
    errors: dict[str, list[float]] = {of: [] for of in kind.figures}
    start = time.perf_counter()
    for seed in range(shops):
        found = _learned(seed, orders, kind)
        for of, true_name in kind.figures.items():
            want, estimate = getattr(kind.truth, true_name), _estimate(found, of)
            if estimate is None:
                silent[of] += 1
                continue
            inside[of] += estimate.low <= want <= estimate.high
            errors[of].append(abs(estimate.likely - want) / (want or 1))
    each = (time.perf_counter() - start) / shops
    for of in kind.figures:
        told = shops - silent[of]
        near = f", median error {np.median(errors[of]):.0%}" if told else ""
        print(
            f"  {orders:,} orders, {name}, {of}: held {inside[of]} of {told} told of {shops}{near}; {each:.2f} s each"
        )
        if judged:
            outside = told - inside[of]
            judge(f"{name}, {of}: ranges of {shops} that do not hold", outside, shops - FEWEST_INSIDE, unit="")
        elif told and of in kind.near:
            judge(f"{name}, {of}: median error", float(np.median(errors[of])) * 100, kind.near[of] * 100, unit=" %")


def _learned(seed: int, orders: int, kind: Kind) -> Learned:
    dice = np.random.default_rng(seed)
    offer = kind.offer(int(dice.integers(40, 250)))
    shop = made_shop(dice, orders, offer, kind.truth)
    return next(one for one in learn(shop.past, [offer]) if isinstance(one, Learned))


def _estimate(found: Learned, of: str) -> Estimate | None:
    said = {one.of: one for one in found.figures}
    return said["top_up_bp"].reach if of == "reach" else said[of].said if of in said else None
