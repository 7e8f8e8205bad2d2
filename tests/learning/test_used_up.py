"""Offers that are used up while a plan runs: against a walk through its orders, one after another."""

from dataclasses import replace

import numpy as np
import pytest

from tests.learning.made_shops import coded, from_spend
from tests.learning.test_came import START, as_plan, orders_of
from yellow_abacus.core.carts.facts import Labels
from yellow_abacus.core.offers import Limits
from yellow_abacus.learning.came import Came, came

OFFER = from_spend(START, 21)


def came_with(limits: Limits, offer=OFFER) -> tuple[Came, np.ndarray]:
    """What came of a plan with one offer held to its limits, and the place of each of its orders in time."""
    history = orders_of(5, offer)
    (planned,) = as_plan(offer).offers
    plan = replace(as_plan(offer), offers=(replace(planned, limits=limits),))
    found = came(history, np.full(len(history.batch.raw.sku), -1), plan)
    minute = history.batch.facts.minute_by_cart[found.carts]
    return found, np.lexsort((minute, found.day))


@pytest.mark.parametrize(
    "limits", [Limits(uses=40), Limits(uses=1), Limits(spending=20_000), Limits(uses=60, spending=15_000)]
)
def test_an_offer_works_until_its_limits_are_reached(limits):
    free, in_time = came_with(Limits())
    found, _ = came_with(limits)
    uses, spent = 0, 0.0
    for order in in_time:
        left = (limits.uses is None or uses < limits.uses) and (limits.spending is None or spent < limits.spending)
        works = bool(free.works[0, order] and left)
        assert found.works[0, order] == found.used[0, order] == works
        assert found.planned[order] == (free.planned if works else free.as_today)[order]
        assert found.given[0, order] == (free.given[0, order] if works else 0)
        uses, spent = uses + works, spent + found.given[0, order]
    assert 0 < uses < free.works.sum()


def test_a_code_that_is_typed_once_too_often_is_a_use_but_should_not_work():
    free, in_time = came_with(Limits(), coded(START, 21))
    found, _ = came_with(Limits(uses=5), coded(START, 21))
    assert (found.used == free.used).all()
    typed = in_time[free.used[0][in_time]]
    assert found.works[0, typed[:5]].all()
    assert not found.works[0, typed[5:]].any()
    assert (found.off[typed[5:]] == 0).all()


def test_a_shopper_uses_it_as_often_as_may_be():
    history = orders_of(5, OFFER)
    facts = history.batch.facts
    dice = np.random.default_rng(4)
    shopper = Labels(tuple(f"S{at}" for at in range(60)), dice.integers(-1, 60, len(facts.minute_by_cart)))
    history = replace(history, batch=replace(history.batch, facts=replace(facts, shopper=shopper)))
    (planned,) = as_plan(OFFER).offers
    free, found = (
        came(
            history,
            np.full(len(history.batch.raw.sku), -1),
            replace(as_plan(OFFER), offers=(replace(planned, limits=Limits(uses_per_shopper=most)),)),
        )
        for most in (None, 2)
    )
    seen: dict[int, int] = {}
    for order in np.lexsort((facts.minute_by_cart[found.carts], found.day)):
        who = int(shopper.number_by_cart[found.carts[order]])
        works = bool(free.works[0, order] and (who < 0 or seen.get(who, 0) < 2))
        assert found.works[0, order] == works
        seen[who] = seen.get(who, 0) + works
    assert found.works.sum() < free.works.sum()
