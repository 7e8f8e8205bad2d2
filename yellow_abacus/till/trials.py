"""Trials made for the merchant: around all that each offer asks for, rung up at once."""

from collections.abc import Iterator
from datetime import datetime, time, timedelta

from yellow_abacus.core.advice.trial_carts import TrialCart, trial_carts
from yellow_abacus.core.forecast.adding import units_sold
from yellow_abacus.core.offers import Offer
from yellow_abacus.files.cart_json import CartDoc, CartLineDoc, ShopperDoc
from yellow_abacus.files.till_json import TrialDoc
from yellow_abacus.till.ringing import Till

NOON = time(12)


def trials(till: Till) -> list[TrialDoc]:
    """Of every offer, in order. Raises UnsoundCartsError."""
    goods = till.room.loaded.batch.goods.on_day(till.doc.first_day)
    sold = units_sold(till.room.forecaster.mix)
    asked: list[tuple[Offer, str, CartDoc]] = []
    for offer in till.offers:
        tried = trial_carts(offer, goods, sold)
        asked += [(offer, label, cart) for label, cart in _of_offer(till, offer, tried)]
    found = []
    for (offer, label, cart), told in zip(asked, till.likeliest([cart for _, _, cart in asked]), strict=True):
        reason = next(one for one in told.plan.reasons if one.offer == offer.id)
        found.append(
            TrialDoc(
                offer=offer.id,
                label=label,
                cart=cart,
                applies=reason.reason == "applied",
                text=reason.text,
                pays_today=told.today.total,
                pays=told.plan.total,
                kept_today=told.today.kept,
                kept=told.plan.kept,
            )
        )
    return found


def _of_offer(till: Till, offer: Offer, tried: list[TrialCart]) -> Iterator[tuple[str, CartDoc]]:
    """The goods as a shopper of the offer's would bring them; then the first of them at other times and places."""
    if not tried:
        return
    skus = till.room.loaded.batch.goods.skus
    doc = till.doc
    first, last = offer.when.first_day or doc.first_day, offer.when.last_day or doc.last_day
    shopper = _shopper(till, offer, CartDoc(lines=[], time=datetime.combine(first, NOON)))

    def cart(one: TrialCart) -> CartDoc:
        lines = [CartLineDoc(sku=skus[sku], quantity=units) for sku, units in one.units]
        return shopper.model_copy(update={"lines": lines})

    for one in tried:
        yield one.label, cart(one)
    base = cart(tried[0])
    if sum(line.quantity for line in base.lines) > 1:
        fewer = [line.model_copy() for line in base.lines]
        fewer[0].quantity -= 1
        yield (
            "with one thing taken out again",
            base.model_copy(update={"lines": [one for one in fewer if one.quantity]}),
        )
    if offer.given.key is not None:
        yield "without its code", base.model_copy(update={"codes": []})
    for words, moment in (
        ("on its last day, 23:59", datetime.combine(last, time(23, 59))),
        ("a minute later", datetime.combine(last, NOON) + timedelta(hours=12)),
    ):
        yield words, base.model_copy(update={"time": moment})
    for zone in till.room.loaded.shop.zone_names:
        if zone != base.zone:
            yield f"from {zone}", base.model_copy(update={"zone": zone, "option": ""})


def _shopper(till: Till, offer: Offer, cart: CartDoc) -> CartDoc:
    """A cart whose shopper, place and time the offer is for."""
    who, where, when = offer.who, offer.where, offer.when
    zones = where.names_in(till.room.loaded.shop.zone_names)
    moment = cart.time or datetime.combine(till.doc.first_day, NOON)
    while when.weekdays and moment.weekday() not in when.weekdays:
        moment += timedelta(days=1)
    if when.from_minute is not None:
        moment = moment.replace(hour=when.from_minute // 60 % 24, minute=when.from_minute % 60)
    return cart.model_copy(
        update={
            "zone": zones[0] if zones else "",
            "time": moment,
            "codes": list(offer.given.written[:1]),
            "channel": where.channels[0] if where.channels else "",
            "payment": where.payments[0] if where.payments else "",
            "shopper": ShopperDoc(
                id=who.shoppers[0] if who.shoppers else "",
                group=who.groups[0] if who.groups else "",
                tags=list(who.tags[:1]),
                orders_before=0 if who.first_order else (who.nth_order or 2) - 1,
                days_since=None if who.first_order else who.days_since,
            ),
        }
    )
