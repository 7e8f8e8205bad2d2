"""Offers that run already: today, for every plan."""

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.bring_in_json import told_offer
from yellow_abacus.core.forecast.check import MOST_OFFERS
from yellow_abacus.counting import UnsoundPlanError
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc
from yellow_abacus.store.models import RunningOfferRow
from yellow_abacus.store.told_offers import save_told
from yellow_abacus.web.context import context
from yellow_abacus.web.routes import Routes

api = Routes("running", __name__, "Offers that run already")


class RunningDoc(BaseModel):
    """In the order they apply. Whether one is `in_plan` says nothing here, and neither does its response: history
    holds what they do."""

    model_config = ConfigDict(extra="forbid")

    offers: Annotated[list[OfferDoc], Field(max_length=MOST_OFFERS)]


@api.get("/running", responses={200: RunningDoc})
def get_running():
    """The offers that run already."""
    return RunningDoc(offers=context().room.current().running).model_dump(mode="json")


@api.put("/running", responses={200: RunningDoc})
def put_running(body: RunningDoc):
    """Say which offers run already: these, and no others."""
    at, today = context(), date.today()
    held = at.room.current().loaded
    problems = PlanDoc(name="Running", first_day=today, last_day=today, offers=body.offers).problems(
        held.shop, held.batch.goods
    )
    if problems:
        raise UnsoundPlanError(problems)
    with at.shop_file.changing("Change what runs already") as session:
        save_told(session, RunningOfferRow, [told_offer(one) for one in body.offers])
    return RunningDoc(offers=body.offers).model_dump(mode="json")
