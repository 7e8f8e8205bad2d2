"""How timings are taken and printed."""

from collections.abc import Callable
from statistics import median, quantiles
from time import perf_counter


def milliseconds(act: Callable[[], object], times: int = 15) -> list[float]:
    found = []
    for _ in range(times):
        start = perf_counter()
        act()
        found.append((perf_counter() - start) * 1000)
    return found


def tell(what: str, found: list[float], bar: str = "") -> None:
    p95 = quantiles(found, n=20)[-1] if len(found) > 1 else found[0]
    print(f"  {what:58} median {median(found):8.1f} ms   95 % {p95:8.1f} ms   {bar}", flush=True)
