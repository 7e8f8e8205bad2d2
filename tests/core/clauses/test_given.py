import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.clauses.given import MOST_CODES_OF_LIST, Given, is_code


@pytest.mark.parametrize("text", ["FERN", "fern-10", "ÉTÉ24", "10%", "€50", "春の庭", "a&b", "x" * 30])
def test_codes(text):
    assert is_code(text)


@pytest.mark.parametrize("text", ["", "ab", "---", "two words", "x" * 31, "a/b", "fern!", "\u0301fern"])
def test_what_cannot_be_a_code(text):
    assert not is_code(text)


@given(st.text("aBcÉé10-", max_size=12))
def test_a_code_may_be_written_in_either_case(text):
    assert Given("code", text).key == Given("link", text.upper()).key == Given("code", text.lower()).key


def test_what_opens_the_door():
    assert Given().key is None
    assert Given().accepted == frozenset()
    typed = Given("code", "Fern10")
    assert (typed.key, typed.written, typed.accepted) == ("fern10", ("Fern10",), frozenset({"fern10"}))
    listed = Given("codes", codes=("F-1AB", "F-2CD"))
    assert (listed.key, listed.accepted) == ("list:f-1ab", frozenset({"f-1ab", "f-2cd"}))
    assert listed.key != Given("code", "F-1AB").key


@pytest.mark.parametrize(
    ("told", "message"),
    [
        (Given("code"), "The code is empty."),
        (Given("link", "a b c"), "“a b c” cannot be a code."),
        (Given("codes"), "The list of codes is empty."),
        (Given("codes", codes=("FERN", "fern")), "A code is in the list twice."),
        (Given("codes", codes=("FERN", "x")), "“x” cannot be a code."),
        (
            Given("codes", codes=tuple(f"F{at:05}" for at in range(MOST_CODES_OF_LIST + 1))),
            f"There are {MOST_CODES_OF_LIST + 1} codes.",
        ),
        (Given("itself", code="x"), None),
        (Given("codes", codes=("FERN-1", "FERN-2")), None),
    ],
)
def test_what_is_wrong_with_it(told, message):
    assert [problem.message for problem in told.problems()] == [message] * (message is not None)
