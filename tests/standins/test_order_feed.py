"""Fetching new orders from the feed over HTTP, as it runs: well, slow, failing, down, strange."""

from collections.abc import Iterator
from datetime import date, datetime, timedelta
from time import sleep

import httpx
import pytest
from flask import Flask, jsonify

from tests.standins.test_carriers import answering
from yellow_abacus import order_feed, outside
from yellow_abacus.order_feed import Feed
from yellow_abacus.outside import ServiceDownError
from yellow_abacus.standins.mood import Mood
from yellow_abacus.standins.order_feed import MOST_A_PAGE, make_order_feed, orders_of
from yellow_abacus.web.app import make_app

TODAY = date(2026, 11, 12)
SINCE = datetime(2026, 11, 1, 12, 0)


@pytest.fixture
def mood() -> Mood:
    return Mood()


@pytest.fixture
def feed(mood, monkeypatch) -> Iterator[Feed]:
    monkeypatch.setattr(order_feed, "PAUSES", (0.01, 0.02))
    with answering(make_order_feed(mood, lambda: TODAY)) as address:
        yield Feed(address)


def fetched(feed, since=SINCE, currency="EUR"):
    shares: list[float] = []
    return feed.orders(since, currency, shares.append), shares


def test_all_pages_come_of_what_was_placed_since(feed):
    orders, shares = fetched(feed)
    days = [date(2026, 11, 1) + timedelta(days=at) for at in range(11)]
    told = [one["number"] for day in days for one in orders_of(day) if one["placed_at"] > SINCE.isoformat()]
    assert [one.number for one in orders] == told
    assert len(orders) > 2 * MOST_A_PAGE
    assert shares == sorted(shares)
    assert shares[-1] == 1.0


def test_a_page_that_does_not_come_is_asked_for_once_more(feed, mood):
    mood.failing = 2
    assert fetched(feed)[0]
    mood.failing = -1
    with pytest.raises(ServiceDownError, match=r"error 503.*Nothing was brought in"):
        fetched(feed)


def test_one_that_is_too_slow_or_down_is_told(feed, mood, monkeypatch):
    monkeypatch.setattr(outside, "TIMEOUT", httpx.Timeout(0.05))
    mood.slow = 0.3
    with pytest.raises(ServiceDownError, match="did not answer in time"):
        fetched(feed)
    with pytest.raises(ServiceDownError, match="cannot be reached"):
        fetched(Feed("http://127.0.0.1:9"))


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        ({"currency": "SEK", "orders": [], "next": None}, "in SEK, the shop's in EUR"),
        ({"currency": "EUR", "orders": [{"number": "1"}], "next": None}, r"orders/0/placed_at"),
        ({"currency": "EUR", "orders": [], "next": 0}, "does not come to an end"),
        ([], "did not answer as agreed"),
    ],
)
def test_strange_answers_are_told(answer, says, monkeypatch):
    monkeypatch.setattr(order_feed, "PAUSES", ())
    app = Flask("strange")
    app.get("/orders")(lambda: jsonify(answer))
    with answering(app) as address, pytest.raises(ServiceDownError, match=says):
        fetched(Feed(address))


def until(client, upload, *states):
    for _ in range(600):
        told = client.get(f"/api/uploads/{upload}").json
        if told["state"] in states:
            return told
        sleep(0.05)
    raise AssertionError(told)


def test_what_is_fetched_is_an_import_like_any_other_and_doubles_nothing(demo_shop, feed):
    client = make_app(demo_shop, feed=feed).test_client()
    told = until(client, client.post("/api/uploads/fetched").json["id"], "checked")
    assert told["rejected_rows"] == 0
    out = {one["status"]: one["left_out"] for one in told["statuses"]}
    assert out == {"paid": False, "refused": False, "cancelled": True}
    client.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    saved = until(client, told["id"], "saved")["saved"]
    assert saved["new"] == told["good"]
    carts = client.get("/api/carts").json
    assert carts["imports"][0]["file"].startswith("Orders from the feed")
    assert carts["last_day"] == "2026-11-11"
    again = until(client, client.post("/api/uploads/fetched").json["id"], "checked")
    client.post(f"/api/uploads/{again['id']}/save", json={"good_rows_only": False})
    saved = until(client, again["id"], "saved")["saved"]
    assert (saved["new"], saved["changed"]) == (0, 0)
    assert client.get("/api/carts").json["orders"] == carts["orders"]


@pytest.mark.parametrize(("ends", "hour"), [("Z", 14), ("+01:00", 12), ("", 12)])
def test_times_of_a_feed_in_utc_are_put_on_the_readers_clock(demo_shop, ends, hour):
    line = {"sku": "HF-HOBOS-1", "quantity": 1}
    order = {"number": "F-1", "placed_at": f"2026-08-03T12:30:00{ends}", "lines": [line]}
    app = Flask("elsewhere")
    app.get("/orders")(lambda: jsonify({"currency": "EUR", "orders": [order], "next": None}))
    with answering(app) as address:
        client = make_app(demo_shop, feed=Feed(address)).test_client()
        told = until(client, client.post("/api/uploads/fetched?clock=Europe/Berlin").json["id"], "checked")
    client.post(f"/api/uploads/{told['id']}/save", json={"good_rows_only": False})
    until(client, told["id"], "saved")
    (found,) = client.get("/api/orders?text=F-1").json["orders"]
    assert f"{hour}:30" in found["at"]


def test_a_feed_that_is_down_says_so_and_nothing_comes_in(demo_shop, feed, mood):
    mood.failing = -1
    client = make_app(demo_shop, feed=feed).test_client()
    told = until(client, client.post("/api/uploads/fetched").json["id"], "failed")
    assert "error 503" in told["problem"]
    assert client.get("/api/carts").json["orders"] == 12_000
