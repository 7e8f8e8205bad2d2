"""Keeping what was found for the next time it is asked for, within so many bytes."""

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import fields, is_dataclass
from threading import Lock
from typing import ClassVar, TypeVar

import numpy as np

Found = TypeVar("Found")

SMALL = 200
"""Bytes that anything counts at least."""


class Apart:
    """What is kept, and counted, by somebody else: it counts nothing where something kept names it."""

    counted_apart: ClassVar[bool] = True


class Keeper:
    """Found things under keys. A key must name all that the thing depends on.

    Within `most` bytes, and at least the newest thing; the least recently used go first. May be asked by several
    threads: two that miss the same key both find it.
    """

    def __init__(self, most: int) -> None:
        self.most, self.bytes = most, 0
        self._lock = Lock()
        self._found: OrderedDict[object, tuple[object, int]] = OrderedDict()

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

    def put(self, key: object, found: object, size: int | None = None) -> None:
        """Keep something. size: its bytes, where they are known better than by looking."""
        size = SMALL + (size_of(found) if size is None else size)
        with self._lock:
            _, before = self._found.pop(key, (None, 0))
            self._found[key] = (found, size)
            self.bytes += size - before
            while self.bytes > self.most and len(self._found) > 1:
                _, (_, gone) = self._found.popitem(last=False)
                self.bytes -= gone

    def newest_first(self) -> list[tuple[object, object]]:
        """All that is kept, by key."""
        with self._lock:
            return [(key, found) for key, (found, _) in reversed(self._found.items())]


def size_of(found: object) -> int:
    """About how many bytes of arrays something holds."""
    if isinstance(found, np.ndarray):
        return found.nbytes
    if isinstance(found, tuple | list):
        return sum(size_of(one) for one in found)
    if isinstance(found, dict):
        return sum(size_of(one) for one in found.values())
    if getattr(found, "counted_apart", False):
        return 0
    if is_dataclass(found):
        return sum(size_of(getattr(found, one.name)) for one in fields(found))
    return 0
