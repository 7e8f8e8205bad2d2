"""The Counting board: plans, and what they do."""

from datetime import date
from typing import Annotated

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yellow_abacus.bring_in_json import plan_of, plan_values
from yellow_abacus.core.forecast.working import UnknownFigureError
from yellow_abacus.files.better_json import BetterBody, BetterLineDoc
from yellow_abacus.files.forecast_json import EachOfferDoc, ForecastDoc, RangeDoc
from yellow_abacus.files.kept_json import HowLongDoc
from yellow_abacus.files.leaks_json import LeakLineDoc, LeaksBody, StoppedDoc
from yellow_abacus.files.over_time_json import OverTimeDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.pointers import LARGEST_FIGURE, Figures, NoFigureError, Pointer
from yellow_abacus.files.reasons_json import ReachDoc
from yellow_abacus.files.snags_json import SnagsDoc
from yellow_abacus.files.working_json import WorkingDoc
from yellow_abacus.improving import better_plans
from yellow_abacus.store.models import PlanRow
from yellow_abacus.store.plans import add_plan, all_plans, save_plan
from yellow_abacus.web.by_line import by_line
from yellow_abacus.web.context import context, in_turn
from yellow_abacus.web.problems import ApiError, FieldProblem, missing
from yellow_abacus.web.routes import Routes

LARGEST_ID = 2**53
"""No file has more rows than can be told apart in a browser."""

api = Routes("counting_board", __name__, "Counting board")


Value = Annotated[int, Field(ge=-LARGEST_FIGURE, le=LARGEST_FIGURE)]


class PlanPath(BaseModel):
    plan_id: Annotated[int, Field(ge=1, le=LARGEST_ID)]


class SavedPlanDoc(BaseModel):
    """revision: hand it back when saving."""

    id: int
    revision: int
    plan: PlanDoc


class PlansDoc(BaseModel):
    plans: list[SavedPlanDoc]


class SavePlanBody(BaseModel):
    revision: int
    plan: PlanDoc


class CurveBody(BaseModel):
    """pointers: JSON pointers into the plan, to the figure that is looked at, wherever it stands. values: those it
    could have."""

    plan: PlanDoc
    pointers: Annotated[list[Pointer], Field(min_length=1, max_length=20)]
    values: Annotated[
        list[Annotated[int, Field(ge=-LARGEST_FIGURE, le=LARGEST_FIGURE)]], Field(min_length=1, max_length=40)
    ]

    def variants(self) -> list[PlanDoc | None]:
        """The plan with each of the values; None where that is no plan at all. Raises ApiError."""
        try:
            figures = Figures(self.plan, self.pointers)
        except NoFigureError as error:
            raise no_figure(f"/pointers/{error.number}", error) from error
        return [figures.plan_with(dict.fromkeys(self.pointers, value)) for value in self.values]


def no_figure(at: str, error: NoFigureError) -> ApiError:
    """at: where the pointer stands in the request."""
    fault = FieldProblem(pointer=at, message=str(error), mend="Point to a number of the plan.")
    return ApiError(422, "No such figure", str(error), [fault])


class WorkingBody(BaseModel):
    """key: of the figure; what it is made of has keys of its own."""

    plan: PlanDoc
    key: Annotated[str, Field(min_length=1, max_length=200)]


class CurveDoc(BaseModel):
    """impacts: plan minus today at each value, minor units; null for one that makes no sense."""

    impacts: list[float | None]


def _doc(row: PlanRow) -> SavedPlanDoc:
    plan = plan_of(row)
    return SavedPlanDoc(id=row.id, revision=row.revision, plan=plan)


@api.get("/plans", responses={200: PlansDoc})
def get_plans():
    with context().shop_file.reading() as session:
        return PlansDoc(plans=[_doc(row) for row in all_plans(session)]).model_dump(mode="json")


@api.post("/plans", responses={201: SavedPlanDoc})
def post_plan(body: PlanDoc):
    context().room.check(body)
    with context().shop_file.changing(f"Add {body.name}") as session:
        return _doc(add_plan(session, plan_values(body))).model_dump(mode="json"), 201


@api.put("/plans/<int:plan_id>", responses={200: SavedPlanDoc})
def put_plan(path: PlanPath, body: SavePlanBody):
    context().room.check(body.plan)
    with context().shop_file.changing(f"Change {body.plan.name}") as session:
        row = session.get(PlanRow, path.plan_id)
        if row is None:
            raise missing("The plan")
        save_plan(session, row, plan_values(body.plan), body.revision)
        return _doc(row).model_dump(mode="json")


@api.delete("/plans/<int:plan_id>", responses={204: None})
def delete_plan(path: PlanPath):
    def plan_in(session: Session) -> PlanRow:
        row = session.get(PlanRow, path.plan_id)
        if row is None:
            raise missing("The plan")
        return row

    with context().shop_file.reading() as session:
        name = plan_in(session).name
    with context().shop_file.changing(f"Delete {name}") as session:
        session.delete(plan_in(session))
    return "", 204


@api.post("/forecast", responses={200: ForecastDoc})
def post_forecast(body: PlanDoc):
    """Forecast a plan as it stands on the board, saved or not."""
    return in_turn("quick", "forecast", lambda room: room.forecast(body))


@api.post("/forecast/range", responses={200: RangeDoc})
def post_range(body: PlanDoc):
    """How sure a plan's answer is: its impact over many draws of every figure that has a range."""
    return in_turn("long", "range", lambda room: room.range(body))


@api.post("/forecast/each", responses={200: EachOfferDoc})
def post_each(body: PlanDoc):
    """What each offer does to a plan: the plan without it, and the offers piled on one by one."""
    return in_turn("long", "each", lambda room: room.each_offer(body))


@api.post("/forecast/days", responses={200: OverTimeDoc})
def post_days(body: PlanDoc):
    """A plan day by day beside today, and what it needs of the goods in stock."""
    return in_turn("long", "days", lambda room: room.over_time(body))


@api.post("/forecast/working", responses={200: WorkingDoc})
def post_working(body: WorkingBody):
    """How one figure of a forecast is made, from figures that add up to it."""
    try:
        return in_turn("long", "working", lambda room: room.working(body.plan, body.key))
    except UnknownFigureError as error:
        message = f"There is no figure “{body.key}”."
        mend = "Ask for “impact”, “today” or “plan”, or one of their parts."
        fault = FieldProblem(pointer="/key", message=message, mend=mend)
        raise ApiError(422, "No such figure", message, [fault]) from error


@api.post("/reach", responses={200: ReachDoc})
def post_reach(body: PlanDoc):
    """Which orders each offer of a plan reaches, and what keeps it from the rest."""
    return in_turn("long", "reach", lambda room: room.reach(body))


@api.post("/snags", responses={200: SnagsDoc})
def post_snags(body: PlanDoc):
    """What about a plan loses money, or does not do what it says, with a mend where there is one."""
    return in_turn("long", "snags", lambda room: room.snags(body, date.today()))


@api.post("/how-long", responses={200: HowLongDoc})
def post_how_long(body: PlanDoc):
    """How long a plan must run until what it does can be told from chance."""
    return in_turn("long", "how long", lambda room: room.how_long(body))


@api.post("/leaks", responses={200: LeakLineDoc})
def post_leaks(body: LeaksBody):
    """Search for carts that lose money under a plan. The answer comes line by line, each a JSON document: how far the
    search is (`searched`), and last all that was found (`found`), or why nothing was. It ends when nobody listens."""
    found = context().room.leaks(body.plan, float(body.least), date.today())
    return by_line(found, "leaks", lambda error: StoppedDoc(detail=str(error)))


@api.post("/better", responses={200: BetterLineDoc})
def post_better(body: BetterBody):
    """Search for better plans by moving some figures of one. The answer comes line by line, each a JSON document:
    how far the search is (`tried`), and last what it found (`found`), or why nothing was. It ends when nobody
    listens."""
    try:
        found = better_plans(context().room, body)
    except NoFigureError as error:
        raise no_figure(_pointer_at(body, error.number), error) from error
    return by_line(found, "better", lambda error: StoppedDoc(detail=str(error)))


def _pointer_at(body: BetterBody, number: int) -> str:
    """Where the so manieth pointer of all moves stands in the request."""
    where = [f"/moves/{at}/pointers/{n}" for at, move in enumerate(body.moves) for n in range(len(move.pointers))]
    return where[number]


@api.post("/curve", responses={200: CurveDoc})
def post_curve(body: CurveBody):
    """The plan's impact over the values one figure could have."""
    return in_turn("long", "curve", lambda room: CurveDoc(impacts=room.curve(body.variants())))
