"""Plans held against each other: over the same days and draws, with twists, and what is wrong told in its place."""

import json
from datetime import date

import pytest

from tests.web.test_goods import body_of


@pytest.fixture
def plans(demo):
    return [one["plan"] for one in demo.get("/api/plans").json["plans"]]


def side_by_side(demo, *columns, path="", **more):
    told = [one if "plan" in one else {"plan": one} for one in columns]
    return demo.post(f"/api/side-by-side{path}", json={"columns": told, **more})


def kept(answer, number, who="plan"):
    return next(row for row in answer.json["columns"][number]["ledger"] if row["key"] == "profit")[f"exact_{who}"]


def answered(answer):
    return "".join(part.get("text", f"{part.get('amount')}{part.get('after')}") for part in answer.json["answer"])


def nothing(plan):
    return {**plan, "name": "Today", "offers": [], "cases": [], "set_aside": []}


def test_a_plan_alone_comes_to_what_its_board_says(demo, plans):
    told = side_by_side(demo, plans[0]).json
    assert told["columns"] == [demo.post("/api/forecast", json=plans[0]).json]
    assert (told["first_day"], told["last_day"]) == (plans[0]["first_day"], plans[0]["last_day"])


def test_the_answer_says_which_keeps_most(demo, plans):
    answer = side_by_side(demo, *plans[:2])
    best, other = sorted(range(2), key=lambda at: -answer.json["columns"][at]["impact"])
    impacts = [answer.json["columns"][at]["impact"] for at in (best, other)]
    days, names = answer.json["columns"][0]["days"], [plans[best]["name"], plans[other]["name"]]
    assert answered(answer) == (
        f"Over these {days} days “{names[0]}” keeps {impacts[0]}.0 more than today, "
        f"and {impacts[0] - impacts[1]}.0 more than “{names[1]}”, the next."
    )
    worse = {"plan": nothing(plans[0]), "twist": {"kind": "costs", "change_bp": 500}, "name": "Dearer goods"}
    assert "nothing here keeps more than today: “Dearer goods” keeps" in answered(side_by_side(demo, worse))


def test_other_plans_go_over_the_days_and_carts_of_the_first(demo, plans):
    first, second = plans[:2]
    assert first["first_day"] != second["first_day"]
    answer = side_by_side(demo, first, second)
    assert answer.json["columns"][1]["days"] == answer.json["columns"][0]["days"]
    assert kept(answer, 0, "today") == kept(answer, 1, "today")


def test_goods_sell_out_for_all_of_them_as_the_first_one_says(demo, plans):
    sells_out = plans[2] | {"lost_if_sold_out_bp": 5_000}
    answer = side_by_side(demo, sells_out, plans[2])
    assert kept(answer, 0) == kept(answer, 1)
    assert kept(answer, 0) != kept(side_by_side(demo, plans[2]), 0)


def test_an_offer_that_began_and_ended_with_its_plan_still_does(demo, plans):
    first, second = plans[:2]
    for offer in second["offers"]:
        offer["terms"]["when"] |= {"first_day": second["first_day"], "last_day": second["last_day"]}
    shown = side_by_side(demo, first, second).json["columns"][1]
    days = {"first_day": first["first_day"], "last_day": first["last_day"]}
    there = second | days | {"mix": first["mix"]}
    for offer in there["offers"]:
        offer["terms"]["when"] |= days
    assert demo.post("/api/forecast", json=there).json == shown


def test_chances_are_of_the_same_draws(demo, plans):
    columns = [plans[0], plans[1], {**plans[0], "name": "The same again"}]
    told = side_by_side(demo, *columns, path="/range").json["columns"]
    ranges = demo.post("/api/forecast/range", json=plans[0]).json
    assert [told[0][name] for name in ("low", "middle", "high", "likely")] == [
        ranges[name] for name in ("low", "middle", "high", "likely")
    ]
    assert told[0]["beats_today"] == ranges["beats"]
    assert told[0]["beats"][0] == told[0]["beats"][2] == 0.5
    for one in range(3):
        for other in range(3):
            assert told[one]["beats"][other] == pytest.approx(1 - told[other]["beats"][one])


def test_a_twist_that_changes_nothing_changes_nothing(demo, plans):
    same = {"kind": "prices", "change_bp": 0}
    plain, twisted = side_by_side(demo, plans[0], {"plan": plans[0], "twist": same}).json["columns"]
    assert twisted["bridge"][0] == {"key": "otherwise", "label": "The change by itself", "amount": 0, "exact": 0.0}
    assert {**twisted, "bridge": twisted["bridge"][1:]} == plain


def test_dearer_goods_cost_every_order_that_much_more(demo, plans):
    dearer = {"kind": "costs", "change_bp": 1_000}
    answer = side_by_side(demo, plans[0], {"plan": nothing(plans[0]), "twist": dearer})
    today, twisted = answer.json["columns"]
    cost, cost_then = (
        next(row for row in column["ledger"] if row["key"] == "goods_cost") for column in (today, twisted)
    )
    assert cost_then["exact_plan"] == pytest.approx(1.1 * cost["exact_today"])
    assert cost_then["exact_today"] == cost["exact_today"]
    assert twisted["bridge"][0]["exact"] == pytest.approx(sum(step["exact"] for step in twisted["bridge"]))
    assert kept(answer, 1) - kept(answer, 1, "today") == pytest.approx(twisted["bridge"][0]["exact"])


@pytest.mark.parametrize(
    ("twist", "save"),
    [
        ({"kind": "free_from", "amount": 9_000}, "free_from"),
        ({"kind": "tariffs", "change_bp": 2_500}, "tariffs"),
        ({"kind": "prices", "change_bp": -1_000, "on": {"skus": ["HF-PLGLA-4"]}}, "prices"),
    ],
)
def test_a_twist_comes_to_what_the_shop_would_with_it_saved(demo, plans, twist, save):
    twisted = kept(side_by_side(demo, plans[0], {"plan": plans[0], "twist": twist}), 1)
    before = demo.get("/api/frame").json["data_version"]
    SAVED[save](demo, twist)
    assert demo.get("/api/frame").json["data_version"] > before
    assert kept(side_by_side(demo, plans[0]), 0) == pytest.approx(twisted, abs=1e-6)


def save_free_from(demo, twist):
    zones = demo.get("/api/delivery").json["zones"]
    for zone in zones:
        del zone["orders"]
        for option in zone["options"]:
            option["free_from"] = twist["amount"]
    assert demo.put("/api/zones", json={"zones": zones}).status_code == 200


def save_tariffs(demo, twist):
    by = 1 + twist["change_bp"] / 10_000
    tariffs = [one["tariff"] for one in demo.get("/api/delivery").json["tariffs"]]
    for tariff in tariffs:
        for step in tariff["steps"]:
            step["amount"] *= by
        if tariff["per_kilogram"] is not None:
            tariff["per_kilogram"] *= by
    assert demo.put("/api/tariffs", json={"tariffs": tariffs}).status_code == 200


def save_prices(demo, twist):
    good = demo.get("/api/goods/one?sku=HF-PLGLA-4").json
    assert good["reduced_price"]
    assert good["group_prices"]
    for holder, name in (
        (good, "list_price"),
        (good, "reduced_price"),
        *((step, "price") for step in good["group_prices"]),
    ):
        holder[name] = (holder[name] * 18 + 10) // 20
    assert demo.put("/api/goods/one?sku=HF-PLGLA-4", json=body_of(good)).status_code == 200


SAVED = {"free_from": save_free_from, "tariffs": save_tariffs, "prices": save_prices}


def test_how_far_one_is_ahead_is_what_boards_say(demo, plans):
    first = plans[0]
    offer = next(one for one in first["offers"] if one["terms"]["response"]["extra_bp"] is not None)
    figure = {"offer": offer["id"], "figure": "extra_bp"}
    answer = side_by_side(
        demo,
        first,
        nothing(first),
        path="/map",
        one=0,
        other=1,
        across={**figure, "values_bp": [0, 1_000, 4_000]},
        up={**figure, "figure": "borrowed_bp", "values_bp": [0, 5_000]},
    )
    rows = answer.json["rows"]
    for row, borrowed in zip(rows, (0, 5_000), strict=True):
        for ahead, extra in zip(row, (0, 1_000, 4_000), strict=True):
            offer["terms"]["response"] |= {"extra_bp": extra, "borrowed_bp": borrowed, "depth_bp": None, "ranges": []}
            exact = sum(step["exact"] for step in demo.post("/api/forecast", json=first).json["bridge"])
            assert ahead == pytest.approx(exact, abs=1)


def test_what_is_wrong_is_told_in_its_column(demo, plans):
    ended = {**plans[0], "first_day": "2026-03-09", "last_day": "2026-03-02"}
    assert side_by_side(demo, ended, plans[1]).json["errors"][0]["pointer"] == "/columns/0/plan/last_day"
    first = plans[0]
    plans[1]["offers"][0]["terms"]["gives"] = []
    answer = side_by_side(demo, *plans[:2])
    assert answer.json["errors"][0]["pointer"].startswith("/columns/1/plan/offers/0/terms")
    for twist, at in (
        ({"kind": "free_from", "amount": -5}, "amount"),
        ({"kind": "free_from", "amount": 5_000, "zone": "The moon"}, "zone"),
        ({"kind": "tariffs", "change_bp": 100, "tariff": "By pigeon"}, "tariff"),
        ({"kind": "costs", "change_bp": -20_000}, "change_bp"),
        ({"kind": "prices", "change_bp": 100, "on": {"skus": ["no such SKU"]}}, "on"),
        ({"kind": "combining", "codes_per_order": 90}, "codes_per_order"),
    ):
        answer = side_by_side(demo, {"plan": first, "twist": twist})
        assert answer.status_code == 422
        assert [one["pointer"] for one in answer.json["errors"]] == [f"/columns/0/twist/{at}"], answer.json
    assert side_by_side(demo).status_code == 422
    assert side_by_side(demo, *[first] * 7).status_code == 422


def test_days_of_every_column_are_told(demo, plans):
    told = side_by_side(demo, plans[0], plans[1], path="/days").json["columns"]
    assert [len(one["days"]) for one in told] == [
        (date.fromisoformat(plans[0]["last_day"]) - date.fromisoformat(plans[0]["first_day"])).days + 1
    ] * 2
    assert told[0] == demo.post("/api/forecast/days", json=plans[0]).json


def test_what_no_cart_can_hold_is_told_in_its_column_whatever_is_asked(demo, plans):
    too_many = json.loads(json.dumps(plans[2]))
    gift = too_many["offers"][3]
    gift["terms"]["gives"] = [{"kind": "put_in", "skus": ["HF-SEMAI-1"], "quantity": 1_000}]
    gift["terms"]["earned"] = {"conditions": [{"kind": "spend", "n": 1}], "repeat": "each_time"}
    figure = {"offer": gift["id"], "figure": "extra_bp", "values_bp": [0, 100]}
    asked = {"one": 1, "other": 0, "across": figure, "up": figure | {"figure": "borrowed_bp"}}
    for path, more in (("", {}), ("/range", {}), ("/days", {}), ("/map", asked)):
        answer = side_by_side(demo, plans[0], too_many, path=path, **more)
        assert answer.status_code == 422, path
        assert answer.json["errors"][0]["pointer"].startswith("/columns/1/"), path
