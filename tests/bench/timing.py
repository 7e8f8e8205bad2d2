"""How timings are taken, printed, and held against their bars.

A bar holds on a quiet machine; with a loop keeping one core busy a figure may be BUSY times as long. Each is measured
both ways, and a missed bar makes the bench end with 1.
"""

import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from statistics import median, quantiles
from time import perf_counter

BUSY = 1.6

missed: list[str] = []


def milliseconds(act: Callable[[], object], times: int = 15) -> list[float]:
    found = []
    for _ in range(times):
        start = perf_counter()
        act()
        found.append((perf_counter() - start) * 1000)
    return found


def tell(what: str, found: list[float], bar: str = "") -> None:
    print(f"  {what:58} median {median(found):8.1f} ms   95 % {at_95(found):8.1f} ms   {bar}", flush=True)


@contextmanager
def a_busy_core() -> Iterator[None]:
    """A loop in a process of its own keeps one core busy."""
    loop = subprocess.Popen([sys.executable, "-c", "while True: pass"])
    try:
        yield
    finally:
        loop.kill()
        loop.wait()


def held(what: str, act: Callable[[], object], bar: float, times: int = 15) -> None:
    """The median of some times, quiet and beside a busy core, against a bar in milliseconds."""
    quiet = median(milliseconds(act, times))
    with a_busy_core():
        busy = median(milliseconds(act, times))
    judge(what, quiet, bar, busy, "ms")


def held_at_95(what: str, found: Callable[[], list[float]], bar: float) -> None:
    """The 95th percentile of what is found, quiet and beside a busy core, against a bar in milliseconds."""
    quiet = found()
    with a_busy_core():
        busy = found()
    tell(what, quiet)
    judge(f"{what}, 95 %", at_95(quiet), bar, at_95(busy), "ms")


def at_95(found: list[float]) -> float:
    return quantiles(found, n=20)[-1] if len(found) > 1 else found[0]


def judge(what: str, quiet: float, bar: float, busy: float | None = None, unit: str = "") -> None:
    """Print a figure with its bar, and note it if it is missed. busy: beside a busy core, where that is asked."""
    good = quiet <= bar and (busy is None or busy <= BUSY * bar)
    beside = "" if busy is None else f"   beside a busy core {busy:8.1f} (bar {BUSY * bar:,.0f})"
    print(f"  {what:52} {quiet:8.1f} {unit:3} (bar {bar:,.0f}){beside}{'' if good else '   MISSED'}", flush=True)
    if not good:
        missed.append(what)
