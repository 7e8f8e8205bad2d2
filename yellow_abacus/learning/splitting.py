"""Why a plan kept more, or less, than its forecast said: the difference in parts that add up.

Per order: what orders kept before the plan's offers (their *mix*), what the offers did to it (*response*), and what
the shop charged otherwise than it should have. Times the orders that came; how many came is *volume*; and what
changed of prices and costs since the forecast was kept is told apart first. docs/sums.md, "Afterwards".

>>> then, now = Each(today=10.0, plan=8.0), Each(today=11.0, plan=9.0)
>>> parts = split(100, then, now, 120, Each(today=11.5, plan=9.25), charged=9.0)
>>> {one.key: one.amount for one in parts}
{'volume': 160.0, 'prices': 120.0, 'mix': 60.0, 'response': -30.0, 'charged': -30.0}
>>> sum(one.amount for one in parts) == 120 * 9.0 - 100 * 8.0
True
"""

from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.ground.money import Floats

Key = Literal["volume", "prices", "mix", "response", "charged"]

LABELS: dict[Key, str] = {
    "volume": "How many orders came",
    "prices": "Prices and costs that changed since",
    "mix": "What the orders were like",
    "response": "How shoppers responded",
    "charged": "Charged otherwise than the plan says",
}


@dataclass(frozen=True)
class Each:
    """What an order keeps, minor units: as things stand, and under the plan, without what it costs besides orders."""

    today: float
    plan: float


@dataclass(frozen=True)
class Part:
    """amount: minor units of the difference, what came less what was expected."""

    key: Key
    amount: float


def split(expected: float, then: Each, now: Each, orders: int, real: Each, charged: float) -> tuple[Part, ...]:
    """expected, orders: orders expected, and those that came; what a plan costs besides orders is the same on both
    sides. then: as the forecast was kept; now: the same forecast at the prices and costs of now. real: the
    orders that came, priced; charged: what one of them kept as it was charged."""
    return (
        Part("volume", (orders - expected) * then.plan),
        Part("prices", orders * (now.plan - then.plan)),
        Part("mix", orders * (real.today - now.today)),
        Part("response", orders * ((real.plan - real.today) - (now.plan - now.today))),
        Part("charged", orders * (charged - real.plan)),
    )


def behind(key: Key, then: Each, now: Each, as_today: Floats, planned: Floats, charged: Floats) -> Floats:
    """What each order that came adds to a part, minor units; how many came is a matter of days.

    as_today, planned, charged: what it kept, as in `came.Came`.

    >>> import numpy as np
    >>> one, other = np.array([10.0, 14.0]), np.array([9.0, 10.0])
    >>> behind("mix", Each(11.0, 9.0), Each(11.0, 9.0), one, other, other).tolist()
    [-1.0, 3.0]
    """
    match key:
        case "prices":
            return 0 * as_today + (now.plan - then.plan)
        case "mix":
            return as_today - now.today
        case "response":
            return (planned - as_today) - (now.plan - now.today)
        case "charged":
            return charged - planned
        case "volume":
            return 0 * as_today
