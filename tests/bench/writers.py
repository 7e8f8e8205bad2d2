"""Twenty who change the demo shop at once over HTTP, again and again: how long each waits, and that none fails."""

import statistics
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx

from tests.bench.timing import tell
from tests.ui.server import serving
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.store.shop_file import ShopFile

WRITERS, TIMES = 20, 5


def run() -> None:
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        with serving(shop) as address, httpx.Client(base_url=f"{address}/api", timeout=60) as client:
            client.get("/goods")
            skus = [one["sku"] for one in client.get("/goods").json()["goods"]][:WRITERS]

            def write(number: int) -> list[float]:
                took = []
                for again in range(TIMES):
                    begun = time.perf_counter()
                    body = {"skus": [skus[number]], "field": "other_cost", "how": "set", "value": number + again + 1}
                    client.post("/goods/change", json=body).raise_for_status()
                    took.append((time.perf_counter() - begun) * 1000)
                return took

            with ThreadPoolExecutor(WRITERS) as pool:
                took = [one for some in pool.map(write, range(WRITERS)) for one in some]
        shop.close()
        tell(f"{WRITERS} writers at once, each {TIMES} times", took)
        print(f"  of which the longest {max(took):.0f} ms, the median {statistics.median(took):.0f} ms (bar 1,000)")
