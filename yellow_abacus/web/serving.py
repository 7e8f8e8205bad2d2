"""Running the web application."""

from pathlib import Path
from socket import getfqdn, gethostname
from typing import Any

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.listening import LOOPBACK, listen
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app
from yellow_abacus.web.guard import Hosts


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
    return listen(make_app(shop_file, carriers, Hosts(names, any_address=open_to_all), feed), host, port)


def run_server(server: Any, host: str) -> None:
    """Say where it is open, and answer until it is ended."""
    print(f"Yellow Abacus is open at http://{host}:{server.effective_port}/", flush=True)
    server.run()


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
