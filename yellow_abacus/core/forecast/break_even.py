"""The value of one response figure at which the plan keeps what today keeps, the others held.

docs/sums.md, "Break-even".
"""

from dataclasses import dataclass
from typing import Literal

LARGEST_EXTRA = 5.0
"""Extra orders are looked for up to 500 % of the orders reached."""


@dataclass(frozen=True)
class BreakEven:
    """verdict `at_least` or `at_most` comes with the `value` (a share, 1.0 = 100 %); the others without."""

    verdict: Literal["at_least", "at_most", "never", "always", "no_matter"]
    value: float | None = None


def on_a_line(impact_at_zero: float, impact_at_top: float, top: float) -> BreakEven:
    """Break-even of a figure in which the impact is linear over [0, top]; impacts in minor units."""
    slope = (impact_at_top - impact_at_zero) / top
    if abs(impact_at_top - impact_at_zero) < 1e-6:
        return BreakEven("no_matter")
    root = -impact_at_zero / slope
    if 0 <= root <= top:
        return BreakEven("at_least" if slope > 0 else "at_most", root)
    return BreakEven("always" if impact_at_zero > 0 else "never")
