"""Plans and forecasts over the API, sound and unsound."""

import copy
import json
from io import BytesIO
from pathlib import Path

import pytest

from yellow_abacus.web.context import IS_GONE


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


def test_a_forecast_that_nobody_waits_for_any_more_is_not_found(demo, plan):
    gone = {IS_GONE: lambda: True}
    assert demo.post("/api/forecast", json=plan["plan"], environ_overrides=gone).status_code == 409
    assert demo.post("/api/forecast", json=plan["plan"]).status_code == 200


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
    assert len(demo.get("/api/plans").json["plans"]) == 2
    assert demo.post("/api/undo").json["label"] == "Delete Potting-up fortnight"
    assert demo.post("/api/undo").json["label"] == "Change Potting-up fortnight"
    assert demo.get("/api/plans").json == before
    assert demo.post("/api/redo").json["label"] == "Change Potting-up fortnight"


BUY = {"kind": "buy_get", "buy": 2, "get": 1, "price": {"kind": "percent_off", "percent_bp": 10_000}}
POTS = {"count": 1, "of": {"categories": ["Planters"]}}
SET = {"kind": "goods_set", "parts": [POTS | {"count": 2}], "price": {"kind": "set_price", "amount": 100}}
TWENTY = [{"kind": "percent_off", "percent_bp": 2000}]
MORNING = {"first_day": "2027-03-02", "last_day": "2027-03-02"}


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
        ({"given": {"by": "code", "code": "-_-"}}, "/given/code"),
        ({"given": {"by": "code", "code": "LEAF/1"}}, "/given/code"),
        ({"given": {"by": "code", "code": "L" * 31}}, "/given/code"),
        ({"when": {"first_day": "2027-03-09", "last_day": "2027-03-02"}}, "/when/last_day"),
        ({"when": {"first_day": "someday"}}, "/when/first_day"),
        ({"response": {"extra_bp": -1}}, "/response/extra_bp"),
        ({"gives": [BUY | {"get": 0}]}, "/gives/0/get"),
        ({"gives": [BUY | {"buy": 10**12}]}, "/gives/0/buy"),
        ({"gives": [BUY | {"price": {"kind": "goods_set"}}]}, "/gives/0/price/kind"),
        ({"gives": [BUY | {"of": {"skus": ["GONE"]}}]}, "/gives/0/of/skus"),
        ({"gives": [SET | {"parts": []}]}, "/gives/0/parts"),
        ({"gives": [SET | {"parts": [POTS, POTS]}]}, "/gives/0/parts/1/of"),
        ({"gives": [SET | {"parts": [{"count": 0, "of": {}}]}]}, "/gives/0/parts/0/count"),
        ({"gives": [SET | {"price": {"kind": "set_price", "amount": -1}}]}, "/gives/0/price/amount"),
        ({"gives": [{"kind": "put_in", "skus": []}]}, "/gives/0/skus"),
        ({"gives": [{"kind": "put_in", "skus": ["GONE"]}]}, "/gives/0/skus"),
        ({"gives": [{"kind": "put_in", "categories": ["Boats"]}]}, "/gives/0/categories"),
        ({"gives": [{"kind": "put_in", "skus": ["HF-SEMAI-1"], "quantity": 10**12}]}, "/gives/0/quantity"),
        ({"gives": [{"kind": "put_in", "skus": ["HF-SEMAI-1"], "shares_bp": [4000]}]}, "/gives/0/shares_bp"),
        ({"gives": [{"kind": "put_in", "skus": ["HF-SEMAI-1"], "substitute": "GONE"}]}, "/gives/0/substitute"),
        ({"gives": [{"kind": "delivery_amount_off", "amount": 1, "below_weight": 0}]}, "/gives/0/below_weight"),
        ({"earned": {"conditions": [{"kind": "only"}]}}, "/earned/conditions/0/of"),
        ({"earned": {"conditions": [{"kind": "spend", "n": 500}], "counted": "by_sku"}}, "/earned/counted"),
        ({"earned": {"repeat": "each_time", "conditions": [{"kind": "spend", "n": 500}]}}, "/earned/repeat"),
        ({"steps": [{"n": 6000, "gives": TWENTY}]}, "/steps/0/n"),
        ({"steps": [{"n": 9000, "gives": TWENTY}, {"n": 9000, "gives": TWENTY}]}, "/steps/1/n"),
        ({"steps": [{"n": 9000, "gives": [{"kind": "percent_off", "percent_bp": 500}]}]}, "/steps/0/gives"),
        ({"steps": [{"n": 9000, "gives": []}]}, "/steps/0/gives"),
        ({"steps": [{"n": 9000 + at, "gives": TWENTY} for at in range(10_000)]}, "/steps"),
        ({"steps": [{"n": 9000, "gives": TWENTY}], "earned": {}}, "/steps"),
        ({"every_step": True}, "/every_step"),
        ({"limits": {"amount": 100}, "gives": [{"kind": "amount_off", "amount": 101}]}, "/limits/amount"),
        ({"limits": {"uses": 0}}, "/limits/uses"),
        ({"limits": {"spending": -5}}, "/limits/spending"),
        ({"given": {"by": "codes", "codes": []}}, "/given/codes"),
        ({"given": {"by": "codes", "codes": ["FERN-1", "no"]}}, "/given/codes"),
        ({"given": {"by": "codes", "codes": ["FERN-1", "fern-1"]}}, "/given/codes"),
        ({"given": {"by": "pigeon"}}, "/given/by"),
        ({"when": {"weekdays": [7]}}, "/when/weekdays"),
        ({"when": {"from_minute": 600}}, "/when/from_minute"),
        ({"when": {"from_minute": 600, "to_minute": 600}}, "/when/to_minute"),
        ({"when": {"from_minute": 600, "to_minute": 9000}}, "/when/to_minute"),
        ({"when": {"first_minute": 600}}, "/when/first_minute"),
        ({"when": MORNING | {"first_minute": 700, "last_minute": 600}}, "/when/last_minute"),
        ({"who": {"nth_order": 0}}, "/who/nth_order"),
        ({"who": {"days_since": -1}}, "/who/days_since"),
        ({"who": {"first_order": True, "days_since": 9}}, "/who/first_order"),
        ({"who": {"tags": ["a"], "except_tags": ["A"]}}, "/who/except_tags"),
        ({"where": {"zones": ["Atlantis"]}}, "/where/zones"),
        ({"where": {"zones": ["Home"], "except_zones": ["Home"]}}, "/where/zones"),
        ({"alongside": {"never_with": ["potting-up-12"]}}, "/alongside/never_with"),
        ({"alongside": {"yields_to": ["नहीं", "不存在", "немає", "غير", "ÖÄ"]}}, "/alongside/yields_to"),
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
        ({"lost_if_sold_out_bp": -1}, "/lost_if_sold_out_bp"),
        ({"lost_if_sold_out_bp": 10_001}, "/lost_if_sold_out_bp"),
    ],
)
def test_an_unsound_plan_is_refused(demo, plan, change, pointer):
    answer = demo.post("/api/forecast", json=plan["plan"] | change)
    assert answer.status_code == 422
    assert pointer in [one["pointer"] for one in answer.json["errors"]]


def test_what_sells_out_ends_on_a_day_and_is_a_step_of_the_bridge(demo):
    plan = demo.get("/api/plans").json["plans"][2]["plan"]
    found = demo.post("/api/forecast", json=plan | {"lost_if_sold_out_bp": 10_000}).json
    (end,) = [one for one in found["ends"] if one["sku"] == "HF-SECHE-1"]
    assert end["day"] == "2027-04-14"
    steps = {one["key"]: one["amount"] for one in found["bridge"]}
    assert steps["sold_out"]
    assert found["start"] + sum(steps.values()) == found["end"]


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


def curve(demo, plan: dict, values: list[int], *pointers: str):
    return demo.post("/api/curve", json={"plan": plan, "pointers": pointers, "values": values})


def test_the_curve_gives_the_impact_at_every_value(demo, plan):
    body = with_terms(plan["plan"], gives=[{"kind": "percent_off", "percent_bp": 700}])
    values = [500, 1200, 0, 20_000, 500]
    impacts = curve(demo, body, values, "/offers/0/terms/gives/0/percent_bp").json["impacts"]
    for value, impact in zip(values[:2], impacts, strict=False):
        one = with_terms(body, gives=[{"kind": "percent_off", "percent_bp": value}])
        told = demo.post("/api/forecast", json=one).json["ledger"][-1]
        assert impact == pytest.approx(told["exact_plan"] - told["exact_today"])
    assert impacts[0] != impacts[1]
    assert impacts[2:] == [None, None, impacts[0]]


@pytest.mark.parametrize(
    "pointer",
    [
        "/offers/9/terms/gives/0/percent_bp",
        "/offers/0/terms/gives",
        "/name",
        "/offers/x/id",
        "/offers/0/in_plan",
        "/1",
    ],
)
def test_a_curve_of_what_is_no_figure_is_refused(demo, plan, pointer):
    answer = curve(demo, plan["plan"], [1, 2], pointer)
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, "/pointers/0")


def test_with_no_orders_there_is_nothing_to_count(empty, plan):
    bare = plan["plan"] | {"offers": []}
    answer = empty.post("/api/forecast", json=bare)
    assert (answer.status_code, answer.json["title"]) == (409, "Nothing to count")


def test_what_is_not_there_is_not_found(demo):
    assert demo.delete("/api/plans/999").status_code == 404
    assert demo.get("/api/wishes").status_code == 404
    assert demo.get("/api/plans/one").status_code == 404
    assert demo.delete("/api/frame").status_code == 405


def many_offers(plan: dict, many: int, **part) -> dict:
    terms = plan["offers"][0]["terms"]
    offers = [{"id": str(n), "terms": terms | {name: told(n) for name, told in part.items()}} for n in range(many)]
    return plan | {"offers": offers}


def test_more_than_64_ways_to_go_together_or_to_choose_are_refused(demo, plan):
    pairs = many_offers(plan["plan"], 14, alongside=lambda n: {"never_with": [str(n ^ 1)]})
    answer = demo.post("/api/forecast", json=pairs)
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, "/offers")
    assert "128 ways" in answer.json["errors"][0]["message"]
    choices = many_offers(plan["plan"], 3, gives=lambda n: [{"kind": "put_in", "categories": ["Planters"]}])
    assert demo.post("/api/forecast", json=choices).status_code == 422


def test_offers_share_a_code_and_clash_over_none(demo, plan):
    codes = {
        "shared": [{"by": "code", "code": "FERN-7"}, {"by": "link", "code": "fern-7"}],
        "clashing": [{"by": "code", "code": "FERN-7"}, {"by": "codes", "codes": ["MOSS-1", "Fern-7"]}],
        "overlapping": [{"by": "codes", "codes": ["MOSS-1", "MOSS-2"]}, {"by": "codes", "codes": ["MOSS-1"]}],
    }
    for name, given in codes.items():
        answer = demo.post("/api/forecast", json=many_offers(plan["plan"], 2, given=lambda n, given=given: given[n]))
        assert answer.status_code == (200 if name == "shared" else 422)
        if name != "shared":
            assert answer.json["errors"][0]["pointer"] == "/offers/1/terms/given/codes"


def test_reach_counts_every_order_once_by_its_reason(demo):
    for saved in demo.get("/api/plans").json["plans"]:
        forecast = demo.post("/api/forecast", json=saved["plan"]).json
        told = demo.post("/api/reach", json=saved["plan"]).json["offers"]
        # Reasons are told of the offers as they begin: what ends meanwhile moves an order here and there.
        near = 1e-3 if any(one["day"] for one in forecast["ends"]) else 1e-6
        for reach, figures in zip(told, forecast["offers"], strict=True):
            assert reach["id"] == figures["id"]
            assert reach["reached"] == pytest.approx(figures["reached"], rel=near)
            assert reach["orders"] == pytest.approx(forecast["today"]["orders"])
            assert reach["reached"] + sum(one["orders"] for one in reach["causes"]) == pytest.approx(reach["orders"])
    assert any(one["text"] == "short of 6 units by one" and one["near"] for one in told[0]["causes"])


def test_an_offer_is_kept_from_some_days_hours_and_shoppers(demo, plan):
    for part, reason in [
        ({"when": {"first_day": "2027-03-08"}}, "out_of_dates"),
        ({"when": {"weekdays": [5, 6], "from_minute": 1200, "to_minute": 120}}, "wrong_hours"),
        ({"who": {"days_since": 30}}, "not_this_shopper"),
        ({"where": {"channels": ["telephone"]}}, "not_this_channel"),
        ({"where": {"payments": ["invoice"]}}, "not_this_payment"),
        ({"where": {"currencies": ["GBP"]}}, "not_this_currency"),
    ]:
        told = demo.post("/api/reach", json=with_terms(plan["plan"], **part)).json["offers"][0]
        assert reason in {one["reason"] for one in told["causes"] if one["orders"] > 1}


def test_offers_go_out_to_a_file_and_come_back_alike_but_for_their_ids(demo):
    plan = demo.get("/api/plans").json["plans"][2]["plan"]
    told = demo.post("/api/offers/read", json={"currency": "EUR", "offers": plan["offers"]}).json["offers"]
    assert not {one["id"] for one in told} & {one["id"] for one in plan["offers"]}
    beside = told[4]["terms"]["alongside"]["never_with"]
    assert beside == [told[1]["id"]]
    before, after = (
        demo.post("/api/forecast", json=plan | {"offers": offers}).json["answer_text"]
        for offers in (plan["offers"], told)
    )
    assert before == after


@pytest.mark.parametrize(
    ("body", "pointer"),
    [
        ({"currency": "GBP", "offers": []}, "/currency"),
        ({"offers": [{"terms": {"gives": [{"kind": "wishes"}]}}]}, "/offers/0/terms/gives/0/kind"),
        ({"offers": [{"terms": {"gives": []}, "colour": "red"}]}, "/offers/0/colour"),
        ({"offers": "none"}, "/offers"),
    ],
)
def test_a_file_of_offers_that_is_not_sound_is_refused(demo, body, pointer):
    answer = demo.post("/api/offers/read", json=body)
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, pointer)


def test_the_schema_of_offers_is_the_published_one(demo):
    published = json.loads((Path(__file__).parents[2] / "docs" / "offers.schema.json").read_text(encoding="utf-8"))
    assert demo.get("/api/offers/schema").json == published


@pytest.mark.parametrize(
    ("data", "codes"),
    [
        (b"Code\nfern-1\nMOSS-2\nfern-1\n", ["FERN-1", "MOSS-2"]),
        ("Nr;Gutscheincode\n1;ЛИСТ-7\n".encode("utf-16"), ["ЛИСТ-7"]),
        (b"whatever\nFERN-1\n", ["FERN-1"]),
        (b"Code\nFERN-1\n=2+3\n", "Row 3"),
        (b"a,b\nFERN-1,x\n", "No column of codes"),
        (b"", "empty"),
        (b"%PDF-1.7", "PDF"),
    ],
)
def test_codes_come_in_from_csv(demo, data, codes):
    answer = demo.post("/api/codes/read", data={"file": (BytesIO(data), "codes.csv")})
    if isinstance(codes, list):
        assert answer.json["codes"] == codes
    else:
        assert (answer.status_code, codes in answer.json["detail"]) == (422, True)


def test_a_code_the_shops_software_cannot_hold_is_told_and_not_refused(demo):
    saved = demo.get("/api/plans").json["plans"][1]["plan"]
    settings = demo.get("/api/delivery").json["settings"]
    assert demo.put("/api/settings", json=settings | {"code_longest": 5}).status_code == 200
    told = demo.post("/api/snags", json=saved).json["snags"]
    (says,) = [one["text"] for one in told if one["key"] == "beyond_the_shop"]
    assert says == "The code FRONDLET has 8 characters, where your shop takes 3 to 5."
    assert demo.put("/api/settings", json=settings | {"code_longest": 5, "code_shortest": 6}).status_code == 422


def test_more_put_in_than_a_cart_can_hold_is_refused_at_the_offer(demo, plan):
    body = plan["plan"]
    body["offers"][0]["terms"] |= {
        "earned": {"conditions": [{"kind": "spend", "n": 1}], "repeat": "each_time"},
        "gives": [{"kind": "put_in", "skus": ["HF-SEMAI-1"], "quantity": 1000, "amount": 900_000}],
    }
    for path in ("forecast", "reach"):
        answer = demo.post(f"/api/{path}", json=body)
        assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, "/offers/0/terms/limits/times")
    impacts = curve(demo, body, [900_000, 0], "/offers/0/terms/gives/0/amount").json["impacts"]
    assert impacts[0] is None


def test_a_response_that_was_not_said_counts_everybody_and_no_extra_orders(demo):
    body = demo.get("/api/plans").json["plans"][1]["plan"]
    body["offers"][0]["terms"]["response"] = {}
    unsaid = demo.post("/api/forecast", json=body).json
    assert "if everybody uses the code" in unsaid["answer_text"]
    body["offers"][0]["terms"]["response"] = {"uptake_bp": 10_000, "extra_bp": 0}
    said = demo.post("/api/forecast", json=body).json
    assert {**said, "answer": 0, "answer_text": 0} == {**unsaid, "answer": 0, "answer_text": 0}
