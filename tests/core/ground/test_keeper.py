"""Keeping what was found, within so many bytes."""

import numpy as np

from yellow_abacus.core.ground.keeper import SMALL, Keeper, size_of


def hundred() -> np.ndarray:
    return np.zeros(100, dtype=np.int8)


def test_what_was_found_is_not_sought_again():
    keeper, sought = Keeper(10_000), []
    for key in ("a", "b", "a"):
        keeper.get(key, lambda key=key: sought.append(key))
    assert sought == ["a", "b"]


def test_the_least_recently_used_goes_when_there_are_too_many_bytes():
    keeper = Keeper(2 * (100 + SMALL))
    for key in ("a", "b"):
        keeper.get(key, hundred)
    keeper.get("a", hundred)
    keeper.get("c", hundred)
    assert [key for key, _ in keeper.newest_first()] == ["c", "a"]
    assert keeper.bytes == 2 * (100 + SMALL)


def test_the_newest_stays_however_large():
    keeper = Keeper(10)
    keeper.get("a", hundred)
    keeper.get("b", hundred)
    assert [key for key, _ in keeper.newest_first()] == ["b"]


def test_arrays_are_counted_wherever_they_are():
    assert size_of((hundred(), [hundred()], {"a": hundred()})) == 300


class Forgetful:
    def __init__(self) -> None:
        self.told = 0

    def let_go(self) -> None:
        self.told += 1


def test_what_goes_is_told_to_let_go_once():
    kept, things = Keeper(10_000, things=2), [Forgetful() for _ in range(3)]
    for at, thing in enumerate(things):
        kept.put(at, thing)
    assert [thing.told for thing in things] == [1, 0, 0]
    kept.clear()
    assert [thing.told for thing in things] == [1, 1, 1]
    assert kept.bytes == 0
