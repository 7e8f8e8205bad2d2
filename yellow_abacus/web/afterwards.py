"""Afterwards: offers that ran before, and what they teach."""

from collections.abc import Iterator
from typing import Annotated

from flask import Response, stream_with_context
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel, ConfigDict, Field, RootModel

from yellow_abacus.bring_in_json import told_offer
from yellow_abacus.calculator import SupersededError
from yellow_abacus.counting import UnsoundPlanError
from yellow_abacus.files.learned_json import HistorySaysDoc, LookedDoc
from yellow_abacus.files.plan_json import OfferDoc
from yellow_abacus.learning.ran import MOST_PAST, past_problems
from yellow_abacus.looking_back import look_back
from yellow_abacus.store.history import version_to_be
from yellow_abacus.store.models import PastOfferRow
from yellow_abacus.store.told_offers import save_told
from yellow_abacus.web.context import context
from yellow_abacus.web.description import BY_LINE

api = APIBlueprint("afterwards", __name__, url_prefix="/api", abp_tags=[Tag(name="Afterwards")])


class PastBody(BaseModel):
    """Each with the days it ran. Whether one is `in_plan` says nothing here; of its response only the messages sent
    do."""

    model_config = ConfigDict(extra="forbid")

    offers: Annotated[list[OfferDoc], Field(max_length=MOST_PAST)]


class PastDoc(PastBody):
    """version: of the shop's data, rising with every change."""

    version: int


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


@api.get("/history-says", responses={200: LookLineDoc})
def get_history_says():
    """What history says of how shoppers responded. The answer comes line by line, each a JSON document: how far the
    look back is (`looked`), and last what was found (`found`). It ends when nobody listens."""
    at = context()
    found = look_back(at.room.current())

    def lines() -> Iterator[str]:
        try:
            while True:
                with at.turn("long", "history"):
                    one = next(found)
                yield one.model_dump_json() + "\n"
        except (StopIteration, SupersededError):
            return

    return Response(stream_with_context(lines()), content_type=BY_LINE)
