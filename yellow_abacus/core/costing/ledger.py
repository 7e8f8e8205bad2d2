"""The ledger: the same rows in the same order on every screen and in every file, adding up to what you keep.

docs/sums.md, "The ledger". A new kind of income or cost of a cart is one row here and one line in `costs`; what a
plan costs besides its carts is a row of PLAN_ROWS and a line in `forecast.takings`.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class LedgerRow:
    """key: its name in files and code. label: what people read. Costs are rows below zero."""

    key: str
    label: str


ROWS = (
    LedgerRow("goods", "Goods, net of tax"),
    LedgerRow("funding", "Supplier funding"),
    LedgerRow("delivery_charged", "Delivery charged, net of tax"),
    LedgerRow("surcharges", "Surcharges, net of tax"),
    LedgerRow("goods_cost", "Cost of goods"),
    LedgerRow("put_in_cost", "Cost of things put in"),
    LedgerRow("delivery_cost", "Cost of delivery"),
    LedgerRow("picking", "Picking and packaging"),
    LedgerRow("payment", "Payment cost"),
    LedgerRow("commission", "Commission"),
    LedgerRow("returns", "Returns and refusals"),
)
"""Of a cart."""

PLAN_ROWS = (
    LedgerRow("borrowed", "Orders that only came sooner"),
    LedgerRow("switched", "Bought in place of other goods"),
    LedgerRow("winning", "Winning orders, messages sent"),
    LedgerRow("fixed", "Costs paid once"),
)
"""Of a plan besides its carts."""

PROFIT = LedgerRow("profit", "You keep")

INDEX = {row.key: at for at, row in enumerate((*ROWS, *PLAN_ROWS))}
