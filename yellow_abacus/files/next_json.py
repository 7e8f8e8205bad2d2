"""What a next offer of a kind may do, as JSON. docs/files.md, "What history says"."""

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.clauses.response import MOST_SENT, Ranging
from yellow_abacus.core.ground.money import WHOLE_BP, shown
from yellow_abacus.files.words import money, share
from yellow_abacus.learning.estimate import Estimate
from yellow_abacus.learning.next_offers import Before, Next, OfSent
from yellow_abacus.learning.uptake import Kind

POINTS, BEYOND = 9, 2
"""So many numbers of messages are told of, from a half of the fewest ever sent to twice the most."""
DIGITS = 2
"""They are round."""

Counted = Annotated[int, Field(ge=0, le=10**9)]
Amount = Annotated[float, Field(ge=0, le=10**15)]


class BeforeDoc(BaseModel):
    """An offer that ran: used by so many of so many (messages, or orders it was open for); all orders that used it,
    and what those got off, minor units, of goods that would have cost so much; unlike: the variance of what one got,
    in squares of its mean."""

    model_config = ConfigDict(extra="forbid")

    used: Counted
    of: Annotated[int, Field(ge=1, le=10**9)]
    orders: Counted
    given_away: Amount
    goods: Amount
    unlike: Annotated[float, Field(ge=0, le=10**6)]

    def before(self) -> Before:
        return Before(min(self.used, self.of), self.of, self.orders, self.given_away, self.goods, self.unlike)


class OfSentDoc(BaseModel):
    """What a next message may do, sent to so many: the share who order, basis points; how many do, and what those
    get off in all, minor units, both with the chance that is in so many; null where no offer tells."""

    sent: int
    likely: int
    low: int
    high: int
    uses_likely: int
    uses_low: int
    uses_high: int
    given_likely: int | None
    given_low: int | None
    given_high: int | None
    says: str


class NextOfKindDoc(BaseModel):
    """What a next offer of a kind may do, as those before it did: its share, and what it gives away of the goods of
    an order that uses it, basis points, and on each, minor units. by_sent: of messages, by how many are sent."""

    kind: Kind
    of: Ranging
    likely: int
    low: int
    high: int
    depth_likely: int | None
    depth_low: int | None
    depth_high: int | None
    each_likely: int | None
    each_low: int | None
    each_high: int | None
    offers: int
    orders: int
    says: str
    gives: str
    before: list[BeforeDoc]
    by_sent: list[OfSentDoc]


_CALLED: dict[Kind, tuple[str, str]] = {
    "sent": ("code sent", "codes sent"),
    "to_few": ("code told to few", "codes told to few"),
    "to_all": ("code shown to all", "codes shown to all"),
    "code": ("code", "codes"),
}


def next_doc(one: Next, also: Sequence[int], currency: str, digits: int) -> NextOfKindDoc:
    """also: numbers of messages to tell of besides."""
    likely, low, high = one.said.in_bp
    depth = (None,) * 3 if one.depth is None else one.depth.in_bp
    each = (None,) * 3 if one.each is None else _in_cents(one.each)
    singular, plural = _CALLED[one.kind]
    offers = len(one.before)
    before = f"1 {singular}" if offers == 1 else f"{offers} {plural}"
    what = "a message brings an order" if one.kind == "sent" else "the code is used"
    return NextOfKindDoc(
        kind=one.kind,
        of=one.of,
        likely=likely,
        low=low,
        high=high,
        depth_likely=depth[0],
        depth_low=depth[1],
        depth_high=depth[2],
        each_likely=each[0],
        each_low=each[1],
        each_high=each[2],
        offers=offers,
        orders=one.orders,
        says=f"As {before} before: in {_told(one.said)[0]} of cases {what}, {_between(one.said)}.",
        gives=_gives(one, currency, digits),
        before=[BeforeDoc(**vars(each)) for each in one.before],
        by_sent=[of_sent_doc(one.sent_to(sent), currency, digits) for sent in _numbers(one, also)],
    )


def of_sent_doc(one: OfSent, currency: str, digits: int) -> OfSentDoc:
    likely, low, high = one.said.in_bp
    uses, fewest, most = (round(each) for each in (one.uses.likely, one.uses.low, one.uses.high))
    given = (None,) * 3 if one.given_away is None else _in_cents(one.given_away)
    orders = f"{uses:,} order{'' if uses == 1 else 's'}, {fewest:,} to {most:,}"
    says = f"Sent to {one.sent:,}, {_told(one.said)[0]} answer, {_between(one.said)}: {orders}"
    if one.given_away is not None:
        off, least, greatest = (money(each, currency, digits) for each in _in_cents(one.given_away))
        says += f", that get {off} off in all, {least} to {greatest}"
    return OfSentDoc(
        sent=one.sent,
        likely=likely,
        low=low,
        high=high,
        uses_likely=uses,
        uses_low=fewest,
        uses_high=most,
        given_likely=given[0],
        given_low=given[1],
        given_high=given[2],
        says=f"{says}.",
    )


def _numbers(one: Next, also: Sequence[int]) -> list[int]:
    """Of messages: round numbers, each so many times the one before, and those asked for."""
    if one.kind != "sent":
        return []
    sent = [each.of for each in one.before]
    points = np.geomspace(max(min(sent) / BEYOND, 1), min(max(sent) * BEYOND, MOST_SENT), POINTS).tolist()
    return sorted({*also, *(_round(point) for point in points)})


def _round(number: float) -> int:
    step = 10 ** max(len(str(int(number))) - DIGITS, 0)
    return max(round(number / step) * step, 1)


def _gives(one: Next, currency: str, digits: int) -> str:
    """What it gives away, in words; empty where no offer tells."""
    if one.depth is None or one.each is None:
        return ""
    each = [money(shown(amount), currency, digits) for amount in (one.each.likely, one.each.low, one.each.high)]
    of_goods = f"{_told(one.depth)[0]} of the goods of such an order, {_between(one.depth)}"
    return f"It gives away {each[0]} on each, between {each[1]} and {each[2]}: {of_goods}."


def _between(estimate: Estimate) -> str:
    _, low, high = _told(estimate)
    return f"between {low} and {high}"


def _told(estimate: Estimate) -> tuple[str, str, str]:
    likely, low, high = (share(one / WHOLE_BP) for one in estimate.in_bp)
    return likely, low, high


def _in_cents(estimate: Estimate) -> tuple[int, int, int]:
    return shown(estimate.likely), shown(estimate.low), shown(estimate.high)
