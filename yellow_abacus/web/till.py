"""The Till: any cart rung up under a plan, beside today."""

from yellow_abacus.counting import within_bounds
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.till_json import CasesDoc, DrawBody, DrawnDoc, MendsDoc, TillBody, TillDoc, TrialsDoc
from yellow_abacus.till.cases import check_cases
from yellow_abacus.till.drawing import NoSuchCartError, draw
from yellow_abacus.till.mending import mends
from yellow_abacus.till.ringing import Till
from yellow_abacus.till.trials import trials
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError
from yellow_abacus.web.routes import Routes

api = Routes("till", __name__, "Till")


def _till(plan: PlanDoc) -> Till:
    """Raises UnsoundPlanError."""
    room = context().room.current()
    return Till(room, room.checked(plan))


@api.post("/till", responses={200: TillDoc})
def post_till(body: TillBody):
    """Ring up a cart: what the shopper pays and what is kept, under the plan and today, and why offers apply."""
    with context().turn("quick", "till"), within_bounds(body.plan):
        return _till(body.plan).ring_up(body.cart).model_dump(mode="json")


@api.post("/till/mends", responses={200: MendsDoc})
def post_mends(body: TillBody):
    """What would make each offer apply that does not."""
    with context().turn("long", "mends"):
        return MendsDoc(mends=mends(_till(body.plan), body.cart)).model_dump(mode="json")


@api.post("/till/draw", responses={200: DrawnDoc})
def post_draw(body: DrawBody):
    """A cart from the history."""
    at = context()
    with at.turn("quick", "draw"), at.shop_file.reading() as session:
        try:
            return draw(_till(body.plan), session, body).model_dump(mode="json")
        except NoSuchCartError as error:
            raise ApiError(422, "No such cart", str(error)) from error


@api.post("/till/trials", responses={200: TrialsDoc})
def post_trials(body: PlanDoc):
    """Carts just below, at and above what each offer asks for, at its last moment and elsewhere, rung up."""
    with context().turn("long", "trials"), within_bounds(body):
        return TrialsDoc(trials=trials(_till(body))).model_dump(mode="json")


@api.post("/till/cases", responses={200: CasesDoc})
def post_cases(body: PlanDoc):
    """The plan's cases as they come out now."""
    with context().turn("long", "cases"), within_bounds(body):
        return CasesDoc(cases=check_cases(_till(body))).model_dump(mode="json")
