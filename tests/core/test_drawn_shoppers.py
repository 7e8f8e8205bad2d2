"""A forecast against 200,000 shoppers drawn one by one, each priced by the slow pricer.

One plan has it all at once: two codes, a gift that must be taken, a top-up, a send list, more orders, and a limit.
"""

import random
from collections import Counter
from dataclasses import dataclass, field, replace
from datetime import date

import numpy as np
import pytest

from tests import slow, slow_costs
from tests.core.forecast.test_topping_up import PRICES, SHOP, cart_of, spend_offer, topped, world_of
from tests.worlds import PLAIN
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.expected import Expected, History, MixTerms
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.volume import Counted, Volume
from yellow_abacus.core.offers import Limits, Response

FIRST, LAST = date(2026, 3, 2), date(2026, 3, 15)
A_DAY = 14_000
CARTS = [{"A": 1}, {"B": 2}, {"C": 1, "A": 1}, {"C": 2}, {"D": 3, "B": 1}, {"A": 2, "B": 1, "D": 2}]
FROND, TWIN, GIFT, DEEP, SENT = range(5)
THRESHOLD, REACH, TOP_UP = 4000, 1500, 0.3
TAKE_UP, EXTRA, HOLD, LIMIT = 0.6, 0.2, {FROND: 0.3, TWIN: 0.25}, 9_000
ANSWERS, ANYWAY, SENT_DAYS, MESSAGES, EACH_COSTS = 0.25, 0.3, 5, 12_000, 4

STANDING = {"kind": "spend", "n": THRESHOLD, "bound": "at_least", "of": {}, "at": "standing"}
PACKET = {"kind": "put_in", "skus": ["D"], "quantity": 1, "amount": 0}
OFFERS = [
    spend_offer(2000, 1000, code="FRONDLET"),
    spend_offer(1500, 700, code="TWIN"),
    {
        **PLAIN,
        "conditions": [STANDING | {"n": 2200}],
        "gives": [{"kind": "put_in", "skus": ["D"], "quantity": 1, "amount": 0}],
    },
    {**spend_offer(THRESHOLD, 800), "conditions": [STANDING]},
    spend_offer(1000, 1500, code="SENDING"),
]
SENDS = Sends(size=MESSAGES, response_bp=2500, anyway_bp=3000, cost=EACH_COSTS, days=SENT_DAYS, to="any")
RESPONSES = {
    FROND: Response(uptake_bp=3000, extra_bp=2000),
    TWIN: Response(uptake_bp=2500),
    GIFT: Response(take_up_bp=6000),
    DEEP: Response(top_up_bp=3000, top_up_reach=REACH, top_up_falls=True),
    SENT: Response(uptake_bp=0, sends=SENDS),
}


@dataclass
class Drawn:
    """kept: of every order, one after another. uses: by offer. ended: when the limit was reached, in days."""

    draw: random.Random
    kept: list[float] = field(default_factory=list)
    uses: Counter = field(default_factory=Counter)
    ended: float | None = None
    known: dict = field(default_factory=dict)

    def priced(self, number: int, is_topped: bool, there: tuple[int, ...]) -> tuple[float, list[int]]:
        key = (number, is_topped, there)
        if key not in self.known:
            units = CARTS[number]
            cart = cart_of(topped(CARTS, units, THRESHOLD - worth(units)) if is_topped else units)
            found = slow.price(SHOP, cart, OFFERS, "best", list(there), SHOP.zones["home"][0])
            self.known[key] = float(sum(slow_costs.ledger(SHOP, found, cart).values())), found.effective()
        return self.known[key]

    def shopper(self, sent: bool, wins: bool, now: float) -> None:
        number = self.draw.randrange(len(CARTS))
        there = [at for at, share in HOLD.items() if self.draw.random() < share]
        there += [GIFT] if self.draw.random() < TAKE_UP else []
        there += [DEEP, *([SENT] if sent else [])]
        if self.ended is not None and FROND in there:
            there.remove(FROND)
        gap = THRESHOLD - worth(CARTS[number])
        is_topped = 0 < gap <= REACH and self.draw.random() < TOP_UP * (1 - gap / REACH)
        kept, effective = self.priced(number, is_topped, tuple(sorted(there)))
        comes_again = wins and FROND in effective and self.draw.random() < EXTRA
        for _ in range(2 if comes_again else 1):
            self.kept.append(kept)
            self.uses.update(effective)
        if self.ended is None and self.uses[FROND] >= LIMIT:
            self.ended = now


def worth(units: dict[str, int]) -> int:
    return sum(PRICES[sku] * count for sku, count in units.items())


def drawn_one_by_one(seed: int) -> Drawn:
    found, days = Drawn(random.Random(seed)), (LAST - FIRST).days + 1
    answers = int(MESSAGES * ANSWERS / SENT_DAYS)
    for day in range(days):
        here = answers if day < SENT_DAYS else 0
        anyway = int(here * ANYWAY)
        come = [(False, True)] * (A_DAY - anyway) + [(True, True)] * anyway + [(True, False)] * (here - anyway)
        found.draw.shuffle(come)
        for number, (sent, wins) in enumerate(come):
            found.shopper(sent, wins, day + number / len(come))
    return found


def test_two_hundred_thousand_shoppers_drawn_one_by_one_come_to_the_same():
    world = world_of(CARTS, OFFERS)
    history = History(world.shop, world.batch, np.full(len(CARTS), 1))
    counted = Counted(np.arange(1, 2), np.array([len(CARTS)]))
    expected = Expected(history, Volume(float(A_DAY)), np.ones(len(CARTS)), counted, MixTerms())
    offers = tuple(
        replace(one, response=RESPONSES[at], limits=Limits(uses=LIMIT) if at == FROND else one.limits)
        for at, one in enumerate(world.offers)
    )
    found = Forecaster(expected).forecast(Plan(FIRST, LAST, offers))
    drawn = drawn_one_by_one(seed=20_260_302)
    kept = np.array(drawn.kept)
    coming_again = np.sqrt(LIMIT * EXTRA)
    error = float(np.hypot(kept.std() * np.sqrt(len(kept)), coming_again * kept.mean()))
    assert len(kept) > 196_000
    assert abs(kept.sum() - MESSAGES * EACH_COSTS - found.planned.profit) < 4 * error
    for at, offer in enumerate(found.offers):
        most = LIMIT if at == FROND else offer.uses
        assert abs(drawn.uses[at] - offer.uses) <= 4 * np.sqrt(most) + 1
    (end,) = found.ends
    assert end.day is not None
    a_day = LIMIT / drawn.ended
    assert end.day - FIRST.toordinal() == pytest.approx(drawn.ended, abs=1 + 4 * np.sqrt(LIMIT) / a_day)
    assert found.planned.orders == pytest.approx(len(kept), abs=4 * coming_again)
