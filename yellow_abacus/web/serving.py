"""Running the web application on waitress, a production server that needs nothing besides Python."""

import logging
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from socket import socket
from typing import Any

import waitress

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.standins.carriers import Mood, make_carriers
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

log = logging.getLogger(__name__)

THREADS = 6


def make_server(shop_file: ShopFile, host: str, port: int, carriers: Carriers | None = None) -> Any:
    """A server that listens and does not answer yet: call its `run`. port 0 takes a free one, `effective_port`."""
    return waitress.create_server(make_app(shop_file, carriers), host=host, port=port, threads=THREADS)


def run_server(shop_file: ShopFile, host: str, port: int, carriers: Carriers | None = None) -> None:
    server = make_server(shop_file, host, port, carriers)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    print(f"Yellow Abacus is open at http://{host}:{server.effective_port}/", flush=True)
    server.run()


def run_carriers(host: str, port: int, mood: Mood) -> None:
    """The stand-in quote service, by itself."""
    server = waitress.create_server(make_carriers(mood), host=host, port=port, threads=THREADS)
    print(f"Two made-up carriers quote at http://{host}:{server.effective_port}/", flush=True)
    server.run()


@contextmanager
def carriers_beside(host: str = "127.0.0.1") -> Iterator[Carriers]:
    """The stand-in quote service in a process of its own, for as long as the context lasts."""
    with socket() as free:
        free.bind((host, 0))
        port = free.getsockname()[1]
    words = [sys.executable, "-m", "yellow_abacus", "carriers", "--host", host, "--port", str(port)]
    process = subprocess.Popen(words, stdout=subprocess.DEVNULL)
    try:
        yield Carriers(f"http://{host}:{port}")
    finally:
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
    run_server(shop, host, port)
