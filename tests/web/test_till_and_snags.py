"""The Till, snags and leaks through the API, with sound and unsound requests."""

import json

import pytest


def cart(*lines: tuple[str, int], **told) -> dict:
    return {"lines": [{"sku": sku, "quantity": units} for sku, units in lines], "zone": "Home"} | told


@pytest.fixture
def balcony(demo):
    return demo.get("/api/plans").json["plans"][2]


def test_a_cart_comes_with_both_sides_and_a_reason_for_every_offer(demo, balcony):
    told = demo.post("/api/till", json={"plan": balcony["plan"], "cart": cart(("HF-SEMAI-1", 10))}).json
    assert sum(way["share"] for way in told["ways"]) == pytest.approx(1)
    for way in told["ways"]:
        assert [one["offer"] for one in way["plan"]["reasons"]] == [one["id"] for one in balcony["plan"]["offers"]]
        assert way["plan"]["kept"] - way["today"]["kept"] < 0 < way["today"]["total"] - way["plan"]["total"]
        assert {one["offer"] for one in way["steps"]} == {
            one["offer"] for one in way["plan"]["reasons"] if one["reason"] == "applied"
        }


@pytest.mark.parametrize(
    ("body", "pointer"),
    [
        (cart(("HF-NONE", 1)), "/cart/lines/0/sku"),
        (cart(("HF-SEMAI-1", 1), zone="Moon"), "/cart/zone"),
        (cart(("HF-SEMAI-1", 0)), "/cart/lines/0/quantity"),
        (cart(("HF-PLSTO-1", 999_999)), "/cart/lines"),
        (cart(("HF-SEMAI-1", 1), time="yesterday"), "/cart/time"),
        (cart(("HF-SEMAI-1", 1), chooses={"balcony-gift": "HF-PLSTO-1"}), "/cart/chooses/balcony-gift"),
    ],
)
def test_a_cart_that_cannot_be_rung_up_says_where_and_how_to_mend_it(demo, balcony, body, pointer):
    for path in ("/api/till", "/api/till/mends"):
        answer = demo.post(path, json={"plan": balcony["plan"], "cart": body})
        assert answer.status_code == 422
        assert answer.json["errors"][0]["pointer"] == pointer
        assert answer.json["errors"][0]["mend"]


def test_an_empty_cart_comes_to_nothing(demo, balcony):
    told = demo.post("/api/till", json={"plan": balcony["plan"], "cart": cart()}).json
    assert [(way["plan"]["total"], way["plan"]["delivery"]) for way in told["ways"]] == [(0, 0)] * len(told["ways"])


def test_the_history_gives_carts_and_says_when_it_has_none(demo, balcony):
    body = {"plan": balcony["plan"]}
    drawn = demo.post("/api/till/draw", json=body | {"turn": 7}).json
    assert demo.post("/api/till/draw", json=body | {"turn": 7}).json == drawn
    assert demo.post("/api/till", json=body | {"cart": drawn["cart"]}).status_code == 200
    refused = demo.post("/api/till/draw", json=body | {"order": 2**40})
    assert (refused.status_code, refused.json["detail"]) == (422, "There is no such order.")


def test_cases_are_kept_with_the_plan_and_told_when_it_changes(demo, balcony):
    plan = balcony["plan"]
    way = demo.post("/api/till", json={"plan": plan, "cart": cart(("HF-SEMAI-1", 10))}).json["ways"][0]
    case = {
        "name": "Ten",
        "cart": cart(("HF-SEMAI-1", 10)),
        "pays": way["plan"]["total"],
        "applies": ["balcony-packets"],
    }
    body = {"revision": balcony["revision"], "plan": plan | {"cases": [case]}}
    saved = demo.put(f"/api/plans/{balcony['id']}", json=body).json["plan"]
    assert [one["name"] for one in demo.get("/api/plans").json["plans"][2]["plan"]["cases"]] == ["Ten"]
    assert [one["holds"] for one in demo.post("/api/till/cases", json=saved).json["cases"]] == [True]
    saved["offers"][0]["in_plan"] = False
    (told,) = demo.post("/api/till/cases", json=saved).json["cases"]
    assert told["says"].endswith("Packets by the handful does not apply")


def test_a_snag_is_mended_with_the_terms_it_comes_with_and_let_be_with_a_reason(demo, plan):
    body = plan["plan"]
    found = demo.post("/api/snags", json=body).json["snags"]
    reduced = next(one for one in found if one["key"] == "on_reduced_prices")
    assert reduced["pointer"] == "/offers/0/terms/on/reduced"
    mended = json.loads(json.dumps(body))
    mended["offers"][0]["terms"] = reduced["mend"]["terms"]
    assert "on_reduced_prices" not in [one["key"] for one in demo.post("/api/snags", json=mended).json["snags"]]
    aside = {"snag": reduced["key"], "offer": reduced["offer"], "why": "It is meant so."}
    again = demo.post("/api/snags", json=body | {"set_aside": [aside]}).json["snags"]
    assert [one["set_aside"] for one in again if one["key"] == "on_reduced_prices"] == ["It is meant so."]
    assert {one["set_aside"] for one in again if one["key"] != "on_reduced_prices"} == {None}


def test_the_search_for_leaks_says_how_far_it_is_and_what_it_found(demo, plan):
    answer = demo.post("/api/leaks", json={"plan": plan["plan"], "least": 100})
    *progress, last = [json.loads(line) for line in answer.text.splitlines()]
    assert [one["kind"] for one in progress] == ["searched"] * len(progress)
    assert [one["share"] for one in progress] == sorted(one["share"] for one in progress)
    assert last["kind"] == "found"
    assert last["carts"] == progress[-1]["carts"] > 10_000
    for leak in last["leaks"]:
        told = demo.post("/api/till", json={"plan": plan["plan"], "cart": leak["cart"]}).json["ways"]
        assert (leak["kept"], leak["kept_today"]) in [(way["plan"]["kept"], way["today"]["kept"]) for way in told]
    assert demo.post("/api/leaks", json={"plan": plan["plan"], "least": 0}).status_code == 422


def test_a_plan_without_offers_has_no_snag_and_no_leak(demo, plan):
    bare = plan["plan"] | {"offers": []}
    assert demo.post("/api/snags", json=bare).json == {"snags": []}
    last = json.loads(demo.post("/api/leaks", json={"plan": bare}).text.splitlines()[-1])
    assert (last["leaks"], last["in_mix"]) == ([], [])
