"""Plans out and in as files, and the whole shop as one: round trips change nothing."""

import csv
import io
import json
import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path

import pytest
from openpyxl import load_workbook

from tests.web.test_goods import body_of
from yellow_abacus.files.plan_json import plans_schema
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

SCHEMA = json.loads((Path(__file__).parents[2] / "docs" / "plans.schema.json").read_text(encoding="utf-8"))


@pytest.fixture
def file(demo):
    return demo.get("/api/plans/file").json


def plans(client):
    return [one["plan"] for one in client.get("/api/plans").json["plans"]]


def test_plans_that_went_out_come_in_as_they_were(demo, file):
    before = plans(demo)
    assert file["plans"] == before
    assert plans_schema() == SCHEMA, "make types"
    assert demo.post("/api/plans/file", json=file).json == {"plans": 3}
    assert plans(demo) == before
    one = demo.get("/api/plans/file?plan=2").json
    assert one["plans"] == before[1:2]
    one["plans"][0]["name"] = "Another name"
    assert demo.post("/api/plans/file", json=one).status_code == 200
    assert [plan["name"] for plan in plans(demo)] == [*(plan["name"] for plan in before), "Another name"]
    demo.post("/api/undo")
    assert plans(demo) == before


def test_of_a_file_from_another_shop_nothing_is_half_brought_in(demo, file):
    before = plans(demo)
    file["plans"][0]["note"] = "changed"
    file["plans"][2]["offers"][3]["terms"]["gives"][0] |= {"skus": ["NOT-HERE"], "shares_bp": []}
    answer = demo.post("/api/plans/file", json=file)
    assert answer.status_code == 422
    (fault, *_) = answer.json["errors"]
    assert fault["pointer"].startswith("/plans/2/offers/3/terms/gives/0/skus")
    assert "NOT-HERE" in fault["message"]
    assert plans(demo) == before


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"currency": "CHF"}, "/currency"),
        ({"colour": 1}, "/colour"),
        ({"plans": [{"name": "x"}]}, "/plans/0/first_day"),
    ],
)
def test_what_cannot_be_read_is_named(demo, file, change, pointer):
    answer = demo.post("/api/plans/file", json=file | change)
    assert answer.status_code == 422
    assert pointer in [one["pointer"] for one in answer.json["errors"]]


def test_a_plan_that_is_gone_has_no_file(demo):
    assert demo.get("/api/plans/file?plan=99").status_code == 404


def test_the_whole_shop_as_one_file_opens_and_is_the_same(demo, tmp_path):
    answer = demo.get("/api/shop.sqlite")
    path = tmp_path / "copy.sqlite"
    path.write_bytes(answer.data)
    copy = make_app(ShopFile(path)).test_client()
    for place in ("frame", "plans", "delivery", "carts", "mixes", "goods?limit=200"):
        assert copy.get(f"/api/{place}").json == demo.get(f"/api/{place}").json
    plan = plans(demo)[0]
    assert copy.post("/api/forecast", json=plan).json == demo.post("/api/forecast", json=plan).json


def put_in_place(client, data, name="shop.sqlite"):
    form = {"file": (io.BytesIO(data), name)}
    return client.post("/api/shop.sqlite", data=form, content_type="multipart/form-data")


def all_of(client):
    """What the places answer, whatever version of the data it is of."""
    places = ("plans", "delivery", "carts", "mixes", "goods?limit=200")
    told = {place: client.get(f"/api/{place}").json for place in places}
    return {place: {name: told[place][name] for name in told[place] if "version" not in name} for place in told}


def test_another_shop_in_its_place_is_counted_and_the_one_before_comes_back(demo, demo_shop, tmp_path):
    before, plan = all_of(demo), plans(demo)[0]
    forecast = demo.post("/api/forecast", json=plan).json
    version = demo.get("/api/frame").json["data_version"]
    ShopFile(tmp_path / "new.sqlite").close()
    answer = put_in_place(demo, (tmp_path / "new.sqlite").read_bytes()).json
    frame = demo.get("/api/frame").json
    assert (answer["name"], frame["name"], frame["empty"]) == ("My shop", "My shop", True)
    assert frame["data_version"] > version
    assert demo.post("/api/forecast", json=plan).status_code == 422
    kept = Path(answer["kept"])
    assert kept.parent == demo_shop.path.parent
    assert put_in_place(demo, kept.read_bytes()).json["name"] == "Hollow Fern Potting Co."
    assert all_of(demo) == before
    assert demo.post("/api/forecast", json=plan).json == forecast


def damaged(data):
    return data[: 3 * 4096] + bytes(5 * 4096) + data[8 * 4096 :]


def without_a_column(data):
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        path.write_bytes(data)
        with closing(sqlite3.connect(path)) as file:
            file.execute("alter table plans drop column name")
        return path.read_bytes()


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda _: b"", "mine.sqlite has no shop in it"),
        (lambda _: b"name,price\n", "mine.sqlite is not a shop file"),
        (lambda data: data[:50_000], "mine.sqlite is damaged"),
        (damaged, "mine.sqlite is damaged"),
        (without_a_column, "mine.sqlite has no plans.name"),
    ],
)
def test_what_is_no_whole_shop_is_refused_and_nothing_is_touched(demo, demo_shop, spoil, says):
    before = demo.get("/api/plans").json
    answer = put_in_place(demo, spoil(demo.get("/api/shop.sqlite").data), "mine.sqlite")
    assert answer.status_code == 422
    (fault,) = answer.json["errors"]
    assert fault["pointer"] == "/file"
    assert fault["message"].startswith(says)
    assert demo.get("/api/plans").json == before
    assert not list(demo_shop.path.parent.glob("*-before-*"))


def test_a_shop_that_is_too_large_is_told_another_way(demo):
    answer = demo.post("/api/shop.sqlite", environ_overrides={"CONTENT_LENGTH": "2000000000"})
    assert answer.status_code == 413
    assert "serve --shop" in answer.json["detail"]


def lowering(demo, **terms):
    """A plan whose one offer takes a fifth off planters, but for what is said otherwise."""
    plan = plans(demo)[0]
    offer = plan["offers"][0]
    offer["terms"] = {
        "gives": [{"kind": "percent_off", "percent_bp": 2_000}],
        "on": {"categories": ["Planters"], "reduced": "out"},
        **terms,
    }
    plan |= {"name": "Lower", "offers": [offer], "cases": []}
    return demo.post("/api/plans", json=plan).json["id"]


def table(demo, plan, kind="csv"):
    answer = demo.get(f"/api/plans/{plan}/reduced-prices.{kind}")
    assert answer.status_code == 200
    return list(csv.DictReader(io.StringIO(answer.data.decode("utf-8-sig"))))


def test_offers_that_only_lower_prices_are_reduced_prices_too(demo):
    number = lowering(demo, when={"first_day": "2027-03-05"})
    rows = {row["SKU"]: row for row in table(demo, number)}
    goods = {one["sku"]: one for one in demo.get("/api/goods?limit=200").json["goods"]}
    planters = {sku for sku, one in goods.items() if "Planters" in one["categories"] and not one["reduced_price"]}
    assert set(rows) == planters
    for sku, row in rows.items():
        price = goods[sku]["list_price"]
        assert round(100 * float(row["Reduced price"])) == price - (price * 2 + 5) // 10
        assert (row["Reduced from"], row["Reduced to"]) == ("2027-03-05", "2027-03-14")


def test_they_can_be_brought_in_at_goods_and_keep_the_same(demo):
    number = lowering(demo, response={"extra_bp": 0})
    for good in demo.get("/api/goods?limit=200").json["goods"]:  # prices of groups stand alone, whatever is reduced
        if "Planters" in good["categories"]:
            demo.put(f"/api/goods/one?sku={good['sku']}", json=body_of(good) | {"group_prices": []})
    plan = demo.get(f"/api/plans/file?plan={number}").json["plans"][0]
    told = demo.post("/api/forecast", json=plan).json
    kept = next(row for row in told["ledger"] if row["key"] == "goods")["exact_plan"]
    for row in table(demo, number):
        good = demo.get(f"/api/goods/one?sku={row['SKU']}").json
        days = {"reduced_from": row["Reduced from"], "reduced_to": row["Reduced to"]}
        body = body_of(good) | {"reduced_price": round(100 * float(row["Reduced price"])), **days}
        assert demo.put(f"/api/goods/one?sku={row['SKU']}", json=body).status_code == 200
    plan["offers"] = []
    reduced = demo.post("/api/forecast", json=plan).json
    other = next(row for row in reduced["ledger"] if row["key"] == "goods")["exact_plan"]
    assert other == pytest.approx(kept, rel=1e-5)  # a line of several units rounds once


@pytest.mark.parametrize(
    "terms",
    [
        {"given": {"by": "code", "code": "TWENTY"}},
        {"who": {"first_order": True}},
        {"where": {"zones": ["Home"]}},
        {"limits": {"amount": 900}},
        {"earned": {"conditions": [{"kind": "units", "n": 2}]}},
        {"when": {"weekdays": [4]}},
        {"gives": [{"kind": "delivery_lowered_to", "amount": 0}]},
    ],
)
def test_offers_that_ask_for_more_are_not(demo, terms):
    assert table(demo, lowering(demo, **terms)) == []


def test_reduced_prices_come_as_a_sheet_too(demo):
    answer = demo.get(f"/api/plans/{lowering(demo)}/reduced-prices.xlsx")
    sheet = load_workbook(io.BytesIO(answer.data)).active
    header, *rows = sheet.iter_rows(values_only=True)
    assert header[3] == "Reduced price"
    assert len(rows) > 3
    assert demo.get("/api/plans/99/reduced-prices.csv").status_code == 404
