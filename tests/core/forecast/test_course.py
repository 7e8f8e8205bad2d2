"""A plan with codes, takers, limits, messages and orders that only came sooner, against a plain walk through its
days.

The walk goes day by day, state by state, cart by cart, with the slow pricer, and shares nothing with the core's sums.
"""

from dataclasses import dataclass, field, replace
from datetime import date
from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import FIRST, forecaster, open_then, orders_of, planned, ways_of
from tests.worlds import ZONES, World
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import BuyGet, Response
from yellow_abacus.core.offers.gifts import TooMuchPutInError

share = st.integers(0, 10_000)
perhaps = st.one_of(st.none(), share)
AMONG = [None, None, *(Whose(of="zone", name=one) for one in ZONES), Whose(of="returning")]
answers = st.builds(
    Response,
    uptake_bp=share,
    uptake_first_bp=perhaps,
    take_up_bp=perhaps,
    extra_bp=st.integers(0, 20_000),
    extra_first_bp=st.one_of(st.none(), st.integers(0, 20_000)),
    borrowed_bp=perhaps,
    extra_cost=st.integers(0, 300),
    partner_bp=st.sampled_from([0, 0, 700]),
    fixed_cost=st.sampled_from([0, 2500]),
    sends=st.one_of(
        st.none(),
        st.builds(
            Sends,
            size=st.integers(1, 40),
            response_bp=share,
            anyway_bp=share,
            cost=st.integers(0, 9),
            days=st.integers(1, 4),
            to=st.sampled_from(["any", "first", "returning"]),
            daily=st.booleans(),
            among=st.sampled_from(AMONG),
        ),
    ),
)


@st.composite
def answered(draw: st.DrawFn) -> tuple[World, Plan]:
    world, plan = draw(planned())
    offers = []
    for offer in plan.offers:
        told = draw(answers)
        if offer.given.key is None:
            told = replace(told, sends=None)
        if any(isinstance(one, BuyGet) for one in offer.rewards()):
            told = replace(told, take_up_bp=None)  # what is added for those has a test of its own
        limits = replace(offer.limits, uses=draw(st.one_of(st.none(), st.integers(1, 4))))
        offers.append(replace(offer, response=told, limits=limits))
    return world, replace(plan, offers=tuple(offers))


def is_by(cart: slow.SlowCart, whose: Whose) -> bool:
    return cart.zone == whose.name if whose.of == "zone" else (cart.before or 0) > 0


@dataclass
class Walk:
    """A slow walk through the days. ended: offers whose uses have come to an end, and when."""

    world: World
    plan: Plan
    kept: float = 0.0
    today: float = 0.0
    uses: dict[int, float] = field(default_factory=dict)
    ended: dict[int, float] = field(default_factory=dict)
    known: dict = field(default_factory=dict)

    def run(self) -> "Walk":
        for offer in self.plan.offers:
            told = offer.response
            self.kept -= told.fixed_cost
            if told.sends is not None:
                self.kept -= told.sends.size * told.sends.cost * (self.open_for(offer) if told.sends.daily else 1)
        for number in range(self.plan.days):
            day, gone = date.fromordinal(FIRST.toordinal() + number), 0.0
            self.today += sum(
                orders * self.priced(day, cart, option, ())[0] for orders, cart, option in self.ways(day)
            )
            while gone < 1 - 1e-12:
                kept, used = self.one_day(day)
                part, ends = 1 - gone, []
                for at, offer in enumerate(self.plan.offers):
                    most = offer.limits.uses
                    if most is None or at in self.ended or used[at] <= 0:
                        continue
                    until = max(most - self.uses.get(at, 0.0), 0.0) / used[at]
                    if until < part * (1 - 1e-12):
                        part, ends = until, [at]
                    elif (ends and until <= part * (1 + 1e-12)) or until <= part:
                        ends.append(at)
                self.kept += kept * part
                gone += part
                for at, each in used.items():
                    self.uses[at] = self.uses.get(at, 0.0) + each * part
                for at in ends:
                    self.ended[at] = day.toordinal() + gone
        return self

    def ways(self, day: date, whose: Whose | None = None):
        shop = slow.on_day(self.world.slow_shop, day)
        carts = [one for one in self.world.slow_carts if whose is None or is_by(one, whose)]
        for chance, cart, option in ways_of(self.world, shop):
            if whose is None or is_by(cart, whose):
                yield chance * orders_of(self.world, cart, day, carts), cart, option

    def priced(self, day: date, cart, option, there: tuple[int, ...]) -> tuple[float, list[int], float]:
        """What the cart keeps, which offers take effect, and its goods net of tax."""
        key = (day, id(cart) if cart in self.world.slow_carts else repr(cart), repr(option), there)
        if key not in self.known:
            shop = slow.on_day(self.world.slow_shop, day)
            found = slow.price(shop, cart, self.world.slow_offers, self.plan.apply, list(there), option)
            ledger = slow_costs.ledger(shop, found, cart)
            self.known[key] = float(sum(ledger.values())), list(found.effective()), float(ledger["goods"])
        return self.known[key]

    def states(self, day: date, cart, forced: str | None):
        """Offers there for a shopper, and the chance."""
        offers, first = self.plan.offers, cart.before == 0
        here = [
            at for at, offer in enumerate(offers) if at not in self.ended and open_then(offer.when, day, cart.minute)
        ]
        held: dict[str, float] = {}
        touched = [
            at
            for at, o in enumerate(offers)
            if at not in self.ended and (o.when.first_day or day) <= day <= (o.when.last_day or day)
        ]
        for at in touched:
            key, told = offers[at].given.key, offers[at].response
            if key is not None:
                of_first = told.uptake_bp if told.uptake_first_bp is None else told.uptake_first_bp
                held.setdefault(key, 1.0 if key == forced else (of_first if first else told.uptake_bp) / 10_000)
        levels = sorted(
            {0.0, 1.0, *(o.response.take_up_bp / 10_000 for o in offers if o.response.take_up_bp is not None)}
        )
        for has in product((True, False), repeat=len(held)):
            codes = {key for key, one in zip(held, has, strict=True) if one}
            of_codes = np.prod([s if one else 1 - s for s, one in zip(held.values(), has, strict=True)])
            for low, high in pairwise(levels):
                taken = [
                    at
                    for at in here
                    if (offers[at].given.key is None or offers[at].given.key in codes)
                    and (
                        offers[at].response.take_up_bp is None
                        or offers[at].response.take_up_bp / 10_000 >= high - 1e-12
                    )
                ]
                if of_codes:
                    yield tuple(taken), float(of_codes * (high - low))

    def one_day(self, day: date) -> tuple[float, dict[int, float]]:
        """Kept, and uses, of a whole day as things stand."""
        offers, kept, uses = self.plan.offers, 0.0, dict.fromkeys(range(len(self.plan.offers)), 0.0)
        orders = list(self.ways(day))
        for many, cart, option in orders:
            of_cart, used = self.one_cart(day, cart, option, None, wins=True)
            kept += many * of_cart
            for at, each in used.items():
                uses[at] += many * each
        for offer in offers:
            sends = offer.response.sends
            if sends is None:
                continue
            opens, open_for = self.opens(offer), self.open_for(offer)
            came = 0.0
            for sent in range(open_for if sends.daily else 1):
                over = min(sends.days, open_for - sent)
                came += 1 / over if sent <= (day - opens).days < sent + over else 0.0
            if not came:
                continue
            theirs = orders if sends.among is None else list(self.ways(day, sends.among))
            meant = [
                (many, cart, option)
                for many, cart, option in theirs
                if sends.to == "any" or (cart.before == 0) == (sends.to == "first")
            ]
            meant = meant if sum(many for many, _, _ in meant) > 0 else theirs
            whole = sum(many for many, _, _ in meant)  # of none at all nobody comes
            coming = sends.size * sends.response_bp / 10_000 * came
            anyway = sends.anyway_bp / 10_000
            for many, cart, option in meant:
                there = coming * many / whole
                for times, forced, wins in (
                    (1 - anyway, offer.given.key, False),
                    (anyway, offer.given.key, True),
                    (-anyway, None, True),
                ):
                    of_cart, used = self.one_cart(day, cart, option, forced, wins)
                    kept += there * times * of_cart
                    for one, each in used.items():
                        uses[one] += there * times * each
        return kept, uses

    def opens(self, offer) -> date:
        return max(self.plan.first_day, offer.when.first_day or self.plan.first_day)

    def open_for(self, offer) -> int:
        closes = min(self.plan.last_day, offer.when.last_day or self.plan.last_day)
        return max((closes - self.opens(offer)).days + 1, 1)

    def one_cart(self, day: date, cart, option, forced: str | None, wins: bool) -> tuple[float, dict[int, float]]:
        offers, kept = self.plan.offers, 0.0
        uses = dict.fromkeys(range(len(offers)), 0.0)
        today = self.priced(day, cart, option, ())[0]
        for there, chance in self.states(day, cart, forced):
            alone, effective, goods = self.priced(day, cart, option, there)
            partner = sum(offers[at].response.partner_bp / 10_000 * goods for at in effective if offers[at].given.key)
            kept += chance * (alone - partner)
            more = 0.0
            for at in effective if wins else ():
                told = offers[at].response
                extra = told.extra_bp if told.extra_first_bp is None or cart.before != 0 else told.extra_first_bp
                more += extra / 10_000
                own = told.partner_bp / 10_000 * goods if offers[at].given.key else 0.0
                sooner = (told.borrowed_bp or 0) / 10_000 * today
                kept += chance * extra / 10_000 * (alone - own - sooner - told.extra_cost)
            for at in effective:
                uses[at] += chance * (1 + more)
        return kept, uses


@settings(max_examples=40, deadline=None)
@given(answered())
def test_a_course_is_a_plain_walk_through_its_days(case):
    world, plan = case
    try:
        room = forecaster(world)
        found = room.forecast(plan)
    except TooMuchPutInError:
        return
    walk = Walk(world, plan).run()
    assert found.today.profit == pytest.approx(walk.today, rel=1e-7, abs=1e-4)
    assert found.planned.profit == pytest.approx(walk.kept, rel=1e-7, abs=1e-4)
    for at, figures in enumerate(found.offers):
        assert figures.uses == pytest.approx(walk.uses.get(at, 0.0), rel=1e-7, abs=1e-7)
        most = plan.offers[at].limits.uses
        if most is not None:
            assert figures.uses <= most + 1e-6
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact, rel=1e-7, abs=1e-4)
    for end in found.ends:
        if end.limit.of == "uses":
            ended = walk.ended.get(end.limit.offer)
            assert (end.day is None) == (ended is None) or abs(end.used - end.limit.most) < 1e-6
