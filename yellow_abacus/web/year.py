"""Over the year: plans on their days and on others, and all offers as a calendar."""

from datetime import UTC, date, datetime

from yellow_abacus.bring_in_json import plan_of
from yellow_abacus.files.calendar_ics import calendar, entries_of, entries_that_run
from yellow_abacus.files.year_json import MoveBody, MovedDoc, YearDoc
from yellow_abacus.over_the_year import moved_to, on_days
from yellow_abacus.store.plans import all_plans
from yellow_abacus.store.settings import shop_row
from yellow_abacus.web.attachments import attachment
from yellow_abacus.web.context import context, in_turn
from yellow_abacus.web.description import file_of
from yellow_abacus.web.routes import Routes

api = Routes("year", __name__, "Over the year")


@api.get("/year", responses={200: YearDoc})
def get_year():
    """Every plan on its own days, with what it keeps more than today."""
    with context().shop_file.reading() as session:
        plans = [(row.id, plan_of(row)) for row in all_plans(session)]
    return in_turn("long", "year", lambda room: YearDoc(plans=[on_days(room, *one) for one in plans]))


@api.post("/year/move", responses={200: MovedDoc})
def post_move(body: MoveBody):
    """A plan on other days: how it then reads, and what it keeps more than today. Nothing is saved."""
    return in_turn("quick", "move", lambda room: moved_to(room, body.plan, body.first_day))


@api.get("/calendar.ics", responses={200: file_of("ics")})
def get_calendar():
    """All offers of plans, and those that run already, as a calendar with reminders."""
    at = context()
    with at.shop_file.reading() as session:
        plans, shop = [(row.id, plan_of(row)) for row in all_plans(session)], shop_row(session).name
    entries = [entry for plan_id, plan in plans for entry in entries_of(plan, plan_id)]
    entries += entries_that_run(at.room.current().running, date.today())
    data = calendar(entries, shop, datetime.now(UTC))
    return attachment(data, "offers", "ics")
