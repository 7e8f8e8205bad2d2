"""What no JSON that comes in may hold: text that cannot be shown, figures no sum can carry, endless depth."""

import math
from collections.abc import Iterator
from typing import Any

from yellow_abacus.core.ground.naming import shows
from yellow_abacus.core.ground.problem import Path, Problem

LARGEST_FIGURE = 2**53
"""Up to here every whole number can be told from its neighbours, in a browser too."""
DEEPEST = 40


def unsound(value: Any, path: Path = ()) -> Iterator[Problem]:
    """Every part of the value that cannot be taken, by its path."""
    if len(path) > DEEPEST:
        yield Problem(path, "It is nested too deep.", "Leave levels out.")
    elif isinstance(value, str):
        if not shows(value):
            yield Problem(path, "It holds a character that cannot be shown.", "Take it out.")
    elif isinstance(value, float | int):
        if not math.isfinite(value) or abs(value) > LARGEST_FIGURE:
            yield Problem(path, "The figure is larger than any can be.", "Choose a smaller one.")
    elif isinstance(value, list):
        for at, one in enumerate(value):
            yield from unsound(one, (*path, at))
    elif isinstance(value, dict):
        for key, one in value.items():
            if shows(key):
                yield from unsound(one, (*path, key))
            else:
                yield Problem(path, "A field's name holds a character that cannot be shown.", "Take it out.")
