"""Other pages, other names, other kinds of body: refused before anything is done."""

import pytest

from tests.web.test_described import Answering
from yellow_abacus.changing_goods import put_good
from yellow_abacus.listening import SAFE_HEADERS
from yellow_abacus.store import shop_file as opening
from yellow_abacus.web import goods
from yellow_abacus.web.app import make_app
from yellow_abacus.web.guard import Hosts

JSON = {"Content-Type": "application/json"}


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
        {"Origin": "http://localhost:9999"},
        {"Origin": "https://localhost"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
@pytest.mark.parametrize("path", ["/api/undo", "/api/redo", "/api/demo", "/api/plans", "/api/uploads"])
def test_another_page_changes_nothing(demo, headers, path):
    before = demo.get("/api/frame").json
    answer = demo.post(path, headers=headers)
    assert answer.status_code == 403
    assert demo.get("/api/frame").json == before


@pytest.mark.parametrize("headers", [{}, {"Origin": "http://localhost"}, {"Sec-Fetch-Site": "same-origin"}])
def test_our_own_page_and_the_command_line_may(demo, headers):
    assert demo.post("/api/undo", headers=headers).json["label"]


@pytest.mark.parametrize("host", ["evil.example", "evil.example:8410", "localhost.evil.example", "127.0.0.1.evil"])
def test_a_name_the_server_was_not_started_for_is_not_answered(demo, host):
    for path in ("/api/frame", "/", "/mark.svg"):
        answer = demo.get(path, headers={"Host": host})
        assert answer.status_code in (400, 421)
        assert b"Hollow Fern" not in answer.data


def test_names_it_was_started_for_are_answered(empty_shop):
    client = make_app(empty_shop, hosts=Hosts({"shop.lan"}, any_address=True)).test_client()
    for host, status in (("shop.lan:80", 200), ("10.0.0.7:8410", 200), ("[::1]:80", 200), ("localhost", 421)):
        assert client.get("/api/frame", headers={"Host": host}).status_code == status


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "application/xml", ""])
def test_only_our_kinds_of_body_are_taken(demo, kind):
    assert demo.post("/api/forecast", data="{}", content_type=kind).status_code == 415


@pytest.mark.parametrize(
    ("body", "status", "says"),
    [
        ("not json", 400, "not JSON"),
        ("[" * 100_000, 422, "nested too deep"),
        ('{"name": "\\ud83d"}', 422, "character that cannot be shown"),
        ('{"name": "a\\u0007"}', 422, "character that cannot be shown"),
        ('{"note": NaN}', 422, "larger than any"),
        ('{"note": 1e999}', 422, "larger than any"),
        (f'{{"note": {10**30}}}', 422, "larger than any"),
        ('{"a": ' * 60 + "1" + "}" * 60, 422, "nested too deep"),
        ('{"tags": [' + ",".join(['"\\ud83d"'] * 500) + "]}", 422, "And 400 more"),
    ],
)
def test_what_no_request_may_hold(demo, body, status, says):
    answer = demo.put("/api/goods/one?sku=HF-GILIN-1", data=body, headers=JSON)
    assert answer.status_code == status
    assert says in answer.json["detail"]
    assert len(answer.json["errors"]) <= 100


def test_a_figure_beyond_all_bounds_is_refused_and_the_shop_goes_on(demo):
    good = {"quantity_prices": [{"units": 2, "price": 10**30}]}
    assert demo.put("/api/goods/one?sku=X", json=good).status_code == 422
    good = {"quantity_prices": [{"units": 2, "price": 2**52}]}
    assert demo.put("/api/goods/one?sku=X", json=good).status_code == 422
    assert demo.get("/api/goods").status_code == demo.get("/api/carts").status_code == 200


def test_ids_paths_and_methods_that_cannot_be(demo):
    assert demo.put("/api/plans/99999999999999999999", json={}).status_code in (404, 422)
    assert demo.delete(f"/api/plans/{2**63}").status_code in (404, 422)
    assert demo.get("/" + "x" * 300).status_code == 200  # a place of the front end, like any other path
    gone = demo.get("/assets/till-of-another-version.js")
    assert gone.status_code == 404
    assert "load the page again" in gone.json["detail"]
    assert demo.get("/%00").status_code in (200, 404)
    answer = demo.delete("/api/frame")
    assert (answer.status_code, answer.headers["Allow"]) == (405, "GET")
    assert demo.patch("/api/nothing").status_code == 404


@pytest.mark.parametrize("path", ["/api/frame", "/api/none", "/", "/api/plans/x", "/api/goods/prices"])
def test_every_answer_has_the_safe_headers(demo, path):
    answer = demo.get(path)
    assert all(answer.headers[name] == value for name, value in SAFE_HEADERS.items())


@pytest.mark.parametrize("name", ["A/B", "..", ".", "a//b", "?x=1", "%2F", "Ä ö", "x/prices"])
def test_any_sku_and_tariff_can_be_made_changed_and_taken_out(demo, name):
    query = {"sku": name}
    assert demo.put("/api/goods/one", query_string=query, json={"list_price": 100}).status_code == 200
    assert demo.get("/api/goods/prices", query_string=query).json["levels"][0]["margin"] is None
    tariff = {"name": name, "steps": [{"upto": None, "amount": 1}]}
    assert demo.put("/api/tariffs", json={"tariffs": [tariff]}).status_code == 200
    assert demo.delete("/api/tariffs", query_string={"name": name}).status_code == 200


@pytest.mark.parametrize("kind", ["tariffs", "surcharges"])
def test_two_of_one_name_are_refused_with_their_place(demo, kind):
    one = {"name": "Twin", "steps": [{"upto": None, "amount": 1}]} if kind == "tariffs" else {
        "name": "Twin", "asks": {"kind": "amount", "amount": 1}
    }  # fmt: skip
    answer = demo.put(f"/api/{kind}", json={kind: [one, one | {"name": "tWIN"}]})
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, f"/{kind}/1/name")


def test_a_shop_that_others_write_to_is_read_and_writing_says_so(demo, demo_shop, monkeypatch):
    monkeypatch.setattr(opening, "PATIENCE", 0.1)
    with demo_shop.changing("A long import"):
        assert demo.get("/api/plans").status_code == demo.get("/api/delivery").status_code == 200
        answer = demo.put("/api/goods/one?sku=X", json={"list_price": 100})
    assert (answer.status_code, answer.headers["Retry-After"]) == (503, "2")
    assert "try again in a moment" in answer.json["detail"]


def test_a_service_the_carriers_do_not_have_is_refused_by_name(demo_shop):
    answer = (
        make_app(demo_shop, Answering()).test_client().post("/api/carriers/fetch", json={"services": ["Owl post"]})
    )
    assert (answer.status_code, answer.json["errors"][0]["pointer"]) == (422, "/services")
    assert "Owl post" in answer.json["detail"]


def test_a_change_that_was_kept_is_never_called_none(demo, monkeypatch):
    def kept_and_then_lost(*given):
        put_good(*given)
        raise RuntimeError("the disk is gone")

    monkeypatch.setattr(goods, "put_good", kept_and_then_lost)
    answer = demo.put("/api/goods/one?sku=KEPT", json={"list_price": 100})
    assert (answer.status_code, "Nothing was changed" in answer.json["detail"]) == (500, False)
    assert "KEPT" in [one["sku"] for one in demo.get("/api/goods").json["goods"]]
