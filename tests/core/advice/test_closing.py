"""What closes a leak leaves none by that offer, and takes least from other orders."""

from dataclasses import replace

import pytest

from tests.core.advice.test_all_snags import offer, spend
from tests.core.advice.test_leaks import EACH, PLANTED, on, search_of
from yellow_abacus.core.advice.closing import closing
from yellow_abacus.core.offers import AmountOff, PutIn


@pytest.mark.parametrize("name", PLANTED)
def test_what_closes_a_leak_leaves_none_by_that_offer(name):
    planted, _, told = PLANTED[name]
    scene, bench, leaks = search_of(planted, **told)
    found = closing(scene, bench, leaks[0])
    assert found is not None
    assert found.offer in leaks[0].offers
    mended = [found.mend.offer if at == found.offer else one for at, one in enumerate(planted)]
    _, _, left = search_of(mended, **told)
    alike = [one for one in left if one.lines == leaks[0].lines and found.offer in one.offers]
    assert alike == []


def test_repeats_are_closed_by_a_limit_of_times():
    scene, bench, leaks = search_of(
        [offer(AmountOff(700), earned=replace(spend(1500), **EACH), on=on("POT", "LAMP"))]
    )
    found = closing(scene, bench, leaks[0])
    assert found is not None
    assert found.mend.offer.limits.times is not None


def test_the_change_that_takes_least_from_other_orders_is_chosen():
    scene, bench, leaks = search_of([offer(PutIn(("SEED", "LAMP")), earned=spend(2000))])
    found = closing(scene, bench, leaks[0])
    assert found is not None
    assert found.mend.offer.gives == (PutIn(("SEED",)),)
    assert found.loses >= 0


def test_what_runs_already_is_not_the_plans_to_change():
    scene, bench, leaks = search_of([offer(AmountOff(600))])
    assert closing(scene, replace(bench, running=bench.offers), leaks[0]) is None
