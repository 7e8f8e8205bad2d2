"""Plans and forecasts over the API, sound and unsound."""

import copy

import pytest


def with_terms(plan: dict, **part) -> dict:
    changed = copy.deepcopy(plan)
    changed["offers"][0]["terms"].update(part)
    return changed


def test_a_forecast_answers_and_its_figures_foot(demo, plan):
    told = demo.post("/api/forecast", json=plan["plan"]).json
    assert told["answer_text"].startswith("Over these 14 days the plan keeps €")
    for column in ("today", "plan", "change", "today_each", "plan_each"):
        *rows, kept = [line[column] for line in told["ledger"]]
        assert sum(rows) == kept
    assert told["start"] + sum(step["amount"] for step in told["bridge"]) == told["end"]
    assert told["impact"] == told["end"] - told["start"]
    for rod in (*told["rods"]["category"], *told["rods"]["zone"]):
        assert rod["goods"] + rod["delivery"] + rod["fees"] + rod["tax"] + rod["kept"] == rod["pays"]


def test_one_demo_plan_sells_more_and_keeps_less_and_the_other_keeps_more(demo):
    first, second, _ = (
        demo.post("/api/forecast", json=one["plan"]).json for one in demo.get("/api/plans").json["plans"]
    )
    assert first["plan"]["orders"] > first["today"]["orders"]
    assert first["impact"] < 0 < second["impact"]


def test_saving_gives_a_new_revision_and_an_old_one_is_refused(demo, plan):
    body = {"revision": plan["revision"], "plan": plan["plan"] | {"note": "Changed"}}
    saved = demo.put(f"/api/plans/{plan['id']}", json=body)
    assert (saved.status_code, saved.json["revision"]) == (200, plan["revision"] + 1)
    again = demo.put(f"/api/plans/{plan['id']}", json=body | {"plan": plan["plan"] | {"note": "Too late"}})
    assert again.status_code == 409
    assert demo.get("/api/plans").json["plans"][0]["plan"]["note"] == "Changed"


def test_any_change_of_a_plan_can_be_undone(demo, plan):
    before = demo.get("/api/plans").json
    demo.put(f"/api/plans/{plan['id']}", json={"revision": plan["revision"], "plan": plan["plan"] | {"note": "x"}})
    demo.delete(f"/api/plans/{plan['id']}")
    assert len(demo.get("/api/plans").json["plans"]) == 1
    assert demo.post("/api/undo").json["label"] == "Delete Potting-up fortnight"
    assert demo.post("/api/undo").json["label"] == "Change Potting-up fortnight"
    assert demo.get("/api/plans").json == before
    assert demo.post("/api/redo").json["label"] == "Change Potting-up fortnight"


@pytest.mark.parametrize(
    ("part", "pointer"),
    [
        ({"gives": [{"kind": "wishes", "amount": 3}]}, "/gives/0/kind"),
        ({"gives": [{"amount": 3}]}, "/gives/0"),
        ({"gives": [{"kind": "percent_off", "percent_bp": "lots"}]}, "/gives/0/percent_bp"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 12.5}]}, "/gives/0/percent_bp"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 0}]}, "/gives/0/percent_bp"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 10_001}]}, "/gives/0/percent_bp"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 500, "colour": "red"}]}, "/gives/0/colour"),
        ({"gives": [{"kind": "amount_off", "amount": -500}]}, "/gives/0/amount"),
        ({"gives": [{"kind": "amount_off", "amount": 10**30}]}, "/gives/0/amount"),
        ({"gives": [{"kind": "delivery_lowered_to", "amount": 0, "zones": ["Atlantis"]}]}, "/gives/0/zones"),
        ({"gives": []}, "/gives"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 100}] * 9}, "/gives"),
        ({"gives": "everything"}, "/gives"),
        ({"earned": {"conditions": [{"kind": "spend", "n": 0}]}}, "/earned/conditions/0/n"),
        ({"earned": {"conditions": [{"kind": "spend", "n": 10**12}]}}, "/earned/conditions/0/n"),
        ({"earned": {"repeat": "each_time"}}, "/earned/repeat"),
        ({"earned": {"conditions": [{"kind": "wind", "n": 3}]}}, "/earned/conditions/0/kind"),
        ({"earned": {"conditions": [{"kind": "units", "n": 2, "bound": "about"}]}}, "/earned/conditions/0/bound"),
        ({"earned": {"conditions": [{"kind": "units", "n": 10**12}]}}, "/earned/conditions/0/n"),
        ({"on": {"categories": ["Submarines"]}}, "/on/categories"),
        ({"on": {"skus": ["NO-SUCH-SKU"]}}, "/on/skus"),
        ({"on": {"except_skus": ["x"] * 2000}}, "/on/except_skus"),
        ({"limits": {"amount": 0}}, "/limits/amount"),
        ({"limits": {"units": -3}}, "/limits/units"),
        ({"limits": {"times": 1.5}}, "/limits/times"),
        ({"gives": [{"kind": "unit_price", "amount": -1}]}, "/gives/0/amount"),
        ({"gives": [{"kind": "amount_off_each", "amount": 0}]}, "/gives/0/amount"),
        ({"given": {"by": "code", "code": "A B"}}, "/given/code"),
        ({"given": {"by": "code", "code": ""}}, "/given/code"),
        ({"given": {"by": "code", "code": "-LEAF"}}, "/given/code"),
        ({"given": {"by": "code", "code": "LEAF..1"}}, "/given/code"),
        ({"given": {"by": "code", "code": "LEAF_1"}}, "/given/code"),
        ({"when": {"first_day": "2027-03-09", "last_day": "2027-03-02"}}, "/when/last_day"),
        ({"when": {"first_day": "someday"}}, "/when/first_day"),
        ({"response": {"extra_bp": -1}}, "/response/extra_bp"),
        ({"response": {"uptake_bp": 10_001}}, "/response/uptake_bp"),
    ],
)
def test_an_unsound_offer_is_refused_with_a_pointer_and_nothing_changes(demo, plan, part, pointer):
    unsound = with_terms(plan["plan"], **part)
    before = demo.get("/api/plans").json
    answers = [
        demo.post("/api/forecast", json=unsound),
        demo.post("/api/plans", json=unsound),
        demo.put(f"/api/plans/{plan['id']}", json={"revision": plan["revision"], "plan": unsound}),
    ]
    for answer, root in zip(answers, ("", "", "/plan"), strict=True):
        assert answer.status_code == 422
        assert answer.content_type == "application/problem+json"
        told = answer.json["errors"]
        # the problem of a plan that was read is told from the plan on; one of shape from the whole request on
        assert {f"/offers/0/terms{pointer}", f"{root}/offers/0/terms{pointer}"} & {one["pointer"] for one in told}
        assert all(one["message"] and one["mend"] for one in told)
    assert demo.get("/api/plans").json == before


@pytest.mark.parametrize("code", ["ЛИСТ-7", "フクシア", "Fern.Leaf-9", "ΦΥΛΛΟ", "पत्ता2024"])
def test_codes_of_any_script_are_fine(demo, plan, code):
    answer = demo.post("/api/forecast", json=with_terms(plan["plan"], given={"by": "code", "code": code}))
    assert answer.status_code == 200


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"last_day": "2027-02-01"}, "/last_day"),
        ({"last_day": "2029-02-01"}, "/last_day"),
        ({"name": ""}, "/name"),
        ({"name": "x" * 200}, "/name"),
        ({"surplus": 1}, "/surplus"),
    ],
)
def test_an_unsound_plan_is_refused(demo, plan, change, pointer):
    answer = demo.post("/api/forecast", json=plan["plan"] | change)
    assert answer.status_code == 422
    assert pointer in [one["pointer"] for one in answer.json["errors"]]


def test_too_many_codes_or_offers_are_refused(demo, plan):
    offer = plan["plan"]["offers"][0]
    many = [
        offer | {"id": str(n), "terms": offer["terms"] | {"given": {"by": "code", "code": f"CODE{n}"}}}
        for n in range(9)
    ]
    answer = demo.post("/api/forecast", json=plan["plan"] | {"offers": many})
    assert answer.status_code == 422
    assert "9 different codes" in answer.json["errors"][0]["message"]
    flood = [offer | {"id": str(n)} for n in range(10_000)]
    assert demo.post("/api/forecast", json=plan["plan"] | {"offers": flood}).status_code == 422


@pytest.mark.parametrize("body", [b"", b"{", b"[]", b"null", b'"plan"', b"\xff\xfe"])
def test_a_body_that_is_no_plan_is_refused(demo, body):
    answer = demo.post("/api/forecast", data=body, content_type="application/json")
    assert answer.status_code in (400, 422)
    assert answer.json["detail"]


def test_the_curve_gives_the_impact_of_every_variant(demo, plan):
    variants = [with_terms(plan["plan"], gives=[{"kind": "percent_off", "percent_bp": bp}]) for bp in (500, 1200, 0)]
    impacts = demo.post("/api/curve", json={"variants": variants}).json["impacts"]
    one = demo.post("/api/forecast", json=variants[1]).json
    assert impacts[1] == pytest.approx(one["ledger"][-1]["exact_plan"] - one["ledger"][-1]["exact_today"])
    assert impacts[0] != impacts[1]
    assert impacts[2] is None


def test_with_no_orders_there_is_nothing_to_count(empty, plan):
    bare = plan["plan"] | {"offers": []}
    answer = empty.post("/api/forecast", json=bare)
    assert (answer.status_code, answer.json["title"]) == (409, "Nothing to count")


def test_what_is_not_there_is_not_found(demo):
    assert demo.delete("/api/plans/999").status_code == 404
    assert demo.get("/api/wishes").status_code == 404
    assert demo.get("/api/plans/one").status_code == 404
    assert demo.delete("/api/frame").status_code == 404
