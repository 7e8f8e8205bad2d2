"""What history says of response, as JSON. docs/files.md, "What history says"."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any, Literal

from pydantic import BaseModel

from yellow_abacus.core.clauses.response import NAMES, Ranging
from yellow_abacus.core.ground.money import WHOLE_BP, shown
from yellow_abacus.files.next_json import NextOfKindDoc, next_doc
from yellow_abacus.files.short_tests import ShortTestDoc
from yellow_abacus.files.untold_json import (
    FoundCodeDoc,
    FoundFreeDoc,
    FoundGiftDoc,
    FoundSpellDoc,
    untold_docs,
    untold_lines,
)
from yellow_abacus.files.words import money, share, so_many
from yellow_abacus.learning.bunching import Picture
from yellow_abacus.learning.estimate import Estimate
from yellow_abacus.learning.free_standing import FreeStanding
from yellow_abacus.learning.learned import AS_WIDE, Learned, Said, in_bp, of_threshold, thresholds_of
from yellow_abacus.learning.more_orders import MoreOrders
from yellow_abacus.learning.next_offers import Next
from yellow_abacus.learning.ran import Past, Ran
from yellow_abacus.learning.untold import Untold
from yellow_abacus.learning.uptake import UsesByDay, answered, kind_of, uses_by_day

NONE_OF: dict[Ranging, str] = {
    "extra_bp": "rather fewer orders came than usual",
    "extra_first_bp": "rather fewer first orders came than usual",
    "top_up_bp": "no orders are missing below its threshold",
    "borrowed_bp": "no orders are missing afterwards",
}
"""What is told of a figure whose whole range lies below 0."""


class TopUpFromDoc(BaseModel):
    """How far below the threshold shoppers top up from, in what it counts: minor units, units, …"""

    likely: int
    low: int
    high: int


class SaidDoc(BaseModel):
    """likely, low, high: basis points; null where history has nothing to say, and `says` tells why. orders, days:
    what it rests on. name: of the figure. reach, falls: of top-ups."""

    of: Ranging
    name: str
    likely: int | None
    low: int | None
    high: int | None
    orders: int
    days: int
    says: str
    reach: TopUpFromDoc | None = None
    falls: bool = True


class SeenDayDoc(BaseModel):
    """usual: the orders expected without the offer."""

    day: date
    orders: int
    usual: float
    runs: bool


class UsedDayDoc(BaseModel):
    """Orders of a day that used a code, of those that could have."""

    day: date
    used: int
    could: int


class AroundDoc(BaseModel):
    """A bin of order values around a threshold, from `start` (in what it counts): orders had, and those
    expected without it."""

    start: float
    had: int
    would_be: float


class LearnedOfferDoc(BaseModel):
    """first_day, last_day: null for an end of the history. uses: orders of its days that used it. given_away, goods:
    minor units, on those orders; charged: whether the orders tell what came off, or the sentence does. uses_by_day:
    of an offer with a code. thresholds: what it asks for, and each further step, in what that counts; none where that
    is not one thing."""

    id: str
    name: str
    running: bool
    first_day: date | None
    last_day: date | None
    days: int
    uses: int
    given_away: int
    goods: int
    charged: bool
    figures: list[SaidDoc]
    by_day: list[SeenDayDoc]
    uses_by_day: list[UsedDayDoc]
    thresholds: list[int]
    around: list[AroundDoc]


class FreeDeliveryDoc(BaseModel):
    """What the shop's own free delivery from a value does: orders that come to it (`uses`), and top-ups.
    thresholds: the value, minor units."""

    id: str
    name: str
    zones: list[str]
    thresholds: list[int]
    uses: int
    days: int
    figures: list[SaidDoc]
    around: list[AroundDoc]


class HistorySaysDoc(BaseModel):
    """first_day, last_day, orders: of the history. others: further codes found. spells, freed, gifts: of most orders
    first. free_delivery: as it stands in the shop. tests: what a short one would tell of each figure."""

    kind: Literal["found"]
    currency: str
    minor_digits: int
    first_day: date | None
    last_day: date | None
    orders: int
    offers: list[LearnedOfferDoc]
    next: list[NextOfKindDoc]
    found: list[FoundCodeDoc]
    others: int
    spells: list[FoundSpellDoc]
    freed: list[FoundFreeDoc]
    gifts: list[FoundGiftDoc]
    free_delivery: list[FreeDeliveryDoc]
    tests: list[ShortTestDoc]


class LookedDoc(BaseModel):
    """How far the look back is, 0 to 1."""

    kind: Literal["looked"]
    share: float


def learned_schema() -> dict[str, Any]:
    """The JSON Schema of what history says."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **HistorySaysDoc.model_json_schema()}


def history_says(
    past: Past,
    learned: Sequence[Learned],
    following: Sequence[Next],
    sent: Sequence[int],
    found: Untold,
    standing: Iterable[FreeStanding],
    names: Sequence[str],
    running: Sequence[bool],
    currency: str,
    minor_digits: int,
    tests: list[ShortTestDoc],
) -> HistorySaysDoc:
    """names, running: one entry an offer learned of. sent: numbers of next messages to tell of."""
    return HistorySaysDoc(
        kind="found",
        currency=currency,
        minor_digits=minor_digits,
        first_day=date.fromordinal(past.first_day) if past.days else None,
        last_day=date.fromordinal(past.last_day) if past.days else None,
        orders=past.batch.axes.carts,
        offers=[_offer(*one) for one in zip(learned, names, running, strict=True)],
        next=[next_doc(one, sent, currency, minor_digits) for one in following],
        **untold_docs(found, past),
        free_delivery=[_standing(one, past.shop.zone_names, currency, minor_digits) for one in standing],
        tests=tests,
    )


def _standing(one: FreeStanding, zones: Sequence[str], currency: str, digits: int) -> FreeDeliveryDoc:
    where = [zones[at] for at in one.zones]
    to = "" if len(where) == len(zones) else f" to {', '.join(where)}"
    found = one.top_ups
    said = of_threshold(found, one.days)
    if said.said is not None and said.said.low <= 0 and said.said.high >= 1:
        said = replace(said, said=None, why=AS_WIDE)
    value = money(one.free_from, currency, digits, whole=one.free_from % 10**digits == 0)
    return FreeDeliveryDoc(
        id=f"free-from-{one.free_from}",
        name=f"Delivery{to} free from {value}",
        zones=where,
        thresholds=[one.free_from],
        uses=one.orders,
        days=one.days,
        figures=[_said(said, None)],
        around=[] if found is None else _around(found.picture),
    )


def _offer(learned: Learned, name: str, running: bool) -> LearnedOfferDoc:
    ran, when = learned.ran, learned.offer.when
    return LearnedOfferDoc(
        id=learned.offer.id,
        name=name,
        running=running,
        first_day=when.first_day,
        last_day=when.last_day,
        days=ran.days,
        uses=learned.uses,
        given_away=shown(learned.given_away),
        goods=shown(learned.goods),
        charged=learned.charged,
        figures=[_said(one, ran) for one in learned.figures],
        by_day=_by_day(learned.more),
        uses_by_day=[] if kind_of(ran) is None else _uses_by_day(uses_by_day(ran)),
        thresholds=thresholds_of(learned.offer),
        around=[] if learned.top_ups is None else _around(learned.top_ups.picture),
    )


def _around(seen: Picture) -> list[AroundDoc]:
    return [
        AroundDoc(start=float(start), had=int(had), would_be=float(would_be))
        for start, had, would_be in zip(seen.starts, seen.had, seen.would_be, strict=True)
    ]


def _by_day(more: MoreOrders) -> list[SeenDayDoc]:
    seen = more.by_day
    if seen is None:
        return []
    return [
        SeenDayDoc(day=date.fromordinal(int(day)), orders=int(orders), usual=float(usual), runs=bool(runs))
        for day, orders, usual, runs in zip(seen.days, seen.orders, seen.usual, seen.runs, strict=True)
    ]


def _uses_by_day(seen: UsesByDay) -> list[UsedDayDoc]:
    return [
        UsedDayDoc(day=date.fromordinal(int(day)), used=int(used), could=int(could))
        for day, used, could in zip(seen.days, seen.used, seen.could, strict=True)
    ]


def _said(said: Said, ran: Ran | None) -> SaidDoc:
    told = in_bp(said)
    likely, low, high = (None, None, None) if told is None else told
    return SaidDoc(
        of=said.of,
        name=NAMES[said.of],
        likely=likely,
        low=low,
        high=high,
        orders=said.orders,
        days=said.days,
        says=said.why or _says(said, told, ran),
        reach=None if said.reach is None else _reach(said.reach),
        falls=said.falls,
    )


def _says(said: Said, told: tuple[int, int, int] | None, ran: Ran | None) -> str:
    assert told is not None
    likely, low, high = (share(one / WHOLE_BP) for one in told)
    days = "1 day" if said.days == 1 else f"{said.days} days"
    if said.of == "send_response_bp" and ran is not None and ran.offer.response.sends is not None:
        on = f"{so_many(said.orders, 'use')} of {so_many(answered(ran)[1], 'message')}"
    else:
        on = f"{so_many(said.orders, 'order')} of {days}"
    if said.said is not None and said.said.high <= 0:
        return f"None: {NONE_OF.get(said.of, 'nothing of it shows')}, by {on}."
    return f"{likely}, between {low} and {high}, from {on}."


def _reach(reach: Estimate) -> TopUpFromDoc:
    return TopUpFromDoc(likely=shown(reach.likely), low=shown(reach.low), high=shown(reach.high))


def history_text(told: HistorySaysDoc) -> str:
    """What history says, as text."""
    if told.first_day is None:
        return "There are no orders to learn from."
    lines = [f"{so_many(told.orders, 'order')} from {told.first_day} to {told.last_day}."]
    for offer in told.offers:
        given, goods = (money(amount, told.currency, told.minor_digits) for amount in (offer.given_away, offer.goods))
        used = f"used by {so_many(offer.uses, 'order')} of {so_many(offer.days, 'day')}"
        lines.append(f"\n{offer.name}: {used}, {given} off {goods}.")
        lines += [f"  {one.name}: {one.says}" for one in offer.figures]
    for free in told.free_delivery:
        lines.append(f"\n{free.name}: {so_many(free.uses, 'order')} of {so_many(free.days, 'day')} came to it.")
        lines += [f"  {one.name}: {one.says}" for one in free.figures]
    if told.next:
        lines.append("")
    for one in told.next:
        lines += [f"{one.says} {one.gives}".rstrip(), *(f"  {of.says}" for of in one.by_sent)]
    amount = partial(money, currency=told.currency, minor_digits=told.minor_digits)
    lines += [f"\n{one}" for one in untold_lines(told.found, told.spells, told.freed, told.gifts, amount)]
    return "\n".join(lines)
