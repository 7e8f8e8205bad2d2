from threading import get_ident

import pytest

from yellow_abacus.core.ground.several import each_part, in_a_part
from yellow_abacus.core.ground.stopping import looking


def test_results_come_in_order_whoever_is_done_first():
    assert each_part(range(40), lambda part: (40 - part) ** 2) == [(40 - part) ** 2 for part in range(40)]


def test_one_part_is_worked_on_where_it_was_asked_for():
    assert each_part([7], lambda _: get_ident()) == [get_ident()]
    assert each_part([], lambda part: part) == []


def test_a_part_is_not_cut_again():
    def inner(part: int) -> tuple[bool, int, list[int]]:
        return in_a_part(), get_ident(), each_part([1, 2], lambda _: get_ident())

    for was_in_a_part, thread, threads in each_part([1, 2, 3], inner):
        assert was_in_a_part
        assert threads == [thread, thread]
    assert not in_a_part()


def test_what_goes_wrong_in_a_part_is_told():
    def work(part: int) -> int:
        return 1 // part

    with pytest.raises(ZeroDivisionError):
        each_part([1, 0, 2], work)


def test_each_part_looks_up_first():
    looked = []
    with looking(lambda: looked.append(None)):
        each_part(range(5), lambda part: part)
    assert len(looked) == 5
