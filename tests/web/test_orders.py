"""Single orders over the API: found by what people remember, opened with lines and ledger that add up."""

import pytest

from yellow_abacus import bring_in


def found(client, text: str) -> dict:
    answer = client.get("/api/orders", query_string={"text": text})
    assert answer.status_code == 200, answer.json
    return answer.json


def opened(client, order_id: int) -> dict:
    return client.get(f"/api/orders/{order_id}").json


def test_the_newest_come_first_and_all_are_counted(demo):
    told = found(demo, "")
    assert told["found"] == 12_000
    days = [one["at"] for one in told["orders"]]
    assert days == sorted(days, reverse=True)


def test_an_order_is_found_by_its_number_shopper_code_day_and_sku(demo):
    order = opened(demo, found(demo, "")["orders"][3]["id"])
    for text in (order["number"], order["at"][:10], order["lines"][0]["sku"].lower()):
        assert order["id"] in {one["id"] for one in found(demo, text)["orders"]} or found(demo, text)["found"] > 12
    by_shopper = next(one for one in found(demo, "")["orders"] if one["shopper"])
    assert {one["shopper"] for one in found(demo, by_shopper["shopper"].upper())["orders"]} == {by_shopper["shopper"]}
    assert all(one["at"].startswith(order["at"][:10]) for one in found(demo, order["at"][:10])["orders"])
    assert found(demo, "100%_") == {"orders": [], "found": 0}


def test_an_open_order_adds_up(demo):
    for one in found(demo, "")["orders"]:
        order = opened(demo, one["id"])
        assert sum(line["comes_to"] for line in order["lines"]) == order["value"]
        assert all(line["price"] * line["quantity"] == line["comes_to"] for line in order["lines"])
        *rows, profit = order["ledger"]
        assert sum(row["amount"] for row in rows) == profit["amount"]


def test_orders_taken_back_are_not_found(demo):
    (orders,) = demo.get("/api/carts").json["imports"]
    one = found(demo, "")["orders"][0]["id"]
    demo.put(f"/api/imports/{orders['id']}", json={"live": False})
    assert found(demo, "") == {"orders": [], "found": 0}
    assert demo.get(f"/api/orders/{one}").status_code == 404


def test_what_was_paid_of_late_stands_in_for_list_prices_until_it_is_taken_back(demo):
    before = demo.get("/api/carts").json
    good = demo.get("/api/goods/one?sku=HF-TOBON-1").json
    told = demo.put("/api/goods/going", json={"last_days": 90, "skus": ["HF-TOBON-1"]}).json
    assert told["going_prices"] == 1
    assert demo.put("/api/goods/going", json={"last_days": 90}).json["going_prices"] > 40
    after = demo.get("/api/goods/one?sku=HF-TOBON-1").json
    assert after["list_price"] == good["list_price"]
    assert after["going_price"] is not None
    assert after["margin"]["price"] == min(after["going_price"], after["reduced_price"] or after["going_price"])
    assert demo.put("/api/goods/going", json={"last_days": None}).json == before
    assert demo.put("/api/goods/going", json={"last_days": 0}).status_code == 422


def test_what_was_sent_back_can_be_taken_over_by_goods(demo, demo_shop):
    assert demo.get("/api/carts").json["sent_back"] is None
    assert demo.post("/api/goods/return-rates").status_code == 409
    rows = [
        "Order,Date,SKU,Qty,Price,Returned",
        "R-1,2026-10-01,HF-TOBON-1,40,19.90,10",
        "R-2,2026-10-02,HF-TODIB-1,2,8.90,1",
    ]
    bring_in.save(demo_shop, bring_in.check(demo_shop, "orders", "\n".join(rows).encode()))
    order = opened(demo, found(demo, "R-1")["orders"][0]["id"])
    assert (order["paid"], order["delivery_paid"], order["sent_back"], order["refunded"]) == (79_600, None, 10, 0)
    told = demo.get("/api/carts").json["sent_back"]
    assert told["share"] > 0
    units = demo.get("/api/goods/one?sku=HF-TOBON-1").json["units"]
    after = demo.post("/api/goods/return-rates").json["sent_back"]
    assert after["rate"] == pytest.approx(told["share"], rel=0.2)
    assert demo.get("/api/goods/one?sku=HF-TOBON-1").json["return_bp"] == pytest.approx(10 / units * 10_000, abs=1)


@pytest.mark.parametrize(
    ("text", "least", "greatest"),
    [
        ("€40-60", 4_000, 6_000),
        ("40 to 60 €", 4_000, 6_000),
        ("> 150", 15_001, 10**9),
        ("<5", 0, 499),
        ("€37.80", 3_780, 3_780),
    ],
)
def test_orders_are_found_by_what_they_are_worth(demo, text, least, greatest):
    told = found(demo, text)
    assert told["found"] > 0
    assert all(least <= one["value"] <= greatest for one in told["orders"])
    days = [one["at"][:10] for one in told["orders"]]
    assert days == sorted(days, reverse=True)
