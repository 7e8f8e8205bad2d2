"""Leaks as JSON: carts of the mix that lose money under a plan, and carts that could be built."""

from datetime import datetime, time
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, RootModel

from yellow_abacus.core.advice.built import Bench
from yellow_abacus.core.advice.closing import Closing
from yellow_abacus.core.advice.leaks import Leak
from yellow_abacus.core.advice.losing import Losing
from yellow_abacus.core.ground.money import LARGEST_CART, shown
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.cart_json import CartDoc, CartLineDoc, ShopperDoc
from yellow_abacus.files.plan_json import PlanDoc, terms_of
from yellow_abacus.files.snags_json import SnagMendDoc
from yellow_abacus.files.words import sentence


class LeaksBody(BaseModel):
    """least: a cart leaks that keeps less than nothing, and so many minor units less than today."""

    model_config = ConfigDict(extra="forbid")

    plan: PlanDoc
    least: Annotated[int, Field(ge=1, le=LARGEST_CART)] = 100


class LosingDoc(BaseModel):
    """Carts of the mix that keep something today and lose money under these offers (ids): orders over the plan's
    days, their share, and what they lose, minor units."""

    offers: list[str]
    orders: float
    share: float
    lost: int


class LeakDoc(BaseModel):
    """A cart somebody could build. offers: ids of those that take effect. kept, kept_today: minor units.

    mend: the smallest change that closes it, of the offer `mends`; null where no single one does. loses: what a cart
    like it loses more than today even so.
    """

    cart: CartDoc
    offers: list[str]
    kept: int
    kept_today: int
    mends: str
    mend: SnagMendDoc | None
    loses: int


class SearchedDoc(BaseModel):
    """One line of the answer: how far the search is, and once it is done all that it found."""

    share: float
    carts: int
    found: int
    kind: Literal["searched"] = "searched"


class LeaksDoc(BaseModel):
    """The last line. in_mix: those that lose most first; leaks: likewise."""

    carts: int
    in_mix: list[LosingDoc]
    leaks: list[LeakDoc]
    kind: Literal["found"] = "found"


class StoppedDoc(BaseModel):
    """The last line where the search came to nothing: why."""

    detail: str
    kind: Literal["stopped"] = "stopped"


class LeakLineDoc(RootModel[Annotated[SearchedDoc | LeaksDoc | StoppedDoc, Field(discriminator="kind")]]):
    """One line of the answer."""


def losing_doc(one: Losing, ids: list[str]) -> LosingDoc:
    return LosingDoc(offers=[ids[at] for at in one.offers], orders=one.orders, share=one.share, lost=shown(one.lost))


def leak_doc(
    leak: Leak, closing: Closing | None, bench: Bench, plan: PlanDoc, currency: str, minor_digits: int
) -> LeakDoc:
    ids = [offer.id for offer in plan.in_force]
    mend = None
    if closing is not None:
        label = sentence(closing.mend.label, currency, minor_digits, whole=False)
        mend = SnagMendDoc(label=label, terms=terms_of(closing.mend.offer))
    return LeakDoc(
        cart=_cart(leak, bench, plan),
        offers=[ids[at] for at in leak.offers],
        kept=shown(leak.kept),
        kept_today=shown(leak.kept_today),
        mends="" if closing is None else ids[closing.offer],
        mend=mend,
        loses=0 if closing is None else shown(closing.loses),
    )


def _cart(leak: Leak, bench: Bench, plan: PlanDoc) -> CartDoc:
    guise, offers = bench.guises[leak.guise], plan.plan().offers
    written = {folded(code): code for one in offers for code in one.given.written}
    codes = [written.get(key.removeprefix("list:"), key) for key in leak.codes]
    return CartDoc(
        lines=[CartLineDoc(sku=bench.goods.skus[sku], quantity=units) for sku, units in leak.lines],
        zone=bench.shop.zone_names[leak.zone],
        time=_moment(leak, bench, plan),
        shopper=ShopperDoc(
            id=guise.shopper,
            group=guise.group,
            tags=[guise.tag] if guise.tag else [],
            orders_before=guise.orders_before,
            days_since=guise.days_since if guise.days_since >= 0 else None,
        ),
        channel=guise.channel,
        payment=guise.payment,
        option=bench.shop.delivery.name_of(leak.option),
        codes=codes,
    )


def _moment(leak: Leak, bench: Bench, plan: PlanDoc) -> datetime:
    """The plan's first day like the guise's on which all offers of the leak are open."""
    guise, doc = bench.guises[leak.guise], plan.plan()
    clock = time(guise.minute // 60 % 24, guise.minute % 60)
    days = [day for day in doc.window() if all(doc.offers[at].on_day(day) is not None for at in leak.offers)]
    like = [day for day in days if day.weekday() == guise.weekday]
    return datetime.combine((like or days or [plan.first_day])[0], clock)
