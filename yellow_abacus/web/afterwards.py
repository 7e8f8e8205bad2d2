"""Afterwards: offers that ran before, and what they teach."""

from collections.abc import Callable
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, RootModel
from sqlalchemy.orm import Session

from yellow_abacus.bring_in_json import told_offer
from yellow_abacus.core.clauses.response import MOST_SENT
from yellow_abacus.counting import CountingRoom, UnsoundPlanError
from yellow_abacus.files.kept_json import AgainstDoc, BehindDoc, KeptLineDoc, RecordDoc
from yellow_abacus.files.learned_json import HistorySaysDoc, LookedDoc
from yellow_abacus.files.next_json import BeforeDoc, OfSentDoc, of_sent_doc
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc
from yellow_abacus.files.short_tests import ShortTestsDoc
from yellow_abacus.keeping import NothingCameError, against, behind_part, keep_forecast, listed, record
from yellow_abacus.learning.next_offers import Next
from yellow_abacus.learning.ran import MOST_PAST, past_problems
from yellow_abacus.learning.splitting import Key
from yellow_abacus.looking_back import look_back, tests_of
from yellow_abacus.store.history import version_to_be
from yellow_abacus.store.kept import all_kept
from yellow_abacus.store.models import KeptForecastRow, PastOfferRow
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.store.told_offers import save_told
from yellow_abacus.web.by_line import by_line
from yellow_abacus.web.context import context, in_turn
from yellow_abacus.web.counting_board import LARGEST_ID
from yellow_abacus.web.problems import ApiError, missing
from yellow_abacus.web.routes import Routes

api = Routes("afterwards", __name__, "Afterwards")


class PastBody(BaseModel):
    """Each with the days it ran. Whether one is `in_plan` says nothing here; of its response only the messages sent
    do."""

    model_config = ConfigDict(extra="forbid")

    offers: Annotated[list[OfferDoc], Field(max_length=MOST_PAST)]


class NextSentBody(BaseModel):
    """before: as history says it of a next offer whose code is sent."""

    model_config = ConfigDict(extra="forbid")

    before: Annotated[list[BeforeDoc], Field(min_length=1, max_length=MOST_PAST)]
    sent: Annotated[int, Field(ge=1, le=MOST_SENT)]


class PastDoc(PastBody):
    """version: of the shop's data, rising with every change."""

    version: int


class KeptForecastsDoc(BaseModel):
    """The newest first."""

    kept: list[KeptLineDoc]


class KeptPath(BaseModel):
    kept_id: Annotated[int, Field(ge=1, le=LARGEST_ID)]


class PartPath(KeptPath):
    part: Key


class LookLineDoc(RootModel[Annotated[LookedDoc | HistorySaysDoc, Field(discriminator="kind")]]):
    """One line of a look back."""


@api.get("/past", responses={200: PastDoc})
def get_past():
    """The offers that ran before."""
    held = context().room.current()
    return PastDoc(offers=held.past, version=held.loaded.version).model_dump(mode="json")


@api.put("/past", responses={200: PastDoc})
def put_past(body: PastBody):
    """Say which offers ran before: these, and no others."""
    at = context()
    held = at.room.current().loaded
    problems = [
        problem.inside("offers")
        for problem in past_problems([one.offer() for one in body.offers], held.shop, held.batch.goods)
    ]
    if problems:
        raise UnsoundPlanError(problems)
    with at.shop_file.changing("Change what ran before") as session:
        save_told(session, PastOfferRow, [told_offer(one) for one in body.offers])
        return PastDoc(offers=body.offers, version=version_to_be(session)).model_dump(mode="json")


@api.get("/kept", responses={200: KeptForecastsDoc})
def get_kept():
    """The forecasts that were kept."""
    return _all_kept()


@api.get("/kept-record", responses={200: RecordDoc})
def get_record():
    """How good the kept forecasts were."""
    at = context()
    with at.shop_file.reading() as session:
        rows = all_kept(session)
        session.expunge_all()
    return in_turn("long", "record", lambda room: record(room, rows))


@api.post("/kept", responses={200: KeptForecastsDoc})
def post_kept(body: PlanDoc):
    """Keep what a plan's forecast says now, to hold it against what comes."""
    at = context()
    with at.calculator.turn("long"):  # what is saved is not dropped
        keep_forecast(at.shop_file, at.room, body)
    return _all_kept()


@api.delete("/kept/<int:kept_id>", responses={200: KeptForecastsDoc})
def delete_kept(path: KeptPath):
    """Keep a forecast no more."""
    with context().shop_file.changing("Keep a forecast no more") as session:
        session.delete(_kept(session, path.kept_id))
    return _all_kept()


@api.get("/kept/<int:kept_id>", responses={200: AgainstDoc})
def get_against(path: KeptPath):
    """A kept forecast, held against the orders of its days."""
    return _came_of(path.kept_id, "against", against)


@api.get("/kept/<int:kept_id>/<part>", responses={200: BehindDoc})
def get_behind(path: PartPath):
    """What a part of the difference between a kept forecast and what came is made of."""
    return _came_of(path.kept_id, "behind", lambda shop, room, row: behind_part(shop, room, row, path.part))


def _came_of(
    kept_id: int, turn: str, find: Callable[[ShopFile, CountingRoom, KeptForecastRow], BaseModel]
) -> dict[str, Any]:
    """What is found of a kept forecast once some orders of its days came."""
    at = context()
    with at.shop_file.reading() as session:
        row = _kept(session, kept_id)
        session.expunge_all()
    try:
        with at.turn("long", turn):
            return find(at.shop_file, at.room, row).model_dump(mode="json")
    except NothingCameError as error:
        raise ApiError(409, "Nothing came yet", str(error)) from error


def _kept(session: Session, kept_id: int) -> KeptForecastRow:
    row = session.get(KeptForecastRow, kept_id)
    if row is None:
        raise missing("The kept forecast")
    return row


def _all_kept() -> dict[str, Any]:
    at = context()
    last = at.room.current().loaded.orders.last_day
    with at.shop_file.reading() as session:
        return KeptForecastsDoc(kept=[listed(row, last) for row in all_kept(session)]).model_dump(mode="json")


@api.get("/history-says", responses={200: LookLineDoc})
def get_history_says():
    """What history says of how shoppers responded. The answer comes line by line, each a JSON document: how far the
    look back is (`looked`), and last what was found (`found`). It ends when nobody listens."""
    return by_line(look_back(context().room.current()), "history")


@api.get("/short-tests", responses={200: ShortTestsDoc})
def get_short_tests():
    """What a short test would tell of each figure of the response, where history says nothing of it."""
    return in_turn("long", "tests", lambda room: ShortTestsDoc(tests=tests_of(room.current())))


@api.post("/next-sent", responses={200: OfSentDoc})
def post_next_sent(body: NextSentBody):
    """What a next message with a code may do, sent to so many, as those before it did."""
    following = Next("sent", tuple(one.before() for one in body.before))

    def find(room: CountingRoom) -> OfSentDoc:
        loaded = room.current().loaded
        return of_sent_doc(following.sent_to(body.sent), loaded.currency, loaded.minor_digits)

    return in_turn("long", "next sent", find)
