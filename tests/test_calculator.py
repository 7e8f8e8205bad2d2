"""Turns: quick work never waits for long work, and what was asked anew is dropped."""

from contextlib import ExitStack, suppress
from threading import Event, Thread
from time import sleep

import pytest

from tests import slow
from tests.core.pricing.test_why import SHOP
from tests.worlds import make_world
from yellow_abacus import counting
from yellow_abacus.calculator import AT_ONCE, Calculator, SupersededError
from yellow_abacus.core.carts import blocks
from yellow_abacus.core.ground.stopping import go_on

PATIENCE = 20


def start(work) -> Thread:
    thread = Thread(target=work, daemon=True)
    thread.start()
    return thread


class Long:
    """Long work that goes on until it is told to end, and tells what became of it."""

    def __init__(self, calculator: Calculator, what: str = "curve", board: str = "") -> None:
        self.runs, self.ends, self.steps, self.came_to = Event(), Event(), 0, ""
        self.thread = start(lambda: self._work(calculator, what, board))

    def _work(self, calculator: Calculator, what: str, board: str) -> None:
        try:
            with calculator.turn("long", what, board):
                self.runs.set()
                while not self.ends.is_set():
                    go_on()
                    self.steps += 1
            self.came_to = "an end"
        except SupersededError:
            self.came_to = "nothing"

    def end(self) -> str:
        self.ends.set()
        self.thread.join(PATIENCE)
        return self.came_to


def ended(works: list[Long]) -> list[str]:
    for work in works:
        work.ends.set()
    return [work.end() for work in works]


def test_quick_work_has_its_turn_at_once_however_much_long_work_there_is():
    calculator = Calculator()
    works = [Long(calculator) for _ in range(AT_ONCE + 4)]
    assert works[0].runs.wait(PATIENCE) or any(work.runs.is_set() for work in works)
    done = Event()

    def quick() -> None:
        with calculator.turn("quick", "forecast"):
            done.set()

    start(quick)
    assert done.wait(PATIENCE)
    assert ended(works) == ["an end"] * len(works)


def test_long_work_holds_still_while_there_is_quick_work():
    calculator = Calculator()
    work = Long(calculator)
    assert work.runs.wait(PATIENCE)
    with calculator.turn("quick", "forecast"):
        held = Event()
        held.wait(0.01)  # let a step that had begun come to its end
        before = work.steps
        held.wait(0.05)
        assert work.steps <= before + 1
    assert work.end() == "an end"


def test_what_the_same_board_asks_anew_drops_what_it_asked_before():
    calculator = Calculator()
    older = Long(calculator, board="one")
    assert older.runs.wait(PATIENCE)
    newer = Long(calculator, board="one")
    older.thread.join(PATIENCE)
    assert older.came_to == "nothing"
    assert newer.runs.wait(PATIENCE)
    others = [Long(calculator, board="two"), Long(calculator, what="reach", board="one")]
    assert ended([newer, *others]) == ["an end"] * 3


def test_work_that_was_asked_anew_ends_while_it_goes_on():
    calculator, newer = Calculator(), []

    def older() -> None:
        with calculator.turn("quick", "forecast", "one"):
            newer.append(Long(calculator, "forecast", "one"))
            while True:
                go_on()

    with pytest.raises(SupersededError):
        older()
    assert ended(newer) == ["an end"]


def test_long_work_that_holds_still_leaves_quick_work_its_threads(monkeypatch):
    calculator = Calculator()
    monkeypatch.setattr(blocks, "LINES_A_BLOCK", 1)
    world = make_world(SHOP, [slow.SlowCart([("SEED", 0)], "home")] * 40, [])
    started, done = Event(), Event()

    def long() -> None:
        with calculator.turn("long", "reach"):
            started.set()
            while not done.is_set():
                go_on()
                blocks.each_block(world.batch, lambda _carts, block: block.axes.lines)

    def quick() -> None:
        for _ in range(20):
            with calculator.turn("quick", "forecast"):
                blocks.each_block(world.batch, lambda _carts, block: block.axes.lines)

    slow_one = start(long)
    assert started.wait(PATIENCE)
    quick_one = start(quick)
    quick_one.join(PATIENCE)
    done.set()
    slow_one.join(PATIENCE)
    assert not quick_one.is_alive()
    assert not slow_one.is_alive()


def test_what_was_asked_first_does_not_take_the_place_of_what_overtook_it():
    calculator = Calculator()
    with calculator.turn("quick", "forecast", "a board", 2):
        with pytest.raises(SupersededError), calculator.turn("quick", "forecast", "a board", 1):
            pass
        go_on()  # the newer one is left alone


def test_quick_work_that_waits_for_a_shop_that_long_work_loads_gets_it(demo_shop, monkeypatch):
    monkeypatch.setattr(blocks, "LINES_A_BLOCK", 2_000)  # a large shop's work is looked at between blocks
    calculator, room = Calculator(), counting.CountingRoom(demo_shop)
    loads, quick_runs = Event(), Event()
    load = counting.load

    def load_meanwhile(*what):
        loads.set()
        assert quick_runs.wait(PATIENCE)
        return load(*what)

    def work(pace, runs: Event) -> None:
        with calculator.turn(pace):
            runs.set()
            room.current()

    monkeypatch.setattr(counting, "load", load_meanwhile)
    long = start(lambda: work("long", Event()))
    assert loads.wait(PATIENCE)
    quick = start(lambda: work("quick", quick_runs))
    for thread in (quick, long):
        thread.join(PATIENCE)
        assert not thread.is_alive()


def test_work_that_nobody_waits_for_any_more_ends():
    calculator, gone = Calculator(), Event()

    def long() -> None:
        with calculator.turn("long", "curve", "one", is_gone=gone.is_set):
            gone.set()
            while True:
                go_on()

    with pytest.raises(SupersededError):
        long()
    with pytest.raises(SupersededError), calculator.turn("quick", is_gone=lambda: True):
        pass
    assert ended([Long(calculator)]) == ["an end"]


def test_long_work_does_not_wait_for_what_nobody_waits_for_any_more():
    for _ in range(20):
        calculator, left = Calculator(), Event()
        with ExitStack() as quick:
            for _ in range(AT_ONCE):
                quick.enter_context(calculator.turn("quick"))
            long = Long(calculator)
            until(lambda: calculator._waiting["long"] == 1)  # noqa: B023
            gone = start(lambda: dropped(calculator, left))  # noqa: B023
            until(lambda: calculator._waiting["quick"] == 1)  # noqa: B023
            with calculator._changed:  # all that runs ends before anybody looks again
                left.set()
                quick.close()
        gone.join(PATIENCE)
        assert long.runs.wait(PATIENCE)
        assert long.end() == "an end"


def dropped(calculator: Calculator, left: Event) -> None:
    with suppress(SupersededError), calculator.turn("quick", is_gone=left.is_set):
        pass


def until(holds) -> None:
    while not holds():
        sleep(0.001)
