"""Keeping what was found for the next time it is asked for, within so many bytes.

>>> kept = Keeper(most=1_000)
>>> kept.get("answer", lambda: "found"), kept.get("answer", lambda: "found again")
('found', 'found')
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import fields, is_dataclass
from functools import cache
from threading import Lock
from typing import Any, ClassVar, TypeVar

import numpy as np

Found = TypeVar("Found")

SMALL = 200
"""Bytes that anything counts at least."""


class Apart:
    """What is kept, and counted, by somebody else: it counts nothing where something kept names it."""

    kept_bytes: ClassVar[int] = 0


class Keeper:
    """Found things under keys. A key must name all that the thing depends on.

    Within `most` bytes, and `things` things if that is said, but at least the newest; the least recently used go
    first. May be asked by several threads: two that miss the same key both find it. weigh: bytes of a thing kept.

    What goes is told to `let_go`, if it can, of all that was found of it: that names it in turn, and would keep both.
    It may still be in use: then that is found once more.
    """

    def __init__(self, most: int, things: int | None = None, weigh: Callable[[Any], int] | None = None) -> None:
        self.most, self.things, self.bytes, self._weigh = most, things, 0, weigh or size_of
        self._lock = Lock()
        self._found: OrderedDict[object, tuple[object, int]] = OrderedDict()

    @classmethod
    def of_newest(cls) -> "Keeper":
        """Keeps the newest thing alone, which need not be weighed."""
        return cls(0, weigh=lambda _: 0)

    def get(self, key: object, find: Callable[[], Found]) -> Found:
        """What is kept under `key`, or else what `find` finds, kept from now on."""
        with self._lock:
            kept = self._found.get(key)
            if kept is not None:
                self._found.move_to_end(key)
                return kept[0]  # type: ignore[return-value]
        found = find()
        self.put(key, found)
        return found

    def known(self, key: object) -> object | None:
        """What is kept under `key`, if anything is."""
        with self._lock:
            kept = self._found.get(key)
            return None if kept is None else kept[0]

    def __contains__(self, key: object) -> bool:
        with self._lock:
            return key in self._found

    def put(self, key: object, found: object) -> None:
        """Keep something."""
        size = SMALL + self._weigh(found)
        gone = []
        with self._lock:
            _, before = self._found.pop(key, (None, 0))
            self._found[key] = (found, size)
            self.bytes += size - before
            while self._too_much() and len(self._found) > 1:
                _, (old, its_size) = self._found.popitem(last=False)
                self.bytes -= its_size
                gone.append(old)
        for old in gone:
            _let_go(old)

    def clear(self) -> None:
        """Let everything go."""
        with self._lock:
            gone = [found for found, _ in self._found.values()]
            self._found.clear()
            self.bytes = 0
        for old in gone:
            _let_go(old)

    def _too_much(self) -> bool:
        return self.bytes > self.most or (self.things is not None and len(self._found) > self.things)

    def newest_first(self) -> list[tuple[object, object]]:
        """All that is kept, by key."""
        with self._lock:
            return [(key, found) for key, (found, _) in reversed(self._found.items())]


def _let_go(found: object) -> None:
    let_go = getattr(found, "let_go", None)
    if let_go is not None:
        let_go()


def size_of(found: object) -> int:
    """About how many bytes of arrays something holds."""
    match found:
        case np.ndarray():
            return found.nbytes
        case str() | int() | float() | None:
            return 0
        case tuple() | list():
            return 0 if found and isinstance(found[0], str) else sum(map(size_of, found))  # names, of one kind
        case dict():
            return sum(map(size_of, found.values()))
    kept = getattr(found, "kept_bytes", None)
    if isinstance(kept, int):
        return kept
    size = 0
    kind: type = type(found)
    for name in _parts_of(kind):
        size += size_of(getattr(found, name))
    return size


@cache
def _parts_of(kind: Hashable) -> tuple[str, ...]:
    """The fields of a thing that are counted with it."""
    return tuple(one.name for one in fields(kind)) if is_dataclass(kind) else ()
