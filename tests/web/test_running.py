"""Offers that run already, through the API: today, what plans keep, drop and put in their place."""

import pytest
from sqlalchemy import text

from yellow_abacus.store.models import ShopRow

TEN = {"id": "ten", "name": "Ten off all", "terms": {"gives": [{"kind": "percent_off", "percent_bp": 1000}]}}
CODED = {
    "id": "coded",
    "terms": {
        "gives": [{"kind": "percent_off", "percent_bp": 500}],
        "given": {"by": "code", "code": "FRONDLET"},
        "response": {"uptake_bp": 9000, "extra_bp": 500},
    },
}


@pytest.fixture
def plan(demo) -> dict:
    plans = demo.get("/api/plans").json["plans"]
    return next(one["plan"] for one in plans if one["plan"]["name"] == "Potting-up fortnight")


def runs(demo, *offers: dict) -> None:
    assert demo.put("/api/running", json={"offers": list(offers)}).status_code == 200


def amounts(rows: list[dict]) -> dict[str, int]:
    return {row["key"]: row["amount"] for row in rows}


def impact(forecast: dict) -> int:
    return forecast["ledger"][-1]["change"]


def test_what_runs_is_kept_with_the_shop_and_undone(demo):
    assert demo.get("/api/running").json == {"offers": []}
    runs(demo, TEN, CODED)
    assert [one["id"] for one in demo.get("/api/running").json["offers"]] == ["ten", "coded"]
    runs(demo, CODED)
    assert [one["id"] for one in demo.get("/api/running").json["offers"]] == ["coded"]
    demo.post("/api/undo")
    assert [one["id"] for one in demo.get("/api/running").json["offers"]] == ["ten", "coded"]


def test_what_makes_no_sense_is_refused_by_name(demo):
    wrong = TEN | {"terms": {"gives": [{"kind": "percent_off", "percent_bp": 20_000}]}}
    told = demo.put("/api/running", json={"offers": [TEN | {"id": "one"}, wrong]})
    assert told.status_code == 422
    assert told.json["errors"][0]["pointer"] == "/offers/1/terms/gives/0/percent_bp"
    assert demo.get("/api/running").json == {"offers": []}


def test_a_plan_that_keeps_all_and_adds_nothing_changes_nothing(demo, plan):
    bare = demo.post("/api/forecast", json=plan | {"offers": []}).json
    runs(demo, TEN, CODED)
    kept = demo.post("/api/forecast", json=plan | {"offers": []}).json
    assert impact(kept) == 0
    assert kept["ledger"][-1]["today"] < bare["ledger"][-1]["today"]
    assert {one["id"]: one["given_away"] > 0 for one in kept["offers"]} == {"ten": True, "coded": False}


def test_dropping_one_loses_the_orders_it_brought(demo, plan):
    runs(demo, TEN)
    bare = plan | {"offers": []}
    dropped = demo.post("/api/forecast", json=bare | {"dropped": [{"offer": "ten"}]}).json
    fewer = demo.post("/api/forecast", json=bare | {"dropped": [{"offer": "ten", "extra_bp": 2500}]}).json
    assert amounts(dropped["bridge"])["volume"] == 0
    orders = dropped["plan"]["orders"]
    assert orders / 1.25 <= fewer["plan"]["orders"] < orders * 0.81  # it does nothing for gift cards
    assert amounts(fewer["bridge"])["volume"] < 0
    assert sum(row["exact"] for row in fewer["bridge"]) == pytest.approx(impact(fewer), abs=1)
    pointers = ["/dropped/0/extra_bp"]
    body = {"plan": bare | {"dropped": [{"offer": "ten", "extra_bp": 0}]}, "pointers": pointers, "values": [0, 2500]}
    none, some = demo.post("/api/curve", json=body).json["impacts"]
    assert (none, some) == (pytest.approx(impact(dropped), abs=1), pytest.approx(impact(fewer), abs=1))


def test_an_offer_of_the_same_id_stands_in_its_place(demo, plan):
    runs(demo, TEN)
    instead = TEN | {"terms": {"gives": [{"kind": "percent_off", "percent_bp": 1000}]}}
    assert demo.post("/api/forecast", json=plan | {"offers": [instead]}).json["ledger"][-1]["change"] == 0
    instead = TEN | {"terms": {"gives": [{"kind": "percent_off", "percent_bp": 2000}]}}
    found = demo.post("/api/forecast", json=plan | {"offers": [instead]}).json
    assert impact(found) < 0
    assert [one["id"] for one in found["offers"]] == ["ten"]


def test_all_that_explains_an_answer_knows_what_runs(demo, plan):
    runs(demo, TEN, CODED)
    whole = plan | {"dropped": [{"offer": "coded", "extra_bp": 1000}]}
    found = demo.post("/api/forecast", json=whole).json
    ids = [one["id"] for one in found["offers"]]
    assert ids[0] == "ten"
    told = demo.post("/api/forecast/working", json={"plan": whole, "key": "bridge/volume"}).json
    assert told["amount"] == amounts(found["bridge"])["volume"]
    assert [one["id"] for one in demo.post("/api/forecast/each", json=whole).json["offers"]] == ids
    assert [one["id"] for one in demo.post("/api/reach", json=whole).json["offers"]] == ids
    assert {one["offer"] for one in demo.post("/api/snags", json=whole).json["snags"]} <= {"", *ids[1:]}
    assert demo.post("/api/forecast/range", json=whole).status_code == 200
    assert demo.post("/api/plans", json=whole).status_code == 201


GIFT = {"id": "labels", "name": "Labels", "terms": {"gives": [{"kind": "put_in", "skus": ["HF-SEMAI-1"]}]}}
PUT_IN = text("""
    insert into order_lines (order_id, good_id, quantity, paid)
    select id, (select id from goods where sku = 'HF-SEMAI-1'), 1, 0 from orders where id % 3 = 0
""")


def paid_nothing(client) -> tuple[int, int]:
    told = client.get("/api/carts").json["paid_nothing"]
    return told["put_in"], told["unexplained"]


def test_what_an_offer_put_in_is_no_goods_ordered_once_the_offer_is_told(demo, demo_shop, plan):
    bare = demo.post("/api/forecast", json=plan).json
    runs(demo, GIFT)
    before = demo.post("/api/forecast", json=plan).json
    runs(demo)
    with demo_shop.changing("Gifts in the orders") as session:
        session.execute(PUT_IN)
        session.get_one(ShopRow, 1).data_version += 1
    untold = demo.post("/api/forecast", json=plan).json
    assert paid_nothing(demo) == (0, 4_000)
    runs(demo, GIFT)
    told = demo.post("/api/forecast", json=plan).json
    assert untold["ledger"][0]["today"] > bare["ledger"][0]["today"]
    assert told["ledger"] == before["ledger"]
    assert paid_nothing(demo) == (4_000, 0)
    order = demo.get("/api/orders/3").json
    assert [(one["sku"], one["quantity"]) for one in order["put_in"]] == [("HF-SEMAI-1", 1)]
    assert sum(line["comes_to"] for line in order["lines"]) == order["value"]
