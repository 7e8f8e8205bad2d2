"""Carts somebody could build: who brings them, and which way each keeps least."""

from dataclasses import replace

import numpy as np

from tests.core.advice.test_all_snags import offer
from tests.core.advice.test_leaks import THIRTY, world_of
from yellow_abacus.core.advice.built import Bench, Bunch, bunched, guises_of
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.guise import NOON, Guise
from yellow_abacus.core.offers import PercentOff, When, Where, Who

TENTH = PercentOff(1000)


def test_a_bunch_is_priced_at_its_worst_option_and_codes():
    world = world_of(codes_per_order=1)
    bench = Bench(world.shop, world.batch.goods, tuple(THIRTY), "best", 1.0)
    sku = world.batch.goods.skus.index("POT")
    bunch = Bunch(np.array([[sku], [sku]]), np.array([[1], [2]]), np.array([1, 1]), np.array([0, 0]))
    worst = bench.worst(bunch)
    assert not np.isfinite(worst.kept).any()  # 25 less 10 keeps more than 10
    stacked = replace(bench, shop=replace(world.shop, settings=replace(world.shop.settings, codes_per_order=2)))
    assert [len(codes) for codes in stacked.code_sets] == [0, 1, 1, 2]
    assert stacked.worst(bunch).kept.tolist() == [np.inf, 1800 + 500 - 2000 - 400]  # one alone comes to nothing


def test_somebody_whom_nothing_is_known_of_and_whoever_each_offer_is_for():
    trade = offer(TENTH, who=Who(groups=("trade",), nth_order=4, days_since=90))
    evening = offer(
        TENTH, when=When(weekdays=(5, 6), from_minute=1080, to_minute=1320), where=Where(channels=("app",))
    )
    found = guises_of([offer(TENTH), trade, evening, offer(TENTH, who=Who(first_order=True, days_since=None))])
    assert found == [
        Guise(),
        Guise(orders_before=3, days_since=90, group="trade"),
        Guise(weekday=5, minute=1080, channel="app"),
        Guise(orders_before=0),
    ]
    assert (found[0].minute, found[0].days_since) == (NOON, UNKNOWN)


def test_bunches_one_after_another_are_as_wide_as_the_widest():
    one = Bunch(np.array([[3]]), np.array([[2]]), np.array([0]), np.array([1]))
    two = Bunch(np.array([[4, 5]]), np.array([[1, 7]]), np.array([1]), np.array([0]))
    found = bunched([one, two])
    assert len(found) == 2
    assert (found.sku.tolist(), found.units.tolist()) == ([[3, 0], [4, 5]], [[2, 0], [1, 7]])
    assert found.some(np.array([1])).zone.tolist() == [1]


def test_what_runs_today_already_is_no_worse_than_today():
    world = world_of()
    deep = offer(PercentOff(9000))
    bench = Bench(world.shop, world.batch.goods, (deep,), "best", 1.0)
    sku = world.batch.goods.skus.index("LAMP")
    bunch = Bunch(np.array([[sku]]), np.array([[1]]), np.array([0]), np.array([0]))
    worst = bench.worst(bunch)
    assert worst.kept.tolist() == [300 + 600 - 2000 - 550]
    assert worst.kept_today.tolist() == [3000 + 600 - 2000 - 550]
    assert worst.offers.tolist() == [[True]]
    assert not np.isfinite(replace(bench, running=(deep,)).worst(bunch).kept).any()
