"""What orders tell of delivery and payment, beside what the shop has set; and tariffs made of what they cost."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.being_paid import being_paid
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.ground.naming import LONGEST_NAME
from yellow_abacus.delivery_cost import delivery_cost, go_by_costs
from yellow_abacus.delivery_paid import delivery_paid
from yellow_abacus.learning.charges_paid import PaidCharge
from yellow_abacus.refusals import ON_THE_WAY, refusals
from yellow_abacus.store.settings import check_settings
from yellow_abacus.told_by_orders import ways_named
from yellow_abacus.web.context import context
from yellow_abacus.web.delivery import DeliveryDoc, delivery_told
from yellow_abacus.web.problems import ApiError
from yellow_abacus.web.routes import Routes

api = Routes("told_of_delivery", __name__, "Delivery")


class DeliveryPaidDoc(BaseModel):
    """What orders of one zone paid for delivery by one option, as they name it, empty where they name none.

    days: the last of history that they are of, null for all. orders: that tell it; exact: of those, paid just what
    `charge` and `free_from` ask; another, others: what most of the rest paid, minor units, and how many, null and 0
    where there is no rest. ours: the shop's option of that name, or all those of the zone where they name none;
    as_asked: orders that paid just what one of these asks. dearest: the most the charge went by in any, minor units.
    share_bp: of the zone's orders that tell.
    """

    zone: str
    option: str
    days: int | None
    orders: int
    charge: PaidCharge
    free_from: int | None
    exact: int
    another: int | None
    others: int
    ours: list[str]
    as_asked: int
    dearest: int
    share_bp: int


class DeliveryCostDoc(BaseModel):
    """What orders of one zone cost to deliver by one option, as they name it, empty where they name none.

    days: the last of history that they are of, null for all. orders: that tell it; cost: of all of them together,
    minor units. ours: the shop's option of that name, or all those of the zone where they name none. by_tariffs: what
    the tariffs of those say that the same orders cost, minor units, null where one of them has none. tariff: what one
    cost by its weight; exact: how many cost just that, null where it is what they cost on average.
    """

    zone: str
    option: str
    days: int | None
    orders: int
    cost: int
    ours: list[str]
    by_tariffs: int | None
    tariff: Tariff
    exact: int | None


class BeingPaidDoc(BaseModel):
    """What orders paid one way cost for that.

    days: the last of history that they are of, null for all. orders: that tell it; cost: of all of them together,
    minor units. ours: the shop's way to pay of that name, empty where it has none; by_ours: what the same orders
    would cost by that, minor units. cost_bp, fixed: what one cost of its total, and minor units besides; exact: how
    many cost just that, give or take one minor unit, null where it is what they cost on average.
    """

    payment: str
    days: int | None
    orders: int
    cost: int
    ours: str
    by_ours: int | None
    cost_bp: int
    fixed: float
    exact: int | None


class WayBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    zone: Annotated[str, Field(max_length=LONGEST_NAME)]
    option: Annotated[str, Field(max_length=LONGEST_NAME)]


class TariffsOfCostsBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    ways: Annotated[list[WayBody], Field(min_length=1, max_length=200)]


class RefusalsDoc(BaseModel):
    """How many orders paid one way were refused on the way, as their status says; payment is empty for all of them,
    where none names one.

    days: the last of history that they are of, but for the last `on_the_way`; null for all. orders: that tell how
    they went; refused: of those. share_bp: of them, to a tenth of a percent. said_bp: the share that settings say,
    null where they have no such way to pay; clearly: whether chance alone makes no such number of that.
    """

    payment: str
    days: int | None
    on_the_way: int
    orders: int
    refused: int
    share_bp: int
    said_bp: int | None
    clearly: bool


class OptionNamedDoc(BaseModel):
    zone: str
    option: str
    orders: int


class PaymentNamedDoc(BaseModel):
    payment: str
    orders: int


class ToldOfDeliveryDoc(BaseModel):
    """What orders tell: what they paid for delivery, what that and being paid cost, how many were refused, and how
    many name each option and way to pay, of those that name one."""

    paid: list[DeliveryPaidDoc]
    cost: list[DeliveryCostDoc]
    being_paid: list[BeingPaidDoc]
    refused: list[RefusalsDoc]
    options: list[OptionNamedDoc]
    payments: list[PaymentNamedDoc]


@api.get("/delivery/told", responses={200: ToldOfDeliveryDoc})
def get_told():
    """What orders tell: how many name each option and way to pay, and what they paid for delivery, zone by zone, the
    option most went by first; that not of those with a code, in other currencies, or of days on which an offer for
    everybody lowered it. And what they cost to deliver, and to be paid, and how many were refused on the way."""
    loaded = context().room.current().loaded
    names = loaded.shop.zone_names
    named = ways_named(loaded)
    doc = ToldOfDeliveryDoc(
        options=[
            OptionNamedDoc(zone=names[zone], option=option, orders=orders)
            for zone, counts in named.options.items()
            for option, orders in counts.items()
        ],
        payments=[PaymentNamedDoc(payment=name, orders=orders) for name, orders in named.payments.items()],
        paid=[
            DeliveryPaidDoc(
                zone=names[one.zone],
                option=one.option,
                days=one.days,
                orders=one.orders,
                charge=one.found.charge,
                free_from=one.found.free_from,
                exact=one.found.exact,
                another=one.another,
                others=one.others,
                ours=list(one.ours),
                as_asked=one.as_asked,
                dearest=one.dearest,
                share_bp=one.share_bp,
            )
            for one in delivery_paid(loaded)
        ],
        cost=[
            DeliveryCostDoc(
                zone=names[one.zone],
                option=one.option,
                days=one.days,
                orders=one.orders,
                cost=one.cost,
                ours=list(one.ours),
                by_tariffs=None if one.by_tariffs is None else round(one.by_tariffs),
                tariff=one.tariff(names[one.zone]),
                exact=one.found.exact,
            )
            for one in delivery_cost(loaded)
        ],
        being_paid=[
            BeingPaidDoc(
                payment=one.payment,
                days=one.days,
                orders=one.orders,
                cost=one.cost,
                ours=one.ours,
                by_ours=None if one.by_ours is None else round(one.by_ours),
                **vars(one.found),
            )
            for one in being_paid(loaded)
        ],
        refused=[
            RefusalsDoc(**vars(one), on_the_way=ON_THE_WAY, share_bp=round(one.refused / one.orders * 1_000) * 10)
            for one in refusals(loaded)
        ],
    )
    return doc.model_dump(mode="json")


@api.post("/delivery/tariffs-of-costs", responses={200: DeliveryDoc})
def post_tariffs_of_costs(body: TariffsOfCostsBody):
    """Keep what orders cost as tariffs, by which some options go from now on."""
    at = context()
    loaded, ways = at.room.current().loaded, {(one.zone, one.option) for one in body.ways}
    with at.shop_file.changing("Take what orders cost") as session:
        if not go_by_costs(session, loaded, ways):
            message = "Too few orders by it tell what they cost to deliver."
            raise ApiError(404, "Nothing is told of it", message)
        check_settings(session)
        return delivery_told(session)
