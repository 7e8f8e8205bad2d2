from threading import Event, Thread

from yellow_abacus.core.ground.once import cached_property

PATIENCE = 20


class Cart:
    """One that waits, if it is told to, until another one's worth is found."""

    def __init__(self, found: Event, waits: bool) -> None:
        self.found, self.waits, self.times = found, waits, 0

    @cached_property
    def worth(self) -> int:
        self.times += 1
        assert not self.waits or self.found.wait(PATIENCE)
        self.found.set()
        return 42


def test_it_is_found_once_for_each_instance():
    cart, other = (Cart(Event(), False) for _ in range(2))
    assert (cart.worth, cart.worth, cart.times, other.times) == (42, 42, 1, 0)


def test_nobody_waits_for_that_of_another_instance():
    found = Event()
    waits, other = Cart(found, True), Cart(found, False)
    thread = Thread(target=lambda: waits.worth, daemon=True)
    thread.start()
    while not waits.times:
        pass
    assert other.worth == 42
    thread.join(PATIENCE)
    assert waits.__dict__["worth"] == 42
