"""What a walk saw on its way, for those who ask: reasons, the lines of one cart, steps one by one.

A walk notes it only where a trace is given; sums over many carts need none of it.

>>> trace = new_trace(offers=1, worth_by_line=np.array([900, 500]))
>>> trace.took(0, lines=np.array([1]), off=np.array([50]))
>>> trace.met_by_line.tolist(), trace.off_by_line.tolist()
([[900, 500]], [[0, 50]])
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Ints


@dataclass(frozen=True, eq=False)
class Trace:
    """One row an offer, one column a line, minor units.

    met_by_line: what the line still cost at the offer's turn, or before all if it had none. off_by_line: what the
    offer took off it.
    """

    met_by_line: Ints
    off_by_line: Ints

    def met(self, offer: int, net_by_line: Ints) -> None:
        self.met_by_line[offer] = net_by_line

    def took(self, offer: int, lines: Ints, off: Ints) -> None:
        self.off_by_line[offer, lines] += off


def new_trace(offers: int, worth_by_line: Ints) -> Trace:
    return Trace(np.tile(worth_by_line, (offers, 1)), np.zeros((offers, len(worth_by_line)), dtype=np.int64))
