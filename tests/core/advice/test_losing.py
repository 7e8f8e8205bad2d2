"""Carts of the mix that a plan makes lose money."""

import pytest

from tests.core.advice.test_all_snags import offer
from tests.core.advice.test_leaks import CARTS, on, search_of
from yellow_abacus.core.advice.losing import losing
from yellow_abacus.core.offers import PercentOff


def test_carts_of_the_mix_that_lose_are_told_by_set_of_offers():
    lamps = [offer(PercentOff(3000), on=on("LAMP")), offer(PercentOff(3000), name="two", on=on("LAMP"))]
    scene, _, _ = search_of(lamps)
    (both,) = losing(scene)
    each = 3000 + 500 - 900 - 630 - 2000 - 400
    assert both.offers == (0, 1)
    assert both.orders == pytest.approx(scene.orders / len(CARTS))
    assert both.lost == pytest.approx(-each * both.orders)


def test_most_lost_comes_first_and_what_loses_nothing_not_at_all():
    lamps, urns = offer(PercentOff(4000), on=on("LAMP")), offer(PercentOff(9000), name="two", on=on("URN"))
    scene, _, _ = search_of([lamps, urns])
    found = losing(scene)
    assert [one.offers for one in found] == [(1,), (0,)]
    assert [one.lost for one in found] == sorted((one.lost for one in found), reverse=True)
    assert losing(search_of([offer(PercentOff(1000), on=on("POT"))])[0]) == []
