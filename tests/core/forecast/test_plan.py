from datetime import date, timedelta

import pytest

from yellow_abacus.core.clauses.response import Ranged, Sends
from yellow_abacus.core.forecast.plan import Dropped, Plan, both_sides
from yellow_abacus.core.offers import Given, Offer, PercentOff, Response, When

FIRST, LAST = date(2027, 3, 1), date(2027, 3, 7)
TENTH = (PercentOff(1000),)
ALWAYS = Offer(TENTH, id="always")
LATE = Offer(TENTH, when=When(first_day=date(2027, 3, 5)), id="late")
ENDS = Offer(TENTH, when=When(last_day=date(2027, 3, 2), last_minute=600), id="ends")


def plan(*offers: Offer, **more) -> Plan:
    return Plan(FIRST, LAST, offers, **more)


def test_its_days_and_which_offers_are_open_on_them():
    told = plan(ALWAYS, LATE, ENDS)
    assert (told.days, told.window()[0], told.window()[-1]) == (7, FIRST, LAST)
    assert [at for at, _ in told.opened_on(FIRST)] == [0, 2]
    spans = [([at for at, _ in opened], len(days)) for opened, days in told.open_over(told.window())]
    assert spans == [([0, 2], 1), ([0, 2], 1), ([0], 2), ([0, 1], 3)]  # on its last day an offer ends early


@pytest.mark.parametrize(("offer", "from_day", "days"), [(ALWAYS, 0, 7), (LATE, 4, 3), (ENDS, 0, 2)])
def test_for_how_long_an_offer_may_be_open(offer, from_day, days):
    assert plan(offer).open_for(offer) == ((FIRST + timedelta(from_day)).toordinal(), days)


def test_what_an_offer_costs_however_many_use_it():
    sends = Sends(size=10, response_bp=1, cost=3, daily=True)
    offer = Offer(TENTH, when=LATE.when, given=Given("code", "FERN"), response=Response(fixed_cost=50, sends=sends))
    assert plan(offer).paid_for(offer) == 50 + 3 * 10 * 3


def test_today_has_the_offers_that_run_and_no_others():
    runs = Offer(TENTH, runs=True, id="runs")
    told = plan(ALWAYS, running=(runs,), dropped=(Dropped(runs, 0.25),))
    assert told.today == plan(runs, running=(runs,))
    assert told.staying.dropped == told.dropped
    assert told.every == (runs, ALWAYS)
    assert told.own == (0,)
    assert [one.runs for one in told.typed.running] == [False]
    assert both_sides((ALWAYS, LATE), (LATE, ENDS)) == (ALWAYS, LATE, ENDS)


@pytest.mark.parametrize(
    ("dropped", "stay"),
    [(Dropped(ALWAYS), (1, 1)), (Dropped(ALWAYS, 0.25), (0.8, 0.8)), (Dropped(ALWAYS, 0.25, 1.0), (0.5, 0.8))],
)
def test_who_comes_without_an_offer_that_is_dropped(dropped, stay):
    assert dropped.stay_by_cohort == pytest.approx(stay)


def test_figures_with_a_range():
    ranges = (Ranged("extra_bp", 0, 4000), Ranged("borrowed_bp", 10, 20), Ranged("uptake_bp", 300, 300))
    response = Response(extra_bp=1000, uptake_bp=300, ranges=ranges)
    assert plan(ALWAYS, Offer(TENTH, response=response)).ranged == {(1, "extra_bp"): (0.0, 0.1, 0.4)}


def test_as_if_there_were_enough():
    told = plan(ALWAYS)
    assert told.as_if_enough is told
    assert plan(ALWAYS, lost_if_sold_out_bp=5000).as_if_enough == told
