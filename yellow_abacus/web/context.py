"""What the places share: the shop file that is open, its counting room, and the imports under way."""

from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import dataclass
from typing import Any

from flask import current_app, request
from pydantic import BaseModel

from yellow_abacus.calculator import Calculator, Pace, stays
from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.counting import CountingRoom
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.uploads import Uploads


@dataclass(frozen=True)
class Context:
    shop_file: ShopFile
    room: CountingRoom
    uploads: Uploads
    carriers: Carriers
    feed: Feed
    calculator: Calculator

    def turn(self, pace: Pace, what: str) -> AbstractContextManager[None]:
        """A turn for the request that is answered; headers tell its board, and the how manieth it asked, so that a
        newer one drops it. It is dropped too once its connection is closed, as a browser does that left the place."""
        number = request.headers.get("Asked", "")[:MOST_DIGITS]
        board = request.headers.get("Board", "")[:MOST_LETTERS]
        is_gone = request.environ.get(IS_GONE, stays)
        return self.calculator.turn(pace, what, board, int(number) if number.isdecimal() else 0, is_gone)


MOST_LETTERS, MOST_DIGITS = 80, 15
IS_GONE = "waitress.client_disconnected"
"""Of a request: whether its connection was closed meanwhile."""


def in_turn(pace: Pace, what: str, find: Callable[[CountingRoom], BaseModel]) -> dict[str, Any]:
    """The answer to a request, found in the counting room when it has its turn."""
    at = context()
    with at.turn(pace, what):
        return find(at.room).model_dump(mode="json")


def context() -> Context:
    found: Context = current_app.extensions["yellow_abacus"]
    return found
