"""What history says of a figure, and how sure it is.

>>> between([0.1, 0.2, 0.3], likely=0.2)
Estimate(likely=0.2, low=0.11, high=0.29)
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import WHOLE_BP, Floats

LOW, HIGH = 0.05, 0.95
NINE_IN_TEN = 1.645
"""Standard errors to the 5 and 95 % points."""


@dataclass(frozen=True)
class Estimate:
    """low, high: of a hundred shops with such a history, five lie below the low and five above the high.

    They may lie outside what the figure can be: what resampling gives is held in its bounds only where it is shown.
    """

    likely: float
    low: float
    high: float

    def within(self, least: float, most: float) -> "Estimate":
        """Held in the figure's bounds, as it is shown."""
        return Estimate(*(min(max(one, least), most) for one in (self.likely, self.low, self.high)))

    @property
    def in_bp(self) -> tuple[int, int, int]:
        """Likely, low and high in basis points, of shares."""
        return round(self.likely * WHOLE_BP), round(self.low * WHOLE_BP), round(self.high * WHOLE_BP)

    @property
    def width(self) -> float:
        return self.high - self.low


def between(draws: Sequence[float] | Floats, likely: float) -> Estimate:
    """The range of many draws around a likely value, which it holds."""
    low, high = (round(float(one), 12) for one in np.quantile(np.asarray(draws), (LOW, HIGH)))
    return Estimate(likely, min(low, likely), max(high, likely))
