"""The bridge: how today's profit becomes the plan's, step by step, adding up to the impact.

docs/sums.md, "The bridge".
"""

from dataclasses import dataclass

from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.forecast.sums import LEDGER
from yellow_abacus.core.forecast.takings import Takings
from yellow_abacus.core.ground.money import Floats


@dataclass(frozen=True)
class BridgeStep:
    """amount: minor units, how much the step adds to what you keep."""

    key: str
    label: str
    amount: float


_NAMED: dict[str, tuple[str, tuple[str, ...]]] = {
    "given_away": ("Given away", ("goods",)),
    "put_in": ("Things put in", ("put_in_cost",)),
    "delivery_given_up": ("Delivery given up", ("delivery_charged",)),
    "carriage": ("Carriage", ("delivery_cost",)),
    "payment": ("Payment, commission, returns", ("payment", "commission", "returns")),
}
"""Steps by key: the label, and the ledger rows whose change they hold. All other rows are one step, `other`."""


def bridge(today: Floats, takings: Takings) -> tuple[BridgeStep, ...]:
    """Steps between today and the plan. today: ledger rows of a cart in minor units over the window."""
    change = takings.existing[0, LEDGER] - today
    steps = [
        BridgeStep(key, label, sum(float(change[INDEX[row]]) for row in rows))
        for key, (label, rows) in _NAMED.items()
    ]
    named = {row for _, rows in _NAMED.values() for row in rows}
    other = sum(float(change[INDEX[row.key]]) for row in ROWS if row.key not in named)
    more = float((takings.extra + takings.sent)[0, LEDGER].sum())
    return (
        *steps,
        BridgeStep("other", "Other", other),
        BridgeStep("top_ups", "Carts topped up", float(takings.topped_up[0, LEDGER].sum())),
        BridgeStep("more_orders", "More orders", more),
        BridgeStep("borrowed", "Came sooner", -float(takings.borrowed[0])),
        BridgeStep("winning", "Won and sent", -float(takings.winning[0])),
        BridgeStep("fixed", "Paid once", -float(takings.fixed[0])),
    )
