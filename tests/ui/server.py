"""A server for the real interface, in a process of its own, and how Chromium is started here."""

import json
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.order_feed import Feed
from yellow_abacus.store.shop_file import ShopFile

NOT_NEEDED = (
    # what Playwright leaves out itself, whose list this one takes the place of
    "AimEnabled", "AvoidCorsURLLoaderRestartOnRedirect", "AvoidUnnecessaryBeforeUnloadCheckSync",
    "DestroyProfileOnBrowserClose", "HttpsFirstBalancedModeAutoEnable", "HttpsUpgrades", "LensOverlay", "MediaRouter",
    "NetworkTimeServiceQuerying", "OptimizationHints", "PaintHolding", "PreconnectToSearch",
    "ThirdPartyStoragePartitioning",
    # the suggestions under an address bar that nobody sees: a seventh of the time of all browser tests
    "WebUIOmniboxAimPopup", "WebUIOmniboxFullPopup", "WebUIOmniboxPopup",
    # a process for the next page, which is closed with its test
    "SpareRendererForSitePerProcess",
)  # fmt: skip

CHROMIUM: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium",
    "args": ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync", f"--disable-features={','.join(NOT_NEEDED)}"],
}  # fmt: skip

HERE = Path(__file__).parents[2]


@cache
def _host() -> subprocess.Popen:
    """One for all tests of a worker; it ends with it, for its input ends."""
    words = [sys.executable, "-m", "tests.ui.host"]
    few_heaps = os.environ | {"MALLOC_ARENA_MAX": "2"}  # else each thread of each shop leaves one behind
    return subprocess.Popen(words, cwd=HERE, env=few_heaps, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)


def _ask(**what: Any) -> Any:
    host = _host()
    assert host.stdin
    assert host.stdout
    host.stdin.write(json.dumps(what) + "\n")
    host.stdin.flush()
    return json.loads(host.stdout.readline())


@contextmanager
def serving(shop_file: ShopFile, carriers: Carriers | None = None, feed: Feed | None = None) -> Iterator[str]:
    """The address of a server for this shop while the block runs. carriers, feed: whom it fetches tariffs and orders
    from."""
    addresses = {"carriers": carriers.address if carriers else None, "feed": feed.address if feed else None}
    port = _ask(open=str(shop_file.path), **addresses)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        _ask(close=port)
