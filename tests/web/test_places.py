"""The other places over the API: goods, delivery, carts, bringing files in."""

import io
import time
from typing import Any

import pytest


def upload(client, kind: str, data: bytes, name: str = "file.csv", **more: Any) -> dict:
    form = {"kind": kind, "file": (io.BytesIO(data), name), **more}
    answer = client.post("/api/uploads", data=form, content_type="multipart/form-data")
    assert answer.status_code == 202, answer.json
    return settled(client, answer.json["id"])


def settled(client, upload_id: str) -> dict:
    for _ in range(3000):
        told = client.get(f"/api/uploads/{upload_id}").json
        if told["state"] not in ("checking", "saving"):
            return told
        time.sleep(0.02)
    raise AssertionError("the upload never settled")


def test_files_brought_in_together_are_one_import_by_both_names(empty):
    upload_and_save(empty, "goods", b"SKU,Price,Cost\nA,12.00,4\n")
    lines = (io.BytesIO(b"Order,SKU,Units\n1,A,2\n2,A,1\n"), "lines.csv")
    told = upload(empty, "orders", b"Order,Day\n1,2027-03-01\n2,2027-03-02\n", "orders.csv", more=lines)
    assert (told["missing"], told["good"], told["name"]) == ([], 2, "orders.csv and lines.csv")
    empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    assert settled(empty, told["id"])["saved"]["new"] == 2
    assert [one["file"] for one in empty.get("/api/carts").json["imports"]] == ["orders.csv and lines.csv"]
    apart = upload(
        empty, "orders", b"Order,Day\n1,2027-03-01\n", "orders.csv", more=(io.BytesIO(b"x,y\n1,2\n"), "x.csv")
    )
    assert (apart["state"], apart["problem"][:33]) == ("failed", "“x.csv” and “orders.csv” are not ")


def test_the_frame_counts_what_is_there_and_what_is_missing(demo, empty):
    frame = demo.get("/api/frame").json
    assert (frame["orders"], frame["plans"], frame["missing_goods"]["count"]) == (12_000, 3, 1)
    assert len(frame["categories"]) == 8
    assert empty.get("/api/frame").json["empty"] is True


def test_the_demo_shop_only_fills_an_empty_shop(demo, empty):
    assert demo.post("/api/demo").status_code == 409
    assert empty.post("/api/demo").status_code == 200
    assert empty.get("/api/frame").json["orders"] == 12_000


def test_goods_tell_what_of_each_price_is_kept(demo):
    goods = demo.get("/api/goods").json["goods"]
    fern = next(good for good in goods if good["product"] == "Boston fern" and good["option"] == "12 cm")
    margin = fern["margin"]
    assert (fern["standing"], margin["price"], margin["tax"]) == (1190, 1190, 98)
    assert sum(margin[part] for part in ("tax", "cost", "fees", "kept")) == 1190
    assert fern["unit_cost"] == 435 + 26.1 + 34.8
    assert next(good for good in goods if good["unit_cost"] is None)["margin"] is None


def test_carts_tell_the_spread_of_all_orders(demo):
    carts = demo.get("/api/carts").json
    assert sum(band["orders"] for band in carts["bands"]) + carts["above"] == carts["orders"] == 12_000
    assert sum(group["orders"] for group in carts["groups"]) == 12_000
    assert carts["counted_days"] == 365
    assert carts["thresholds"] == [
        {"value": 9000, "zones": ["Home"]},
        {"value": 15000, "zones": ["Near abroad"]},
    ]
    assert 0.06 < carts["with_code"] / carts["orders"] < 0.08


def test_an_empty_shop_shows_empty_places(empty):
    assert empty.get("/api/goods").json["goods"] == []
    assert empty.get("/api/carts").json["orders"] == 0
    assert empty.get("/api/delivery").json["zones"] == []


@pytest.mark.parametrize(("clock", "taken"), [("Europe/Berlin", "Europe/Berlin"), ("Nowhere/At all", ""), ("", "")])
def test_times_in_utc_are_put_on_the_browsers_clock(empty, clock, taken):
    upload(empty, "goods", b"SKU,Price\nA,12.00\n")
    told = upload(empty, "orders", b"order,date,sku,quantity\n1,2026-07-01T22:30:00Z,A,2\n", clock=clock)
    assert (told["in_utc"], told["reading"]["clock"]) == (True, taken)
    body = {"fields": [one["field"] for one in told["columns"]], "reading": told["reading"] | {"clock": "Mars"}}
    refused = empty.put(f"/api/uploads/{told['id']}/columns", json=body)
    assert refused.status_code == 422
    assert "No clock is known as “Mars”" in str(refused.json)
    here = upload(empty, "orders", b"order,date,sku,quantity\n1,2026-07-01 22:30,A,2\n", clock="Europe/Berlin")
    assert (here["in_utc"], here["reading"]["clock"]) == (False, "")


def test_a_file_goes_through_matching_to_saved(empty):
    told = upload(empty, "goods", b"Code,What,Price,Mine\nA,Pot,12.00,4\n")
    assert told["state"] == "checked"
    assert [column["field"] for column in told["columns"]] == [None, None, "list_price", None]
    assert told["missing"] == ["SKU"]
    assert empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False}).status_code == 409
    body = {"fields": ["sku", "product", "list_price", "purchase_cost"], "reading": told["reading"]}
    assert empty.put(f"/api/uploads/{told['id']}/columns", json=body).status_code == 202
    assert settled(empty, told["id"])["good"] == 1
    empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    assert settled(empty, told["id"])["saved"] == {"new": 1, "changed": 0, "unchanged": 0, "fewer": 0, "redated": 0}
    (good,) = empty.get("/api/goods").json["goods"]
    assert (good["list_price"], good["purchase_cost"]) == (1200, 400)


def test_rejected_rows_are_listed_downloaded_and_left_out_only_if_asked(empty):
    told = upload(empty, "goods", b"SKU,Price\nA,1\nB,-1\n")
    assert [(one["first_rows"], one["field"]) for one in told["faults"]] == [([3], "List price")]
    assert empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False}).status_code == 409
    assert empty.get("/api/goods").json["goods"] == []
    listed = empty.get(f"/api/uploads/{told['id']}/rejected.csv")
    assert listed.mimetype == "text/csv"
    assert b"3,List price" in listed.data
    empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": True})
    assert settled(empty, told["id"])["saved"]["new"] == 1


@pytest.mark.parametrize(
    ("data", "says"),
    [(b"", "empty"), (b"\x89PNG\r\n\x1a\nxxxx", "PNG picture"), (b"SKU,Price\nA,\xff\xfe\x81\n", "damaged")],
)
def test_a_file_that_cannot_be_read_fails_with_a_reason(empty, data, says):
    told = upload(empty, "goods", data)
    assert told["state"] == "failed"
    assert says in told["problem"]


def test_few_files_are_kept_and_one_that_was_put_away_says_so(empty):
    data = b"SKU,Price\n" + b"".join(b"A%d,%d\n" % (at, at) for at in range(30))
    first, *_, last = [upload(empty, "goods", data) for _ in range(6)]
    assert empty.get(f"/api/uploads/{first['id']}").status_code == 410
    assert "Choose it again" in empty.get(f"/api/uploads/{first['id']}").json["detail"]
    assert empty.get(f"/api/uploads/{last['id']}").status_code == 200
    assert empty.get("/api/uploads/none").status_code == 404


def test_goods_an_order_file_names_and_goods_lacks_are_filled_in_and_then_its_orders_come_in(empty):
    upload_and_save(empty, "goods", b"SKU,Price,Cost\nPOT,9.00,3\n")
    orders = b"Order,Date,SKU,Product,Units,Price\n1,2026-03-01,POT,Pot,1,9.00\n1,2026-03-01,VASE,Old vase,1,20.00\n"
    told = upload(empty, "orders", orders)
    assert (told["good"], told["missing_goods"]) == (0, 1)
    listed = empty.get(f"/api/uploads/{told['id']}/missing-goods.csv")
    assert listed.data.decode("utf-8-sig").splitlines()[1] == "VASE,Old vase,,20.00,,,,"
    upload_and_save(empty, "goods", listed.data)
    assert upload(empty, "orders", orders)["good"] == 1


def upload_and_save(client, kind, data):
    told = upload(client, kind, data)
    client.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    assert settled(client, told["id"])["saved"]["new"] == 1


def test_an_older_file_is_read_again_where_it_is_asked_for(empty):
    older = upload(empty, "goods", b"SKU,Price,Was\nA,1,9\nB,-1,9\n")
    upload(empty, "goods", b"SKU,Price\nC,2\n")
    assert b"3,List price" in empty.get(f"/api/uploads/{older['id']}/rejected.csv").data
    empty.post(f"/api/uploads/{older['id']}/save", json={"good_rows_only": True})
    assert settled(empty, older["id"])["saved"]["new"] == 1
    assert [one["sku"] for one in empty.get("/api/goods").json["goods"]] == ["A"]


def test_a_file_that_is_left_is_checked_no_further(empty):
    told = upload(empty, "goods", b"SKU,Price\nA,1\n")
    assert empty.delete(f"/api/uploads/{told['id']}").status_code == 204
    assert empty.get(f"/api/uploads/{told['id']}").status_code == 410


def test_a_file_sent_as_text_is_refused(empty):
    answer = empty.post("/api/uploads", data={"kind": "goods", "file": "SKU"}, content_type="multipart/form-data")
    assert answer.status_code == 422


def test_a_200_megabyte_upload_is_refused_unread(empty):
    answer = empty.post(
        "/api/uploads",
        environ_overrides={"CONTENT_LENGTH": "200000000"},
        content_type="multipart/form-data; boundary=x",
    )
    assert answer.status_code == 413
    assert "180 MB" in answer.json["detail"]


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("columns", {"fields": ["sku", "sku"], "reading": {"decimal_mark": ".", "date_order": "day first"}}, 422),
        ("columns", {"fields": ["nonsense"], "reading": {"decimal_mark": ".", "date_order": "day first"}}, 422),
        ("columns", {"fields": ["sku"], "reading": {"decimal_mark": "!", "date_order": "day first"}}, 422),
        ("columns", {}, 422),
    ],
)
def test_columns_that_do_not_fit_are_refused(empty, path, body, status):
    told = upload(empty, "goods", b"SKU,Price\nA,1\n")
    answer = empty.put(f"/api/uploads/{told['id']}/{path}", json=body)
    assert answer.status_code == status
    assert answer.json["errors"]


def test_hand_made_upload_requests_are_refused(empty):
    assert empty.post("/api/uploads", data={"kind": "wishes"}).status_code == 415
    assert empty.post("/api/uploads", json={}).status_code in (415, 422)
    assert empty.get("/api/uploads/none").status_code == 404


def test_a_new_shop_is_told_that_nobody_said_its_tax_or_what_being_paid_costs_until_somebody_does(empty):
    def missing():
        return empty.get("/api/frame").json["missing_delivery"]

    assert missing()["count"] == 0
    told = upload(empty, "goods", b"SKU,Price,Cost\nA,1,0.5\n")
    empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    settled(empty, told["id"])
    assert missing() == {"count": 1, "says": "thing to say: what tax is in your prices"}
    settings = empty.get("/api/delivery").json["settings"]
    assert settings["tax_said"] is False
    settings |= {"tax_said": True}
    empty.put("/api/settings", json=settings)
    assert missing()["count"] == 0
    told = upload(empty, "orders", b"Order,Date,SKU,Quantity,Payment\n1,2026-03-01,A,1,card\n")
    empty.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    settled(empty, told["id"])
    lacks = "what being paid costs you, 1 zone without an option or tariff"
    assert missing() == {"count": 2, "says": f"things to say: {lacks}"}
    empty.put("/api/settings", json=settings | {"payments": [{"name": "card", "cost_bp": 200}]})
    assert missing() == {"count": 1, "says": "zone without an option or tariff"}


def test_zones_are_renamed_added_and_kept_where_orders_went(demo):
    zones = [
        {key: zone[key] for key in ("name", "places", "options")} for zone in demo.get("/api/delivery").json["zones"]
    ]
    renamed = [zones[0] | {"name": "At home", "was": "Home"}, *zones[1:], {"name": "Moon"}]
    told = demo.put("/api/zones", json={"zones": renamed}).json
    assert [(zone["name"], zone["orders"] > 0) for zone in told["zones"]][::3] == [("At home", True), ("Moon", False)]
    assert demo.get("/api/frame").json["missing_delivery"]["count"] == 1
    refused = demo.put("/api/zones", json={"zones": zones[1:]})
    assert (refused.status_code, refused.json["errors"][0]["pointer"]) == (422, "/zones")
    twice = demo.put("/api/zones", json={"zones": [*renamed[:-1], {"name": "at HOME"}]})
    assert twice.json["errors"][0]["pointer"] == "/zones/3/name"


@pytest.mark.parametrize(
    ("part", "pointer"),
    [
        ({"currency": "Shells"}, "/currency"),
        ({"currency": "JPY"}, "/currency"),
        ({"resale_bp": -1}, "/resale_bp"),
        ({"tax_classes": [{"name": "A", "rate_bp": 6_000}]}, "/tax_classes/0/rate_bp"),
        ({"payment_fixed": -0.5}, "/payment_fixed"),
        ({"name": "  "}, "/name"),
        ({"percent_of": "luck"}, "/percent_of"),
        ({"codes_per_order": 0}, "/codes_per_order"),
    ],
)
def test_unsound_settings_are_refused_and_nothing_changes(demo, part, pointer):
    before = demo.get("/api/delivery").json
    answer = demo.put("/api/settings", json=before["settings"] | part)
    assert answer.status_code == 422
    assert answer.json["errors"][0]["pointer"] == pointer
    assert demo.get("/api/delivery").json == before


def test_a_change_of_settings_changes_the_forecast(demo, plan):
    before = demo.post("/api/forecast", json=plan["plan"]).json
    settings = demo.get("/api/delivery").json["settings"]
    demo.put("/api/settings", json=settings | {"picking_per_order": settings["picking_per_order"] + 100})
    after = demo.post("/api/forecast", json=plan["plan"]).json
    orders = before["plan"]["orders"]
    assert after["ledger"][-1]["exact_plan"] == pytest.approx(before["ledger"][-1]["exact_plan"] - 100 * orders)


def brought(client, *files: tuple[str, bytes]) -> None:
    for kind, data in files:
        told = upload(client, kind, data)
        client.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
        settled(client, told["id"])


def test_first_orders_are_counted_from_the_orders_where_the_file_does_not_say(empty):
    orders = b"Order,Date,SKU,Quantity,Shopper\n1,2026-03-01,A,1,S\n2,2026-03-02,A,1,S\n3,2026-03-02,A,1,T\n"
    brought(empty, ("goods", b"SKU,Price\nA,1\n"), ("orders", orders))
    carts = empty.get("/api/carts").json
    assert (carts["orders"], carts["first_share"]) == (3, pytest.approx(2 / 3))


def test_how_many_are_first_orders_is_not_told_where_nothing_says_who_ordered(empty):
    brought(empty, ("goods", b"SKU,Price\nA,1\n"), ("orders", b"Order,Date,SKU,Quantity\n1,2026-03-01,A,1\n"))
    assert empty.get("/api/carts").json["first_share"] is None


def test_an_import_is_taken_back_over_the_api(demo):
    (orders,) = demo.get("/api/carts").json["imports"]
    assert (orders["file"], orders["new"], orders["live"]) == ("orders.csv", 12_000, True)
    assert demo.put(f"/api/imports/{orders['id']}", json={"live": False}).json["orders"] == 0
    assert demo.get("/api/frame").json["orders"] == 0
    assert demo.post("/api/undo").status_code == 200
    assert demo.get("/api/frame").json["orders"] == 12_000
    assert demo.put("/api/imports/99", json={"live": False}).status_code == 404


def test_how_many_orders_stay_of_a_file_taken_back_is_told(empty):
    march = b"Order,Date,SKU,Quantity\n1,2026-03-01,A,1\n2,2026-03-31,A,2\n"
    april = b"Order,Date,SKU,Quantity\n2,2026-03-31,A,2\n3,2026-04-01,A,3\n"
    brought(empty, ("goods", b"SKU,Price\nA,1\n"), ("orders", march), ("orders", april))
    later, first = empty.get("/api/carts").json["imports"]
    carts = empty.put(f"/api/imports/{first['id']}", json={"live": False}).json
    assert (carts["orders"], [one["staying"] for one in carts["imports"]]) == (2, [0, 1])
    carts = empty.put(f"/api/imports/{later['id']}", json={"live": False}).json
    assert (carts["orders"], [one["staying"] for one in carts["imports"]]) == (0, [0, 0])


def test_what_orders_paid_is_held_against_what_goods_asks(demo, plan):
    carts = demo.get("/api/carts").json
    assert carts["prices"]["asked"] == carts["prices"]["paid"]
    body = {"field": "list_price", "how": "raise", "value": 1000}
    every = demo.get("/api/goods/names").json["sku"]
    assert demo.post("/api/goods/change", json=body | {"skus": every}).status_code == 200
    prices = demo.get("/api/carts").json["prices"]
    assert 0.9 < prices["paid"] / prices["asked"] < 0.93
    assert sum(one["paid"] for one in prices["months"]) == prices["paid"]
    assert len(prices["skus"]) == 8
    assert all(one["paid"] < one["asked"] for one in prices["reaching"])
    told = demo.post("/api/forecast", json=plan["plan"]).json["caveats"]
    assert any("less than the prices of Goods" in one for one in told)
