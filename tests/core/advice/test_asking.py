"""An optimiser that asks in turn: it comes near the least, always alike, and goes when nobody answers any more."""

import threading

import numpy as np
import pytest

from yellow_abacus.core.advice.asking import Asking


def least(asking: Asking, of) -> tuple[int, int]:
    """How many points were asked, and what the best of them comes to."""
    asked: dict[tuple[int, ...], float] = {}
    for points in asking:
        values = [of(*point) for point in points.tolist()]
        asked.update(zip(map(tuple, points.tolist()), values, strict=True))
        asking.tell(np.array(values))
    return len(asked), min(asked.values())


HILLS = {
    "a bowl": lambda a, b, c: (a - 3) ** 2 + (b - 11) ** 2 + (c - 7) ** 2,
    "a corner": lambda a, b, c: a + b + c,
    "two valleys": lambda a, b, c: min((a - 2) ** 2 + (b - 2) ** 2, (a - 12) ** 2 + (b - 10) ** 2 - 5) + abs(c - 4),
    "a step": lambda a, b, c: (0 if a > 8 else 50) + abs(b - 5) + abs(c - 5),
}


@pytest.mark.parametrize("hill", HILLS)
def test_it_finds_the_least_of_a_grid_with_a_small_part_of_its_points(hill):
    of = HILLS[hill]
    best = min(of(*point) for point in np.ndindex(15, 15, 15))
    asked, found = least(Asking((15, 15, 15), (7, 7, 7), rounds=22), of)
    assert found <= best + 1
    assert asked < 15**3 / 6


def test_it_always_asks_alike():
    runs = [[points.tolist() for points in told(Asking((9, 9), (4, 4), rounds=5))] for _ in range(2)]
    assert runs[0] == runs[1]


def told(asking: Asking):
    for points in asking:
        yield points
        asking.tell(points.sum(axis=1).astype(np.float64))


def test_points_are_of_the_grid_and_the_first_is_among_them():
    points = np.concatenate(list(told(Asking((4, 1, 30), (2, 0, 17), rounds=6))))
    assert (points >= 0).all()
    assert (points < (4, 1, 30)).all()
    assert [2, 0, 17] in points.tolist()


def test_nothing_goes_on_once_nobody_answers():
    before = threading.active_count()
    asking = iter(Asking((9, 9), (4, 4), rounds=50))
    next(asking)
    asking.close()
    assert threading.active_count() == before
