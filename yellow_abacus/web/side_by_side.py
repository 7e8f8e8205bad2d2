"""Side by side: plans held against each other and against today."""

from yellow_abacus.comparing import how_sure, map_of, side_by_side, stock_beside
from yellow_abacus.files.side_by_side_json import (
    HowSureDoc,
    MapBody,
    MapDoc,
    SideBySideBody,
    SideBySideDoc,
    StockBesideDoc,
)
from yellow_abacus.web.context import in_turn
from yellow_abacus.web.routes import Routes

api = Routes("side_by_side", __name__, "Side by side")


@api.post("/side-by-side", responses={200: SideBySideDoc})
def post_side_by_side(body: SideBySideBody):
    """Forecast plans over the same days and the same carts, each held against today."""
    return in_turn("quick", "side by side", lambda room: side_by_side(room, body))


@api.post("/side-by-side/range", responses={200: HowSureDoc})
def post_how_sure(body: SideBySideBody):
    """How sure each answer is, and which plan beats which, on the same draws."""
    return in_turn("long", "side by side: range", lambda room: how_sure(room, body))


@api.post("/side-by-side/days", responses={200: StockBesideDoc})
def post_stock_beside(body: SideBySideBody):
    """Each plan day by day, and what it needs of the goods in stock."""
    return in_turn("long", "side by side: days", lambda room: stock_beside(room, body))


@api.post("/side-by-side/map", responses={200: MapDoc})
def post_map(body: MapBody):
    """How much more one plan keeps than another over the values of two figures of the response."""
    return in_turn("long", "side by side: map", lambda room: map_of(room, body))
