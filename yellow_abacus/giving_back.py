"""Memory that nothing uses any more, given back to the system.

Arrays come and go between others that stay, and the C library keeps the gaps for later, in a pool of its own for each
thread: after a shop was loaded, or reasons were found of every order, that is as much as all that is in use.
"""

import ctypes
import os
import sys

TAKES_LONG = 1.0
"""Work of so many seconds leaves gaps that are worth to be given back."""
_MOST_POOLS = -8
"""What the C library calls that setting (`M_ARENA_MAX` in malloc.h)."""

_library = ctypes.CDLL(None) if sys.platform == "linux" else None
_trim, _set = (getattr(_library, name, None) for name in ("malloc_trim", "mallopt"))


def share_pools() -> None:
    """Let threads share as many pools as there are processors, from now on: a server's threads come and go."""
    if _set is not None:
        _set(_MOST_POOLS, max(os.cpu_count() or 1, 2))


def give_back() -> None:
    """Takes some milliseconds; does nothing where the C library cannot."""
    if _trim is not None:
        _trim(0)
