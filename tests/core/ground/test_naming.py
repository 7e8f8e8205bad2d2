import pytest

from yellow_abacus.core.carts.facts import labels, tags
from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.offers import Given, Who


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("É", "e\u0301"),
        ("FERN", "fern"),
        ("ＦＥＲＮ", "Fern"),
        ("Straße", "STRASSE"),
        (" oak ", "oak"),
        ("ﬁg", "FIG"),
    ],
)
def test_two_ways_of_writing_one_name_are_one(one, other):
    assert folded(one) == folded(other)
    assert all_folded([one]) == all_folded([other])


def test_names_that_differ_stay_different():
    assert folded("Elan") != folded("Élan")


def test_codes_groups_and_tags_are_known_however_they_are_written():
    assert Given("code", "CAFÉ").key == Given("code", "cafe\u0301").key
    assert Given("codes", codes=("CAFÉ",)).accepted == {folded("cafe\u0301")}
    assert labels(["Cafe\u0301", ""]).among(["CAFÉ"]).tolist() == [True, False]
    assert tags([["Cafe\u0301"], []]).among(["CAFÉ"]).tolist() == [True, False]
    assert [one.path for one in Who(groups=("É",), except_groups=("e\u0301",)).problems()] == [("except_groups",)]
