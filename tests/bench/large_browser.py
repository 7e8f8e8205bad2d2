"""The large shop in the browser: the board opened and a number nudged, Carts opened and a threshold moved."""

import tempfile
from multiprocessing import get_context
from pathlib import Path
from statistics import median
from typing import Any

from playwright.sync_api import Page, sync_playwright

from tests.bench.browser import MEASURE, after_the_answer, nudged, pressed
from tests.bench.large_shop import make, plan_with
from tests.bench.timing import held, held_at_95, judge, milliseconds
from tests.ui.server import CHROMIUM, serving
from yellow_abacus.bring_in_json import bring_in_plans
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.store.shop_file import ShopFile

ANSWERED, IDLE, CARTS_OPEN, MOVED = 500, 2_000, 1_000, 100
KEYSTROKES, OPENINGS = 12, 3
TIMEOUT = 120_000
NOTHING_ASKED = 500
"""Milliseconds without a request that Playwright waits for."""


def run() -> None:
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        path = Path(folder) / "shop.sqlite"
        maker = get_context("spawn").Process(target=make, args=(path,))
        maker.start()
        maker.join()
        shop = ShopFile(path)
        bring_in_plans(shop, CountingRoom(shop), PlansFile.model_validate({"plans": [_plan()]}))
        with serving(shop) as address:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.set_default_timeout(TIMEOUT)
            _board(page, address)
            _carts(page, address)
            browser.close()
        shop.close()


def _plan() -> dict[str, Any]:
    """One whose answer has a range."""
    plan = plan_with(1000)
    ranges = [{"of": "extra_bp", "low": 100, "high": 1_500}]
    plan["offers"][0]["terms"]["response"] = {"extra_bp": 500, "ranges": ranges}
    return plan


def _board(page: Page, address: str) -> None:
    def until_idle() -> None:
        page.goto(f"{address}/counting-board")
        page.get_by_test_id("answer").wait_for()
        page.wait_for_load_state("networkidle")

    until_idle()
    found = median(milliseconds(until_idle, OPENINGS)) - NOTHING_ASKED
    judge("the board opened until nothing more is asked", found, IDLE, unit="ms")
    page.get_by_role("button", name="% off").first.focus()
    held_at_95("keystroke to answer", lambda: nudged(page, KEYSTROKES), ANSWERED)
    page.wait_for_timeout(3_000)
    after_the_answer(page, changes=4, rest_bar=None)


# From the key going down to the next frame after what is said of the threshold has changed.
MEASURE_MARK = MEASURE.replace('"[data-testid=answer]"', '"[aria-labelledby=spread-title] p"')


def _carts(page: Page, address: str) -> None:
    mark = page.get_by_role("slider", name="free delivery to Home")

    def opened() -> None:
        page.goto(f"{address}/carts")
        mark.wait_for()

    opened()
    page.wait_for_load_state("networkidle")
    held("Carts opened until its thresholds stand", opened, CARTS_OPEN, OPENINGS)
    page.wait_for_load_state("networkidle")
    mark.focus()
    page.wait_for_timeout(500)
    what = "a threshold over the carts moved"
    held_at_95(what, lambda: pressed(page, MEASURE_MARK, KEYSTROKES, 40, "ArrowRight"), MOVED)
