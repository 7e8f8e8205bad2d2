"""The Goods place over the API: one SKU saved, many changed at once, what that would do, and what cannot be."""

import pytest

from yellow_abacus.web.app import make_app


def good_of(client, sku: str) -> dict:
    return next(good for good in client.get("/api/goods").json["goods"] if good["sku"] == sku)


WORKED_OUT = {
    "sku", "unit_cost", "all_weight", "all_stock", "units", "units_a_month", "stock_weeks", "standing", "margin",
    "delivery", "deepest", "deepest_delivered",
}  # fmt: skip


def body_of(good: dict) -> dict:
    return {name: value for name, value in good.items() if name not in WORKED_OUT}


PLANTERS = {"field": "purchase_cost", "how": "raise", "value": 600}


@pytest.fixture
def planters(demo) -> list[str]:
    return [good["sku"] for good in demo.get("/api/goods").json["goods"] if "Planters" in good["categories"]]


def test_a_preview_tells_what_a_change_would_do_and_does_not_do_it(demo, planters):
    before, profit = demo.get("/api/goods").json, demo.get("/api/delivery/taken").json["profit"]
    told = demo.post("/api/goods/preview", json=PLANTERS | {"skus": planters}).json
    assert told["count"] == len(planters) == 9
    assert all(one["after"] == pytest.approx(one["before"] * 1.06, abs=0.01) for one in told["changed"])
    assert told["profit_before"] == profit
    sold = {good["sku"]: good for good in before["goods"]}
    dearer = sum((one["after"] - one["before"]) * sold[one["sku"]]["units"] for one in told["changed"])
    kits = sum(
        (one["after"] - one["before"]) * part["units"] * kit["units"]
        for kit in before["goods"]
        for part in kit["kit"]
        for one in told["changed"]
        if one["sku"] == part["sku"]
    )
    assert told["profit_before"] - told["profit_after"] == pytest.approx(dearer + kits, rel=0.03)
    assert demo.get("/api/goods").json == before


def test_many_are_changed_at_once_and_taken_back_at_once(demo, planters):
    before = demo.get("/api/goods").json
    told = demo.post("/api/goods/preview", json=PLANTERS | {"skus": planters}).json
    assert demo.post("/api/goods/change", json=PLANTERS | {"skus": planters}).status_code == 200
    assert demo.get("/api/delivery/taken").json["profit"] == told["profit_after"]
    changed = {one["sku"]: one["after"] for one in told["changed"]}
    assert all(good_of(demo, sku)["purchase_cost"] == cost for sku, cost in changed.items())
    demo.post("/api/undo")
    assert demo.get("/api/goods").json == before


@pytest.mark.parametrize(
    ("change", "field", "value"),
    [
        ({"field": "return_bp", "how": "set", "value": 400}, "return_bp", 400),
        ({"field": "list_price", "how": "add", "value": -100}, "list_price", 1090),
        ({"field": "list_price", "how": "raise", "value": -1000}, "list_price", 1071),
        ({"field": "weight", "how": "set", "value": 700}, "weight", 700),
        ({"field": "reduced_price", "how": "set"}, "reduced_price", None),
        ({"field": "tags", "how": "add", "name": "spring"}, "tags", ["alive", "spring"]),
        ({"field": "tags", "how": "remove", "name": "alive"}, "tags", []),
        ({"field": "tax_class", "how": "set", "name": "Standard"}, "tax_class", "Standard"),
        ({"field": "insured", "how": "set", "flag": True}, "insured", True),
    ],
)
def test_every_kind_of_change_is_made(demo, change, field, value):
    assert demo.post("/api/goods/change", json=change | {"skus": ["HF-HOBOS-1"]}).status_code == 200
    assert good_of(demo, "HF-HOBOS-1")[field] == value


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"field": "list_price", "how": "add", "value": -10_000_000}, "below 0"),
        ({"field": "return_bp", "how": "add", "value": 10_000}, "between 0 and 100"),
        ({"field": "tax_class", "how": "set", "name": "Luxury"}, "no tax class “Luxury”"),
        ({"field": "list_price", "how": "set", "value": 5, "skus": ["NOPE"]}, "no SKU “NOPE”"),
    ],
)
def test_a_change_that_cannot_be_leaves_all_as_it_was(demo, change, says):
    before = demo.get("/api/goods").json
    body = {"skus": ["HF-HOBOS-1", "HF-HOBOS-2"]} | change
    for path in ("preview", "change"):
        answer = demo.post(f"/api/goods/{path}", json=body)
        assert answer.status_code == 422
        assert says in answer.json["errors"][0]["message"]
    assert demo.get("/api/goods").json == before


def test_one_sku_is_saved_as_it_is_told(demo):
    good = good_of(demo, "HF-GILIN-1")
    assert good["unit_cost"] is None
    before = demo.get("/api/frame").json["data_version"]
    told = demo.put("/api/goods/one?sku=HF-GILIN-1", json=body_of(good) | {"purchase_cost": 1234.567}).json
    assert told["version"] == before + 1
    assert told["good"]["purchase_cost"] == 1234.57
    assert told["good"] == good_of(demo, "HF-GILIN-1") == demo.get("/api/goods/one?sku=HF-GILIN-1").json
    assert demo.get("/api/frame").json["missing_goods"]["count"] == 0
    demo.post("/api/undo")
    assert good_of(demo, "HF-GILIN-1") == good


@pytest.mark.parametrize(
    ("part", "pointer"),
    [
        ({"purchase_cost": -1}, "/purchase_cost"),
        ({"list_price": 1.5}, "/list_price"),
        ({"kit": [{"sku": "NOPE", "units": 1}]}, "/kit"),
        ({"kit": [{"sku": "HF-GISTA-1", "units": 1}]}, "/kit"),
        ({"kit": [{"sku": "HF-GILIN-1", "units": 1}]}, "/kit"),
        ({"tax_class": "Luxury"}, "/tax_class"),
        ({"reduced_from": "2027-02-02", "reduced_to": "2027-02-01"}, "/reduced_to"),
        ({"quantity_prices": [{"units": 0, "price": 1}]}, "/quantity_prices/0/units"),
        ({"colour": "green"}, "/colour"),
    ],
)
def test_a_sku_that_cannot_be_is_refused_with_its_field(demo, part, pointer):
    good = good_of(demo, "HF-GILIN-1")
    answer = demo.put("/api/goods/one?sku=HF-GILIN-1", json=body_of(good) | part)
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, pointer)
    assert good_of(demo, "HF-GILIN-1") == good


def test_prices_of_a_sku_are_told_with_what_each_keeps(demo):
    told = demo.get("/api/goods/prices?sku=HF-PLGLA-1").json["levels"]
    assert [one["label"] for one in told] == ["List price", "Trade", "Trade, from 10 units"]
    assert [one["margin"]["price"] for one in told] == [1990, 1711, 1592]
    for one in told:
        margin = one["margin"]
        assert margin["price"] == sum(margin[part] for part in ("tax", "cost", "fees", "kept"))
    assert demo.get("/api/goods/prices?sku=NOPE").status_code == 404


def test_orders_nothing_can_carry_are_counted_as_in_the_shop_loaded_anew(demo, demo_shop, plan):
    def told(client) -> list[str]:
        found = client.post("/api/forecast", json=plan["plan"]).json["caveats"]
        return [one for one in found if "no option of their zone can carry" in one]

    assert told(demo) == []
    heavy = [("HF-TOBON-1", 900_000), ("HF-HOBOS-1", 900_000), ("HF-TOBON-1", 100)]
    counts = []
    for sku, weight in heavy:
        demo.put(f"/api/goods/one?sku={sku}", json=body_of(good_of(demo, sku)) | {"weight": weight})
        counts.append(told(demo))
        assert counts[-1] == told(make_app(demo_shop).test_client())
    assert len({tuple(one) for one in counts}) == 3


def test_a_forecast_that_leans_on_a_missing_figure_says_so(demo, plan):
    demo.post("/api/goods/change", json={"skus": ["HF-HOBOS-1"], "field": "weight", "how": "set"})
    told = demo.post("/api/forecast", json=plan["plan"]).json
    assert "1 SKU that was ordered has no weight and counts as weighing nothing." in told["caveats"]
    assert demo.get("/api/frame").json["missing_goods"]["count"] == 2


def test_goods_come_a_page_at_a_time_in_order_of_name(demo):
    whole = demo.get("/api/goods?count=500").json
    names = [good["product"] for good in whole["goods"]]
    assert whole["found"] == whole["goods_in_all"] == len(names)
    assert names == sorted(names, key=str.casefold)
    paged = [demo.get(f"/api/goods?first={first}&count=20").json["goods"] for first in range(0, len(names) + 20, 20)]
    assert [good for page in paged for good in page] == whole["goods"]


@pytest.mark.parametrize(
    ("asked", "of_good"),
    [
        ("by=kept", lambda good: good["margin"]["kept"] if good["margin"] else float("inf")),
        ("by=units", lambda good: -good["units_a_month"]),
        ("by=weeks", lambda good: float("inf") if good["stock_weeks"] is None else good["stock_weeks"]),
    ],
)
def test_goods_are_put_in_order_of_a_figure(demo, asked, of_good):
    figures = [of_good(good) for good in demo.get(f"/api/goods?count=500&{asked}").json["goods"]]
    assert figures == sorted(figures)


@pytest.mark.parametrize(
    ("asked", "meant"),
    [
        ("text=TROUGH", lambda good: "trough" in good["product"].lower()),
        ("category=Planters", lambda good: "Planters" in good["categories"]),
        ("show=kits", lambda good: bool(good["kit"])),
        ("show=gifts", lambda good: good["gift_only"]),
        ("show=losing", lambda good: good["margin"] is not None and good["margin"]["kept"] < 0),
        ("show=delivery", lambda good: (good["deepest_delivered"] or 0) < 0),
        ("show=short", lambda good: good["stock_weeks"] is not None and good["stock_weeks"] < 4),
        ("show=missing", lambda good: not good["kit"] and None in (good["unit_cost"], good["all_weight"])),
        ("text=no such thing", lambda good: False),
        ("category=None such", lambda good: False),
    ],
)
def test_goods_are_shown_by_what_they_are(demo, asked, meant):
    every = demo.get("/api/goods?count=500").json["goods"]
    told = demo.get(f"/api/goods?count=500&{asked}").json
    assert told["goods"] == [good for good in every if meant(good)]
    assert told["found"] == len(told["goods"])
    names = demo.get("/api/goods/names").json
    assert sorted(names["sku"]) == sorted(good["sku"] for good in every)
    assert {len(column) for column in names.values()} == {len(every)}


def test_goods_that_lack_a_figure_are_told_one_after_another(demo):
    first = demo.get("/api/goods/lacking").json
    assert first["sku"] == "HF-GILIN-1"
    assert demo.get(f"/api/goods?first={first['place']}&count=1").json["goods"][0]["sku"] == first["sku"]
    assert demo.get("/api/goods/lacking?after=HF-GILIN-1").json == first  # there is no other
    demo.put("/api/goods/one?sku=HF-GILIN-1", json=body_of(good_of(demo, "HF-GILIN-1")) | {"purchase_cost": 5})
    assert demo.get("/api/goods/lacking").json["sku"] is None


def test_the_goods_that_are_shown_are_changed_at_once(demo, planters):
    shown = PLANTERS | {"shown": {"category": "Planters"}}
    named = PLANTERS | {"skus": planters}
    assert demo.post("/api/goods/preview", json=shown).json == demo.post("/api/goods/preview", json=named).json
    assert demo.post("/api/goods/change", json=shown).json["changed"] == 9
    nobody = PLANTERS | {"shown": {"text": "no such thing"}}
    assert demo.post("/api/goods/change", json=nobody).status_code == 422
    assert demo.post("/api/goods/change", json=PLANTERS).status_code == 422


def test_a_price_that_makes_an_order_of_the_history_too_large_is_refused_and_nothing_is_lost(demo):
    dear = {"field": "list_price", "how": "set", "value": 900_000_000, "skus": ["HF-SEMAI-1"]}
    for path in ("/api/goods/preview", "/api/goods/change"):
        assert demo.post(path, json=dear).status_code == 422
    one = body_of(good_of(demo, "HF-SEMAI-1")) | {"list_price": 900_000_000}
    assert demo.put("/api/goods/one?sku=HF-SEMAI-1", json=one).status_code == 422
    assert good_of(demo, "HF-SEMAI-1")["list_price"] < 900_000_000
    assert demo.get("/api/frame").status_code == 200
