"""Plans over the year: each on its own days, and moved to others."""

from datetime import date, timedelta

from icalendar import Calendar


def test_every_plan_keeps_what_its_board_says(demo):
    told = demo.get("/api/year").json["plans"]
    saved = demo.get("/api/plans").json["plans"]
    assert [one["id"] for one in told] == [one["id"] for one in saved]
    for one, plan in zip(told, saved, strict=True):
        assert one["impact"] == demo.post("/api/forecast", json=plan["plan"]).json["impact"], "as shown there"
        assert one["why"] == ""


def test_a_plan_on_other_days_is_as_long_and_follows_its_season(demo, plan):
    before = plan["plan"]
    first = before["offers"][0]["terms"]["when"]
    first |= {"first_day": before["first_day"], "last_day": before["last_day"]}
    answer = demo.post("/api/year/move", json={"plan": before, "first_day": "2027-07-05"}).json
    moved = answer["plan"]
    days = date.fromisoformat(before["last_day"]) - date.fromisoformat(before["first_day"])
    assert moved["first_day"] == "2027-07-05"
    assert date.fromisoformat(moved["last_day"]) == date(2027, 7, 5) + days
    when = moved["offers"][0]["terms"]["when"]
    assert (when["first_day"], when["last_day"]) == (moved["first_day"], moved["last_day"])
    told = demo.post("/api/forecast", json=moved).json
    assert answer["impact"] == told["impact"]
    assert told["today"]["orders"] != demo.post("/api/forecast", json=before).json["today"]["orders"]
    kept = demo.get("/api/plans").json["plans"][0]
    assert (kept["revision"], kept["plan"]["first_day"]) == (plan["revision"], "2027-03-01"), "nothing is saved"


def test_days_no_calendar_has_are_refused(demo, plan):
    for day in ("2027-02-30", "9999-12-31", "1066-10-14"):
        answer = demo.post("/api/year/move", json={"plan": plan["plan"], "first_day": day})
        assert answer.status_code == 422
        assert answer.json["errors"][0]["pointer"] == "/first_day"


def test_a_plan_that_makes_no_sense_is_refused_before_it_is_moved(demo, plan):
    endless = plan["plan"] | {"first_day": "0001-01-01", "last_day": "9999-12-31"}
    answer = demo.post("/api/year/move", json={"plan": endless, "first_day": "2199-12-31"})
    assert answer.status_code == 422
    plan["plan"]["offers"][0]["terms"]["when"] |= {"last_day": "9999-12-31"}
    assert demo.post("/api/year/move", json={"plan": plan["plan"], "first_day": "2199-01-01"}).status_code == 200


def test_the_calendar_holds_every_offer_there_is(demo):
    plans = [one["plan"] for one in demo.get("/api/plans").json["plans"]]
    runs = plans[0]["offers"][1]
    assert demo.put("/api/running", json={"offers": [runs]}).status_code == 200
    answer = demo.get("/api/calendar.ics")
    assert answer.mimetype == "text/calendar"
    events = Calendar.from_ical(answer.data).walk("VEVENT")
    slid_in = sum(offer["in_plan"] for plan in plans for offer in plan["offers"])
    assert len(events) == slid_in + 1
    first = next(one for one in events if "Spring twelve" in str(one["summary"]))
    assert first["dtstart"].dt == date.fromisoformat(plans[0]["first_day"])
    assert first["dtend"].dt == date.fromisoformat(plans[0]["last_day"]) + timedelta(days=1)
