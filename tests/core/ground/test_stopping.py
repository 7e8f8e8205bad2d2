import pytest

from yellow_abacus.core.ground.stopping import go_on, looking, may_be_held_up, undisturbed


class StoppedError(Exception):
    pass


def stop() -> None:
    raise StoppedError


def test_nothing_is_looked_at_unless_somebody_asked():
    go_on()
    assert not may_be_held_up()


def test_what_the_look_raises_ends_the_work():
    with pytest.raises(StoppedError), looking(stop):
        go_on()
    go_on()


def test_the_inner_look_counts_until_it_is_over():
    looked = []
    with looking(lambda: looked.append("outer"), holds_up=True):
        go_on()
        with looking(lambda: looked.append("inner")):
            assert not may_be_held_up()
            go_on()
        assert may_be_held_up()
        go_on()
    assert looked == ["outer", "inner", "outer"]


def test_work_others_wait_for_is_not_disturbed():
    with looking(stop, holds_up=True), undisturbed():
        assert not may_be_held_up()
        go_on()
