"""The carts to expect: mixes by name, and what they come to."""

from collections.abc import Callable, Sequence
from datetime import date
from typing import Annotated, TypeVar

from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.forecast.check import LONGEST_WINDOW
from yellow_abacus.core.forecast.expected import Expected, MixTerms
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.free_from import kept_by_free_from
from yellow_abacus.core.forecast.mix_seen import corrections, seen
from yellow_abacus.core.forecast.sold_together import Together, sold_together
from yellow_abacus.core.forecast.spread_of_mix import HOURS, By, OpenTo, groups, spread
from yellow_abacus.core.forecast.volume import ALL_YEAR, AS_ANY, MONTHS, measured
from yellow_abacus.core.forecast.volume_before import off_before
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP, Floats
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.counting import Counted, NothingToCountError, UnsoundMixError
from yellow_abacus.store.history import version_to_be
from yellow_abacus.store.mixes import USUAL, all_mixes, delete_mix, save_mix
from yellow_abacus.store.models import PlanRow
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import missing
from yellow_abacus.web.routes import Routes

api = Routes("mixes", __name__, "Carts to expect")

Window = tuple[date, date]
Found = TypeVar("Found")
MOST_OPEN_TO = 1_000
MixName = Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]


class MixDoc(BaseModel):
    """plans: how many use it."""

    name: str
    terms: MixTerms
    plans: int


class MixesDoc(BaseModel):
    """The usual one first."""

    version: int
    mixes: list[MixDoc]


class MixBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: MixName
    terms: MixTerms


class MixQuery(BaseModel):
    name: MixName


class SeenBody(BaseModel):
    """Terms as they are written, saved or not, and the days to look at."""

    model_config = ConfigDict(extra="forbid")

    terms: MixTerms
    first_day: date
    last_day: date


class SpreadBody(SeenBody):
    """open_to: whose orders are told in finer bands, such as those an offer with a threshold is open to."""

    by: By = "value"
    open_to: Annotated[list[OpenTo], Field(max_length=MOST_OPEN_TO)] = []


class BandsDoc(BaseModel):
    """fine: orders by bands of fine_width, as far as the bands go. beyond: those above."""

    fine: list[float]
    beyond: float


class SpreadDoc(BaseModel):
    """Expected orders by what is in the cart, before any offer.

    One entry a band of `width` from 0 on, the last for all above: orders; what they pay and what is kept of it, minor
    units. width: minor units, units or grams.

    open_to: the orders in finer bands, one entry for each that was asked for.
    """

    width: int
    orders: list[float]
    paid: list[float]
    kept: list[float]
    fine_width: int
    open_to: list[BandsDoc]


class GroupOfDoc(BaseModel):
    """orders expected, and what is kept of them, minor units."""

    label: str
    orders: float
    kept: float


class GroupsDoc(BaseModel):
    """Expected orders before any offer: by zone; of first and returning shoppers; by weekday from Monday and hour."""

    zones: list[GroupOfDoc]
    shoppers: list[GroupOfDoc]
    orders_by_hour: list[list[float]]
    kept_by_hour: list[list[float]]


class FreeFromBody(SeenBody):
    """free_from: the value of goods, minor units, from which some options are free today. values: others to look
    at."""

    free_from: Annotated[int, Field(ge=1, le=LARGEST_CART)]
    values: Annotated[list[Annotated[int, Field(ge=1, le=LARGEST_CART)]], Field(min_length=1, max_length=80)]


class FreeFromDoc(BaseModel):
    """What the days keep before any offer, minor units: as it is, and with each of the values."""

    now: float
    kept: list[float]


class TogetherDoc(BaseModel):
    """Products that are bought together. products: by name; of: the goods of each. orders: expected that hold all.

    lift: how many times as often as by chance.
    """

    products: list[str]
    of: list[Scope]
    orders: float
    lift: float


class SoldTogetherDoc(BaseModel):
    """The ones with the most orders beyond chance first."""

    found: list[TogetherDoc]


class CorrectionDoc(BaseModel):
    """What one part of the terms adds, minor units."""

    part: str
    orders: float
    goods: float
    kept: float


class VolumeBeforeDoc(BaseModel):
    """How far off forecasts of as many days were, each from the history before it: 5 and 95 % points of what comes,
    in times what is forecast. stretches: how many were looked at."""

    low_bp: int
    high_bp: int
    stretches: int


class SeenDoc(BaseModel):
    """Of some days, no offer running. goods (with tax) and kept: minor units. first_share: null where it is unknown.

    weekday, month: the profiles gone by, in times an average day, from Monday and January; weekday_counted,
    month_counted: those that were counted. tells_weekdays: whether enough weeks were; days_of_month: how many days of
    each month. before: null where the history is too short to tell, or the terms do not go by it.
    """

    orders: float
    goods: float
    kept: float
    first_share: float | None
    counted_days: int
    counted_orders: int
    weekday: list[float]
    month: list[float]
    weekday_counted: list[float]
    month_counted: list[float]
    tells_weekdays: bool
    days_of_month: list[int]
    corrections: list[CorrectionDoc]
    before: VolumeBeforeDoc | None


@api.get("/mixes", responses={200: MixesDoc})
def get_mixes():
    with context().shop_file.reading() as session:
        return _doc(session).model_dump(mode="json")


@api.put("/mixes", responses={200: MixesDoc})
def put_mix(body: MixBody):
    """Keep a mix; one of the same name is replaced."""
    _check(body.terms)
    name = body.name.strip()
    with context().shop_file.changing(f"Change the carts to expect, {name}") as session:
        save_mix(session, name, body.terms)
        return _doc(session).model_dump(mode="json")


@api.delete("/mixes", responses={200: MixesDoc})
def remove_mix(query: MixQuery):
    """Forget a mix that no plan uses; the usual one is as the history shows it again."""
    with context().shop_file.changing(f"Forget the carts to expect, {query.name}") as session:
        plans = _plans(session).get(query.name, 0)
        if plans and query.name != USUAL:
            message = f"{plans} of your plans {'uses' if plans == 1 else 'use'} “{query.name}”."
            raise SettingsError([Problem(("name",), message, "Let them expect other carts first.")])
        if not delete_mix(session, query.name):
            raise missing("The mix")
        return _doc(session).model_dump(mode="json")


@api.post("/mixes/seen", responses={200: SeenDoc})
def post_seen(body: SeenBody):
    """What a mix comes to over some days, saved or not."""
    return (_look(body, "mix", _seen) or _nothing()).model_dump(mode="json")


def _seen(held: Counted, forecaster: Forecaster, window: Window) -> SeenDoc:
    expected = forecaster.expected
    terms, counted = expected.terms, measured(expected.counted, expected.terms.named)
    has_history = expected.history.batch.axes.carts > 0
    added = corrections(terms, window, lambda some: held.expecting_terms(some, window)) if has_history else []
    return SeenDoc(
        **vars(seen(forecaster, window)),
        counted_days=len(expected.counted.days),
        counted_orders=expected.orders,
        weekday=list(expected.volume.weekday),
        month=list(expected.volume.month),
        weekday_counted=list(counted.weekday),
        month_counted=list(counted.month),
        tells_weekdays=expected.counted.tells_weekdays,
        days_of_month=expected.counted.days_of_month.tolist(),
        corrections=[CorrectionDoc(**vars(one)) for one in added],
        before=_before(expected, (window[1] - window[0]).days + 1),
    )


def _before(expected: Expected, days: int) -> VolumeBeforeDoc | None:
    found = off_before(expected, days)
    if found is None:
        return None
    low, high = (round(one * WHOLE_BP, -2) for one in found.between)  # to whole percents: it is no surer than that
    return VolumeBeforeDoc(low_bp=int(low), high_bp=int(high), stretches=found.stretches)


@api.post("/mixes/spread", responses={200: SpreadDoc})
def post_spread(body: SpreadBody):
    """The carts of a mix over some days by what is in them."""
    found = _look(body, "spread", lambda _, forecaster, window: spread(forecaster, window, body.by, body.open_to))
    if found is None:
        return SpreadDoc(width=1, orders=[], paid=[], kept=[], fine_width=1, open_to=[]).model_dump(mode="json")
    return SpreadDoc(
        width=found.width,
        orders=found.orders.tolist(),
        paid=found.paid.tolist(),
        kept=found.kept.tolist(),
        fine_width=found.fine_width,
        open_to=[BandsDoc(fine=fine[:-1], beyond=fine[-1]) for fine in found.fine.tolist()],
    ).model_dump(mode="json")


@api.post("/mixes/groups", responses={200: GroupsDoc})
def post_groups(body: SeenBody):
    """The carts of a mix over some days by whose they are and when they come."""
    nobody = GroupsDoc(zones=[], shoppers=[], orders_by_hour=[], kept_by_hour=[])
    return (_look(body, "groups", _by_group) or nobody).model_dump(mode="json")


def _by_group(held: Counted, forecaster: Forecaster, window: Window) -> GroupsDoc:
    found = groups(forecaster, window)
    orders, kept = (figures.reshape(WEEKDAYS, HOURS).tolist() for figures in found.hour)
    return GroupsDoc(
        zones=_groups(held.loaded.shop.zone_names, *found.zone),
        shoppers=_groups(("First orders", "Returning shoppers"), *found.shopper),
        orders_by_hour=orders,
        kept_by_hour=kept,
    )


@api.post("/mixes/free-from", responses={200: FreeFromDoc})
def post_free_from(body: FreeFromBody):
    """What a mix keeps over some days if delivery were free from other values."""
    values = [body.free_from, *body.values]
    found = _look(body, "free from", lambda _, at, window: kept_by_free_from(at, window, body.free_from, values))
    now, *kept = found or [0.0] * len(values)
    return FreeFromDoc(now=now, kept=kept).model_dump(mode="json")


MOST_TOGETHER, MOST_OF_EACH = 8, 2


@api.post("/mixes/together", responses={200: SoldTogetherDoc})
def post_together(body: SeenBody):
    """What is bought together in the carts of a mix over some days."""
    found = _look(
        body,
        "together",
        lambda held, at, window: _together(held, sold_together(at, window, MOST_TOGETHER, MOST_OF_EACH)),
    )
    return SoldTogetherDoc(found=found or []).model_dump(mode="json")


def _together(held: Counted, found: Sequence[Together]) -> list[TogetherDoc]:
    goods = held.loaded.batch.goods
    sku_of = {int(number): at for at, number in reversed(list(enumerate(goods.product_number)))}
    told = []
    for one in found:
        skus = [sku_of[number] for number in one.products]
        names = [goods.products[at] or goods.skus[at] for at in skus]
        of = [
            Scope(products=(goods.products[at],)) if goods.products[at] else Scope(skus=(goods.skus[at],))
            for at in skus
        ]
        told.append(TogetherDoc(products=names, of=of, orders=one.orders, lift=one.lift))
    return told


def _look(body: SeenBody, what: str, find: Callable[[Counted, Forecaster, Window], Found]) -> Found | None:
    """What `find` finds of the mix over the days; None in a shop without carts. Raises SettingsError."""
    window, at = _window(body), context()
    with at.turn("quick", what):
        held = at.room.current()
        try:
            return find(held, held.expecting_terms(body.terms, window), window)
        except NothingToCountError:
            return None
        except UnsoundMixError as error:
            raise SettingsError([problem.inside("terms") for problem in error.problems]) from error


def _groups(labels: Sequence[str], orders: Floats, kept: Floats) -> list[GroupOfDoc]:
    told = zip(labels, orders.tolist(), kept.tolist(), strict=True)
    return [GroupOfDoc(label=label, orders=count, kept=money) for label, count, money in told]


def _window(body: SeenBody) -> Window:
    """The days to look at. Raises SettingsError, also for the terms."""
    _check(body.terms)
    window = (body.first_day, body.last_day)
    if not 0 <= (window[1] - window[0]).days < LONGEST_WINDOW:
        message = f"These are not days from 1 to {LONGEST_WINDOW}."
        raise SettingsError([Problem(("last_day",), message, "Choose a last day after the first.")])
    return window


def _nothing() -> SeenDoc:
    """Of a shop without orders."""
    as_any, all_year = list(AS_ANY), list(ALL_YEAR)
    return SeenDoc(
        orders=0,
        goods=0,
        kept=0,
        first_share=None,
        counted_days=0,
        counted_orders=0,
        weekday=as_any,
        month=all_year,
        weekday_counted=as_any,
        month_counted=all_year,
        tells_weekdays=False,
        days_of_month=[0] * MONTHS,
        corrections=[],
        before=None,
    )


def _check(terms: MixTerms) -> None:
    """Raises SettingsError."""
    if problems := list(terms.problems()):
        raise SettingsError([problem.inside("terms") for problem in problems])


def _doc(session: Session) -> MixesDoc:
    plans = _plans(session)
    mixes = [MixDoc(name=name, terms=terms, plans=plans.get(name, 0)) for name, terms in all_mixes(session).items()]
    return MixesDoc(version=version_to_be(session), mixes=mixes)


def _plans(session: Session) -> dict[str, int]:
    counted = session.execute(select(PlanRow.mix, func.count()).group_by(PlanRow.mix))
    return {name or USUAL: count for name, count in counted}
