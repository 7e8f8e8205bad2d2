"""What would make an offer apply that does not: the cart with the code, the goods or the moment it lacks."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from typing import Any

import numpy as np

from yellow_abacus.core.advice.missing import missing
from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.reasons import Reason
from yellow_abacus.files.cart_json import CartDoc, CartLineDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.reason_words import day_in_words
from yellow_abacus.files.till_json import MendedDoc
from yellow_abacus.till.ringing import Till

MOST_ADDITIONS = 4
"""So many things are added at most to make an offer apply."""
MOST_AGAIN = 3
"""So many single units more of a thing that was added are tried before another one is."""


def mends(till: Till, cart: CartDoc) -> list[MendedDoc]:
    """Of the offers that do not apply, those of which it is plain what is missing. Raises UnsoundCartsError."""
    likeliest = next(iter(till.ring_up(cart).ways), None)
    if likeliest is None:
        return []
    chosen = {one.offer: one.sku for one in likeliest.plan.put_in}
    mender = _Mender(till, cart.zone, {"option": likeliest.plan.option, "chooses": chosen | cart.chooses})
    found = []
    for told in likeliest.plan.reasons:
        mended = mender.mended(cart, told.offer, told.reason) if told.reason != "applied" else None
        if mended is not None:
            found.append(MendedDoc(offer=told.offer, label=mended[0], cart=mended[1]))
    return found


@dataclass(frozen=True, eq=False)
class _Mender:
    """likeliest: the way the cart most likely goes, to the zone it goes to."""

    till: Till
    zone: str
    likeliest: dict[str, Any]

    def reason(self, cart: CartDoc, offer: Offer) -> Reason:
        """Why the offer applies or not, the likeliest way the cart goes."""
        pinned = cart.model_copy(update=self.likeliest) if cart.zone == self.zone else cart
        rung = self.till.rung(pinned)
        mine = (at for at, one in enumerate(rung.offers) if one.id == offer.id and rung.planned[at])
        return rung.reason(next(mine))

    def mended(self, cart: CartDoc, offer_id: str, reason: Reason) -> tuple[str, CartDoc] | None:
        """The cart with what is missing, step by step, in words; None where that does not make the offer apply.

        reason: why it does not apply to the cart as it is.
        """
        at = next(at for at, one in enumerate(self.till.offers) if one.id == offer_id)
        offer, labels, added, again = self.till.offers[at], list[str](), dict[str, int](), 0
        for step in range(MOST_ADDITIONS * (1 + MOST_AGAIN) + len(CHANGES)):
            reason = self.reason(cart, offer) if step else reason
            if reason == "applied":
                adding = " and ".join(f"{units:,} × {sku}" for sku, units in added.items())
                return ", ".join([*([f"add {adding}"] if added else []), *labels]), cart
            if (change := CHANGES.get(reason)) is not None:
                told = change(self, cart, offer)
                if told is None:
                    return None
                labels.append(told[0])
                cart = told[1]
                continue
            if added and reason == "short" and again < MOST_AGAIN:
                # What was added lowers what it is short by less than it costs, where offers take off it.
                sku, units, again = next(reversed(added)), 1, again + 1
            else:
                more, again = self._more(cart, at, reason), 0
                if more is None or len(added) >= MOST_ADDITIONS:
                    return None
                sku, units = more
            added[sku] = added.get(sku, 0) + units
            cart = with_line(cart, sku, units)
        return None

    def _more(self, cart: CartDoc, at: int, reason: Reason) -> tuple[str, int] | None:
        till, batch = self.till, self.till.rung(cart).rows.batch
        mix = till.room.forecaster.mix.on_day(till.day_of(cart))
        found = missing(till.room.loaded.shop, mix, batch.part(np.array([0])), till.offers, at, reason)
        return None if found is None else (batch.goods.skus[found.sku], found.units)


def with_line(cart: CartDoc, sku: str, units: int) -> CartDoc:
    """The cart with more units of a SKU."""
    lines = [line.model_copy() for line in cart.lines]
    mine = next((line for line in lines if line.sku == sku), None)
    if mine is None:
        lines.append(CartLineDoc(sku=sku, quantity=units))
    else:
        mine.quantity += units
    return cart.model_copy(update={"lines": lines})


# --- what else may keep an offer away

Change = tuple[str, CartDoc] | None


def _with_code(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    code = offer.given.written[0]
    return f"type the code {code}", cart.model_copy(update={"codes": [*cart.codes, code]})


def _at_a_time(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    """The first moment at which it is open, from the cart's own hour on if that is one of them."""
    hour = cart.time.time() if cart.time is not None else time(12)
    for moment in _moments(mender.till.doc, offer, hour):
        if offer.when.open_at(moment) and _on_weekday(offer, moment):
            label = f"come on {moment:%A}, {day_in_words(moment.date())}"
            at = "" if moment.time() == hour else f" at {moment.hour}:{moment.minute:02}"
            return label + at, cart.model_copy(update={"time": moment})
    return None


def _moments(doc: PlanDoc, offer: Offer, hour: time) -> Iterator[datetime]:
    first, last = offer.when.first_day or doc.first_day, offer.when.last_day or doc.last_day
    opens = offer.when.from_minute
    times = [hour] if opens is None else [hour, time(opens // 60 % 24, opens % 60)]
    day = max(first, doc.first_day)
    while day <= min(last, doc.last_day):
        for at in times:
            moment = datetime.combine(day, at)
            if opens is None or at == times[-1] or _within_hours(offer, at):
                yield moment
        day += timedelta(days=1)


def _within_hours(offer: Offer, at: time) -> bool:
    first, last, minute = offer.when.from_minute or 0, offer.when.to_minute or 0, at.hour * 60 + at.minute
    return first <= minute < last if first < last else minute >= first or minute < last


def _on_weekday(offer: Offer, moment: datetime) -> bool:
    return not offer.when.weekdays or moment.weekday() in offer.when.weekdays


def _as_such_a_shopper(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    who, shopper = offer.who, cart.shopper
    told: dict[str, object] = {}
    if who.first_order:
        told["orders_before"] = 0
    if who.nth_order is not None and (shopper.orders_before or 0) < who.nth_order - 1:
        told["orders_before"] = who.nth_order - 1
    if who.days_since is not None:
        told["days_since"] = max(who.days_since, shopper.days_since or 0)
    if who.groups:
        told["group"] = who.groups[0]
    elif folded(shopper.group) in all_folded(who.except_groups):
        told["group"] = ""
    tags = [tag for tag in shopper.tags if folded(tag) not in all_folded(who.except_tags)]
    told["tags"] = [*tags, *(who.tags[:1] if all_folded(tags).isdisjoint(all_folded(who.tags)) else ())]
    if who.shoppers:
        told["id"] = who.shoppers[0]
    elif folded(shopper.id) in all_folded(who.except_shoppers):
        told["id"] = ""
    return "come as such a shopper", cart.model_copy(update={"shopper": shopper.model_copy(update=told)})


def _elsewhere(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    for zone in mender.till.room.loaded.shop.zone_names:
        there = cart.model_copy(update={"zone": zone, "option": ""})
        if mender.reason(there, offer) != "not_this_destination":
            return f"send it to {zone}", there
    return None


def _by_channel(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    return f"order by {offer.where.channels[0]}", cart.model_copy(update={"channel": offer.where.channels[0]})


def _paid_so(mender: _Mender, cart: CartDoc, offer: Offer) -> Change:
    return f"pay by {offer.where.payments[0]}", cart.model_copy(update={"payment": offer.where.payments[0]})


CHANGES: dict[str, Callable[[_Mender, CartDoc, Offer], Change]] = {
    "no_code": _with_code,
    "out_of_dates": _at_a_time,
    "wrong_hours": _at_a_time,
    "not_this_shopper": _as_such_a_shopper,
    "not_this_destination": _elsewhere,
    "not_this_channel": _by_channel,
    "not_this_payment": _paid_so,
}
"""What to change about a cart's shopper, place or time, by why an offer does not apply."""
