"""What is wrong with naming some shoppers; which carts are theirs is in test_segments."""

import pytest

from yellow_abacus.core.clauses.whose import NAMED, Whose


@pytest.mark.parametrize("of", NAMED)
def test_one_of_several_says_which(of):
    assert [problem.path for problem in Whose(of=of).problems()] == [("name",)]
    assert not list(Whose(of=of, name="One").problems())


@pytest.mark.parametrize(("days", "is_wrong"), [(None, True), (0, True), (1, False), (400, False)])
def test_who_was_away_says_how_long(days, is_wrong):
    assert [problem.path for problem in Whose(of="away", days=days).problems()] == [("days",)] * is_wrong


@pytest.mark.parametrize("of", ["first", "returning"])
def test_others_say_nothing_more(of):
    assert not list(Whose(of=of).problems())
