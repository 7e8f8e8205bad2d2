"""A search for better plans: what it shows beats the plan it is held against, holds what must hold, and is what a
full grid would find."""

import json
from itertools import product

import pytest

PERCENT = "/offers/0/terms/gives/0/percent_bp"
FROM = "/offers/0/terms/earned/conditions/0/n"


@pytest.fixture
def plan(demo):
    return demo.get("/api/plans").json["plans"][1]["plan"]


def move(pointer, least, most, step):
    return {"pointers": [pointer], "least": least, "most": most, "step": step}


def searched(demo, plan, moves, **more):
    answer = demo.post("/api/better", json={"plan": plan, "moves": moves, **more})
    assert answer.status_code == 200, answer.json
    lines = [json.loads(line) for line in answer.text.splitlines()]
    assert [one["kind"] for one in lines] == ["tried"] * (len(lines) - 1) + ["found"]
    assert [one["share"] for one in lines[:-1]] == sorted(one["share"] for one in lines[:-1])
    return lines[-1]


def forecast(demo, plan):
    told = demo.post("/api/forecast", json=plan).json
    exact = sum(step["exact"] for step in told["bridge"])
    return exact, sum(one["given_away"] for one in told["offers"]), told["impact"]


def with_figures(plan, percent, n):
    told = json.loads(json.dumps(plan))
    terms = told["offers"][0]["terms"]
    terms["gives"][0]["percent_bp"], terms["earned"]["conditions"][0]["n"] = percent, n
    return told


def test_its_best_is_that_of_the_full_grid_and_no_plan_is_beaten_for_what_it_gives_away(demo, plan):
    found = searched(demo, plan, [move(PERCENT, 500, 2_000, 500), move(FROM, 600, 1_500, 300)])
    assert found["base"]["plan"] == plan
    assert found["base"]["impact"] == forecast(demo, plan)[2]
    base = found["plans"][0]["plan"]
    assert base["offers"][0]["terms"]["response"]["depth_bp"], "shoppers' response follows what is given"
    grid = [forecast(demo, with_figures(base, *at)) for at in product(range(500, 2_001, 500), range(600, 1_501, 300))]
    best = max(grid)
    assert found["plans"][0]["impact"] == best[2], "as its board shows it"
    for one in found["plans"]:
        impact, given, as_shown = forecast(demo, one["plan"])
        assert (one["impact"], one["given"]) == (as_shown, pytest.approx(given, abs=1))
        assert impact > forecast(demo, plan)[0]
        assert one["beats"] > 0.5
        assert not any(other > impact and cost < given for other, cost, _ in grid)
    by_given = sorted(found["plans"], key=lambda one: one["given"])
    assert [one["impact"] for one in by_given] == sorted(one["impact"] for one in by_given)


def test_what_must_hold_does(demo, plan):
    moves = [move(PERCENT, 500, 2_500, 500)]
    free = searched(demo, plan, moves)
    bar = free["plans"][0]["given"] - 1
    held = searched(demo, plan, moves, must={"given_most": bar})
    assert all(one["holds"] and one["given"] <= bar for one in held["plans"])
    assert free["plans"][0]["plan"] not in [one["plan"] for one in held["plans"]]
    assert searched(demo, plan, moves, must={"margin_least_bp": 9_900})["plans"] == []


def test_offers_are_slid_in_or_out(demo):
    plan = demo.get("/api/plans").json["plans"][0]["plan"]
    ids = [one["id"] for one in plan["offers"]]
    found = searched(demo, plan, [], slides=ids, must={"offers_most": 1})
    assert found["plans"]
    for one in found["plans"]:
        assert sum(offer["in_plan"] for offer in one["plan"]["offers"]) <= 1
    impacts = []
    for kept in (None, *ids):
        some = {**found["plans"][0]["plan"]}
        some["offers"] = [{**one, "in_plan": one["id"] == kept} for one in some["offers"]]
        impacts.append(forecast(demo, some)[2])
    assert found["plans"][0]["impact"] == max(impacts)


@pytest.mark.parametrize("best", ["low", "beats"])
def test_it_may_be_judged_on_its_range(demo, plan, best):
    found = searched(demo, plan, [move(PERCENT, 500, 2_500, 1_000)], best=best)
    name = {"low": "low", "beats": "beats_today"}[best]
    for one in found["plans"]:
        assert one[name] > found["base"][name] or one["impact"] > found["base"]["impact"]
        told = demo.post("/api/forecast/range", json=one["plan"]).json
        assert (one["low"], one["high"], one["beats_today"]) == (told["low"], told["high"], told["beats"])


def test_nothing_better_is_said_to_be_nothing(demo, plan):
    moves = [move(PERCENT, 500, 2_000, 500)]
    best = searched(demo, plan, moves)["plans"][0]["plan"]
    assert searched(demo, best, moves)["plans"] == []


def test_what_cannot_be_searched_is_told(demo, plan):
    def refused(**body):
        answer = demo.post("/api/better", json={"plan": plan, **body})
        assert answer.status_code == 422
        return [one["pointer"] for one in answer.json["errors"]]

    assert refused() == ["/moves"]
    assert refused(moves=[move("/offers/0/terms/nowhere", 1, 9, 1)]) == ["/moves/0/pointers/0"]
    assert refused(moves=[move(PERCENT, 1, 9_999, 1)]) == ["/moves/0/step"]
    assert refused(slides=["nobody"]) == ["/slides/0"]
    plan["offers"][0]["terms"]["gives"] = []
    assert refused(slides=[plan["offers"][0]["id"]])[0].startswith("/offers/0/terms")
