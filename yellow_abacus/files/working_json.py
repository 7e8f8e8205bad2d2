"""The working of one figure as JSON: what the API answers, and `yellow-abacus forecast --why KEY` prints.

docs/files.md, "Working".
"""

from typing import Literal

from pydantic import BaseModel

from yellow_abacus.core.forecast.working import Figure, Unit, Working
from yellow_abacus.core.ground.money import foot
from yellow_abacus.files.words import count, money


class WorkingPartDoc(BaseModel):
    """amount: shown, minor units, the parts adding up to the figure; for orders, null. sign: whether it is added or
    taken off. opens: whether there is more behind it."""

    key: str
    name: str
    sign: Literal[1, -1]
    value: float
    amount: int | None
    opens: bool


class NearCartDoc(BaseModel):
    """An order of the history, by its id and number."""

    order_id: int
    number: str


class WorkingDoc(BaseModel):
    """value: exact; minor units or orders, as `unit` says. amount: as in `parts`. orders, each: where the figure is
    so many orders times so much, minor units. carts: orders near it.
    """

    key: str
    name: str
    formula: str
    unit: Unit
    value: float
    amount: int | None
    parts: list[WorkingPartDoc]
    orders: float | None
    each: float | None
    carts: list[NearCartDoc]


def working_doc(working: Working, found: Figure, orders: dict[int, NearCartDoc]) -> WorkingDoc:
    """found: one of its figures. orders: of the history, by number of the cart."""
    parts = [(sign, working.figure(part)) for sign, part in found.parts]
    shown = foot([sign * one.value for sign, one in parts]) if found.unit == "money" else []
    amount = None
    if found.unit == "money":
        amount = sum(shown) if parts else foot([found.value])[0]
    return WorkingDoc(
        key=found.key,
        name=found.name,
        formula=found.formula,
        unit=found.unit,
        value=found.value,
        amount=amount,
        parts=[
            WorkingPartDoc(
                key=one.key,
                name=one.name,
                sign=1 if sign > 0 else -1,
                value=one.value,
                amount=shown[at] if shown else None,
                opens=bool(one.parts) or one.orders is not None,
            )
            for at, (sign, one) in enumerate(parts)
        ],
        orders=found.orders,
        each=found.each,
        carts=[orders[cart] for cart in found.carts],
    )


def working_text(doc: WorkingDoc, currency: str, minor_digits: int) -> str:
    """The working as lines of text."""

    def told(value: float) -> str:
        return money(value, currency, minor_digits) if doc.unit == "money" else count(value)

    lines = [f"{doc.name}: {told(doc.value if doc.amount is None else doc.amount)}", f"  {doc.formula}."]
    lines += [
        f"  {told(one.value if one.amount is None else one.amount):>14}  {one.name}  [{one.key}]" for one in doc.parts
    ]
    if doc.orders is not None and doc.each is not None:
        lines.append(f"  {doc.orders:,.4f} orders x {money(doc.each, currency, minor_digits)}")
    lines += [f"  like order {cart.number}" for cart in doc.carts]
    return "\n".join(lines)
