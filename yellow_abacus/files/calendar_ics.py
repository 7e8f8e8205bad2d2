"""A calendar of offers as an ICS file: an entry an offer, with a reminder the day before it starts and ends.

Times are on the shop's own clock and name no time zone: a calendar shows them as they are, wherever it is opened.
docs/files.md, "Calendar".
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta

from icalendar import Alarm, Calendar, Event

from yellow_abacus.core.clauses.when import MINUTES_A_DAY
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc, names_of_running

MIME_ICS = "text/calendar"
A_DAY = timedelta(days=1)


@dataclass(frozen=True)
class Entry:
    """An offer over days of its own or of its plan. last_day None: until further notice, and only its start is told.
    of: its plan; empty for one that runs already."""

    offer: OfferDoc
    name: str
    of: str
    plan_id: int
    first_day: date
    last_day: date | None


def entries_of(plan: PlanDoc, plan_id: int) -> list[Entry]:
    """Of the offers that are slid into the plan and open on one of its days."""
    found = []
    for offer in plan.offers:
        when = offer.terms.when
        first, last = max(when.first_day or plan.first_day, plan.first_day), when.last_day or plan.last_day
        if offer.in_plan and first <= (last := min(last, plan.last_day)):
            found.append(Entry(offer, plan.names[offer.id], plan.name, plan_id, first, last))
    return found


def entries_that_run(running: Sequence[OfferDoc], today: date) -> list[Entry]:
    """Of offers that run already. today: from when one counts that does not say since when."""
    names = names_of_running(running)
    whens = [offer.terms.when for offer in running]
    return [
        Entry(offer, names[offer.id], "", 0, when.first_day or today, when.last_day)
        for offer, when in zip(running, whens, strict=True)
    ]


def calendar(entries: Iterable[Entry], shop: str, made: datetime) -> bytes:
    """made: when, with its time zone."""
    found = Calendar()
    found.add("prodid", "-//Yellow Abacus//offers//EN")
    found.add("version", "2.0")
    found.add("x-wr-calname", f"Offers of {shop}")
    for entry in entries:
        found.add_component(_event(entry, made))
    return found.to_ical()


def _event(entry: Entry, made: datetime) -> Event:
    when, event = entry.offer.terms.when, Event()
    event.add("uid", f"{entry.offer.id}-{entry.plan_id}@yellow-abacus")
    event.add("dtstamp", made.astimezone(UTC))
    event.add("summary", f"{entry.of}: {entry.name}" if entry.of else f"{entry.name} (runs already)")
    begins, ends = when.first_minute, when.last_minute
    timed = begins is not None or ends is not None
    event.add("dtstart", _moment(entry.first_day, begins or 0) if timed else entry.first_day)
    if entry.last_day is not None:
        after = MINUTES_A_DAY if ends is None else ends
        event.add("dtend", _moment(entry.last_day, after) if timed else entry.last_day + A_DAY)
    given = entry.offer.terms.given
    if given.by in ("code", "link"):
        event.add("description", f"Code {given.code}")
    event.add("transp", "TRANSPARENT")
    event.add_component(_reminder(f"{entry.name} starts tomorrow", "START"))
    if entry.last_day is not None:
        event.add_component(_reminder(f"{entry.name} ends tomorrow", "END"))
    return event


def _moment(day: date, minute: int) -> datetime:
    return datetime.combine(day, time()) + timedelta(minutes=minute)


def _reminder(text: str, related: str) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", text)
    alarm.add("trigger", -A_DAY, parameters={"RELATED": related})
    return alarm
