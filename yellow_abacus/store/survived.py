"""What an older version let into a shop file and this one would not: read so that the shop still opens.

The mend is the merchant's: what is read otherwise than it stands is shown as it is read, and saved so when it is
changed.
"""

import math
import unicodedata
from typing import Any

from yellow_abacus.core.ground.money import LARGEST_CART

LARGEST = LARGEST_CART
"""No figure of a shop is larger, but ids and counts that are no part of what is read here."""


def survived(value: Any) -> Any:
    """The value with half characters and control characters replaced, and figures within what sums can carry."""
    if value is None or value is True or value is False:
        return value
    match value:
        case str():
            return value if value.isprintable() else "".join(map(_shown, value))
        case int():
            return max(-LARGEST, min(LARGEST, value))
        case float():
            return max(-float(LARGEST), min(float(LARGEST), value)) if math.isfinite(value) else 0.0
        case list():
            return [survived(one) for one in value]
        case tuple():
            return tuple(survived(one) for one in value)
        case dict():
            return {survived(key): survived(one) for key, one in value.items()}
    return value


def _shown(ch: str) -> str:
    return "\ufffd" if unicodedata.category(ch) in ("Cc", "Cs") and ch not in "\n\r\t" else ch
