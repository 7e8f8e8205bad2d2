"""Carts for the Till from the history: an order, one of a type, one that just misses an offer, or any."""

from datetime import date, datetime, timedelta

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.core.advice.missing import ANY_GAP
from yellow_abacus.core.carts.facts import UNKNOWN, Labels, codes_in
from yellow_abacus.core.forecast.adding import lacking, shelf_of
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.cart_json import CartDoc, CartLineDoc, ShopperDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.reason_words import day_in_words
from yellow_abacus.files.till_json import DrawBody, DrawnDoc
from yellow_abacus.store.finding_orders import order_that_counts
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.till.ringing import Till

LOOKED_AT = 4_000
"""So many carts at most are looked through for one that just misses an offer."""

NEAREST = 10
"""One in so many of the carts that miss an offer is near it."""


class NoSuchCartError(Exception):
    """No order is like what was asked for."""


def draw(till: Till, session: Session, wanted: DrawBody) -> DrawnDoc:
    """Raises NoSuchCartError."""
    loaded = till.room.loaded
    if not loaded.batch.axes.carts:
        raise NoSuchCartError("There are no orders to take a cart from. Bring some in at Carts.")
    rng = np.random.default_rng(wanted.turn)
    if wanted.order is not None:
        at = int(np.searchsorted(loaded.orders.ids, wanted.order))
        if at >= len(loaded.orders.ids) or loaded.orders.ids[at] != wanted.order:
            raise NoSuchCartError("There is no such order.")
    elif wanted.near:
        at = _near(till, wanted.near, rng)
    else:
        at = int(rng.choice(_of_type(till, wanted.way, wanted.label)))
    row = order_that_counts(session, int(loaded.orders.ids[at]))
    if row is None:
        raise NoSuchCartError("There is no such order.")
    cart = _as_doc(till, at, row.code)
    if wanted.near:
        offer = next(one for one in till.offers if one.id == wanted.near)
        cart = cart.model_copy(update={"codes": sorted(offer.given.written, key=folded)[:1]})
    return DrawnDoc(cart=cart, of=f"Order {row.number} of {day_in_words(row.placed_at.date())} {row.placed_at.year}")


def _of_type(till: Till, way: str, label: str) -> Ints:
    """The carts of a type, or all of them. Raises NoSuchCartError."""
    mix = till.room.forecaster.mix
    if not label:
        return np.arange(till.room.loaded.batch.axes.carts)
    types = mix.types.get(way)
    if types is None or label not in types.labels:
        raise NoSuchCartError(f"There are no carts of the type “{label}”.")
    mine = np.flatnonzero(types.type_by_cart[: till.room.loaded.batch.axes.carts] == types.labels.index(label))
    if not len(mine):
        raise NoSuchCartError(f"No order is of the type “{label}”.")
    return mine


def _near(till: Till, offer_id: str, rng: np.random.Generator) -> int:
    """A cart among the nearest of those that are short of an offer. Raises NoSuchCartError."""
    at = next((at for at, one in enumerate(till.offers) if one.id == offer_id), None)
    if at is None:
        raise NoSuchCartError("The plan has no such offer.")
    offer, mix = till.offers[at], till.room.forecaster.mix.on_day(till.doc.first_day)
    carts = till.room.loaded.batch.axes.carts
    some = np.sort(rng.permutation(carts)[:LOOKED_AT])
    short = lacking(
        mix.shop, mix.batch.some(some), till.offers, at, lambda scope: shelf_of(mix, offer, scope), ANY_GAP
    )
    if not len(short.cart):
        raise NoSuchCartError(f"No order just misses {till.names[offer_id]}.")
    nearest = short.cart[np.argsort(short.gap, kind="stable")][: max(len(short.cart) // NEAREST, 1)]
    return int(some[rng.choice(nearest)])


def _as_doc(till: Till, at: int, code: str) -> CartDoc:
    """A cart of the history as it would come within the plan's days."""
    loaded, plan = till.room.loaded, till.doc
    batch, facts = loaded.batch, loaded.batch.facts
    lines = range(*(int(line) for line in batch.axes.first_line_by_cart[at : at + 2]))
    before, since = int(facts.orders_before_by_cart[at]), int(facts.days_since_by_cart[at])
    codes = {one for offer in till.plan.every for one in offer.given.accepted}
    minute = int(facts.minute_by_cart[at])
    return CartDoc(
        lines=[
            CartLineDoc(
                sku=batch.goods.skus[int(batch.sku_by_line[line])],
                quantity=int(batch.quantity_by_line[line]),
                unit_price=_unit_price(loaded, line),
            )
            for line in lines
        ],
        zone=loaded.shop.zone_names[int(batch.zone_by_cart[at])],
        time=datetime.combine(_day_like(int(facts.weekday_by_cart[at]), plan), datetime.min.time())
        + timedelta(minutes=minute if minute != UNKNOWN else 12 * 60),
        shopper=ShopperDoc(
            id=_named(facts.shopper, at),
            group=_named(facts.group, at),
            tags=[name for name, has in zip(facts.tags.names, facts.tags.has[:, at], strict=True) if has],
            orders_before=before if before != UNKNOWN else None,
            days_since=since if since != UNKNOWN else None,
        ),
        channel=_named(facts.channel, at),
        payment=_named(facts.payment, at),
        option=_named(facts.option, at),
        currency=_named(facts.currency, at),
        codes=[one for one in codes_in(code) if folded(one) in codes],
    )


def _unit_price(loaded: LoadedShop, line: int) -> int | None:
    goods, sku = loaded.batch.goods, int(loaded.batch.sku_by_line[line])
    return int(loaded.batch.standing_by_line[line]) if goods.list_price[sku] < 0 else None


def _day_like(weekday: int, plan: PlanDoc) -> date:
    """The plan's first day of that weekday, or its first day."""
    for number in range(min((plan.last_day - plan.first_day).days + 1, 7)):
        day = plan.first_day + timedelta(days=number)
        if day.weekday() == weekday:
            return day
    return plan.first_day


def _named(labels: Labels, at: int) -> str:
    number = int(labels.number_by_cart[at])
    return "" if number == UNKNOWN else labels.names[number]
