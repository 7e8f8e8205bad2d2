"""Offers that ran before, and what history says of them, through the API."""

import json

import pytest

NEWLEAF = {
    "id": "newleaf",
    "name": "New leaf",
    "terms": {
        "gives": [{"kind": "percent_off", "percent_bp": 1000}],
        "given": {"by": "code", "code": "NEWLEAF"},
        "when": {"first_day": "2026-03-01", "last_day": "2026-04-30"},
    },
}


def look(demo) -> dict:
    lines = demo.get("/api/history-says").text.splitlines()
    told = [json.loads(line) for line in lines]
    assert [one["kind"] for one in told[:-1]] == ["looked"] * (len(told) - 1)
    return told[-1]


def test_what_ran_is_kept_with_the_shop_and_undone(demo):
    assert demo.get("/api/past").json["offers"] == []
    assert demo.put("/api/past", json={"offers": [NEWLEAF]}).status_code == 200
    assert [one["name"] for one in demo.get("/api/past").json["offers"]] == ["New leaf"]
    demo.post("/api/undo")
    assert demo.get("/api/past").json["offers"] == []


@pytest.mark.parametrize(
    ("terms", "pointer"),
    [
        ({"when": {}}, "/offers/0/when/first_day"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 20_000}]}, "/offers/0/gives/0/percent_bp"),
        ({"given": {"by": "code", "code": "?"}}, "/offers/0/given/code"),
    ],
)
def test_what_makes_no_sense_is_refused_by_name(demo, terms, pointer):
    wrong = NEWLEAF | {"terms": NEWLEAF["terms"] | terms}
    told = demo.put("/api/past", json={"offers": [wrong]})
    assert told.status_code == 422
    assert told.json["errors"][0]["pointer"] == pointer
    assert demo.get("/api/past").json["offers"] == []


def test_codes_nobody_told_are_found_and_gone_once_they_are(demo):
    before = look(demo)
    assert [one["code"] for one in before["found"]] == ["NEWLEAF", "TRADEROOT"]
    assert before["offers"] == []
    demo.put("/api/past", json={"offers": [NEWLEAF]})
    after = look(demo)
    assert [one["code"] for one in after["found"]] == ["TRADEROOT"]
    (offer,) = after["offers"]
    uptake = next(one for one in offer["figures"] if one["of"] == "uptake_bp")
    assert uptake["low"] < 500 < uptake["high"]  # the demo shop's shoppers use it in 5 of 100 orders
    assert uptake["orders"] > 500
    assert sum(one["runs"] for one in offer["by_day"]) == offer["days"] == 61
    assert offer["given_away"] == pytest.approx(offer["goods"] / 10, rel=0.02)


def test_what_runs_already_is_looked_at_too(demo):
    always = NEWLEAF | {"terms": {**NEWLEAF["terms"], "when": {}}}
    assert demo.put("/api/running", json={"offers": [always]}).status_code == 200
    (offer,) = look(demo)["offers"]
    assert offer["running"] is True
    assert offer["days"] == 365
    extra = next(one for one in offer["figures"] if one["of"] == "extra_bp")
    assert extra["likely"] is None
    assert "all days" in extra["says"]


def test_an_empty_shop_has_nothing_to_say(empty):
    told = look(empty)
    assert (told["orders"], told["first_day"], told["offers"], told["found"]) == (0, None, [], [])


def test_many_offers_are_refused_in_one_sentence(demo):
    told = demo.put("/api/past", json={"offers": [NEWLEAF] * 401})
    assert told.status_code == 422
