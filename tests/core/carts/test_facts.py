from dataclasses import fields, replace

import numpy as np
import pytest

from yellow_abacus.core.carts.facts import UNKNOWN, Facts, codes, labels, nothing_known, tags


@pytest.mark.parametrize(
    ("wanted", "among"), [(["TRADE"], [True, False, False]), ([], [False] * 3), (["", "staff"], [False, False, True])]
)
def test_a_name_that_is_not_known_is_among_none(wanted, among):
    found = labels(["Trade", "", "staff"])
    assert found.names == ("Trade", "staff")
    assert found.number_by_cart.tolist() == [0, UNKNOWN, 1]
    assert found.among(wanted).tolist() == among


def test_a_cart_may_have_several_tags():
    found = tags([["green", "new"], [], ["new"]])
    assert found.among(["NEW"]).tolist() == [True, False, True]
    assert found.among(["green", "old"]).tolist() == [True, False, False]
    assert found.among([]).tolist() == [False] * 3


def test_a_cart_may_have_used_several_codes_whatever_their_case():
    found = codes(["Leaf; POST", "", "leaf", "POST,POST | fern", "LEAF-2"])
    assert found.among(["leaf", "FERN"]).tolist() == [True, False, True, True, False]
    assert found.among(["Leaf; POST"]).tolist() == [False] * 5
    by_code = {code.casefold(): carts.tolist() for code, carts in found.carts_by_code.items()}
    assert by_code == {"leaf": [0, 2], "post": [0, 3], "fern": [3], "leaf-2": [4]}
    assert {one.casefold() for one in found.some(np.array([1, 2])).carts_by_code} >= {"leaf"}


def test_some_carts_keep_their_facts():
    facts = replace(
        nothing_known(3),
        minute_by_cart=np.array([5, 6, 7]),
        channel=labels(["web", "", "market"]),
        tags=tags([["new"], [], ["green"]]),
    )
    some = facts.some(np.array([2, 0]))
    assert some.minute_by_cart.tolist() == [7, 5]
    assert some.channel.among(["web"]).tolist() == [False, True]
    assert some.tags.among(["green"]).tolist() == [True, False]
    assert (some.weekday_by_cart == UNKNOWN).all()


def test_nothing_known_passes_for_none_of_the_names():
    facts = nothing_known(2)
    told = [getattr(facts, one.name) for one in fields(Facts)]
    assert not any(one.among(["", "web"]).any() for one in told if hasattr(one, "among"))
