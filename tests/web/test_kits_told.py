"""Kits that orders tell beside their parts: said at Carts, made kits from there, and counted once."""

import pytest

from tests.test_bring_in import bring

GOODS = b"sku,name,price,cost\nPOT,Pot,12.00,4\nSOIL,Soil,8.00,3\nSET,Starter set,24.00,\nDUO,Soil duo,14.00,\n"
SET = "{0},2026-03-0{0},SET,1,24.00\n{0},2026-03-0{0},POT,1,0.00\n{0},2026-03-0{0},SOIL,2,0.00\n"
DUO = "{0},2026-03-0{0},DUO,1,14.00\n{0},2026-03-0{0},SOIL,2,0.00\n"
ORDERS = "order,date,sku,quantity,line total\n" + "".join(
    [*map(SET.format, range(1, 5)), *map(DUO.format, range(5, 9))]
)


@pytest.fixture
def client(empty, empty_shop):
    bring(empty_shop, "goods", GOODS)
    bring(empty_shop, "orders", ORDERS.encode())
    return empty


def told(client) -> dict:
    return client.get("/api/carts").json["paid_nothing"]


def test_they_are_told_with_their_parts_and_forecasts_say_so(client, plan):
    kits = told(client)["kits"]
    assert [(one["product"], one["orders"]) for one in kits] == [("Soil duo", 4), ("Starter set", 4)]
    assert kits[1]["parts"] == [
        {"sku": "POT", "product": "Pot", "units": 1},
        {"sku": "SOIL", "product": "Soil", "units": 2},
    ]
    assert told(client)["unexplained"] == 4 * 3 + 4 * 2
    caveats = client.post("/api/forecast", json=plan["plan"] | {"offers": []}).json["caveats"]
    assert any(one.startswith("2 SKUs look like a kit whose parts orders tell beside it") for one in caveats)


def test_made_kits_their_parts_count_with_them_and_that_can_be_undone(client):
    assert client.get("/api/carts").json["average"] == (24 + 12 + 16 + 14 + 16) * 100 // 2
    answer = client.post("/api/goods/kits", json={"skus": ["SET", "DUO"]})
    assert answer.status_code == 200, answer.json
    assert (answer.json["average"], answer.json["paid_nothing"]["told_twice"]) == ((24 + 14) * 100 // 2, 20)
    assert told(client)["kits"] == []
    assert client.get("/api/goods/one", query_string={"sku": "SET"}).json["kit"] == [
        {"sku": "POT", "units": 1},
        {"sku": "SOIL", "units": 2},
    ]
    order = client.get("/api/orders/1").json
    assert (order["value"], order["paid"]) == (2400, 2400)
    assert [(one["sku"], one["quantity"]) for one in order["told_twice"]] == [("POT", 1), ("SOIL", 2)]
    assert {row["key"]: row["amount"] for row in order["ledger"]}["goods_cost"] == -(400 + 2 * 300)
    assert client.post("/api/undo").status_code == 200
    assert len(told(client)["kits"]) == 2


def test_none_that_orders_do_not_tell_is_made_a_kit(client):
    answer = client.post("/api/goods/kits", json={"skus": ["DUO", "POT"]})
    assert answer.status_code == 409
    assert answer.json["detail"] == "No orders tell what “POT” is made of."
    assert len(told(client)["kits"]) == 2


def test_the_stock_needed_says_in_how_many_kits_its_goods_are(client, empty_shop, plan):
    bring(empty_shop, "goods", b"sku,stock\nPOT,30\nSOIL,40\n")
    client.post("/api/goods/kits", json={"skus": ["SET", "DUO"]})
    needs = client.post("/api/forecast/days", json=plan["plan"] | {"offers": []}).json["needs"]
    assert {one["sku"]: one["kits"] for one in needs} == {"POT": 1, "SOIL": 2, "SET": 0, "DUO": 0}
