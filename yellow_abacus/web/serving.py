"""Running the web application on waitress, a production server that needs nothing besides Python."""

import logging
from pathlib import Path

import waitress

from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

log = logging.getLogger(__name__)

THREADS = 6


def run_server(shop_file: ShopFile, host: str, port: int) -> None:
    server = waitress.create_server(make_app(shop_file), host=host, port=port, threads=THREADS)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
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
    run_server(shop, host, port)
