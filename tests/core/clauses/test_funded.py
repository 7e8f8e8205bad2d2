import numpy as np
import pytest

from yellow_abacus.core.clauses.funded import BY_NOBODY_ELSE, Funded


def test_a_supplier_pays_a_share_of_what_comes_off_and_so_much_a_unit():
    off, units = np.array([1000, 0, 333]), np.array([2, 3, 1])
    assert Funded(share_bp=2500).pays(off, units).tolist() == [250, 0, 83.25]
    assert Funded(each=40).pays(off, units).tolist() == [80, 120, 40]
    assert Funded(share_bp=10_000, each=1).pays(off, units).tolist() == [1002, 3, 334]


def test_nobody_pays_anything_unless_it_is_said():
    assert not BY_NOBODY_ELSE.pays_anything
    assert Funded(share_bp=1).pays_anything
    assert Funded(each=1).pays_anything


@pytest.mark.parametrize(
    ("told", "fields"),
    [
        (Funded(), []),
        (Funded(share_bp=10_000, each=5), []),
        (Funded(share_bp=10_001), ["share_bp"]),
        (Funded(share_bp=-1, each=-1), ["share_bp", "each"]),
    ],
)
def test_a_supplier_pays_no_more_than_all_and_no_less_than_nothing(told, fields):
    assert [problem.path for problem in told.problems()] == [(field,) for field in fields]
