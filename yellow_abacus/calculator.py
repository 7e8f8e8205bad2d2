"""One calculator a shop: who computes when, so that an answer to a keystroke never waits for long work.

What a newer request of the same board makes pointless is dropped, not finished; so is what nobody waits for any more.
Long work leaves a thread free for quick work, and holds still while there is any.
"""

import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Condition
from time import monotonic
from typing import Literal

from yellow_abacus.core.ground.stopping import looking
from yellow_abacus.giving_back import TAKES_LONG, give_back

Pace = Literal["quick", "long"]
"""quick: an answer to a keystroke. long: what explains it, and other work that may take seconds."""

AT_ONCE = max(os.cpu_count() or 1, 2)
"""So many compute at once; at most one less of them is long work."""


class SupersededError(Exception):
    """The same board asked anew meanwhile, or went away."""


def stays() -> bool:
    """Nobody goes away."""
    return False


class _Turn:
    def __init__(self, pace: Pace, number: int, is_gone: Callable[[], bool]) -> None:
        self.pace, self.number, self.is_gone, self._superseded = pace, number, is_gone, False

    @property
    def superseded(self) -> bool:
        return self._superseded or self.is_gone()

    def supersede(self) -> None:
        self._superseded = True


class Calculator:
    """Hands out turns. Safe to ask from several threads."""

    def __init__(self) -> None:
        self._changed = Condition()
        self._newest: dict[tuple[str, str], _Turn] = {}
        self._waiting = {"quick": 0, "long": 0}
        self._running = {"quick": 0, "long": 0}

    @contextmanager
    def turn(
        self, pace: Pace, what: str = "", board: str = "", number: int = 0, is_gone: Callable[[], bool] = stays
    ) -> Iterator[None]:
        """Wait for a turn, and have it. what, board: who asks for what; the same asked anew supersedes this one.

        number: rising with what the board asks: requests may overtake each other on their way here, and the one that
        was asked first is the older one all the same. is_gone: whether who asked has gone away since. Raises
        SupersededError, also from within the work.
        """
        mine = _Turn(pace, number, is_gone)
        with self._changed:
            if board:
                self._supersede((board, what), mine)
            self._waiting[pace] += 1
            try:
                self._changed.wait_for(lambda: mine.superseded or self._may_run(pace))
            finally:
                self._waiting[pace] -= 1
            if mine.superseded:
                self._changed.notify_all()  # long work may have waited for this one
                raise SupersededError
            self._running[pace] += 1
        began = monotonic()
        try:
            with looking(lambda: self._look(mine), holds_up=pace == "long"):
                yield
        finally:
            with self._changed:
                self._running[pace] -= 1
                if self._newest.get((board, what)) is mine:
                    del self._newest[board, what]
                self._changed.notify_all()
            if monotonic() - began > TAKES_LONG:
                give_back()

    def _supersede(self, key: tuple[str, str], turn: _Turn) -> None:
        other = self._newest.get(key)
        if other is not None and other.number > turn.number:
            turn.supersede()
            return
        if other is not None:
            other.supersede()
        self._newest[key] = turn
        self._changed.notify_all()

    def _may_run(self, pace: Pace) -> bool:
        if pace == "quick":
            return self._running["quick"] < AT_ONCE
        return not self._quick_work and self._running["long"] < AT_ONCE - 1

    @property
    def _quick_work(self) -> int:
        return self._waiting["quick"] + self._running["quick"]

    def _look(self, turn: _Turn) -> None:
        if turn.pace == "long" and self._quick_work and not turn.superseded:
            with self._changed:
                self._changed.wait_for(lambda: turn.superseded or not self._quick_work)
        if turn.superseded:
            raise SupersededError
