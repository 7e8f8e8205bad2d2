"""Carts sketched by hand, in the browser."""

import re

from playwright.sync_api import Locator, Page, expect

from yellow_abacus.demo import FILES


class Hands:
    """A merchant's hands: every key and click is counted."""

    def __init__(self, page: Page) -> None:
        self.page, self.moves = page, 0

    def press(self, *keys: str) -> None:
        for key in keys:
            self.moves += 1
            self.page.keyboard.press(key)

    def write(self, text: str) -> None:
        self.press(*text, "Enter")

    def click(self, what: Locator) -> None:
        self.moves += 1
        what.click()


def test_a_new_shop_comes_to_a_forecast_from_three_sketches_in_forty_moves(page: Page, empty: str, complaints):
    hands = Hands(page)
    page.goto(f"{empty}/goods")
    hands.moves += 2  # to open the choice of files, and to choose one
    page.get_by_label("File of goods").set_input_files(FILES / "goods.csv")
    hands.click(page.get_by_role("button", name="Bring in").last)
    expect(page.get_by_text("58 new")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)
    hands.press("3")
    hands.click(page.get_by_role("button", name="Sketch the carts you expect"))
    for number, text in enumerate(("seed", "soil", "3 pot"), start=1):
        hands.write(text)
        expect(page.get_by_role("button", name="Take off")).to_have_count(number)
    expect(page.get_by_role("heading", level=1)).to_contain_text("140 orders")
    hands.click(page.get_by_role("link", name="Counting board"))
    hands.click(page.get_by_role("button", name="Start a plan"))
    expect(page.get_by_text("No offer stands on the rod yet")).to_be_visible()
    hands.press("n")
    expect(page.get_by_role("combobox")).to_be_focused()
    hands.write("10 %")
    expect(page.get_by_test_id("answer")).to_contain_text("less than today")
    expect(page.get_by_text("All its carts are sketched by hand.")).to_be_visible()
    assert hands.moves <= 40


def test_shares_move_along_the_rod_and_by_typing_and_always_add_up(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    page.get_by_role("button", name="and also…").click()
    page.get_by_role("menuitem", name="sketch carts that do not exist yet").click()
    box = page.get_by_label("What is in a cart you expect?")
    box.fill("hovercraft")
    box.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("No goods are called “hovercraft”")
    box.fill("2 planters, 1-3 soil")
    box.press("Enter")
    bead = page.get_by_role("slider", name="Planters with soils and Carts as they came")
    expect(bead).to_have_attribute("aria-valuenow", "10")
    bead.press("Shift+ArrowRight")
    expect(bead).to_have_attribute("aria-valuetext", re.compile(r"soils 15\s%, Carts as they came 85\s%"))
    share = page.get_by_role("button", name="15 %", exact=True)
    share.focus()
    with page.expect_response(lambda told: "/api/mixes" in told.url and ":1600" in (told.request.post_data or "")):
        page.keyboard.press("ArrowUp")
    expect(bead).to_have_attribute("aria-valuetext", re.compile(r"soils 16\s%, Carts as they came 84\s%"))
    expect(page.get_by_text("the sketched carts")).to_be_visible()
    page.reload()
    expect(bead).to_have_attribute("aria-valuenow", "16")
    page.get_by_role("button", name="Take off Planters with soils").click()
    expect(bead).to_have_count(0)
