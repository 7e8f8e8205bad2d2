"""What is wrong with a plan as a whole; what is wrong with one offer is in test_check_offer."""

from datetime import date, timedelta

import pytest

from tests.core.forecast.test_check_offer import GOODS, SHOP, TENTH
from yellow_abacus.core.forecast.chances import MOST_CODES, MOST_TAKEN
from yellow_abacus.core.forecast.check import LONGEST_WINDOW, MOST_OFFERS, check_plan
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Alongside, Given, Offer, PutIn, Response

FIRST = date(2027, 3, 1)


def offers(many: int, **told) -> list[Offer]:
    return [Offer(TENTH, id=f"offer-{at}", **told) for at in range(many)]


def coded(*codes: str) -> list[Offer]:
    return [Offer(TENTH, id=f"{at}", given=Given("code", code)) for at, code in enumerate(codes)]


def listed(*codes: str, name: str = "list") -> Offer:
    return Offer(TENTH, id=name, given=Given("codes", codes=codes))


def problems(*told: Offer, days: int = 7) -> list[tuple]:
    found = check_plan(Plan(FIRST, FIRST + timedelta(days - 1), told), SHOP, GOODS)
    assert all(problem.message and problem.mend for problem in found)
    return [problem.path for problem in found]


@pytest.mark.parametrize("days", [0, LONGEST_WINDOW + 1])
def test_its_days(days):
    assert problems(days=days) == [("last_day",)]
    assert problems(days=1) == problems(days=LONGEST_WINDOW) == []


@pytest.mark.parametrize(
    "told",
    [
        offers(MOST_OFFERS + 1),
        coded(*(f"CODE-{at}" for at in range(MOST_CODES + 1))),
        offers(MOST_TAKEN + 1, response=Response(take_up_bp=1000)),
        [Offer((PutIn(("SEED", "POT", "CARD")),), id=f"{at}") for at in range(4)],
    ],
    ids=["offers", "codes", "takers", "ways to choose"],
)
def test_too_many(told):
    assert ("offers",) in problems(*told)
    assert problems(*told[:-1]) == []


def test_a_code_opens_one_door():
    assert problems(*coded("FERN", "fern")) == []
    assert problems(*coded("FERN"), listed("FERN", "MOSS")) == [("offers", 1, "given", "codes")]
    assert problems(listed("FERN", "MOSS"), *coded("moss")) == [("offers", 1, "given", "code")]
    assert problems(listed("FERN", "MOSS"), listed("FERN", "MOSS", name="two")) == []
    assert problems(listed("FERN", "MOSS"), listed("FERN", "IVY", name="two")) == [("offers", 1, "given", "codes")]


@pytest.mark.parametrize("clause", ["never_with", "yields_to"])
def test_offers_name_others_of_the_plan(clause):
    def told(*names: str) -> list[Offer]:
        return [Offer(TENTH, id="one", alongside=Alongside(**{clause: names})), Offer(TENTH, id="two")]

    assert problems(*told("two")) == []
    assert problems(*told("one")) == problems(*told("gone")) == [("offers", 0, "alongside", clause)]


def test_each_has_an_id_of_its_own():
    assert problems(Offer(TENTH, id="one"), Offer(TENTH, id="one")) == [("offers", 1, "id")]


def test_what_is_wrong_with_an_offer_is_told_with_its_number():
    assert problems(Offer(TENTH, id="one"), Offer((), id="two")) == [("offers", 1, "gives")]
