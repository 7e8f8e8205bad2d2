"""Plans side by side as JSON: what stands in the columns, and what they come to against today and each other."""

from collections.abc import Sequence
from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.clauses.response import MOST_EXTRA_BP, Ranging
from yellow_abacus.core.forecast.answer import Part
from yellow_abacus.core.forecast.ranges import Impacts
from yellow_abacus.core.forecast.side_by_side import Asked, Beside, keeps_most
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, shown
from yellow_abacus.core.shop.twists import Twist
from yellow_abacus.files.forecast_json import ForecastDoc
from yellow_abacus.files.over_time_json import OverTimeDoc
from yellow_abacus.files.plan_json import PlanDoc

MOST_COLUMNS = 6
MOST_VALUES = 25


class PlanColumnDoc(BaseModel):
    """A plan, in a shop with something otherwise where a twist says so. name: what the answer calls it, the plan's
    own where it is empty."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=200)] = ""
    plan: PlanDoc
    twist: Twist | None = None


class SideBySideBody(BaseModel):
    """All columns are forecast over the days and the carts to expect of the first one."""

    model_config = ConfigDict(extra="forbid")

    columns: Annotated[list[PlanColumnDoc], Field(min_length=1, max_length=MOST_COLUMNS)]


class SideBySideDoc(BaseModel):
    """columns: a forecast each, held against the shop as it stands today. plans: as they were forecast, over the same
    days. answer: which of them keeps most."""

    first_day: date
    last_day: date
    answer: list[Part]
    columns: list[ForecastDoc]
    plans: list[PlanDoc]


class SureDoc(BaseModel):
    """Of a column's impact, minor units: in 5, 50 and 95 of 100 draws it is less. beats_today: the share of draws in
    which it keeps more than today. beats: in which it keeps more than each of the columns."""

    low: int
    middle: int
    high: int
    likely: int
    beats_today: float
    beats: list[float]


class HowSureDoc(BaseModel):
    columns: list[SureDoc]


class StockBesideDoc(BaseModel):
    """columns: each day by day, and what it needs of the goods in stock."""

    columns: list[OverTimeDoc]


class AskedDoc(BaseModel):
    """values_bp: of a figure of the response of an offer, by its id."""

    model_config = ConfigDict(extra="forbid")

    offer: Annotated[str, Field(min_length=1, max_length=40)]
    figure: Ranging
    values_bp: Annotated[
        list[Annotated[int, Field(ge=0, le=MOST_EXTRA_BP)]], Field(min_length=1, max_length=MOST_VALUES)
    ]

    def asked(self) -> Asked:
        return Asked(self.offer, self.figure, tuple(value / WHOLE_BP for value in self.values_bp))


class MapBody(SideBySideBody):
    """one, other: numbers of columns."""

    one: Annotated[int, Field(ge=0, lt=MOST_COLUMNS)]
    other: Annotated[int, Field(ge=0, lt=MOST_COLUMNS)]
    across: AskedDoc
    up: AskedDoc


class MapDoc(BaseModel):
    """rows: one a value of `up`, of one entry a value of `across`: how much more the one keeps than the other, minor
    units."""

    rows: list[list[int]]


def side_by_side_doc(body: SideBySideBody, plans: list[PlanDoc], told: list[ForecastDoc]) -> SideBySideDoc:
    """plans, told: of each column."""
    names = [one.name or one.plan.name for one in body.columns]
    answer = keeps_most(names, [one.impact for one in told], told[0].days)
    first = plans[0]
    return SideBySideDoc(
        first_day=first.first_day, last_day=first.last_day, answer=list(answer), columns=told, plans=plans
    )


def how_sure_doc(found: Beside) -> HowSureDoc:
    return HowSureDoc(columns=[_sure(*one) for one in zip(found.impacts, found.beats, strict=True)])


def _sure(one: Impacts, beats: Floats) -> SureDoc:
    low, middle, high = map(shown, one.points)
    likely, each = shown(one.likely), beats.tolist()
    return SureDoc(low=low, middle=middle, high=high, likely=likely, beats_today=one.beats, beats=each)


def map_doc(found: Floats) -> MapDoc:
    rows: Sequence[Sequence[float]] = found.tolist()
    return MapDoc(rows=[[shown(value) for value in row] for row in rows])
