"""Sets that differ in one offer, priced as one set that has all variants of it: each is there for carts of its own.

What a cart comes to does not depend on its neighbours, so that each set comes to what it does by itself, and what is
called for many sets is called once. Of many copies of carts some are priced at a time:

>>> list(at_once(many=5, lines=5_000))
[slice(0, 2, None), slice(2, 4, None), slice(4, 6, None)]
"""

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.known_sets import Offers, at_most_one_apart
from yellow_abacus.core.ground.money import Bools

LINES_TOGETHER = 12_000
"""Copies of carts are priced in one walk up to so many lines."""


def differ_in(many: Sequence[Offers]) -> int | None:
    """The number of the offer in which all sets differ from the first, and in no other; None where that is not so of
    several sets."""
    places = {differs[:2] if (differs := at_most_one_apart(many[0], one)) else (None, None) for one in many[1:]}
    here, there = next(iter(places), (None, None))
    return here if len(places) == 1 and here == there else None


def at_once(many: int, lines: int) -> Iterator[slice]:
    """So many copies of carts of so many lines as are priced in one walk."""
    copies = max(LINES_TOGETHER // max(lines, 1), 1)
    return (slice(start, start + copies) for start in range(0, many, copies))


def side_by_side(many: Sequence[Offers], at: int, reaches: Sequence[Bools]) -> tuple[Offers, Bools]:
    """Sets that differ in offer `at` as one set with all variants of it, and where each is there: each set on carts
    of its own, one set after another. reaches: of each set, [offer, cart of its own]."""
    there = np.concatenate(reaches, axis=1)
    own = np.arange(len(many))[:, None] == np.repeat(np.arange(len(many)), [one.shape[1] for one in reaches])
    offers = (*many[0][:at], *(one[at] for one in many), *many[0][at + 1 :])
    return offers, np.concatenate([there[:at], own & there[at], there[at + 1 :]])


def apart(costed: Costed, at: int, offers: int, carts: Sequence[int]) -> Iterator[Costed]:
    """The rows of each of the sets that `side_by_side` made one of, its carts numbered among themselves. offers: of
    one set. carts: of each."""
    copies, starts = len(carts), np.concatenate(([0], np.cumsum(carts)))
    ends = np.searchsorted(costed.cart_by_row, starts)
    for number in range(copies):
        source = (*range(at), at + number, *range(at + copies, offers + copies - 1))
        copy = costed.some(slice(ends[number], ends[number + 1]), source)
        yield replace(copy, cart_by_row=copy.cart_by_row - starts[number])
