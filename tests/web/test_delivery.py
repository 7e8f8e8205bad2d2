"""The Delivery place over the API: what delivery took, the curves, and every change it can make."""

from copy import deepcopy

import pytest

from tests.test_bring_in import bring


def zones_of(told: dict) -> list[dict]:
    return [{key: deepcopy(zone[key]) for key in ("name", "places", "options")} for zone in told["zones"]]


@pytest.fixture
def delivery(demo):
    return demo.get("/api/delivery").json


def test_what_options_took_adds_up_to_the_ledger_of_today(demo, plan):
    taken = demo.get("/api/delivery/taken").json
    days = taken["counted_days"]
    bare = plan["plan"] | {"offers": []}
    told = demo.post("/api/forecast", json=bare).json
    rows = {line["key"]: line["exact_today"] for line in told["ledger"]}
    share = told["today"]["orders"] / sum(one["orders"] for one in taken["options"])
    assert sum(one["orders"] for one in taken["options"]) == pytest.approx(12_000)
    assert days == 365
    assert sum(one["charged"] for one in taken["options"]) * share == pytest.approx(
        rows["delivery_charged"], rel=2e-4
    )
    assert sum(one["cost"] for one in taken["options"]) * share == pytest.approx(-rows["delivery_cost"], rel=2e-4)


def test_curves_hold_the_orders_that_went_so(demo, delivery):
    taken = {(one["zone"], one["option"]): one for one in demo.get("/api/delivery/taken").json["options"]}
    for zone in delivery["zones"]:
        for option in zone["options"]:
            query = {"zone": zone["name"], "option": option["name"]}
            told = demo.get("/api/delivery/curves", query_string=query).json
            assert told["orders"] == pytest.approx(taken[zone["name"], option["name"]]["orders"], abs=1)
            assert 0 <= told["losing"] <= told["orders"]
            assert 0 < len(told["marks"]) <= 500
            for curve in (told["by_weight"], told["by_value"]):
                assert len(curve["at"]) == len(curve["charged"]) == len(curve["cost"])
                assert curve["at"] == sorted(curve["at"])
            free = option["free_from"]
            if free is not None:
                above = [
                    charge
                    for value, charge in zip(told["by_value"]["at"], told["by_value"]["charged"], strict=True)
                    if value >= free
                ]
                assert not any(above)


def test_a_shop_without_orders_or_sketches_has_no_curves(empty):
    option = {"name": "Door", "charge": {"kind": "flat", "amount": 490}, "share_bp": 10_000, "tariffs": []}
    zone = {"name": "Home", "places": [], "options": [option]}
    assert empty.put("/api/zones", json={"zones": [zone]}).status_code == 200
    told = empty.get("/api/delivery/curves?zone=Home&option=Door").json
    assert told == {"by_weight": None, "by_value": None, "marks": [], "orders": 0, "losing": 0}


def test_an_option_that_is_not_there_is_not_found(demo):
    answer = demo.get("/api/delivery/curves", query_string={"zone": "Home", "option": "Owl"})
    assert (answer.status_code, answer.json["detail"]) == (404, "Home has no option “Owl”.")


def test_a_dearer_tariff_costs_more_from_then_on(demo, delivery):
    before = demo.get("/api/delivery/taken").json
    (parcel,) = [one["tariff"] for one in delivery["tariffs"] if one["tariff"]["name"] == "Swallow parcel"]
    dearer = parcel | {"steps": [step | {"amount": step["amount"] * 2} for step in parcel["steps"]]}
    assert demo.put("/api/tariffs", json={"tariffs": [dearer]}).status_code == 200
    after = demo.get("/api/delivery/taken").json
    assert after["profit"] < before["profit"]
    assert demo.post("/api/undo").status_code == 200
    assert demo.get("/api/delivery/taken").json == before


def test_a_tariff_taken_away_serves_nothing_any_more(demo, delivery):
    told = demo.delete("/api/tariffs?name=Ironwheel fragile").json
    assert "Ironwheel fragile" not in [one["tariff"]["name"] for one in told["tariffs"]]
    options = [option for zone in told["zones"] for option in zone["options"]]
    assert not any("Ironwheel fragile" in option["tariffs"] for option in options)
    assert not any(rule["tariff"] == "Ironwheel fragile" for option in options for rule in option["preferred"])
    assert demo.delete("/api/tariffs?name=Ironwheel fragile").status_code == 404


def test_orders_follow_an_option_that_is_renamed(demo, delivery):
    before = {one["option"]: one["orders"] for one in demo.get("/api/delivery/taken").json["options"]}
    zones = zones_of(delivery)
    zones[0]["options"][0]["name"] = "To your door"
    assert demo.put("/api/zones", json={"zones": zones}).status_code == 200
    after = {one["option"]: one["orders"] for one in demo.get("/api/delivery/taken").json["options"]}
    assert after["To your door"] == pytest.approx(before["To the door"])
    assert after["Pick-up point"] == pytest.approx(before["Pick-up point"])
    demo.post("/api/undo")
    assert {one["option"]: one["orders"] for one in demo.get("/api/delivery/taken").json["options"]} == before


@pytest.mark.parametrize(
    ("part", "pointer"),
    [
        ({"tariffs": ["Owl"]}, "/zones/0/options/0/tariffs/0"),
        ({"free_from": 0}, "/zones/0/options/0/free_from"),
        ({"charge": {"kind": "flat", "amount": -1}}, "/zones/0/options/0/charge/amount"),
        ({"charge": {"kind": "by_weight", "steps": []}}, "/zones/0/options/0/charge/steps"),
        ({"carries": {"heaviest": 100}}, "/zones/0/options/0/carries/heaviest"),
        ({"name": "Pick-up point"}, "/zones/0/options/1/name"),
    ],
)
def test_an_unsound_option_is_refused_and_nothing_changes(demo, delivery, part, pointer):
    zones = zones_of(delivery)
    zones[0]["options"][0] |= part
    answer = demo.put("/api/zones", json={"zones": zones})
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, pointer)
    assert answer.json["errors"][0]["mend"]
    assert demo.get("/api/delivery").json == delivery


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("zones", {"zones": [{"name": "Home", "options": [{"name": "A", "charge": {"kind": "luck"}}]}]}),
        ("zones", {"zones": "all"}),
        ("tariffs", {"tariffs": [{"name": "A", "steps": [{"upto": "heavy", "amount": 1}]}]}),
        ("tariffs", {"tariffs": [{"name": "A", "steps": [], "owner": "me"}]}),
        ("surcharges", {"surcharges": [{"name": "A", "asks": {"kind": "amount", "amount": 1, "counted": "smile"}}]}),
        ("surcharges", {"surcharges": [{"name": "A", "asks": {"kind": "amount", "amount": 1}, "chosen_bp": 20_000}]}),
        ("surcharges", {"surcharges": [{"asks": {"kind": "amount", "amount": 1}}]}),
    ],
)
def test_hand_made_requests_are_refused_with_the_field_named(demo, delivery, path, body):
    answer = demo.put(f"/api/{path}", json=body)
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"].startswith(f"/{path}")
    assert demo.get("/api/delivery").json == delivery


def test_a_surcharge_reaches_the_ledger(demo, delivery, plan):
    bare = plan["plan"] | {"offers": []}
    before = demo.post("/api/forecast", json=bare).json
    fee = {"name": "Counter fee", "asks": {"kind": "amount", "amount": 121, "counted": "order"}, "tax_class": "None"}
    assert demo.put("/api/surcharges", json={"surcharges": [*delivery["surcharges"], fee]}).status_code == 200
    after = demo.post("/api/forecast", json=bare).json
    rows = [{line["key"]: line["exact_today"] for line in told["ledger"]} for told in (before, after)]
    assert rows[1]["surcharges"] - rows[0]["surcharges"] == pytest.approx(121 * before["today"]["orders"])


@pytest.mark.parametrize("kind", ["goods", "tariffs", "charges", "surcharges"])
@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_tables_and_templates_are_downloads(demo, kind, ending):
    for what in ("tables", "templates"):
        answer = demo.get(f"/api/{what}/{kind}.{ending}")
        assert answer.status_code == 200
        assert "attachment" in answer.headers["Content-Disposition"]
        assert answer.data.startswith(b"PK" if ending == "xlsx" else b"\xef\xbb\xbf")
    assert demo.get(f"/api/tables/{kind}.pdf").status_code in (404, 422)


def test_options_that_orders_paid_are_taken_as_they_tell(empty_shop, empty):
    bring(empty_shop, "goods", b"sku,product,price,cost\nA,A,12,4\nB,B,60,20\n")
    lines = [f"{n},2026-10-{n % 28 + 1:02d},{'AB'[n % 2]},1,{4.9 * (n % 2 == 0):.2f},Post,Home" for n in range(40)]
    head = "order,date,sku,quantity,delivery charge,delivery option,country"
    bring(empty_shop, "orders", "\n".join([head, *lines]).encode())
    (one,) = empty.get("/api/delivery/told").json["paid"]
    assert (one["zone"], one["option"], one["orders"], one["exact"], one["ours"]) == ("Home", "Post", 40, 40, [])
    option = {"name": "Post", "charge": one["charge"], "free_from": one["free_from"], "share_bp": one["share_bp"]}
    zone = {"name": "Home", "places": [], "options": [option | {"tariffs": []}]}
    assert empty.put("/api/zones", json={"zones": [zone]}).status_code == 200
    (one,) = empty.get("/api/delivery/told").json["paid"]
    assert (one["ours"], one["as_asked"]) == (["Post"], 40)


def test_what_orders_cost_is_made_a_tariff(empty_shop, empty):
    bring(empty_shop, "goods", b"sku,product,price,cost,weight (g)\nA,A,12,4,500\nB,B,60,20,2500\n")
    lines = [f"{n},2026-10-{n % 28 + 1:02d},{'AB'[n % 2]},1,{(4.1, 6.3)[n % 2]},Post,Home" for n in range(40)]
    head = "order,date,sku,quantity,label cost,delivery option,country"
    bring(empty_shop, "orders", "\n".join([head, *lines]).encode())
    (one,) = empty.get("/api/delivery/told").json["cost"]
    assert (one["orders"], one["cost"], one["exact"], one["ours"], one["by_tariffs"]) == (40, 20_800, 40, [], None)
    home = {"zone": "Home", "option": "Post"}
    url = "/api/delivery/tariffs-of-costs"
    assert empty.post(url, json={"ways": [home]}).status_code == 404  # there is no such option yet
    zone = {"name": "Home", "places": [], "options": [{"name": "Post", "tariffs": []}]}
    assert empty.put("/api/zones", json={"zones": [zone]}).status_code == 200
    told = empty.post(url, json={"ways": [home]}).json
    assert told["zones"][0]["options"][0]["tariffs"] == ["Post to Home, as it cost"]
    assert [step["amount"] for step in told["tariffs"][0]["tariff"]["steps"]] == [410, 630]
    (one,) = empty.get("/api/delivery/told").json["cost"]
    assert (one["ours"], one["by_tariffs"]) == (["Post"], 20_800)
    assert empty.post(url, json={"ways": [home | {"option": "Kite"}]}).status_code == 404
    assert empty.post(url, json={"ways": []}).status_code == 422


def test_how_many_orders_name_each_option_and_way_to_pay(demo):
    told = demo.get("/api/delivery/told").json
    options = {(one["zone"], one["option"]): one["orders"] for one in told["options"]}
    assert len(options) == 6
    assert sum(options.values()) == pytest.approx(0.8 * 12_000, rel=0.02)
    assert options["Home", "To the door"] / options["Home", "Pick-up point"] == pytest.approx(0.68 / 0.32, rel=0.1)
    assert [one["payment"] for one in told["payments"]] == ["card", "wallet", "invoice"]
    assert sum(one["orders"] for one in told["payments"]) == 12_000
    assert told["paid"] == []


def test_a_shop_without_orders_tells_nothing_of_delivery(empty):
    assert empty.get("/api/delivery/told").json == {
        "paid": [],
        "cost": [],
        "being_paid": [],
        "refused": [],
        "options": [],
        "payments": [],
    }
