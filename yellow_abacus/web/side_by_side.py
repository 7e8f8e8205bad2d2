"""Side by side: plans held against each other and against today."""

from flask_openapi3 import APIBlueprint, Tag

from yellow_abacus.comparing import how_sure, map_of, side_by_side, stock_beside
from yellow_abacus.files.side_by_side_json import (
    HowSureDoc,
    MapBody,
    MapDoc,
    SideBySideBody,
    SideBySideDoc,
    StockBesideDoc,
)
from yellow_abacus.web.context import context

api = APIBlueprint("side_by_side", __name__, url_prefix="/api", abp_tags=[Tag(name="Side by side")])


@api.post("/side-by-side", responses={200: SideBySideDoc})
def post_side_by_side(body: SideBySideBody):
    """Forecast plans over the same days and the same carts, each held against today."""
    at = context()
    with at.turn("quick", "side by side"):
        return side_by_side(at.room, body).model_dump(mode="json")


@api.post("/side-by-side/range", responses={200: HowSureDoc})
def post_how_sure(body: SideBySideBody):
    """How sure each answer is, and which plan beats which, on the same draws."""
    at = context()
    with at.turn("long", "side by side: range"):
        return how_sure(at.room, body).model_dump(mode="json")


@api.post("/side-by-side/days", responses={200: StockBesideDoc})
def post_stock_beside(body: SideBySideBody):
    """Each plan day by day, and what it needs of the goods in stock."""
    at = context()
    with at.turn("long", "side by side: days"):
        return stock_beside(at.room, body).model_dump(mode="json")


@api.post("/side-by-side/map", responses={200: MapDoc})
def post_map(body: MapBody):
    """How much more one plan keeps than another over the values of two figures of the response."""
    at = context()
    with at.turn("long", "side by side: map"):
        return map_of(at.room, body).model_dump(mode="json")
