"""An optimiser that asks, and is told, in turn.

scipy's differential evolution calls what it minimises; here it waits instead, so that whoever searches can look up
between two askings, say how far it is, and stop.
"""

from collections.abc import Iterator, Sequence
from queue import Queue
from threading import Thread

import numpy as np
from scipy.optimize import differential_evolution

from yellow_abacus.core.ground.money import Floats, Ints


class _GivenUpError(Exception):
    """Nobody answers any more."""


class Asking:
    """Asks what points of a grid come to, ever nearer to the least.

    sizes: of the grid, one an axis. first: a point it begins with. rounds: of asking at most.

    >>> asking, least = Asking(sizes=(21, 21), first=(0, 0), rounds=60), np.inf
    >>> for points in asking:
    ...     values = ((points - (17, 4)) ** 2).sum(axis=1)
    ...     least = min(least, values.min())
    ...     asking.tell(values)
    >>> int(least)
    0
    """

    def __init__(self, sizes: Sequence[int], first: Sequence[int], rounds: int, seed: int = 7) -> None:
        self.sizes, self.first, self.rounds, self.seed = tuple(sizes), tuple(first), rounds, seed
        self._asked: Queue[Ints | None] = Queue(maxsize=1)
        self._told: Queue[Floats | None] = Queue(maxsize=1)

    def __iter__(self) -> Iterator[Ints]:
        """Points to be told of, one row each; `tell` before the next."""
        thread = Thread(target=self._go, daemon=True)
        thread.start()
        try:
            while (points := self._asked.get()) is not None:
                yield points
        finally:
            self._told.put(None)
            thread.join()

    def tell(self, values: Floats) -> None:
        """What the points come to that were asked last; the less the better."""
        self._told.put(np.asarray(values, dtype=np.float64))

    def _go(self) -> None:
        try:
            differential_evolution(
                self._ask,
                bounds=[(0, size - 1) for size in self.sizes],
                integrality=np.ones(len(self.sizes), dtype=np.bool_),
                x0=np.array(self.first, dtype=np.float64),
                maxiter=self.rounds - 1,
                popsize=POINTS_EACH,
                init="sobol",
                mutation=(0.4, 0.9),
                recombination=0.9,
                polish=False,
                rng=self.seed,
                updating="deferred",
                vectorized=True,
                tol=1e-9,
            )
        except _GivenUpError:
            return
        finally:
            self._asked.put(None)

    def _ask(self, points: Floats) -> Floats:
        """points: one column each."""
        self._asked.put(np.rint(points).astype(np.int64).T)
        told = self._told.get()
        if told is None:
            raise _GivenUpError
        return told


POINTS_EACH = 8
"""Points of a round for each axis, about."""
