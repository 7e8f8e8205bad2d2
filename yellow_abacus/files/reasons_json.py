"""Why offers apply or do not, in words: for the Counting board and for single carts. docs/files.md, "Reasons"."""

from collections.abc import Sequence

from pydantic import BaseModel

from yellow_abacus.core.forecast.reach import Cause
from yellow_abacus.core.pricing.reasons import Measure, Reason
from yellow_abacus.files.words import money

IN_WORDS: dict[Reason, str] = {
    "applied": "applied",
    "out_of_dates": "not open on that day",
    "wrong_hours": "not open at that hour or weekday",
    "not_this_shopper": "not for that shopper",
    "not_this_destination": "not for that destination",
    "not_this_channel": "not for that channel",
    "not_this_payment": "not for that way of paying",
    "not_this_currency": "not for that currency",
    "no_code": "without the code",
    "used_up": "used up",
    "gift_out_of_stock": "nothing left to put in",
    "nothing_in_scope": "none of its goods in the cart",
    "short": "short",
    "over": "over what it allows",
    "reward_not_in_cart": "what it would give is not in the cart",
    "not_taken": "not taken",
    "nothing_left": "nothing left to take off",
    "shut_out": "kept out by another offer",
}


class CauseDoc(BaseModel):
    """orders: of the window, over which the reason holds. near: a near miss, worth a nudge."""

    reason: Reason
    text: str
    orders: float
    near: bool


class OfferReachDoc(BaseModel):
    """id: the offer's. orders: existing orders of the window. causes: why it does not reach the rest, most first."""

    id: str
    reached: float
    orders: float
    causes: list[CauseDoc]


class ReachDoc(BaseModel):
    offers: list[OfferReachDoc]


def reach_doc(
    found: Sequence[dict[Cause, float]], ids: Sequence[str], names: Sequence[str], currency: str, minor_digits: int
) -> ReachDoc:
    """ids, names: of the offers in the plan, in order."""

    def text(cause: Cause) -> str:
        if cause.reason == "shut_out" and cause.by is not None:
            return f"kept out by {names[cause.by]}"
        if cause.reason == "short" and cause.of is not None:
            return short_text(cause, currency, minor_digits)
        return IN_WORDS[cause.reason]

    return ReachDoc(
        offers=[
            OfferReachDoc(
                id=offer_id,
                reached=sum(orders for cause, orders in causes.items() if cause.reason == "applied"),
                orders=sum(causes.values()),
                causes=sorted(
                    (
                        CauseDoc(reason=cause.reason, text=text(cause), orders=orders, near=cause.close)
                        for cause, orders in causes.items()
                        if cause.reason != "applied"
                    ),
                    key=lambda cause: -cause.orders,
                ),
            )
            for offer_id, causes in zip(ids, found, strict=True)
        ]
    )


def short_text(cause: Cause, currency: str, minor_digits: int) -> str:
    assert cause.of is not None
    needed, near = (size_in_words(cause.of, size, currency, minor_digits) for size in (cause.needed or 0, cause.near))
    whole = "short" if cause.needed is None else f"short of {needed}"
    if cause.of in ("units", "products"):
        return f"{whole} by one" if cause.close else f"{whole} by two or more"
    return f"{whole} by {near} or less" if cause.close else f"{whole} by more than {near}"


def size_in_words(of: Measure, amount: int, currency: str, minor_digits: int) -> str:
    """An amount of what a condition measures."""
    if of == "spend":
        return money(amount, currency, minor_digits, whole=amount % 10**minor_digits == 0)
    if of == "weight":
        return f"{amount / 1000:g} kg"
    noun = {"units": "unit", "products": "product"}[of]
    return f"{amount:,} {noun}{'' if amount == 1 else 's'}"
