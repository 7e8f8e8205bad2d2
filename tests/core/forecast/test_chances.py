"""Which sets of offers shoppers have, and how likely; what plans come to with them is in test_course."""

from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.forecast.test_topping_up import FIRST, LAST
from yellow_abacus.core.forecast.chances import Drawn, available_sets, held_and_left, needs_taking
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Given, Offer, PercentOff, Response

TENTH = (PercentOff(1000),)
share = st.integers(0, 10_000)


def coded(code: str, **response) -> Offer:
    return Offer(TENTH, given=Given("code", code) if code else Given(), response=Response(**response), id=code)


def sets_of(*offers: Offer, **told) -> dict[tuple[int, ...], list[float]]:
    """By numbers of the offers there: the chance of a first order, and of others."""
    drawn = Drawn(Plan(FIRST, LAST, offers), **told)
    found = available_sets(tuple(enumerate(offers)), drawn)
    return {tuple(at for at, _ in one.offers): one.chance[0].tolist() for one in found}


@given(share, share, share)
def test_codes_are_held_independently_of_each_other(one, first, other):
    found = sets_of(coded("A", uptake_bp=one, uptake_first_bp=first), coded("B", uptake_bp=other), coded(""))
    for holds in product((True, False), repeat=2):
        key = (*(at for at, has in enumerate(holds) if has), 2)
        for cohort, a in enumerate((first, one)):
            chance = (a if holds[0] else 10_000 - a) * (other if holds[1] else 10_000 - other) / 1e8
            assert found.get(key, [0.0, 0.0])[cohort] == pytest.approx(chance)


def test_offers_with_one_code_are_there_together():
    assert sets_of(coded("A", uptake_bp=3000), coded("a", uptake_bp=9000)) == {
        (0, 1): pytest.approx([0.3, 0.3]),
        (): pytest.approx([0.7, 0.7]),
    }


@given(share, share)
def test_whoever_takes_what_few_take_also_takes_what_many_do(one, other):
    found = sets_of(coded("", take_up_bp=one), Offer(TENTH, response=Response(take_up_bp=other), id="b"))
    few, many = sorted((one, other))
    both, neither = found.get((0, 1), [0.0])[0], found.get((), [0.0])[0]
    assert both == pytest.approx(few / 10_000)
    assert neither == pytest.approx(1 - many / 10_000)
    assert sum(chance[0] for chance in found.values()) == pytest.approx(1)


def test_who_has_used_up_what_many_may_use_yet_has_used_up_what_fewer_may():
    found = sets_of(coded(""), Offer(TENTH, id="b"), not_used_up={0: (1.0, 0.8), 1: (1.0, 0.5)})
    assert found[0, 1] == pytest.approx([1.0, 0.5])
    assert found[0,] == pytest.approx([0.0, 0.3])
    assert found[()] == pytest.approx([0.0, 0.2])


@given(st.lists(st.tuples(share, st.one_of(st.none(), share)), max_size=4))
def test_the_chances_of_all_that_may_be_add_up_to_1(told):
    offers = tuple(
        Offer(
            TENTH,
            given=Given("code", f"CODE{at}"),
            response=Response(uptake_bp=uptake, take_up_bp=take_up),
            id=str(at),
        )
        for at, (uptake, take_up) in enumerate(told)
    )
    opened, drawn = tuple(enumerate(offers)), Drawn(Plan(FIRST, LAST, offers))
    np.testing.assert_allclose(sum(one.chance for one in available_sets(opened, drawn)), 1.0)
    np.testing.assert_allclose(sum(np.broadcast_to(one, (1, 2)) for _, one in held_and_left(opened, drawn)), 1.0)
    assert [needs_taking(drawn, at) for at, _ in opened] == [take_up is not None for _, take_up in told]


def test_figures_drawn_take_the_place_of_the_likely_ones():
    offers = (coded("A", uptake_bp=3000, extra_bp=1000),)
    drawn = Drawn(Plan(FIRST, LAST, offers), draws=2, following={(0, "extra_bp"): 0.5})
    assert drawn.otherwise(0, "uptake_bp", np.array([0.1, 0.2])).uptake(0).tolist() == [[0.1, 0.1], [0.2, 0.2]]
    assert drawn.extra_followed(0).tolist() == [[0.05, 0.05]] * 2
    assert drawn.everybody_holds("a").uptake(0).tolist() == [[1, 1]] * 2
    assert drawn.extra_by_cell(0).shape == (2, 14)
    assert drawn.volume.tolist() == [1, 1]
