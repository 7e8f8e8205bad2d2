import pytest

from yellow_abacus.core.clauses.alongside import Alongside


@pytest.mark.parametrize(
    ("clause", "never", "yields", "waits"),
    [
        (Alongside(), False, False, False),
        (Alongside(never_with=("two",)), True, False, False),
        (Alongside(never_with=("three",)), False, False, False),
        (Alongside(never="all"), True, False, False),
        (Alongside(yields_to=("two",)), False, True, True),
        (Alongside(yields_to=("three",)), False, False, True),
        (Alongside(yields="all"), False, True, True),
    ],
)
def test_whom_an_offer_does_not_go_with_and_before_whom_it_yields(clause, never, yields, waits):
    assert clause.never_goes_with("two") is never
    assert clause.yields_before("two") is yields
    assert clause.yields_at_all is waits
