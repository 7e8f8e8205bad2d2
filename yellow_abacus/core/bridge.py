"""The bridge: how today's profit becomes the plan's, step by step, adding up to the impact.

docs/sums.md, "The bridge".
"""

from dataclasses import dataclass

from yellow_abacus.core.ledger import INDEX, ROWS
from yellow_abacus.core.money import Floats


@dataclass(frozen=True)
class Step:
    """amount: minor units, how much the step adds to what you keep."""

    key: str
    label: str
    amount: float


_NAMED = {
    "goods": ("given_away", "Given away"),
    "put_in_cost": ("put_in", "Things put in"),
    "delivery_charged": ("delivery_given_up", "Delivery given up"),
    "delivery_cost": ("carriage", "Carriage"),
    "payment": ("payment", "Payment cost"),
}


def bridge(today: Floats, existing: Floats, extra: Floats) -> tuple[Step, ...]:
    """Steps between today and the plan.

    today, existing, extra: ledger rows in minor units over the window, of today's orders as they are, of the
    same orders under the plan, and of the orders the plan adds.
    """
    change = existing - today
    steps = [Step(key, label, float(change[INDEX[row]])) for row, (key, label) in _NAMED.items()]
    other = sum(float(change[INDEX[row.key]]) for row in ROWS if row.key not in _NAMED)
    return (*steps, Step("other", "Other", other), Step("more_orders", "More orders", float(extra.sum())))
