"""The grouped operations against plain loops over carts."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.slow import shared
from yellow_abacus.core.ground.axes import Axes, among, run_begins, spliced, summed_by, weighed_by

carts = st.lists(st.lists(st.integers(0, 5000), max_size=5), max_size=6)


def axes_of(told: list[list[int]]) -> tuple[Axes, np.ndarray]:
    first = np.cumsum([0, *map(len, told)])
    return Axes(first), np.array([one for lines in told for one in lines], dtype=np.int64)


@given(carts)
def test_figures_of_carts_are_those_of_their_lines(told):
    axes, by_line = axes_of(told)
    assert (axes.carts, axes.lines) == (len(told), len(by_line))
    assert axes.cart_by_line.tolist() == [at for at, lines in enumerate(told) for _ in lines]
    assert axes.sum_by_cart(by_line).tolist() == [sum(lines) for lines in told]
    assert axes.sum_floats_by_cart(by_line / 4).tolist() == [sum(lines) / 4 for lines in told]
    assert axes.most_by_cart(by_line).tolist() == [max(lines, default=0) for lines in told]
    assert axes.spread(np.arange(len(told))).tolist() == axes.cart_by_line.tolist()
    running = [sum(lines[: at + 1]) for lines in told for at in range(len(lines))]
    assert axes.running_total(by_line).tolist() == running


@given(carts, st.data())
def test_some_of_the_carts_and_some_of_the_lines(told, data):
    axes, by_line = axes_of(told)
    some = data.draw(st.lists(st.integers(0, max(len(told) - 1, 0)), max_size=4)) if told else []
    assert by_line[axes.lines_of(np.array(some, dtype=np.int64))].tolist() == [one for at in some for one in told[at]]
    lines = np.flatnonzero(by_line > 2000)
    kept = [[one for one in each if one > 2000] for each in told]
    assert axes.of(lines).sum_by_cart(by_line[lines]).tolist() == [sum(each) for each in kept]


@given(carts, st.data())
def test_an_amount_is_shared_by_running_total(told, data):
    axes, base = axes_of(told)
    amounts = [data.draw(st.integers(0, sum(lines))) for lines in told]
    found = axes.share(np.array(amounts, dtype=np.int64), base)
    assert found.tolist() == [
        one
        for amount, lines in zip(amounts, told, strict=True)
        for one in (shared(amount, lines) if sum(lines) else [0] * len(lines))
    ]
    assert (found <= base).all()


@given(carts)
def test_different_numbers_are_counted_once_a_cart(told):
    axes, by_line = axes_of(told)
    kinds, counts = by_line % 7, by_line % 2 == 0
    expected = [len({one % 7 for one in lines if one % 2 == 0}) for lines in told]
    assert axes.count_different(kinds, counts).tolist() == expected


def test_what_is_weighed_and_summed():
    figures = np.arange(12.0).reshape(3, 2, 2)
    assert weighed_by(np.array([1.0, 0.0, 2.0]), figures).tolist() == (figures[0] + 2 * figures[2]).tolist()
    assert summed_by(np.array([2, 0, 2]), np.array([1.0, 5.0, 2.5]), 4).tolist() == [5.0, 0.0, 3.5, 0.0]


def test_marks():
    assert among([2, 0, 2], 4).tolist() == [True, False, True, False]
    assert run_begins(np.array([3, 3, 3]), np.array([1, 2, 2])).tolist() == [True, True, False]
    old, new = np.array([1, 2, 3]), np.array([8, 9])
    here = np.array([True, False, False, True])
    assert spliced(old, np.array([True, False, False]), new, here).tolist() == [8, 2, 3, 9]
