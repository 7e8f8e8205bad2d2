"""Four plans side by side with the demo shop: the answer after a changed number, and the ranges after it."""

import tempfile
from copy import deepcopy
from itertools import count
from pathlib import Path

from tests.bench.timing import held
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app

ANSWER, RANGES = 200, 300


def run() -> None:
    with tempfile.TemporaryDirectory() as folder:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        client = make_app(shop).test_client()
        plans = [one["plan"] for one in client.get("/api/plans").get_json()["plans"]]
        plans.append(deepcopy(plans[0]) | {"name": "Another"})
        numbers = count(1_201)

        def change() -> None:
            plans[3]["offers"][0]["terms"]["gives"][0]["percent_bp"] = next(numbers)

        def ask(path: str) -> None:
            answer = client.post(f"/api/side-by-side{path}", json={"columns": [{"plan": plan} for plan in plans]})
            assert answer.status_code == 200

        def answered() -> None:
            change()
            ask("")

        def ranged() -> None:
            change()
            ask("/range")

        ask("")
        ask("/range")
        held("four plans side by side after a changed number", answered, ANSWER)
        held("their ranges, and which beats which", ranged, RANGES)
        shop.close()
