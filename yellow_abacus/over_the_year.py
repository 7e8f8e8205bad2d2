"""Plans over the year: what each keeps on its own days, and one of them on others."""

from datetime import date

from yellow_abacus.counting import CountingRoom, NothingToCountError, UnsoundPlanError, within_bounds
from yellow_abacus.files.forecast_json import impact_shown
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.year_json import MovedDoc, OnDaysDoc


def on_days(room: CountingRoom, plan_id: int, doc: PlanDoc) -> OnDaysDoc:
    """What a plan keeps on its days; why that cannot be told, where it cannot."""
    told = OnDaysDoc(id=plan_id, name=doc.name, first_day=doc.first_day, last_day=doc.last_day, impact=None, why="")
    try:
        return told.model_copy(update={"impact": impact(room, doc)})
    except (UnsoundPlanError, NothingToCountError) as error:
        return told.model_copy(update={"why": str(error)})


def moved_to(room: CountingRoom, doc: PlanDoc, first_day: date) -> MovedDoc:
    """A plan as long as it is, from another day on. Raises UnsoundPlanError and NothingToCountError."""
    room.check(doc)
    moved = doc.moved(first_day, first_day + (doc.last_day - doc.first_day))
    return MovedDoc(plan=moved, impact=impact(room, moved))


def impact(room: CountingRoom, doc: PlanDoc) -> int:
    """What a plan keeps more than today, minor units. Raises UnsoundPlanError and NothingToCountError."""
    at = room.current()
    doc = at.checked(doc)
    with within_bounds(doc):
        forecaster, plan = at.expecting(doc), doc.plan()
        today = forecaster.today(plan)
        return impact_shown(today, today + forecaster.impact(plan), at.loaded.minor_digits)
