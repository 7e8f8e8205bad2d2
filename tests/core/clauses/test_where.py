from dataclasses import replace

import numpy as np
import pytest

from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.clauses.where import Where

ZONES = ("Home", "Abroad")
ZONE_BY_CART = np.array([0, 1, 0])
FACTS = replace(
    nothing_known(3),
    channel=labels(["Web", "", "market"]),
    payment=labels(["card", "invoice", ""]),
    currency=labels(["EUR", "SEK", "EUR"]),
)


@pytest.mark.parametrize(
    ("clause", "let_in", "by"),
    [
        (Where(), [True, True, True], "destination"),
        (Where(zones=("Home",)), [True, False, True], "destination"),
        (Where(zones=("Home", "Abroad"), except_zones=("Home",)), [False, True, False], "destination"),
        (Where(channels=("web",)), [True, False, False], "channel"),
        (Where(payments=("CARD", "invoice")), [True, True, False], "payment"),
        (Where(currencies=("sek",)), [False, True, False], "currency"),
    ],
)
def test_who_is_let_in_and_by_what_others_are_kept_out(clause, let_in, by):
    told = dict(clause.lets_in(ZONES, ZONE_BY_CART, FACTS))
    assert told[by].tolist() == let_in
    assert all(one.all() for name, one in told.items() if name != by)
    assert clause.passes(ZONES, ZONE_BY_CART, FACTS).tolist() == let_in


def test_a_place_the_shop_has_no_zone_for_is_let_in_where_none_is_named():
    nowhere = np.full(3, -1)
    assert Where(except_zones=("Home",)).passes(ZONES, nowhere, FACTS).all()
    assert not Where(zones=ZONES).passes(ZONES, nowhere, FACTS).any()


def test_a_zone_left_out_stays_out():
    assert Where(zones=("Home", "Abroad")).names_in(ZONES) == ["Home", "Abroad"]
    without = Where(zones=("Home", "Abroad")).without_zone("Abroad")
    assert without.names_in(ZONES) == ["Home"]
    assert without.without_zone("Abroad").except_zones == ("Abroad",)
    assert Where().without_zone("Home").names_in(ZONES) == ["Abroad"]
