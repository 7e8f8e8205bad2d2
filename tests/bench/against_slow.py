"""Core and slow pricer over many generated carts: the bar is 100,000 without a cent of difference."""

from time import perf_counter

from hypothesis import HealthCheck, Phase, given, settings

from tests.core.pricing.test_pricing import assert_same_cents
from tests.worlds import World, worlds

CARTS = 100_000


def run() -> None:
    counted = 0
    start = perf_counter()

    @settings(
        max_examples=400,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(worlds(most_carts=24))
    def agree(world: World) -> None:
        nonlocal counted
        assert_same_cents(world)
        counted += world.batch.axes.carts

    while counted < CARTS:
        agree()
        print(f"  {counted:,} carts after {perf_counter() - start:.0f} s", flush=True)
    print(f"  {counted:,} carts priced by both, no cent of difference, in {perf_counter() - start:.0f} s", flush=True)
