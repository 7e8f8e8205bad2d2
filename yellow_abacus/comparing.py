"""Plans held against each other and against today: what the command line and the web both call."""

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.over_time import over_time
from yellow_abacus.core.forecast.ranges import Impacts, impacts_of
from yellow_abacus.core.forecast.side_by_side import beside, over_two
from yellow_abacus.core.ground.keeper import Found
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.twists import Twist
from yellow_abacus.counting import Counted, CountingRoom, UnsoundPlanError, within_bounds
from yellow_abacus.files.forecast_json import ForecastDoc
from yellow_abacus.files.over_time_json import OverTimeDoc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.side_by_side_json import (
    HowSureDoc,
    MapBody,
    MapDoc,
    PlanColumnDoc,
    SideBySideBody,
    SideBySideDoc,
    StockBesideDoc,
    how_sure_doc,
    map_doc,
    side_by_side_doc,
)


@dataclass(frozen=True, eq=False)
class _Ready:
    """A column that can be forecast. stands: the shop as it is; at: the one it is forecast in. doc: the plan over
    the days of all columns, beside what runs already."""

    stands: Counted
    at: Counted
    doc: PlanDoc
    forecaster: Forecaster
    twist: Twist | None

    def impacts(self) -> Impacts:
        """Kept for the next time: a change of one column leaves the others."""
        key = (self.doc.model_dump_json(), self.twist)
        return self.stands.impacts.get(key, lambda: impacts_of(self.forecaster, self.doc.plan()))


def side_by_side(room: CountingRoom, body: SideBySideBody) -> SideBySideDoc:
    """Raises UnsoundPlanError and NothingToCountError."""
    ready = _ready(room, body)

    def find(one: _Ready) -> ForecastDoc:
        found = one.forecaster.forecast(one.doc.plan())
        return one.at.told(one.doc, found, one.forecaster.expected)

    return side_by_side_doc(body, [one.doc for one in ready], _of_each(ready, find))


def how_sure(room: CountingRoom, body: SideBySideBody) -> HowSureDoc:
    """Raises UnsoundPlanError and NothingToCountError."""
    return how_sure_doc(beside(_of_each(_ready(room, body), _Ready.impacts)))


def stock_beside(room: CountingRoom, body: SideBySideBody) -> StockBesideDoc:
    """Raises UnsoundPlanError and NothingToCountError."""

    def find(one: _Ready) -> OverTimeDoc:
        return one.at.told_by_day(one.doc, over_time(one.forecaster, one.doc.plan()))

    return StockBesideDoc(columns=_of_each(_ready(room, body), find))


def _of_each(ready: Sequence[_Ready], find: Callable[[_Ready], Found]) -> list[Found]:
    """What is found of each column; what no cart of it can hold is told with its place in the request."""
    told = []
    for number, one in enumerate(ready):
        with _of_column(number), within_bounds(one.doc):
            told.append(find(one))
    return told


def map_of(room: CountingRoom, body: MapBody) -> MapDoc:
    """How far one column is ahead of another over two figures of their responses. Raises UnsoundPlanError and
    NothingToCountError."""
    for name, number in (("one", body.one), ("other", body.other)):
        if number >= len(body.columns):
            raise UnsoundPlanError([Problem((name,), f"There is no column {number + 1}.", "Name one there is.")])
    pair = [_ready(room, body)[number] for number in (body.one, body.other)]
    for name, asked in (("across", body.across), ("up", body.up)):
        if not any(asked.offer == offer.id for column in pair for offer in column.doc.in_force):
            message = "Neither of the two plans has this offer."
            raise UnsoundPlanError([Problem((name, "offer"), message, "Name an offer of one of them.")])
    across, up = body.across.asked(), body.up.asked()
    found = []
    for number, column in zip((body.one, body.other), pair, strict=True):
        with _of_column(number), within_bounds(column.doc):
            found.append(over_two(column.forecaster, column.doc.plan(), across, up))
    return map_doc(found[0] - found[1])


def _ready(room: CountingRoom, body: SideBySideBody) -> list[_Ready]:
    stands, first = room.current(), body.columns[0].plan
    return [_column(stands, one, number, first) for number, one in enumerate(body.columns)]


def _column(stands: Counted, one: PlanColumnDoc, number: int, first: PlanDoc) -> _Ready:
    """first: the plan whose time and carts to expect all columns have, and what shoppers do when something is sold
    out."""
    of_first = {"mix": first.mix, "lost_if_sold_out_bp": first.lost_if_sold_out_bp}
    doc = one.plan.moved(first.first_day, first.last_day).model_copy(update=of_first)
    with _of_column(number, "plan"):
        doc = stands.checked(doc)
        forecaster = stands.expecting(doc)
    if one.twist is None:
        return _Ready(stands, stands, doc, forecaster, None)
    with _of_column(number, "twist"):
        at = stands.twisted(one.twist)
    with _of_column(number, "plan"):
        return _Ready(stands, at, at.checked(doc), at.expecting(doc).held_against(forecaster), one.twist)


@contextmanager
def _of_column(number: int, *part: str) -> Iterator[None]:
    """What is wrong with a part of a column is told with its place in the request."""
    try:
        yield
    except UnsoundPlanError as error:
        raise UnsoundPlanError([problem.inside("columns", number, *part) for problem in error.problems]) from error
