"""The Till: any cart rung up under a plan, beside today."""

from flask_openapi3 import APIBlueprint, Tag

from yellow_abacus.counting import within_bounds
from yellow_abacus.files.till_json import DrawBody, DrawnDoc, MendsDoc, TillBody, TillDoc
from yellow_abacus.till.drawing import NoSuchCartError, draw
from yellow_abacus.till.mending import mends
from yellow_abacus.till.ringing import Till
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError

api = APIBlueprint("till", __name__, url_prefix="/api", abp_tags=[Tag(name="Till")])


def _till(body: TillBody | DrawBody) -> Till:
    """Raises UnsoundPlanError."""
    room = context().room.current()
    room.check(body.plan)
    return Till(room, body.plan)


@api.post("/till", responses={200: TillDoc})
def post_till(body: TillBody):
    """Ring up a cart: what the shopper pays and what is kept, under the plan and today, and why offers apply."""
    with context().turn("quick", "till"), within_bounds(body.plan):
        return _till(body).ring_up(body.cart).model_dump(mode="json")


@api.post("/till/mends", responses={200: MendsDoc})
def post_mends(body: TillBody):
    """What would make each offer apply that does not."""
    with context().turn("long", "mends"):
        return MendsDoc(mends=mends(_till(body), body.cart)).model_dump(mode="json")


@api.post("/till/draw", responses={200: DrawnDoc})
def post_draw(body: DrawBody):
    """A cart from the history."""
    at = context()
    with at.turn("quick", "draw"), at.shop_file.reading() as session:
        try:
            return draw(_till(body), session, body).model_dump(mode="json")
        except NoSuchCartError as error:
            raise ApiError(422, "No such cart", str(error)) from error
