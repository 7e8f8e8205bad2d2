"""The bridge: how today's profit becomes the plan's, step by step, adding up to the impact.

docs/sums.md, "The bridge".
"""

from dataclasses import dataclass

from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.forecast.sums import LEDGER
from yellow_abacus.core.forecast.takings import Takings


@dataclass(frozen=True)
class BridgeStep:
    """amount: minor units, how much the step adds to what you keep."""

    key: str
    label: str
    amount: float


_NAMED: dict[str, tuple[str, tuple[str, ...]]] = {
    "given_away": ("Given away", ("goods",)),
    "funding": ("Suppliers pay", ("funding",)),
    "put_in": ("Things put in", ("put_in_cost",)),
    "delivery_given_up": ("Delivery given up", ("delivery_charged",)),
    "carriage": ("Carriage", ("delivery_cost",)),
    "payment": ("Payment, commission, returns", ("payment", "commission", "returns")),
}
"""Steps by key: the label, and the ledger rows whose change they hold. All other rows are one step, `other`."""


_BEFORE = {"volume": "Orders that stay away"}
_BESIDES = {
    "top_ups": "Carts topped up",
    "more_orders": "More orders",
    "borrowed": "Came sooner",
    "winning": "Won and sent",
    "fixed": "Paid once",
}
STEPS = {**_BEFORE, **{key: label for key, (label, _) in _NAMED.items()}, "other": "Other", **_BESIDES}
"""Every step, in order, with its label."""


def rows_of_step(step: str) -> tuple[str, ...]:
    """The rows of the ledger whose change on orders that come anyway a step holds; none for the others."""
    named = {row for _, rows in _NAMED.values() for row in rows}
    return (
        tuple(row.key for row in ROWS if row.key not in named) if step == "other" else _NAMED.get(step, ("", ()))[1]
    )


def bridge(today: Takings, otherwise: Takings, staying: Takings, takings: Takings) -> tuple[BridgeStep, ...]:
    """Steps between today and the plan; the first only where something of the shop is otherwise.

    otherwise: as today with that. staying: as that, without the orders that dropped offers bring.
    """
    change = takings.existing[0, LEDGER] - staying.existing[0, LEDGER]
    amounts = {
        "volume": float((staying.existing - otherwise.existing)[0, LEDGER].sum()),
        **{step: sum(float(change[INDEX[row]]) for row in rows_of_step(step)) for step in (*_NAMED, "other")},
        "top_ups": float(takings.topped_up[0, LEDGER].sum()),
        "more_orders": float((takings.extra + takings.sent)[0, LEDGER].sum()),
        "borrowed": -float(takings.borrowed[0]),
        "winning": -float(takings.winning[0]),
        "fixed": -float(takings.fixed[0]),
    }
    steps = tuple(BridgeStep(key, label, amounts[key]) for key, label in STEPS.items())
    if otherwise is today:
        return steps
    by_itself = float((otherwise.existing - today.existing)[0, LEDGER].sum())
    return (BridgeStep("otherwise", "The change by itself", by_itself), *steps)
