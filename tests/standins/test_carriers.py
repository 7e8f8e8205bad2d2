"""Fetching tariffs from the quote service over HTTP, as it runs: well, slow, failing, down, strange."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime

import httpx
import pytest
from flask import Flask, Response
from werkzeug.serving import make_server

from yellow_abacus import outside
from yellow_abacus.carrier_tariffs import Carriers, NoSuchServiceError, keep, named_services
from yellow_abacus.outside import ServiceDownError
from yellow_abacus.standins.carriers import SERVICES, Mood, make_carriers
from yellow_abacus.store.settings import tariff_rows
from yellow_abacus.web.app import make_app

WHEN = datetime(2026, 11, 20, 9, 30)


@contextmanager
def answering(app: Flask) -> Iterator[str]:
    server = make_server("127.0.0.1", 0, app, threaded=True)
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.server_port}"
    finally:
        server.shutdown()
        thread.join()


@pytest.fixture
def mood() -> Mood:
    return Mood()


@pytest.fixture
def carriers(mood) -> Iterator[Carriers]:
    with answering(make_carriers(mood)) as address:
        yield Carriers(address)


def fetch(shop_file, carriers: Carriers, names: list[str], currency: str, when) -> int:
    services = named_services(carriers, names, currency)
    with shop_file.changing(f"Fetch {len(services)} tariffs") as session:
        return keep(session, services, carriers.address, when)


def kept(shop_file) -> dict[str, tuple]:
    with shop_file.reading() as session:
        return {row.name: (row.terms, row.source, row.fetched_at) for row in tariff_rows(session)}


def test_what_is_fetched_is_kept_with_where_and_when(demo_shop, carriers):
    before = kept(demo_shop)
    assert fetch(demo_shop, carriers, ["Swallow parcel", "Ironwheel heavy"], "EUR", WHEN) == 2
    after = kept(demo_shop)
    terms, source, fetched_at = after["Swallow parcel"]
    assert (source, fetched_at) == (carriers.address, WHEN)
    assert [step["amount"] for step in terms["steps"]] == [step["price"] for step in SERVICES[0]["steps"]]
    assert (terms["fuel_bp"], terms["insurance_bp"], terms["carries"]["heaviest"]) == (525, 60, 20_000)
    assert {name for name in after if after[name] != before.get(name)} == {"Swallow parcel", "Ironwheel heavy"}
    assert demo_shop.undo() == "Fetch 2 tariffs"
    assert kept(demo_shop) == before


def test_services_to_one_place_can_be_asked_for(carriers):
    told = httpx.get(f"{carriers.address}/services?to=Outer Cays").json()["services"]
    assert {one["service"] for one in told} == {"Swallow far", "Ironwheel express"}


def test_it_fails_as_often_as_it_is_asked_to(demo_shop, carriers):
    before = kept(demo_shop)
    assert httpx.post(f"{carriers.address}/mood", json={"failing": 1}).status_code == 200
    with pytest.raises(ServiceDownError, match="error 503"):
        fetch(demo_shop, carriers, ["Swallow parcel"], "EUR", WHEN)
    assert kept(demo_shop) == before
    assert len(carriers.services("EUR")) == len(SERVICES)
    assert httpx.post(f"{carriers.address}/mood", json={"slow": "very"}).status_code == 422


def test_a_slow_carrier_is_not_waited_for(demo_shop, carriers, mood, monkeypatch):
    monkeypatch.setattr(outside, "TIMEOUT", httpx.Timeout(0.2))
    mood.slow = 1.0
    before = kept(demo_shop)
    with pytest.raises(ServiceDownError, match=r"did not answer in time.*Nothing was changed"):
        fetch(demo_shop, carriers, ["Swallow parcel"], "EUR", WHEN)
    assert kept(demo_shop) == before


def test_a_carrier_that_is_down_says_so(demo_shop):
    with answering(Flask("closing")) as address:
        pass
    with pytest.raises(ServiceDownError, match="cannot be reached"):
        fetch(demo_shop, Carriers(address), ["Swallow parcel"], "EUR", WHEN)


def test_prices_in_another_currency_are_refused(carriers):
    with pytest.raises(ServiceDownError, match="in EUR, the shop's in SEK"):
        carriers.services("SEK")


def test_a_service_that_is_gone_changes_nothing(demo_shop, carriers):
    before = kept(demo_shop)
    with pytest.raises(NoSuchServiceError, match="no service “Owl post”"):
        fetch(demo_shop, carriers, ["Swallow parcel", "Owl post"], "EUR", WHEN)
    assert kept(demo_shop) == before


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ("<html>", "in JSON"),
        ("[]", "as agreed"),
        ('{"currency": "EUR", "services": [{"carrier": "X", "service": "Y", "steps": []}]}', "cannot be used"),
        (
            '{"currency": "EUR", "services": [{"carrier": "X", "service": "Y",'
            ' "steps": [{"up_to_grams": 1, "price": -4}]}]}',
            "0/steps/0/price",
        ),
    ],
)
def test_an_answer_not_as_agreed_is_refused(body, says):
    app = Flask("strange")
    app.add_url_rule("/services", view_func=lambda: Response(body))
    with answering(app) as address, pytest.raises(ServiceDownError, match=says):
        Carriers(address).services("EUR")


def test_over_the_api_a_carrier_that_is_down_is_a_bad_gateway(demo_shop, carriers, mood):
    client = make_app(demo_shop, carriers=carriers).test_client()
    offered = client.get("/api/carriers").json
    assert (offered["address"], len(offered["services"])) == (carriers.address, len(SERVICES))
    mood.failing = -1
    for answer in (
        client.get("/api/carriers"),
        client.post("/api/carriers/fetch", json={"services": ["Swallow far"]}),
    ):
        assert (answer.status_code, "error 503" in answer.json["detail"]) == (502, True)
    mood.failing = 0
    told = client.post("/api/carriers/fetch", json={"services": ["Swallow far"]}).json
    (far,) = [one for one in told["tariffs"] if one["tariff"]["name"] == "Swallow far"]
    assert far["source"] == carriers.address
    assert far["fetched_at"]
    assert client.post("/api/carriers/fetch", json={"services": []}).status_code == 422


def endless(part: bytes, pause: float) -> Flask:
    app = Flask("endless")

    @app.get("/services")
    def services() -> Response:
        def parts() -> Iterator[bytes]:
            while not stopped.wait(pause):
                yield part

        return Response(parts(), mimetype="application/json")

    return app


stopped = threading.Event()


@pytest.mark.parametrize(
    ("part", "pause", "whole_time", "says"), [(b" " * 100_000, 0.0, 600, "too long"), (b" ", 0.02, 0.5, "in time")]
)
def test_an_answer_without_end_is_read_no_further_than_it_may_be(monkeypatch, part, pause, whole_time, says):
    monkeypatch.setattr(outside.Asking, "whole_time", whole_time)
    stopped.clear()
    with answering(endless(part, pause)) as address:
        with pytest.raises(ServiceDownError, match=says):
            Carriers(address).services("EUR")
        stopped.set()
