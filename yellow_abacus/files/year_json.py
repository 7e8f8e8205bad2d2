"""Plans over the year as JSON."""

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.files.plan_json import PlanDoc

FIRST_DAY, LAST_DAY = date(2000, 1, 1), date(2199, 12, 31)


class OnDaysDoc(BaseModel):
    """A plan on its own days. impact: against today, minor units; null where it cannot be told, and why."""

    id: int
    name: str
    first_day: date
    last_day: date
    impact: int | None
    why: str


class YearDoc(BaseModel):
    plans: list[OnDaysDoc]


class MoveBody(BaseModel):
    """A plan, and the day it is to begin on."""

    model_config = ConfigDict(extra="forbid")

    plan: PlanDoc
    first_day: Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]


class MovedDoc(BaseModel):
    """The plan on other days, its offers' own days moved along; not saved. impact: as in OnDaysDoc."""

    plan: PlanDoc
    impact: int
