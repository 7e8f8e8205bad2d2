import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.guise import NOON, Guise, facts_of
from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.clauses.who import Who


def test_each_cart_has_the_facts_of_who_brings_it():
    guises = [Guise(), Guise(weekday=5, minute=600, orders_before=0, group="Trade", tag="new", channel="web")]
    facts = facts_of(guises, np.array([1, 0, 1]))
    assert facts.weekday_by_cart.tolist() == [5, 0, 5]
    assert facts.minute_by_cart.tolist() == [600, NOON, 600]
    assert facts.days_since_by_cart.tolist() == [UNKNOWN] * 3
    assert facts.group.among(["trade"]).tolist() == [True, False, True]
    assert Who(tags=("new",), first_order=True).passes(facts).tolist() == [True, False, True]
    assert When(weekdays=(0,)).passes(facts).tolist() == [False, True, False]


def test_whom_nothing_is_known_of_has_no_name_anybody_could_ask_for():
    facts = facts_of([Guise(), Guise()], np.array([0, 1]))
    for one in (facts.group, facts.tags, facts.shopper, facts.channel, facts.payment):
        assert not one.among(["", "\0"]).any()
    assert Who(except_groups=("trade",)).passes(facts).all()
