"""From a shop file and a plan to a forecast: what the command line and the web both call."""

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date
from threading import Lock

from yellow_abacus.caveats import Caveats
from yellow_abacus.core.advice.all_snags import snags_of
from yellow_abacus.core.advice.built import Bench
from yellow_abacus.core.advice.closing import closing
from yellow_abacus.core.advice.leaks import Leak, search
from yellow_abacus.core.advice.losing import losing
from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.carts.carts import CartTooLargeError
from yellow_abacus.core.forecast.curve import impact_curve
from yellow_abacus.core.forecast.each_offer import each_offer
from yellow_abacus.core.forecast.expected import Expected, MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecast, Forecaster
from yellow_abacus.core.forecast.former import Former
from yellow_abacus.core.forecast.outcome import averages_of, outcome_of
from yellow_abacus.core.forecast.outlook import Bare
from yellow_abacus.core.forecast.over_time import OverTime, over_time
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import range_of
from yellow_abacus.core.forecast.reach import reach
from yellow_abacus.core.forecast.shelf import Shelf, make_shelf
from yellow_abacus.core.forecast.working import Working
from yellow_abacus.core.ground.keeper import SMALL, Found, Keeper
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.stopping import undisturbed
from yellow_abacus.core.offers.gifts import TooMuchPutInError
from yellow_abacus.core.shop.twists import Twist
from yellow_abacus.files.forecast_json import (
    EachOfferDoc,
    ForecastDoc,
    RangeDoc,
    WholeForecastDoc,
    each_doc,
    forecast_doc,
    range_doc,
)
from yellow_abacus.files.kept_json import ExpectedOutcomeDoc, HowLongDoc, how_long_doc, outcome_doc
from yellow_abacus.files.leaks_json import LeaksDoc, SearchedDoc, leak_doc, losing_doc
from yellow_abacus.files.over_time_json import OverTimeDoc, over_time_doc
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc
from yellow_abacus.files.reasons_json import ReachDoc, reach_doc
from yellow_abacus.files.snags_json import SnagsDoc, snags_doc
from yellow_abacus.files.words import share
from yellow_abacus.files.working_json import NearCartDoc, WorkingDoc, working_doc
from yellow_abacus.learning.how_long import days_to_tell, orders_to_tell, spread_of
from yellow_abacus.store.loading import LoadedShop, load
from yellow_abacus.store.mixes import USUAL
from yellow_abacus.store.orders import numbers_of
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.store.told_offers import ToldOffer

BEFORE_A_REDUCTION = 30
"""Days: a reduction is told against the lowest price of so many days before it."""
EXPECTED_KEPT = 40_000_000
"""Bytes of mixes that plans expect."""
EXPLAINED_KEPT = 1_000_000
"""Bytes of what explains plans: which orders offers reach, and snags."""
IMPACTS_KEPT = 4_000_000
"""Bytes of what plans keep, draw by draw."""
TWISTS_KEPT = 6
"""Shops with something otherwise: as many as stand side by side."""


class UnsoundPlanError(Exception):
    """The plan makes no sense; `problems` tell where and why."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{problem.message} {problem.mend}" for problem in problems))
        self.problems = problems


@contextmanager
def within_bounds(doc: PlanDoc) -> Iterator[None]:
    """Turns what no cart can hold into what is wrong with the plan. Raises UnsoundPlanError."""
    try:
        yield
    except TooMuchPutInError as error:
        own = {offer.id: number for number, offer in enumerate(doc.offers)}
        where = ("offers", own[error.offer]) if error.offer in own else ("running",)
        path = (*where, "terms", "limits", "times")
        message = "On some order it puts in more than any cart can hold."
        raise UnsoundPlanError([Problem(path, message, "Limit how many times it is given.")]) from error


class UnsoundMixError(UnsoundPlanError):
    """The carts to expect make no sense in the shop; paths of `problems` are of the mix's terms."""


NO_CARTS = "There are no orders to forecast from. Bring some in at Carts, or sketch the carts you expect there."


class NothingToCountError(Exception):
    """There are no orders to forecast from."""


@dataclass(frozen=True, eq=False)
class Counted:
    """A shop as it was loaded, with the room to forecast in."""

    loaded: LoadedShop
    forecaster: Forecaster
    caveats: Caveats

    @property
    def shelf(self) -> Shelf:
        """The goods at today's prices."""
        today, loaded = date.today(), self.loaded
        goods = loaded.batch.goods.on_day(today)

        def find() -> Shelf:
            return make_shelf(loaded.shop, loaded.table, goods, self.usual(today), loaded.counted_days)

        return self._shelves.get((goods.price_key, loaded.mixes[USUAL]), find)

    def usual(self, day: date) -> list[tuple[Bare, Floats]]:
        """The usual carts at the prices of a day with no offer running, and how many of each come in as many days as
        were counted; those of the history where none are left to go by."""
        outlook, days = self.forecaster.outlook, self.loaded.counted_days
        try:
            expected = self.expecting_terms(self.loaded.mixes[USUAL], (day, day)).expected
        except (UnsoundPlanError, NothingToCountError):
            expected = self.forecaster.expected
        return [(outlook.bare(mix.on_day(day)), orders) for mix, orders in expected.over_days(day, days)]

    @cached_property
    def _shelves(self) -> Keeper:
        return Keeper.of_newest()

    @cached_property
    def running(self) -> list[OfferDoc]:
        """The offers that run already."""
        return [_as_doc(one) for one in self.loaded.running]

    @cached_property
    def past(self) -> list[OfferDoc]:
        """The offers that ran before."""
        return [_as_doc(one) for one in self.loaded.past]

    def checked(self, doc: PlanDoc) -> PlanDoc:
        """The plan beside the offers that run already. Raises UnsoundPlanError."""
        doc = doc.beside(self.running)
        problems = doc.problems(self.loaded.shop, self.loaded.batch.goods)
        if (doc.mix or USUAL) not in self.loaded.mixes:
            mend = f"Choose one of {', '.join(self.loaded.mixes)}."
            problems.append(Problem(("mix",), f"There are no carts to expect named “{doc.mix}”.", mend))
        if problems:
            raise UnsoundPlanError(problems)
        return doc

    def expecting(self, doc: PlanDoc) -> Forecaster:
        """A forecaster of the carts that a sound plan expects. Raises UnsoundPlanError and NothingToCountError."""
        terms, window = self.loaded.mixes[doc.mix or USUAL], (doc.first_day, doc.last_day)
        try:
            found = self.expecting_terms(terms, window)
        except UnsoundMixError as error:
            of_plan = [Problem(("mix",), one.message, f"At Carts: {one.mend}") for one in error.problems]
            raise UnsoundPlanError(of_plan) from error
        if sent_to_nobody := list(_sent_to_nobody(doc, found.expected)):
            raise UnsoundPlanError(sent_to_nobody)
        return found

    def expecting_terms(self, terms: MixTerms, window: tuple[date, date]) -> Forecaster:
        """Raises UnsoundMixError where no carts are left, and NothingToCountError where there were none."""
        key = (terms, window if terms.counted == "year_ago" else None)
        expected = self._expected.get(key, lambda: self._expect(terms, window))
        if not expected.has_carts and not self.loaded.batch.axes.carts:
            raise NothingToCountError(NO_CARTS)
        if not expected.volume.base or not expected.has_carts:
            message = "No orders are left to go by in the carts to expect."
            mend = "At Carts, go by more days, leave fewer out, or say how many orders come a day."
            raise UnsoundMixError([Problem(("counted",), message, mend)])
        return self._expecting.get(expected, lambda: self.forecaster.expecting(expected))

    def _expect(self, terms: MixTerms, window: tuple[date, date]) -> Expected:
        """Raises UnsoundPlanError where sketches name what the shop does not have."""
        goods, zones = self.loaded.batch.goods, self.loaded.shop.zone_names
        problems = [
            problem.inside("sketched", number)
            for number, one in enumerate(terms.sketched)
            for problem in one.problems_in(goods, zones)
        ]
        if problems:
            raise UnsoundMixError(problems)
        try:
            return expect(self.loaded.history, terms, window)
        except CartTooLargeError as error:
            path, mend = ("sketched",), "Sketch fewer units of it."
            raise UnsoundMixError([Problem(path, "A sketched cart is worth more than any can be.", mend)]) from error

    def told(self, doc: PlanDoc, found: Forecast, expected: Expected) -> ForecastDoc:
        """A forecast as it is answered. doc: its plan beside what runs already. expected: the carts it goes by."""
        loaded = self.loaded
        return forecast_doc(
            found,
            ids_of(doc),
            loaded.batch.goods.skus,
            loaded.currency,
            loaded.minor_digits,
            len(expected.counted.days),
            self.caveats_of(expected),
        )

    def told_by_day(self, doc: PlanDoc, found: OverTime) -> OverTimeDoc:
        """A plan day by day, as it is answered. doc: the plan beside what runs already."""
        marks = [(one.id, one.terms.when.first_day, one.terms.when.last_day) for one in doc.in_force]
        return over_time_doc(found, self.loaded.batch.goods, marks)

    def caveats_of(self, expected: Expected) -> list[str]:
        """The missing figures that forecasts of some carts lean on."""
        sketched = expected.sketched
        if sketched is None:
            return self.caveats.of_history
        by_hand = sketched.share_of_all(sketched.all)
        all_of_it = by_hand == 1 or not expected.has_history
        which = "All its carts are" if all_of_it else f"Up to {share(by_hand)} of its carts are"
        told = self._told.get(expected, lambda: self.caveats.of(self.forecaster.expecting(expected)))
        return [f"{which} sketched by hand.", *told]

    def twisted(self, twist: Twist) -> "Counted":
        """The same shop with something otherwise. Raises UnsoundPlanError, paths being of the twist."""
        loaded = self.loaded
        problems = list(twist.problems(loaded.shop, loaded.batch.goods))
        if problems:
            raise UnsoundPlanError(problems)

        try:
            return self._twisted.get(twist, lambda: fresh(loaded.twisted(twist)))
        except CartTooLargeError as error:
            message = "At such prices an order of the history is worth more than any cart can be."
            raise UnsoundPlanError([Problem(("change_bp",), message, "Choose a smaller change.")]) from error

    def let_go(self) -> None:
        """Forget all that was found of its carts."""
        self.forecaster.mix.let_go()
        self.forecaster.expected.let_go()
        for keeper in (self._twisted, self._expected, self._expecting, self._told):
            keeper.clear()

    @cached_property
    def impacts(self) -> Keeper:
        """Of plans that stand side by side, by draw."""
        return Keeper(IMPACTS_KEPT)

    @cached_property
    def _twisted(self) -> Keeper:
        return Keeper(most=TWISTS_KEPT * SMALL, things=TWISTS_KEPT, weigh=lambda _: 0)

    @cached_property
    def _told(self) -> Keeper:
        return Keeper.of_newest()  # of the mix that was asked for last

    @cached_property
    def _expecting(self) -> Keeper:
        return Keeper.of_newest()  # of the mix that was asked for last

    @cached_property
    def _expected(self) -> Keeper:
        return Keeper(most=EXPECTED_KEPT)


class CountingRoom:
    """Keeps the shop's arrays and priced results between forecasts, for as long as the shop does not change."""

    def __init__(self, shop_file: ShopFile, until: date | None = None) -> None:
        """until: leave out orders from this day on."""
        self.shop_file, self.until = shop_file, until
        self._lock = Lock()
        self._held: Counted | None = None
        self._shelf: Shelf | None = None
        self._working = Keeper.of_newest()  # of the plan that was asked for last
        self._explained = Keeper(EXPLAINED_KEPT, weigh=lambda doc: len(doc.model_dump_json()))

    def curve(self, docs: Sequence[PlanDoc | None]) -> list[float | None]:
        """The impact of variants of one plan, None for those that make no sense. Raises NothingToCountError."""
        at = self.current()
        shop, goods = at.loaded.shop, at.loaded.batch.goods
        beside = [None if doc is None else doc.beside(at.running) for doc in docs]
        sound = [None if doc is None or doc.problems(shop, goods) else doc for doc in beside]
        forecaster = next((at.expecting(doc) for doc in sound if doc is not None), at.forecaster)
        return impact_curve(forecaster, [None if doc is None else doc.plan() for doc in sound])

    def forecast(self, doc: PlanDoc) -> ForecastDoc:
        """Raises UnsoundPlanError and NothingToCountError."""
        at, doc, (found, expected) = self._counted(doc, lambda room, plan: (room.forecast(plan), room.expected))
        return at.told(doc, found, expected)

    def whole(self, doc: PlanDoc) -> WholeForecastDoc:
        """All that is told of a plan. Raises UnsoundPlanError and NothingToCountError."""
        told, each = self.forecast(doc), self.each_offer(doc)
        return WholeForecastDoc(**dict(told), range=self.range(doc), each=each.offers, over_time=self.over_time(doc))

    def how_long(self, doc: PlanDoc) -> HowLongDoc:
        """How long a plan must run to tell what it does. Raises UnsoundPlanError and NothingToCountError."""

        def find(room: Forecaster, plan: Plan) -> HowLongDoc:
            told, averages = room.forecast(plan), averages_of(room, plan)
            a_day = told.today.orders / plan.days
            needed = told.more_orders.value
            days = days_to_tell(needed or 0.0, a_day, spread_of(room.expected), len(room.expected.counted.days))
            orders = orders_to_tell(told.impact / max(told.today.orders, 1e-9), averages.variance_each)
            return how_long_doc(needed, days, None if orders is None else orders / a_day, plan.days)

        return self._counted(doc, find)[2]

    def outcome(self, doc: PlanDoc) -> ExpectedOutcomeDoc:
        """What a plan's days are to come to. Raises UnsoundPlanError and NothingToCountError."""
        beside = self.current().checked(doc)
        _, doc, found = self._counted(doc, outcome_of)
        return outcome_doc(found, ids_of(doc), names_of(beside))

    def range(self, doc: PlanDoc) -> RangeDoc:
        """How sure a plan's answer is. Raises UnsoundPlanError and NothingToCountError."""
        _, doc, found = self._counted(doc, range_of)
        return range_doc(found, ids_of(doc))

    def each_offer(self, doc: PlanDoc) -> EachOfferDoc:
        """What each offer does to a plan. Raises UnsoundPlanError and NothingToCountError."""
        _, doc, found = self._counted(doc, each_offer)
        return each_doc(found, ids_of(doc))

    def over_time(self, doc: PlanDoc) -> OverTimeDoc:
        """A plan day by day, and what it needs of the goods in stock. Raises UnsoundPlanError and
        NothingToCountError."""
        at, doc, found = self._counted(doc, over_time)
        return at.told_by_day(doc, found)

    def working(self, doc: PlanDoc, key: str) -> WorkingDoc:
        """How one figure of a forecast is made. Raises UnknownFigureError besides what `forecast` raises."""
        beside = self.current().checked(doc)
        at, doc, working = self._working.get(
            self._key(doc),
            lambda: self._counted(doc, lambda room, plan: Working(room, plan, names_of(beside))),
        )
        with within_bounds(doc):
            found = working.figure(key)
        ids = at.loaded.orders.ids
        with self.shop_file.reading() as session:
            numbers = numbers_of(session, [int(ids[cart]) for cart in found.carts])
        near = {cart: NearCartDoc(order_id=int(ids[cart]), number=numbers[int(ids[cart])]) for cart in found.carts}
        return working_doc(working, found, near)

    def reach(self, doc: PlanDoc) -> ReachDoc:
        """Which orders each offer reaches, and why not the rest. Raises UnsoundPlanError and NothingToCountError."""

        def find() -> ReachDoc:
            whole = self.current().loaded.round_amount
            at, beside, found = self._counted(doc, lambda room, plan: reach(room, plan, whole))
            return reach_doc(found, ids_of(beside), names_of(beside), at.loaded.currency, at.loaded.minor_digits)

        return self._explained.get(self._key("reach", doc), find)

    def snags(self, doc: PlanDoc, today: date) -> SnagsDoc:
        """What about a plan loses money, or does not do what it says. Raises UnsoundPlanError and
        NothingToCountError."""

        def find() -> SnagsDoc:
            lowest = self.current().loaded.lowest_asked(doc.first_day, BEFORE_A_REDUCTION)
            beside = self.current().checked(doc)
            at, _, found = self._counted(doc, lambda room, _: snags_of(scene_of(room, beside, today, lowest)))
            return snags_doc(found, beside, at.loaded.currency, at.loaded.minor_digits)

        return self._explained.get(self._key("snags", doc, today), find)

    def _key(self, *asked: object) -> tuple[object, ...]:
        """What a question about a plan, and the shop it is asked of, are known by."""
        told = (one.model_dump_json() if isinstance(one, PlanDoc) else one for one in asked)
        return (self.shop_file.data_version(), *told)

    def leaks(self, doc: PlanDoc, least: float, today: date) -> Iterator[SearchedDoc | LeaksDoc]:
        """Carts that lose money under a plan: how far the search is, and last all that was found. Raises
        UnsoundPlanError and NothingToCountError before it begins."""
        at = self.current()
        doc = at.checked(doc)
        scene = scene_of(at.expecting(doc), doc, today)
        bench = Bench(scene.shop, scene.goods, scene.offers, doc.apply, least, scene.running)
        return self._searched(at.loaded, scene, bench, doc)

    def _searched(
        self, loaded: LoadedShop, scene: Scene, bench: Bench, doc: PlanDoc
    ) -> Iterator[SearchedDoc | LeaksDoc]:
        with within_bounds(doc):
            carts, leaks = 0, tuple[Leak, ...]()
            for searched in search(bench, scene.units_by_sku):
                carts, leaks = searched.carts, searched.leaks
                yield SearchedDoc(share=searched.share, carts=carts, found=len(leaks))
            told = [
                leak_doc(leak, closing(scene, bench, leak), bench, doc, loaded.currency, loaded.minor_digits)
                for leak in leaks
            ]
            yield LeaksDoc(carts=carts, in_mix=[losing_doc(one, ids_of(doc)) for one in losing(scene)], leaks=told)

    def _counted(self, doc: PlanDoc, find: Callable[[Forecaster, Plan], Found]) -> tuple[Counted, PlanDoc, Found]:
        """What is found of a plan, the shop it was found in, and the plan beside what runs already there. Raises
        UnsoundPlanError and NothingToCountError."""
        at = self.current()
        doc = at.checked(doc)
        with within_bounds(doc):
            return at, doc, find(at.expecting(doc), doc.plan())

    def check(self, doc: PlanDoc) -> None:
        """Raises UnsoundPlanError."""
        self.current().checked(doc)

    def shelf(self) -> Shelf:
        """The goods at today's prices."""
        self._shelf = self.current().shelf
        return self._shelf

    def last_shelf(self) -> Shelf:
        """The goods as they were last looked through, which may be before the last change."""
        return self.shelf() if self._shelf is None else self._shelf

    def current(self) -> Counted:
        """The shop as it is now."""
        version = self.shop_file.data_version()
        with self._lock, undisturbed():
            if self._held is None or self._held.loaded.version != version:
                with self.shop_file.reading() as session:
                    before = self._held if self.until is None else None
                    loaded = load(session, None if before is None else before.loaded, self.shop_file.read_already())
                loaded = loaded if self.until is None else loaded.before(self.until)
                self._held = _counted(loaded, before)
                self._working.clear()  # which names the shop as it was
                self._explained.clear()
            return self._held


def _counted(loaded: LoadedShop, before: Counted | None) -> Counted:
    """The shop, with what still holds of all that was found before."""
    former = None
    if before is not None and loaded.touched is not None and loaded.shop is before.loaded.shop:
        if loaded.batch is before.loaded.batch and loaded.known == before.loaded.known:
            return Counted(loaded, before.forecaster, before.caveats)  # the same carts, of the same history
        former = before.forecaster.outlook.before(loaded.touched)
    counted = fresh(loaded, former, None if former is None or before is None else before.caveats.stuck)
    if before is not None and counted.forecaster.mix is not before.forecaster.mix:
        before.let_go()
    return counted


def fresh(loaded: LoadedShop, former: Former | None = None, stuck_before: Bools | None = None) -> Counted:
    """The shop, with nothing found of it yet. former, stuck_before: what still holds of what was."""
    forecaster = Forecaster(expect(loaded.history), former)
    return Counted(loaded, forecaster, Caveats(loaded, forecaster, stuck_before))


def _as_doc(told: ToldOffer) -> OfferDoc:
    return OfferDoc(id=told.offer_id, name=told.name, note=told.note, terms=told.terms)


def scene_of(forecaster: Forecaster, doc: PlanDoc, today: date, lowest: Ints | None = None) -> Scene:
    """doc: a plan beside what runs already. lowest: by SKU, as `Scene` has it."""
    notes = [offer.note for offer in doc.in_force]
    return Scene(forecaster, doc.plan().typed, names_of(doc), notes, today, lowest)


def ids_of(doc: PlanDoc) -> list[str]:
    """Of the offers in force under the plan, in order."""
    return [offer.id for offer in doc.in_force]


def names_of(doc: PlanDoc) -> list[str]:
    """Of the offers in force under the plan, in order, those without by their number on the rod."""
    names = doc.names
    return [names[id_] for id_ in ids_of(doc)]


def _sent_to_nobody(doc: PlanDoc, expected: Expected) -> Iterator[Problem]:
    """Messages to shoppers of whom no order is expected, so that it is not known what one would be like."""
    for number, one in enumerate(doc.offers):
        sends = one.terms.response.sends
        if not (one.in_plan and sends and sends.among):
            continue
        days = map(date.fromordinal, range(doc.first_day.toordinal(), doc.last_day.toordinal() + 1))
        if not expected.has_any(sends.among, days):
            path = ("offers", number, "terms", "response", "sends", "among")
            yield Problem(path, "No order to expect is by such shoppers.", "Choose others, or send it to all.")
