"""Memory that nothing uses any more, given back to the system.

Arrays come and go between others that stay, and the C library keeps the gaps for later: after a shop was loaded, or
reasons were found of every order, that is as much as all that is in use.
"""

import ctypes
import sys

TAKES_LONG = 1.0
"""Work of so many seconds leaves gaps that are worth to be given back."""

_trim = getattr(ctypes.CDLL(None), "malloc_trim", None) if sys.platform == "linux" else None


def give_back() -> None:
    """Takes some milliseconds; does nothing where the C library cannot."""
    if _trim is not None:
        _trim(0)
