"""In the browser with the demo shop: from a keystroke in a sentence to the new answer, and the first load."""

import gzip
import tempfile
from pathlib import Path
from statistics import median
from time import perf_counter
from typing import Any

from playwright.sync_api import Page, sync_playwright

from tests.bench.timing import a_busy_core, held_at_95, judge, tell
from tests.ui.server import CHROMIUM, serving
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.store.shop_file import ShopFile

KEYSTROKES, OPENINGS = 40, 8
ANSWERED, RUNG_UP = 90, 80
"""Milliseconds, at 95 %."""
CURVED, FOLLOWED = 300, 200
"""Milliseconds, as a rule."""
CHANGES = 12

# From the key going down to the next frame after the answer's text has changed.
MEASURE = """(key) => new Promise((done) => {
  const answer = document.querySelector("[data-testid=answer]");
  const before = answer.textContent;
  const start = performance.now();
  const watch = new MutationObserver(() => {
    if (answer.textContent === before) return;
    watch.disconnect();
    requestAnimationFrame(() => done(performance.now() - start));
  });
  watch.observe(answer, { subtree: true, childList: true, characterData: true });
  document.activeElement.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
})"""


def run() -> None:
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        shop = ShopFile(Path(folder) / "shop.sqlite")
        fill_with_demo_shop(shop)
        with serving(shop) as address:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            scripts: dict[str, int] = {}
            page.on(
                "response",
                lambda answer: (
                    scripts.update({answer.url: len(gzip.compress(answer.body()))})
                    if answer.url.endswith(".js")
                    else None
                ),
            )
            start = perf_counter()
            page.goto(f"{address}/counting-board")
            page.get_by_test_id("answer").wait_for()
            tell("first load until the answer stands there", [(perf_counter() - start) * 1000])
            print(
                f"  script of the first load, compressed: {sum(scripts.values()) / 1000:.0f} kB   bar 300 kB",
                flush=True,
            )
            page.wait_for_timeout(500)
            for name, word in (
                ("12 % off", "a word nudged where it stands"),
                ("€65 or more", "the threshold nudged"),
            ):
                page.get_by_role("button", name=name).focus()
                held_at_95(f"keystroke to answer: {word}", lambda: nudged(page), ANSWERED)
                page.wait_for_timeout(1000)
            after_the_answer(page)
            for name, word in (("or more", "the threshold"), ("% off", "the percentage")):
                judge(f"{word} opened until its curve stands", *opened(page, name), unit="ms")
            at_the_till(page, address)
            browser.close()


# What comes after a new answer, from the frame it stood in to the next frame after each.
MEASURE_AFTER = """(key) => new Promise((done) => {
  const follows = { "forecast/range": "range", "forecast/each": "each", reach: "reach" };
  const answer = document.querySelector("[data-testid=answer]");
  const before = answer.textContent;
  const start = performance.now();
  const at = {};
  const watch = new MutationObserver(() => {
    if (answer.textContent === before) return;
    watch.disconnect();
    requestAnimationFrame(() => (at.answer = performance.now()));
  });
  watch.observe(answer, { subtree: true, childList: true, characterData: true });
  const come = new PerformanceObserver((list) => {
    for (const one of list.getEntries()) {
      const name = follows[one.name.split("/api/")[1]];
      if (!name || one.startTime < start) continue;
      requestAnimationFrame(() => {
        at[name] = performance.now();
        if (name !== "reach") return;
        come.disconnect();
        done({ range: at.range - at.answer, rest: at.reach - at.answer });
      });
    }
  });
  come.observe({ type: "resource" });
  document.activeElement.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
})"""


def after_the_answer(page: Page, changes: int = CHANGES, rest_bar: float | None = FOLLOWED) -> None:
    """How long after a new answer it is said how sure it is, and what each offer adds and reaches. rest_bar: of
    that; None where it is told alone."""

    quiet = pressed(page, MEASURE_AFTER, changes, 400)
    with a_busy_core():
        busy = pressed(page, MEASURE_AFTER, changes, 400)
    for name, of, bar in (
        ("how sure it is", "range", FOLLOWED),
        ("all that stands below its offers", "rest", rest_bar),
    ):
        what = f"from the answer to {name}"
        if bar is None:
            tell(what, [one[of] for one in quiet])
        else:
            judge(what, median(one[of] for one in quiet), bar, median(one[of] for one in busy), "ms")


def nudged(page: Page, times: int = KEYSTROKES) -> list[float]:
    """Step by step up, so that no number was there before."""
    return pressed(page, MEASURE, times, 40)


def pressed(page: Page, measure: str, times: int, wait: int, key: str = "ArrowUp") -> list[Any]:
    """What is measured of a key pressed so many times, with so many milliseconds in between."""
    found = []
    for _ in range(times):
        found.append(page.evaluate(measure, key))
        page.wait_for_timeout(wait)
    return found


# From the word being opened to the next frame after its curve stands there.
OPEN = """(word) => new Promise((done) => {
  const start = performance.now();
  const watch = new MutationObserver(() => {
    if (!document.querySelector("[role=img][aria-label^='Kept against today']")) return;
    watch.disconnect();
    requestAnimationFrame(() => done(performance.now() - start));
  });
  watch.observe(document.body, { subtree: true, childList: true });
  word.click();
})"""


def opened(page: Page, name: str) -> tuple[float, float, float]:
    """A number's word opened, the plan being new each time: quiet, the bar, and beside a busy core."""

    def each() -> float:
        found = []
        for _ in range(OPENINGS):
            page.get_by_role("button", name="or more").nth(1).press("ArrowUp")
            page.wait_for_timeout(1500)
            found.append(page.evaluate(OPEN, page.get_by_role("button", name=name).first.element_handle()))
            page.keyboard.press("Escape")
        return median(found)

    quiet = each()
    with a_busy_core():
        return quiet, CURVED, each()


# From the key going down to the next frame after the cart's answer has changed.
MEASURE_TILL = MEASURE.replace("[data-testid=answer]", "[data-testid=till-answer]")


def at_the_till(page: Page, address: str) -> None:
    """A unit more or fewer in the cart until both sides of it stand there."""
    page.goto(f"{address}/till?plan=1")
    page.get_by_role("combobox", name="Put in the cart").fill("5 semai")
    page.get_by_role("option").first.wait_for()
    page.keyboard.press("Enter")
    page.get_by_test_id("till-answer").wait_for()
    page.wait_for_timeout(1000)
    page.get_by_role("textbox", name="How many").focus()
    what = "keystroke at the Till to both sides of the cart"
    held_at_95(what, lambda: pressed(page, MEASURE_TILL, KEYSTROKES, 60), RUNG_UP)
