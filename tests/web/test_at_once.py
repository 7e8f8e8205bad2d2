"""A server as it really runs: many at once, many who say nothing, and what is no request at all."""

import socket
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from urllib.parse import urlsplit

import httpx
import pytest

from tests.ui.server import serving
from yellow_abacus.listening import SAFE_HEADERS


@pytest.fixture
def address(demo_shop) -> Iterator[str]:
    with serving(demo_shop) as at:
        yield at


def test_reads_changes_undos_and_redos_at_once_never_fail(address):
    plan = httpx.get(f"{address}/api/plans").json()["plans"][0]["plan"]
    plan["offers"] = plan["offers"][:1]  # which names no goods and no zones: those are taken back too

    def work(number: int) -> list[int]:
        with httpx.Client(base_url=f"{address}/api", timeout=120) as client:
            asked = {
                0: lambda at: client.put(f"/goods/one?sku=NEW-{number}", json={"list_price": at + 1}),
                1: lambda at: client.post("/undo"),
                2: lambda at: client.post("/redo"),
                3: lambda at: client.get("/delivery"),
                4: lambda at: client.post("/forecast", json=plan),
                5: lambda at: client.get("/frame"),
            }[number % 6]
            return [asked(at).status_code for at in range(6)]

    with ThreadPoolExecutor(12) as pool:
        found = {status for some in pool.map(work, range(12)) for status in some}
    assert found <= {200, 409}  # a forecast after the orders were taken back has nothing to count


def test_many_who_say_nothing_lock_nobody_out(address):
    at = urlsplit(address)
    silent = [socket.create_connection((at.hostname, at.port)) for _ in range(300)]
    for one in silent:
        one.sendall(b"POST /api/forecast HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100\r\n")
    assert httpx.get(f"{address}/api/frame", timeout=60).status_code == 200
    for one in silent:
        one.close()


def test_what_is_no_request_is_answered_with_the_safe_headers_too(address):
    at = urlsplit(address)
    with socket.create_connection((at.hostname, at.port)) as raw:
        raw.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nno header\r\n\r\n")
        head = b""
        while part := raw.recv(65_536):
            head += part
    told = head.decode("latin-1")
    assert told.startswith("HTTP/1.1 400") or told.startswith("HTTP/1.0 400")
    for name, value in SAFE_HEADERS.items():
        assert f"{name}: {value}" in told
