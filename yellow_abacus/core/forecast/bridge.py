"""The bridge: how today's profit becomes the plan's, step by step, adding up to the impact.

Where goods sell out, every step of the orders that come anyway is told as if there were enough, and what is lost as
they do is a step of its own.

docs/sums.md, "The bridge".
"""

from dataclasses import dataclass

from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.forecast.sums import AT, LEDGER
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
_SOLD_OUT = {"sold_out": "Sold out"}
_BESIDES = {
    "top_ups": "Carts topped up",
    "more_orders": "More orders",
    "borrowed": "Came sooner",
    "switched": "In place of others",
    "winning": "Won and sent",
    "fixed": "Paid once",
}
STEPS = {**_BEFORE, **{key: label for key, (label, _) in _NAMED.items()}, "other": "Other", **_SOLD_OUT, **_BESIDES}
"""Every step, in order, with its label."""


def rows_of_step(step: str) -> tuple[str, ...]:
    """The rows of the ledger whose change on orders that come anyway a step holds; none for the others."""
    named = {row for _, rows in _NAMED.values() for row in rows}
    return (
        tuple(row.key for row in ROWS if row.key not in named) if step == "other" else _NAMED.get(step, ("", ()))[1]
    )


@dataclass(frozen=True, eq=False)
class Sides:
    """today; as today in a shop in which something is otherwise, the same where nothing is; as that, without the
    orders that dropped offers bring; and under the plan."""

    today: Takings
    otherwise: Takings
    staying: Takings
    planned: Takings


def bridge(found: Sides, enough: Sides) -> tuple[BridgeStep, ...]:
    """Steps between today and the plan; the first only where something of the shop is otherwise.

    enough: as if there were enough of all goods; the same where none sell out.
    """
    takings, change = found.planned, enough.planned.existing[0, LEDGER] - enough.staying.existing[0, LEDGER]
    lost = _kept(found.planned) - _kept(enough.planned) - (_kept(found.today) - _kept(enough.today))
    amounts = {
        "volume": _kept(enough.staying) - _kept(enough.otherwise),
        **{step: sum(float(change[INDEX[row]]) for row in rows_of_step(step)) for step in (*_NAMED, "other")},
        "sold_out": lost,
        "top_ups": float(takings.topped_up[0, AT["kept"]]),
        "more_orders": float((takings.extra + takings.sent)[0, AT["kept"]]),
        "borrowed": -float(takings.borrowed[0]),
        "switched": -float(takings.switched[0]),
        "winning": -float(takings.winning[0]),
        "fixed": -float(takings.fixed[0]),
    }
    steps = tuple(BridgeStep(key, label, amounts[key]) for key, label in STEPS.items())
    if found.otherwise is found.today:
        return steps
    return (BridgeStep("otherwise", "The change by itself", _kept(enough.otherwise) - _kept(enough.today)), *steps)


def _kept(takings: Takings) -> float:
    """What the orders keep that come anyway."""
    return float(takings.existing[0, AT["kept"]])
