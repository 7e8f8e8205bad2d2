"""How sure a forecast is, and the working of its figures, through the API and on the command line."""

import json

import pytest
from click.testing import CliRunner

from yellow_abacus.cli import main


def test_a_range_holds_the_likely_figure_and_names_what_matters_most(demo, plan):
    told = demo.post("/api/forecast/range", json=plan["plan"]).json
    forecast = demo.post("/api/forecast", json=plan["plan"]).json
    assert told["low"] < told["middle"] < told["high"]
    assert told["likely"] == pytest.approx(forecast["ledger"][-1]["change"], abs=1)
    swings = [abs(one["impact_at_high"] - one["impact_at_low"]) for one in told["swings"]]
    assert swings == sorted(swings, reverse=True)
    assert demo.post("/api/forecast/range", json=plan["plan"]).json == told


def test_a_range_that_does_not_rise_is_refused(demo, plan):
    body = plan["plan"]
    body["offers"][0]["terms"]["response"]["ranges"] = [{"of": "extra_bp", "low": 3000, "high": 4000}]
    answer = demo.post("/api/forecast/range", json=body)
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"] == "/offers/0/terms/response/ranges/0"


@pytest.mark.parametrize(
    ("part", "pointer"),
    [
        ({"top_up_bp": 1000}, "/response/top_up_reach"),
        ({"take_up_bp": 10_001}, "/response/take_up_bp"),
        ({"fixed_cost": -1}, "/response/fixed_cost"),
        ({"top_up_bp": 10, "top_up_reach": 5, "top_up_skus": ["none such"]}, "/response/top_up_skus/0"),
        ({"sends": {"size": 10, "response_bp": 100}}, "/response/sends"),
    ],
)
def test_a_response_that_makes_no_sense_says_where(demo, plan, part, pointer):
    body = plan["plan"]
    body["offers"][0]["terms"]["response"] = part
    answer = demo.post("/api/forecast", json=body)
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"] == f"/offers/0/terms{pointer}"


def test_messages_to_shoppers_of_whom_no_order_is_expected_are_refused(demo, plan):
    body = plan["plan"]
    terms = body["offers"][0]["terms"]
    terms["given"] = {"by": "code", "code": "FROND"}

    def asked(**among) -> tuple[int, dict]:
        terms["response"] = {"sends": {"size": 10, "response_bp": 100, "among": among}}
        answer = demo.post("/api/forecast", json=body)
        return answer.status_code, answer.json

    assert asked(of="zone", name=demo.get("/api/frame").json["zones"][0])[0] == 200
    for among in (
        {"of": "channel", "name": "a fair"},
        {"of": "type", "name": "none such"},
        {"of": "away", "days": 3000},
    ):
        status, told = asked(**among)
        assert status == 422
        assert told["errors"][0]["pointer"] == "/offers/0/terms/response/sends/among"
    assert asked(of="zone")[1]["errors"][0]["pointer"] == "/offers/0/terms/response/sends/among/name"


def test_shown_parts_of_the_working_add_up_to_what_is_shown(demo, plan):
    def opened(key: str) -> dict:
        return demo.post("/api/forecast/working", json={"plan": plan["plan"], "key": key}).json

    for key in ("impact", "bridge/given_away", "plan/goods", "anyway/goods"):
        told = opened(key)
        assert sum(part["amount"] for part in told["parts"]) == told["amount"]
    leaf = opened(opened("today/goods")["parts"][0]["key"])
    assert leaf["orders"] * leaf["each"] == pytest.approx(leaf["value"])
    assert leaf["carts"]
    assert demo.get(f"/api/orders/{leaf['carts'][0]['order_id']}").json["number"] == leaf["carts"][0]["number"]


def test_a_figure_that_is_none_is_refused(demo, plan):
    answer = demo.post("/api/forecast/working", json={"plan": plan["plan"], "key": "nothing/such"})
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"] == "/key"


def test_the_command_line_tells_why_and_the_whole_forecast_follows_its_schema(demo_shop):
    path = str(demo_shop.path)
    demo_shop.close()

    def run(*arguments: str):
        return CliRunner().invoke(main, ["forecast", "--shop", path, "--plan", "Balcony days", *arguments])

    assert "[bridge/given_away]" in run("--why", "impact").output
    assert json.loads(run("--why", "bridge/given_away", "--json").output)["parts"]
    assert "no figure" in run("--why", "none").output
    told = json.loads(run("--json").output)
    assert told["range"]["swings"]
    assert told["each"][-1]["piled"] == pytest.approx(told["range"]["likely"], abs=1)
    assert [one["day"] for one in told["ends"] if one["sku"] == "HF-SECHE-1"] != [None]
