"""Mixes of carts to expect over the API: kept by name, looked at, used by plans."""

import pytest

FORTNIGHT = {"first_day": "2027-03-01", "last_day": "2027-03-14"}


def kept(client) -> dict:
    return {mix["name"]: mix["terms"] for mix in client.get("/api/mixes").json["mixes"]}


def put(client, name: str, **terms):
    return client.put("/api/mixes", json={"name": name, "terms": terms})


def seen(client, days=FORTNIGHT, **terms) -> dict:
    answer = client.post("/api/mixes/seen", json={"terms": terms, **days})
    assert answer.status_code == 200, answer.json
    return answer.json


def forecast(client, plan: dict, **change) -> dict:
    return client.post("/api/forecast", json=plan | change).json


def test_the_usual_mix_is_there_and_can_be_changed_and_given_back(demo):
    assert kept(demo)["Usual"]["growth_bp"] == 0
    assert put(demo, "Usual", growth_bp=1_000).status_code == 200
    assert kept(demo)["Usual"]["growth_bp"] == 1_000
    assert demo.delete("/api/mixes?name=Usual").status_code == 200
    assert kept(demo)["Usual"]["growth_bp"] == 0


def test_a_change_of_a_mix_can_be_undone(demo):
    put(demo, "Busy", growth_bp=1_000)
    put(demo, "Busy", growth_bp=2_000)
    demo.post("/api/undo")
    assert kept(demo)["Busy"]["growth_bp"] == 1_000


def test_growth_is_felt_in_a_forecast_of_plans_that_use_the_mix_alone(demo, plan):
    usual = forecast(demo, plan["plan"])
    put(demo, "Busy", growth_bp=2_500)
    busy = forecast(demo, plan["plan"], mix="Busy")
    assert forecast(demo, plan["plan"])["today"] == usual["today"]
    assert busy["today"]["orders"] == pytest.approx(usual["today"]["orders"] * 1.25)
    assert busy["ledger"][-1]["exact_today"] == pytest.approx(usual["ledger"][-1]["exact_today"] * 1.25)


def test_what_a_mix_comes_to_is_what_a_plan_without_offers_forecasts(demo, plan):
    terms = {"counted": "last", "last_days": 120, "segments": [{"of": "first", "times_bp": 20_000}]}
    put(demo, "Late", **terms)
    told, found = seen(demo, **terms), forecast(demo, plan["plan"], mix="Late", offers=[], **FORTNIGHT)
    assert told["orders"] == pytest.approx(found["today"]["orders"])
    assert told["kept"] == pytest.approx(found["ledger"][-1]["exact_today"])
    assert told["counted_days"] == 120


def test_what_corrections_add_adds_up(demo):
    plain = seen(demo)
    named = [{"name": "Fair", "first_day": "2027-03-06", "last_day": "2027-03-07", "factor_bp": 20_000}]
    out = [{"first_day": "2026-05-03", "last_day": "2026-05-09", "why": "a post"}]
    told = seen(
        demo, growth_bp=500, named=named, left_out=out, segments=[{"of": "zone", "name": "Home", "times_bp": 9_000}]
    )
    assert [one["part"] for one in told["corrections"]] == ["left_out", "named", "growth_bp", "segments"]
    for figure in ("orders", "goods", "kept"):
        added = sum(one[figure] for one in told["corrections"])
        assert plain[figure] + added == pytest.approx(told[figure])
    weights = told["corrections"][-1]
    assert weights["orders"] == pytest.approx(0, abs=1e-6)
    assert weights["kept"] != 0


def test_spring_has_more_orders_than_autumn(demo):
    autumn = seen(demo, {"first_day": "2027-10-01", "last_day": "2027-10-14"})
    spring = seen(demo, {"first_day": "2027-04-05", "last_day": "2027-04-18"})
    assert spring["orders"] > 1.5 * autumn["orders"]
    assert sum(spring["month"]) == pytest.approx(12)
    assert sum(spring["weekday"]) == pytest.approx(7)


def test_how_far_off_such_days_were_before_is_told_and_can_be_taken_over(demo):
    before = seen(demo)["before"]
    assert before["low_bp"] < 10_000 < before["high_bp"]
    assert before["stretches"] >= 10
    taken = {"growth_low_bp": before["low_bp"] - 10_000, "growth_high_bp": before["high_bp"] - 10_000}
    assert seen(demo, **taken)["before"] == before
    assert put(demo, "Usual", **taken).status_code == 200
    assert seen(demo, orders_a_day=30)["before"] is None  # the merchant says it


def test_a_mix_a_plan_uses_is_not_forgotten(demo, plan):
    put(demo, "Busy", growth_bp=1_000)
    body = {"revision": plan["revision"], "plan": plan["plan"] | {"mix": "Busy"}}
    assert demo.put(f"/api/plans/{plan['id']}", json=body).json["plan"]["mix"] == "Busy"
    refused = demo.delete("/api/mixes?name=Busy")
    assert refused.status_code == 422
    assert "1 of your plans uses" in refused.json["detail"]
    assert demo.delete("/api/mixes?name=Nobody").status_code == 404


def test_a_plan_that_names_no_mix_there_is_is_told(demo, plan):
    answer = demo.post("/api/forecast", json=plan["plan"] | {"mix": "Nobody"})
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"] == "/mix"


@pytest.mark.parametrize(
    ("terms", "pointer"),
    [
        ({"counted": "range", "first_day": "2020-01-01", "last_day": "2020-01-31"}, "/terms/counted"),
        ({"counted": "range"}, "/terms/first_day"),
        ({"growth_bp": 99_999_999}, "/terms/growth_bp"),
        ({"segments": [{"of": "nobody", "times_bp": 1}]}, "/terms/segments/0/of"),
        (
            {"named": [{"name": "", "first_day": "2027-03-02", "last_day": "2027-03-01", "factor_bp": 1}]},
            "/terms/named/0/last_day",
        ),
        ({"month_bp": [1, 2, 3]}, "/terms/month_bp"),
        ({"colour": "green"}, "/terms/colour"),
    ],
)
def test_what_makes_no_sense_is_told_where_it_stands(demo, terms, pointer):
    answer = demo.post("/api/mixes/seen", json={"terms": terms, **FORTNIGHT})
    assert answer.status_code in (400, 422)
    assert answer.json["errors"][0]["pointer"] == pointer
    assert answer.json["errors"][0]["mend"]


def test_days_that_end_before_they_start_or_run_for_years_are_refused(demo):
    for last in ("2027-02-01", "2037-02-01", "9999-12-31"):
        body = {"terms": {"counted": "year_ago"}, "first_day": "2027-03-01", "last_day": last}
        assert demo.post("/api/mixes/seen", json=body).status_code == 422


def test_a_shop_without_orders_expects_none(empty):
    told = seen(empty, growth_bp=500)
    assert (told["orders"], told["counted_orders"], told["corrections"]) == (0, 0, [])


def test_groups_and_bands_add_up_to_what_is_expected(demo):
    terms = {"segments": [{"of": "first", "times_bp": 15_000}]}
    told = seen(demo, **terms)
    groups = demo.post("/api/mixes/groups", json={"terms": terms, **FORTNIGHT}).json
    assert sum(zone["orders"] for zone in groups["zones"]) == pytest.approx(told["orders"])
    assert sum(zone["kept"] for zone in groups["zones"]) == pytest.approx(told["kept"])
    first, returning = groups["shoppers"]
    assert first["orders"] / (first["orders"] + returning["orders"]) == pytest.approx(told["first_share"])
    assert sum(map(sum, groups["orders_by_hour"])) == pytest.approx(told["orders"])
    for by in ("value", "units", "weight"):
        zones = [{"where": {"zones": [zone["label"]]}} for zone in groups["zones"]]
        body = {"terms": terms, "by": by, **FORTNIGHT, "open_to": [*zones, {"who": {"first_order": True}}]}
        spread = demo.post("/api/mixes/spread", json=body).json
        assert sum(spread["orders"]) == pytest.approx(told["orders"])
        assert sum(spread["kept"]) == pytest.approx(told["kept"])
        open_to = [sum(one["fine"]) + one["beyond"] for one in spread["open_to"]]
        assert open_to == pytest.approx([*(zone["orders"] for zone in groups["zones"]), first["orders"]])


def test_goods_and_delivery_go_by_the_usual_carts(demo):
    before, taken = demo.get("/api/goods/one?sku=HF-TOBON-1").json, demo.get("/api/delivery/taken").json
    sketch = {
        "name": "Scissors",
        "share_bp": 10_000,
        "lines": [{"of": {"skus": ["HF-TOBON-1"]}, "least": 2, "most": 2}],
    }
    demo.put("/api/mixes", json={"name": "Usual", "terms": {"growth_bp": 10_000}})
    doubled = demo.get("/api/delivery/taken").json
    assert doubled["profit"] == pytest.approx(2 * taken["profit"], abs=1)
    assert demo.get("/api/goods/one?sku=HF-TOBON-1").json["units"] == 2 * before["units"]
    demo.put("/api/mixes", json={"name": "Usual", "terms": {"sketched": [sketch]}})
    found = demo.get("/api/goods/one?sku=HF-TOBON-1").json
    assert found["units"] == 24_000
    assert demo.get("/api/goods/one?sku=HF-HOBOS-1").json["units"] == 0
    for one in demo.get("/api/delivery/taken").json["options"]:
        query = {"zone": one["zone"], "option": one["option"]}
        curves = demo.get("/api/delivery/curves", query_string=query).json
        assert curves["orders"] == pytest.approx(one["orders"], abs=1)
        assert {mark["weight"] for mark in curves["marks"]} <= {2 * found["weight"]}
