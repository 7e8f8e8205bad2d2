"""How near the search for a better plan comes to the best of a full grid, over ten plans, and how long it takes."""

import tempfile
from itertools import product
from pathlib import Path
from time import perf_counter

from tests.bench import large_shop
from tests.bench.timing import judge
from yellow_abacus.counting import CountingRoom
from yellow_abacus.demo import FILES, fill_with_demo_shop
from yellow_abacus.files.better_json import BetterBody, BetterDoc, MoveDoc
from yellow_abacus.files.plan_json import PlanDoc, PlansFile
from yellow_abacus.files.pointers import Figures
from yellow_abacus.improving import better_plans
from yellow_abacus.store.shop_file import ShopFile

Grid = dict[str, tuple[int, int, int]]
"""By pointer: the least, the most, and the step."""

OFF, FROM = "/offers/{}/terms/gives/0/percent_bp", "/offers/{}/terms/earned/conditions/0/n"
PLANS: list[tuple[int, Grid]] = [
    (0, {OFF.format(0): (200, 3_000, 200), FROM.format(0): (2_000, 10_000, 500)}),
    (0, {FROM.format(0): (2_000, 10_000, 500), FROM.format(1): (2_000, 10_000, 500)}),
    (
        0,
        {
            OFF.format(0): (200, 3_000, 400),
            FROM.format(0): (2_000, 10_000, 1_000),
            FROM.format(1): (2_000, 9_000, 1_000),
        },
    ),
    (0, {FROM.format(2): (1_000, 9_000, 500), "/offers/2/terms/gives/0/amount": (100, 1_500, 100)}),
    (1, {OFF.format(0): (100, 4_000, 200), FROM.format(0): (100, 3_000, 200)}),
    (1, {OFF.format(0): (100, 4_000, 100), FROM.format(0): (300, 2_100, 300)}),
    (2, {OFF.format(0): (100, 2_500, 200), FROM.format(0): (2, 20, 1)}),
    (2, {FROM.format(3): (2_000, 9_000, 500), OFF.format(4): (200, 3_000, 200)}),
    (2, {OFF.format(4): (200, 3_000, 200), "/offers/4/terms/limits/amount": (200, 2_000, 100)}),
    (2, {OFF.format(0): (100, 2_500, 400), FROM.format(3): (2_000, 9_000, 1_000), OFF.format(4): (200, 3_000, 400)}),
]
NEAR, IN_TIME, LARGE_IN_TIME = 0.01, 20_000, 120_000


def run() -> None:
    docs = PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        room = CountingRoom(shop)
        for number, (at, grid) in enumerate(PLANS, start=1):
            took, found = _searched(room, docs[at], grid)
            kept = [one.impact for one in (found.base, *found.plans)]
            best = _best_of_all(room, (found.plans or [found.base])[0].plan, grid)
            off = (best - max(kept)) / max(abs(best), 1.0)
            judge(f"plan {number}: of {found.tried} plans tried, off the best by", 100 * off, 100 * NEAR, unit="%")
            judge(f"plan {number}: searched in", took, IN_TIME, unit="ms")
        shop.close()


def large() -> None:
    """A large shop, searched in time."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        large_shop.make(path)
        shop = ShopFile(path)
        room = CountingRoom(shop)
        plan = PlanDoc.model_validate(large_shop.plan_with(1_500))
        room.forecast(plan)
        took, found = _searched(room, plan, {OFF.format(0): (200, 3_000, 100), FROM.format(0): (1_000, 20_000, 500)})
        judge(f"150,000 orders: {found.tried} plans tried in", took, LARGE_IN_TIME, unit="ms")
        shop.close()


def _searched(room: CountingRoom, plan: PlanDoc, grid: Grid) -> tuple[float, BetterDoc]:
    """In how many milliseconds, and what was found."""
    body = BetterBody(plan=plan, moves=[_move(*one) for one in grid.items()])
    start = perf_counter()
    *_, found = better_plans(room, body)
    assert isinstance(found, BetterDoc)
    return (perf_counter() - start) * 1000, found


def _move(pointer: str, bounds: tuple[int, int, int]) -> MoveDoc:
    least, most, step = bounds
    return MoveDoc(pointers=[pointer], least=least, most=most, step=step)


def _best_of_all(room: CountingRoom, plan: PlanDoc, grid: Grid) -> float:
    """The most any plan of the full grid keeps more than today, on all carts."""
    figures = Figures(plan, list(grid))
    moves = [_move(*one) for one in grid.items()]
    points = product(*(move.values(figures[pointer] or 0) for pointer, move in zip(grid, moves, strict=True)))
    docs = [figures.plan_with(dict(zip(grid, values, strict=True))) for values in points]
    return max(impact for impact in room.curve(docs) if impact is not None)
