"""A server on a free port for the real interface, and how Chromium is started here."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from typing import Any

import waitress
from waitress import wasyncore

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

CHROMIUM: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium",
    "args": ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync"],
}  # fmt: skip


@contextmanager
def serving(shop_file: ShopFile, carriers: Carriers | None = None) -> Iterator[str]:
    """The address of a server for this shop while the block runs. carriers: whom it fetches tariffs from."""
    server = waitress.create_server(make_app(shop_file, carriers), host="127.0.0.1", port=0, threads=6)

    def run() -> None:
        with suppress(OSError, ValueError):  # sockets closed below while the loop waits on them
            server.run()

    thread = threading.Thread(target=run, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.effective_port}"
    server.close()
    wasyncore.close_all(server._map, ignore_all=True)  # else it waits for idle connections
    thread.join(timeout=5)
