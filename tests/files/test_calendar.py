"""The calendar is read back by the library's own reader, not by ours: every offer, its days and its reminders."""

from datetime import UTC, date, datetime, timedelta

import pytest
from icalendar import Calendar

from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.offers import PercentOff, Terms
from yellow_abacus.files.calendar_ics import calendar, entries_of, entries_that_run
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc

MADE = datetime(2027, 1, 2, 3, 4, tzinfo=UTC)
FIRST, LAST = date(2027, 3, 1), date(2027, 3, 14)


def offer(when: When | None = None, **more) -> OfferDoc:
    return OfferDoc(
        terms=Terms(gives=(PercentOff(percent_bp=1000),), when=when or When(), **more), name="Ten, off; all"
    )


def read(*offers: OfferDoc):
    plan = PlanDoc(name="Spring", first_day=FIRST, last_day=LAST, offers=list(offers))
    return list(Calendar.from_ical(calendar(entries_of(plan, 3), "A shop", MADE)).walk("VEVENT"))


@pytest.mark.parametrize(
    ("when", "starts", "ends"),
    [
        (When(), FIRST, date(2027, 3, 15)),
        (When(first_day=date(2027, 3, 5)), date(2027, 3, 5), date(2027, 3, 15)),
        (When(first_day=date(2027, 2, 5), last_day=date(2027, 3, 6)), FIRST, date(2027, 3, 7)),
        (
            When(first_day=FIRST, last_day=date(2027, 3, 6), first_minute=9 * 60),
            datetime(2027, 3, 1, 9),
            datetime(2027, 3, 7),
        ),
        (When(last_day=LAST, last_minute=22 * 60 + 30), datetime(2027, 3, 1), datetime(2027, 3, 14, 22, 30)),
    ],
)
def test_an_offer_stands_on_its_days(when, starts, ends):
    (event,) = read(offer(when))
    assert (event["dtstart"].dt, event["dtend"].dt) == (starts, ends)
    assert str(event["summary"]) == "Spring: Ten, off; all"


def test_it_reminds_the_day_before_it_starts_and_ends():
    (event,) = read(offer(given=Given(by="code", code="TEN")))
    alarms = event.walk("VALARM")
    assert [(one["trigger"].dt, one["trigger"].params["RELATED"]) for one in alarms] == [
        (-timedelta(days=1), "START"),
        (-timedelta(days=1), "END"),
    ]
    assert str(event["description"]) == "Code TEN"
    assert event["dtstamp"].dt == MADE


def test_what_is_slid_out_or_open_on_none_of_the_days_is_not_in_it():
    out = offer().model_copy(update={"in_plan": False})
    assert read(out, offer(When(first_day=date(2027, 4, 1))), offer(When(last_day=date(2027, 2, 1)))) == []


def test_what_runs_already_may_have_no_end_and_every_entry_has_an_id_of_its_own():
    one = offer()
    plan = PlanDoc(name="Spring", first_day=FIRST, last_day=LAST, offers=[one])
    entries = [*entries_of(plan, 1), *entries_of(plan, 2), *entries_that_run([one], date(2027, 1, 9))]
    events = Calendar.from_ical(calendar(entries, "A shop", MADE)).walk("VEVENT")
    assert len({str(event["uid"]) for event in events}) == 3
    runs = events[-1]
    assert runs["dtstart"].dt == date(2027, 1, 9)
    assert "dtend" not in runs
    assert len(runs.walk("VALARM")) == 1
