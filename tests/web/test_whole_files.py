"""Plans out and in as files, and the whole shop as one: round trips change nothing."""

import json
from pathlib import Path

import pytest

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
