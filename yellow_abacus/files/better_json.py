"""A search for better plans as JSON: what may move, what must hold, and the plans that were found."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, RootModel

from yellow_abacus.core.advice.better import Best, Judged, Must
from yellow_abacus.core.ground.money import WHOLE_BP, shown
from yellow_abacus.files.forecast_json import impact_shown
from yellow_abacus.files.leaks_json import StoppedDoc
from yellow_abacus.files.plan_json import MOST_OFFERS, PlanDoc
from yellow_abacus.files.pointers import LARGEST_FIGURE, Pointer

MOST_MOVES = 6
MOST_VALUES = 400

Figure = Annotated[int, Field(ge=0, le=LARGEST_FIGURE)]


class MoveDoc(BaseModel):
    """A figure that may move: where it stands in the plan, and whole multiples of `step` from `least` to `most`,
    which it may be besides what it is."""

    model_config = ConfigDict(extra="forbid")

    pointers: Annotated[list[Pointer], Field(min_length=1, max_length=20)]
    least: Figure
    most: Figure
    step: Annotated[int, Field(ge=1, le=LARGEST_FIGURE)]

    def values(self, now: int) -> list[int]:
        first = -(-self.least // self.step) * self.step
        return sorted({now, *range(first, self.most + 1, self.step)})


class MustDoc(BaseModel):
    """given_most: minor units given away at most. margin_least_bp: kept of what shoppers pay net of tax. offers_most:
    offers in force. lasts: all that is put in must last. Null for anything."""

    model_config = ConfigDict(extra="forbid")

    given_most: Annotated[int, Field(ge=0, le=LARGEST_FIGURE)] | None = None
    margin_least_bp: Annotated[int, Field(ge=-WHOLE_BP, le=WHOLE_BP)] | None = None
    offers_most: Annotated[int, Field(ge=0, le=2 * MOST_OFFERS)] | None = None
    lasts: bool = False

    def must(self) -> Must:
        least = None if self.margin_least_bp is None else self.margin_least_bp / WHOLE_BP
        return Must(self.given_most, least, self.offers_most, self.lasts)


class BetterBody(BaseModel):
    """slides: ids of offers that may be slid in or out."""

    model_config = ConfigDict(extra="forbid")

    plan: PlanDoc
    moves: Annotated[list[MoveDoc], Field(max_length=MOST_MOVES)] = []
    slides: Annotated[list[str], Field(max_length=MOST_MOVES)] = []
    must: MustDoc = MustDoc()
    best: Best = "likely"


class JudgedDoc(BaseModel):
    """A plan: its likely impact and what it gives away, minor units; kept of sales; its impact's 5, 50 and 95 %
    points; the chance that it keeps more than today, and than the plan it is held against. holds: whether what must
    hold does."""

    plan: PlanDoc
    impact: int
    given: int
    margin: float
    low: int
    middle: int
    high: int
    beats_today: float
    beats: float
    holds: bool


class TriedDoc(BaseModel):
    """One line of the answer: how far the search is. best: what the best so far keeps more than today, minor
    units."""

    share: float
    tried: int
    best: int | None
    kind: Literal["tried"] = "tried"


class BetterDoc(BaseModel):
    """The last line. base: the plan they are held against. plans: what is best first, their response following what
    they give; none where nothing better was found."""

    base: JudgedDoc
    plans: list[JudgedDoc]
    tried: int
    kind: Literal["found"] = "found"


class BetterLineDoc(RootModel[Annotated[TriedDoc | BetterDoc | StoppedDoc, Field(discriminator="kind")]]):
    """A line of the answer of a search for better plans."""


def judged_doc(one: Judged, doc: PlanDoc, base: Judged, minor_digits: int) -> JudgedDoc:
    """doc: the plan as a document. base: judged with all draws, as `one` is."""
    assert one.impacts is not None
    assert base.impacts is not None
    low, middle, high = one.impacts.points
    return JudgedDoc(
        plan=doc,
        impact=impact_shown(one.today, one.planned, minor_digits),
        given=shown(one.given),
        margin=one.margin,
        low=shown(low),
        middle=shown(middle),
        high=shown(high),
        beats_today=one.impacts.beats,
        beats=one.impacts.beats_other(base.impacts),
        holds=one.holds,
    )
