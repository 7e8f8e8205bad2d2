"""The browser tests' server, a process of its own: opens a server for a shop file when it is told to, and closes it.

Asked in lines of JSON: {"open": path, "carriers": address or null, "feed": address or null} answers with the port,
{"close": port} with null, before it is closed. It ends when nobody can ask any more.
"""

import gc
import json
import sys
from contextlib import suppress
from pathlib import Path
from threading import Thread
from typing import Any

from waitress import wasyncore

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.serving import make_server


def main() -> None:
    servers: dict[int, tuple[Any, Thread, ShopFile]] = {}
    for line in sys.stdin:
        asked = json.loads(line)
        if "open" in asked:
            shop = ShopFile(Path(asked["open"]))
            carriers = Carriers(asked["carriers"]) if asked["carriers"] else None
            feed = Feed(asked["feed"]) if asked["feed"] else None
            server = make_server(shop, "127.0.0.1", 0, carriers, feed)
            thread = Thread(target=_run, args=(server,), daemon=True)
            thread.start()
            servers[int(server.effective_port)] = (server, thread, shop)
            print(server.effective_port, flush=True)
        else:
            Thread(target=_close, args=servers.pop(asked["close"])).start()  # while the next test begins
            print("null", flush=True)


def _close(server: Any, thread: Thread, shop: ShopFile) -> None:
    end(server, thread)
    shop.close()
    del server, thread, shop
    gc.collect()  # what refers to itself goes now, and not on top of the next shops


def end(server: Any, thread: Thread) -> None:
    """End a server that runs in a thread.

    Who has answered wakes the server by a byte to a pipe of that number. Once the pipe is closed its number may be
    that of the next test's shop file, whose first byte it would be: nobody answers by then, or wakes it any more.
    """
    server.task_dispatcher.shutdown()
    server.pull_trigger = lambda: None  # of who answers still
    server.close()
    wasyncore.close_all(server._map, ignore_all=True)  # else it waits for idle connections
    thread.join(timeout=5)


def _run(server: Any) -> None:
    with suppress(OSError, ValueError):  # sockets closed above while the loop waits on them
        server.run()


if __name__ == "__main__":
    main()
