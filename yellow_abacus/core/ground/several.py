"""Work cut into parts, done on several processors at a time.

>>> each_part([1, 2, 3], lambda part: part * part)
[1, 4, 9]
"""

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context
from functools import cache
from threading import local
from typing import TypeVar

from yellow_abacus.core.ground.stopping import go_on, may_be_held_up

Part = TypeVar("Part")
Result = TypeVar("Result")

_here = local()


@cache
def _workers(held_up: bool) -> ThreadPoolExecutor:
    """Work that may be held up has threads of its own: those it waits for find theirs free."""
    return ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="held-up" if held_up else "part")


def in_a_part() -> bool:
    """Whether this is a part of larger work already, which is not cut again: workers would wait for each other."""
    return getattr(_here, "is_part", False)


def each_part(parts: Sequence[Part], work: Callable[[Part], Result]) -> list[Result]:
    """`work` done on every part: the results in order. What numpy does goes on side by side."""

    def looked_after(part: Part) -> Result:
        go_on()
        return work(part)

    def one(part: Part) -> Result:
        _here.is_part = True
        try:
            return looked_after(part)
        finally:
            _here.is_part = False

    if len(parts) <= 1 or in_a_part():
        return [looked_after(part) for part in parts]

    workers = _workers(may_be_held_up())
    asked = [workers.submit(copy_context().run, one, part) for part in parts]
    return [each.result() for each in asked]
