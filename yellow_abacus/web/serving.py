"""Running the web application on waitress, a production server that needs nothing besides Python."""

import logging
import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from socket import getfqdn, gethostname
from threading import Thread
from typing import Any

import waitress
from flask import Flask
from waitress.channel import HTTPChannel
from waitress.task import ErrorTask

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.address import AddressError
from yellow_abacus.web.app import SAFE_HEADERS, make_app
from yellow_abacus.web.guard import LOOPBACK, Hosts

log = logging.getLogger(__name__)

THREADS = 16
"""Most of them only wait: who computes when is the calculator's to say."""
CONNECTIONS = 2_000
"""Open at once. One that says nothing costs a thread nothing, and is closed after SILENCE seconds."""
SILENCE = 30


class _ErrorTask(ErrorTask):
    """The server's own answers to what is no request at all, with the headers all answers have."""

    def execute(self) -> None:
        self.response_headers.extend(SAFE_HEADERS.items())
        super().execute()


class _Channel(HTTPChannel):
    error_task_class = _ErrorTask


def make_server(
    shop_file: ShopFile,
    host: str,
    port: int,
    carriers: Carriers | None = None,
    feed: Feed | None = None,
    *,
    open_to_all: bool = False,
) -> Any:
    """A server that listens and does not answer yet: call its `run`. port 0 takes a free one, `effective_port`.

    open_to_all: answers to every name this machine has, and to addresses. Raises AddressError.
    """
    names = {*LOOPBACK, host.strip("[]")} | ({gethostname(), getfqdn()} if open_to_all else set())
    return _listen(make_app(shop_file, carriers, Hosts(names, any_address=open_to_all), feed), host, port)


def _listen(app: Any, host: str, port: int) -> Any:
    try:
        server = waitress.create_server(
            app,
            host=host,
            port=port,
            threads=THREADS,
            connection_limit=CONNECTIONS,
            channel_timeout=SILENCE,
            cleanup_interval=5,
            asyncore_use_poll=True,
            ident="",
        )
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "there is no such address"
        raise AddressError(f"{host}:{port} cannot be listened on: {why}. Choose another with --port.") from error
    server.channel_class = _Channel
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    return server


def run_server(server: Any, host: str) -> None:
    """Say where it is open, and answer until it is ended."""
    print(f"Yellow Abacus is open at http://{host}:{server.effective_port}/", flush=True)
    server.run()


def run_standin(app: Flask, says: str, host: str, port: int, *, until_input_ends: bool = False) -> None:
    """A stand-in for a service outside, by itself. says: what it does. until_input_ends: it ends with whoever started
    it and holds its input.

    Raises AddressError.
    """
    server = _listen(app, host, port)
    if until_input_ends:
        Thread(target=_end_with_input, daemon=True).start()
    print(f"{says} at http://{host}:{server.effective_port}/", flush=True)
    server.run()


def _end_with_input() -> None:
    sys.stdin.read()
    os._exit(0)


@contextmanager
def beside(standin: str, host: str = "127.0.0.1") -> Iterator[Callable[[], str]]:
    """A stand-in that starts in a process of its own, which ends with this one however that ends; what waits until it
    listens, and tells its address. standin: its command."""
    words = [sys.executable, "-m", "yellow_abacus", standin, "--host", host, "--port", "0", "--until-input-ends"]
    process = subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    told, input_ = process.stdout, process.stdin
    assert told is not None
    assert input_ is not None
    try:
        yield lambda: told.readline().strip().rpartition(" ")[2].rstrip("/")
    finally:
        input_.close()
        process.terminate()


def run_server_reloading(shop_path: Path, host: str, port: int, demo: bool) -> None:
    """For work on the code: the server starts anew whenever a Python file changes."""
    from watchfiles import PythonFilter, run_process

    package = Path(__file__).parents[1]
    run_process(package, target=_serve_anew, args=(shop_path, host, port, demo), watch_filter=PythonFilter())


def _serve_anew(shop_path: Path, host: str, port: int, demo: bool) -> None:
    shop = ShopFile(shop_path)
    if demo:
        fill_with_demo_shop(shop)
    run_server(make_server(shop, host, port), host)
