import pytest

from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.ground.problem import Problem, amount_between, rate_between


def test_seen_from_further_out_its_path_is_longer_and_the_rest_as_it_was():
    problem = Problem(("n",), "It is too much.", "Take less.")
    assert problem.inside("earned", "conditions", 2) == Problem(
        ("earned", "conditions", 2, "n"), "It is too much.", "Take less."
    )


@pytest.mark.parametrize(("rate", "is_wrong"), [(0, True), (1, False), (10_000, False), (10_001, True), (-5, True)])
def test_a_rate_between_its_bounds(rate, is_wrong):
    found = list(rate_between("percent_bp", "The percentage off", rate, least=1))
    assert bool(found) is is_wrong
    if found:
        assert found[0].path == ("percent_bp",)
        assert found[0].message == f"The percentage off is {rate / 100:g} %."
        assert found[0].mend == "Choose a figure from 0.01 % to 100 %."


@pytest.mark.parametrize(
    ("amount", "least", "message"),
    [
        (-1, 0, "It is below 0."),
        (0, 1, "It is not above 0."),
        (0, 0, None),
        (LARGEST_CART, 1, None),
        (LARGEST_CART + 1, 1, "It is larger than any cart can be."),
    ],
)
def test_an_amount_between_its_bounds(amount, least, message):
    assert [one.message for one in amount_between("amount", "It", amount, least)] == [message] * (message is not None)
