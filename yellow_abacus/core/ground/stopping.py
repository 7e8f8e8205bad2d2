"""Long work that can be stopped, or held up, by whoever asked for it.

Whoever starts work may say what is to be looked at while it goes on (`looking`); the work looks every few
milliseconds (`go_on`). What that raises ends the work.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_look: ContextVar[Callable[[], None] | None] = ContextVar("look", default=None)


@contextmanager
def looking(look: Callable[[], None]) -> Iterator[None]:
    """Call `look` every now and then while the work inside goes on, also in the threads it is shared among."""
    token = _look.set(look)
    try:
        yield
    finally:
        _look.reset(token)


def go_on() -> None:
    """Raises what the look raises."""
    look = _look.get()
    if look is not None:
        look()
