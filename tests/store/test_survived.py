"""A shop that an older version let odd things into still opens, is read, counted and mended."""

import json
import math

from sqlalchemy import text

from yellow_abacus.store.survived import survived
from yellow_abacus.web.app import make_app


def test_what_is_odd_is_read_as_what_it_can_be():
    assert survived({"a": ["\ud83d", math.nan, 10**30, True, None, "fine"]}) == {
        "a": ["\ufffd", 0.0, 2_000_000_000, True, None, "fine"]
    }


def test_a_shop_with_all_of_it_in_still_answers(demo_shop):
    odd = {
        "update goods set quantity_prices = :told where sku = 'HF-HOBOS-1'": json.dumps([[2, 10**30]]),
        "update shop set payments = :told": json.dumps(
            [{"name": "card", "cost_bp": 1, "fixed": math.nan, "share_bp": 1}]
        ),
        "update zones set name = :told where id = 1": "Z" * 81,
        "update zones set places = :told where id = 2": json.dumps(["half \ud83d"]),
        "update plans set note = :told where id = 1": "a\x07b",
    }
    with demo_shop.engine.connect() as connection:
        for statement, told in odd.items():
            connection.execute(text(statement), {"told": told})
        connection.execute(text("update shop set data_version = data_version + 1"))
        connection.commit()
    client = make_app(demo_shop).test_client()
    for path in (
        "frame",
        "goods",
        "delivery",
        "delivery/taken",
        "carts",
        "plans",
        "tables/goods.xlsx",
        "tables/charges.csv",
    ):
        assert client.get(f"/api/{path}").status_code == 200, path
    plan = client.get("/api/plans").json["plans"][1]["plan"]
    assert client.post("/api/forecast", json=plan).status_code == 200
