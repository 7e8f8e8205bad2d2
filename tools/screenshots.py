"""Takes docs/screenshots anew from the demo shop: `make screenshots`, or with names to take only some of them."""

import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.ui.server import CHROMIUM, serving
from yellow_abacus.bring_in_json import told_offer
from yellow_abacus.counting import CountingRoom
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc
from yellow_abacus.keeping import keep_forecast
from yellow_abacus.store.models import PastOfferRow
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.store.told_offers import save_told

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def board(page: Page) -> None:
    page.get_by_test_id("answer").wait_for()
    page.get_by_test_id("range").wait_for()


def word_open(page: Page) -> None:
    board(page)
    page.get_by_role("button", name="€65 or more").click()
    page.get_by_text("Best here").wait_for()
    page.get_by_role("dialog").get_by_text("Breaks even").wait_for()


def how_sure(page: Page) -> None:
    board(page)
    page.get_by_test_id("range").click()
    page.get_by_text("Each bar runs").wait_for()


def kinds(page: Page) -> None:
    board(page)
    page.get_by_text("Not the rest").first.wait_for()


def running(page: Page) -> None:
    """Last of all: from here on an offer runs already in every plan."""
    board(page)
    page.get_by_role("button", name="Change Free post").click()
    page.get_by_role("menuitem", name="It runs already").click()
    page.get_by_text("held against today, with 1 offer").wait_for()
    page.get_by_role("button", name="Choose or change a plan").click()
    page.get_by_role("menuitemradio", name="Balcony days").click()
    board(page)
    page.get_by_role("tab", name="by day").click()
    page.get_by_role("img", name="What each day keeps").wait_for()


def carts(page: Page) -> None:
    page.get_by_role("heading", name="How much is in a cart").click()
    page.get_by_role("img", name="against today").wait_for()


def came(page: Page) -> None:
    page.get_by_role("heading", name="Types of carts").wait_for()
    page.get_by_text("What came").scroll_into_view_if_needed()
    page.mouse.wheel(0, 2000)


def opened(page: Page) -> None:
    page.get_by_label("Show").select_option(label="Planters")
    page.get_by_role("button", name="Stone trough").click()
    page.get_by_text("With its typical delivery").wait_for()


def curves(page: Page) -> None:
    page.get_by_role("img", name="By weight of goods").wait_for()


def till(page: Page) -> None:
    for words in ("10 semai", "2 fern mix", "1 trough"):
        page.get_by_role("combobox", name="Put in the cart").fill(words)
        page.get_by_role("option").first.wait_for()
        page.keyboard.press("Enter")
    page.get_by_role("button", name="Add ").first.wait_for()


def snags(page: Page) -> None:
    board(page)
    page.get_by_role("button", name="snags").click()
    page.get_by_role("button", name="Search for leaks").click()
    page.get_by_text("Open it in the Till").first.wait_for()
    page.get_by_text("Open it in the Till").last.scroll_into_view_if_needed()


LEAF = {
    "name": "Autumn leaf",
    "first_day": "2026-10-11",
    "last_day": "2026-10-31",
    "offers": [
        {
            "name": "New leaf",
            "terms": {
                "gives": [{"kind": "percent_off", "percent_bp": 1000}],
                "given": {"by": "code", "code": "NEWLEAF"},
                "response": {"uptake_bp": 500, "ranges": [{"of": "uptake_bp", "low": 400, "high": 600}]},
            },
        }
    ],
}
RAN = [
    {
        "id": "leaf",
        "name": "New leaf in July",
        "terms": {
            "gives": [{"kind": "percent_off", "percent_bp": 1000}],
            "given": {"by": "code", "code": "NEWLEAF"},
            "when": {"first_day": "2026-07-06", "last_day": "2026-07-26"},
        },
    },
    {
        "id": "may",
        "name": "May threshold",
        "terms": {
            "gives": [{"kind": "amount_off", "amount": 500}],
            "earned": {"conditions": [{"kind": "spend", "n": 6000}]},
            "when": {"first_day": "2026-05-01", "last_day": "2026-06-10"},
        },
    },
]


def prepare(shop: ShopFile) -> None:
    """What pictures of Afterwards need besides the demo shop: a forecast kept before its days, offers that ran."""
    plan = PlanDoc.model_validate(LEAF)
    keep_forecast(shop, CountingRoom(shop, plan.first_day), plan)
    with shop.changing("Say what ran") as session:
        save_told(session, PastOfferRow, [told_offer(OfferDoc.model_validate(one)) for one in RAN])


def became(page: Page) -> None:
    page.get_by_test_id("became").wait_for()
    page.get_by_role("img", name="What came").wait_for()


def history(page: Page) -> None:
    page.get_by_role("button", name="Take over").first.wait_for()
    page.get_by_role("heading", name="History tells").evaluate("it => it.scrollIntoView()")
    page.evaluate("window.scrollBy(0, -80)")


def better(page: Page) -> None:
    board(page)
    page.get_by_role("button", name="A better plan").click()
    dialog = page.get_by_role("dialog", name="A better plan")
    dialog.get_by_role("checkbox", name="Packets by the handful: How much it takes").check()
    dialog.get_by_role("checkbox", name="Packets by the handful: What shoppers get, now 8").check()
    dialog.get_by_role("button", name="Search").click()
    dialog.get_by_test_id("better").wait_for(timeout=120_000)


def side_by_side(page: Page) -> None:
    page.get_by_text("beats today").first.wait_for()
    page.get_by_role("button", name="otherwise…").first.click()
    page.get_by_role("radio", name="what delivery is free from").click()
    page.get_by_text("delivery free from").first.wait_for()
    page.keyboard.press("Escape")
    page.get_by_test_id("column").nth(3).get_by_text("beats today").wait_for()


def year(page: Page) -> None:
    page.get_by_test_id("on-days").filter(has_text="more").first.wait_for()


def paper(page: Page) -> None:
    page.get_by_role("button", name="Print it").wait_for()


SHOTS: dict[str, tuple[str, Callable[[Page], None]]] = {
    "counting-board": ("/counting-board", board),
    "counting-board-word": ("/counting-board", word_open),
    "counting-board-range": ("/counting-board?plan=3", how_sure),
    "counting-board-kinds": ("/counting-board?plan=3", kinds),
    "counting-board-better": ("/counting-board?plan=3", better),
    "counting-board-snags": ("/counting-board", snags),
    "till": ("/till?plan=3", till),
    "side-by-side": ("/side-by-side", side_by_side),
    "side-by-side-year": ("/side-by-side?look=year", year),
    "handing-over": ("/handing-over?plan=3", paper),
    "the-case": ("/the-case?plan=1", paper),
    "goods": ("/goods", lambda page: page.get_by_role("table").wait_for()),
    "goods-opened": ("/goods", opened),
    "delivery": ("/delivery", curves),
    "carts": ("/carts", carts),
    "carts-came": ("/carts", came),
    "afterwards": ("/afterwards", became),
    "afterwards-history": ("/afterwards", history),
    "counting-board-running": ("/counting-board", running),
}


def take(names: list[str], folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as temporary, sync_playwright() as playwright:
        shop = ShopFile(Path(temporary) / "shop.sqlite")
        fill_with_demo_shop(shop)
        prepare(shop)
        with serving(shop) as address:
            browser = playwright.chromium.launch(**CHROMIUM)
            for name in names or SHOTS:
                path, ready = SHOTS[name]
                page = browser.new_page(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
                page.goto(address + path)
                ready(page)
                page.wait_for_load_state("networkidle")
                page.wait_for_timeout(250)
                page.screenshot(path=folder / f"{name}.png")
                page.close()
            browser.close()


if __name__ == "__main__":
    names = sys.argv[1:]
    into = Path(names.pop()) if names and names[-1].startswith("/") else FOLDER
    take(names, into)
