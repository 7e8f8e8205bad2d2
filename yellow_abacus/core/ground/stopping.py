"""Long work that can be stopped, or held up, by whoever asked for it.

Whoever starts work may say what is to be looked at while it goes on (`looking`); the work looks every few
milliseconds (`go_on`). What that raises ends the work.
"""

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from contextvars import ContextVar

_look: ContextVar[Callable[[], None] | None] = ContextVar("look", default=None)


_held_up: ContextVar[bool] = ContextVar("held up", default=False)


@contextmanager
def looking(look: Callable[[], None], *, holds_up: bool = False) -> Iterator[None]:
    """Call `look` every now and then while the work inside goes on, also in the threads it is shared among.

    holds_up: the look may wait for other work, which then must not need the same threads.
    """
    tokens = _look.set(look), _held_up.set(holds_up)
    try:
        yield
    finally:
        _look.reset(tokens[0])
        _held_up.reset(tokens[1])


def undisturbed() -> AbstractContextManager[None]:
    """Neither end nor hold up the work inside: others wait for it, who may be those it would be held up for."""
    return looking(_nothing)


def _nothing() -> None:
    """Nothing is looked at."""


def may_be_held_up() -> bool:
    """Whether the work that goes on may have to wait for other work."""
    return _held_up.get()


def go_on() -> None:
    """Raises what the look raises."""
    look = _look.get()
    if look is not None:
        look()
