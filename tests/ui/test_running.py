"""Offers that run already, on the Counting board and at the Till: kept, dropped, or another in their place."""

import re

from playwright.sync_api import Locator, Page, Route, expect

from tests.ui.board import offers, open_board, saved
from tests.ui.test_places import serious


def running(page: Page) -> Locator:
    return page.get_by_role("list", name="Offers that run already").get_by_role("listitem")


def it_runs_already(page: Page, name: str) -> None:
    before = running(page).count()
    page.get_by_role("button", name=f"Change {name}").click()
    page.get_by_role("menuitem", name="It runs already").click()
    expect(running(page)).to_have_count(before + 1)
    saved(page)


def test_what_runs_is_waited_for_before_more_of_it_is_told(page: Page, demo: str, complaints):
    waiting: list[Route] = []
    page.route("**/api/running", lambda asked: waiting.append(asked), times=1)
    open_board(page, demo)
    page.get_by_role("button", name="Change Free post").click()
    page.get_by_role("menuitem", name="It runs already").click()
    expect(running(page)).to_have_count(0)
    waiting[0].continue_()
    expect(running(page)).to_have_count(1)


def test_an_offer_that_runs_already_is_kept_dropped_and_replaced_in_every_plan(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    expect(page.get_by_text("held against today, with no offer")).to_be_visible()
    it_runs_already(page, "Free post")
    expect(page.get_by_text("held against today, with 1 offer")).to_be_visible()
    expect(running(page).first).to_contain_text("until further notice")
    expect(offers(page).filter(has_text="Spring twelve")).to_have_count(1)

    open_board(page, demo, plan=2)
    expect(running(page)).to_contain_text("Free post · runs already")
    before = answer.inner_text()
    running(page).get_by_role("button", name="Free post, which runs already: kept").press("Enter")
    expect(running(page)).to_contain_text("dropped in this plan")
    expect(answer).not_to_have_text(before)
    dropped = answer.inner_text()
    running(page).get_by_role("button", name="no more").press("Shift+ArrowUp")
    running(page).get_by_role("button", name="10 % more").press("Shift+ArrowUp")
    expect(running(page)).to_contain_text("20 % more of the orders it reaches")
    expect(answer).not_to_have_text(dropped)
    expect(page.get_by_role("img", name=re.compile("Orders that stay away"))).to_be_visible()
    saved(page)
    assert serious(page) == []

    running(page).get_by_role("button", name="Change Free post").click()
    page.get_by_role("menuitem", name="Put another in its place").click()
    expect(running(page)).to_have_count(0)
    mine = offers(page).filter(has_text="in place of the one that runs")
    expect(mine).to_have_count(1)
    expect(answer).to_contain_text(before.split(".")[0])  # it is still the same
    saved(page)
    mine.get_by_role("button", name="Change Free post").click()
    page.get_by_role("menuitem", name="Delete").click()
    expect(running(page)).to_contain_text("Free post")
    saved(page)
    running(page).get_by_role("button", name="Change Free post").click()
    page.get_by_role("menuitem", name="It runs no more").click()
    expect(running(page)).to_have_count(0)
    expect(page.get_by_text("held against today, with no offer")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(running(page)).to_have_count(1)


def test_at_the_till_what_runs_already_is_on_both_sides(page: Page, demo: str, complaints):
    open_board(page, demo)
    it_runs_already(page, "Spring twelve")
    page.goto(f"{demo}/till?plan=2")
    page.get_by_role("combobox", name="Put in the cart").fill("30 semai")
    page.get_by_role("option").first.wait_for()
    page.keyboard.press("Enter")
    why = page.get_by_role("region", name="The offers")
    expect(why.get_by_role("listitem").first).to_contain_text("Spring twelve applies")
    expect(page.get_by_test_id("till-answer")).to_contain_text("as today")
