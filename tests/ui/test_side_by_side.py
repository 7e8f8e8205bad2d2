"""Side by side in the browser: plans on one scale, one thing otherwise, and what stands in the columns."""

import re

from playwright.sync_api import Locator, Page, expect

from tests.ui.board import plain
from tests.ui.test_places import serious


def stand_beside(page: Page, address: str) -> Locator:
    page.goto(f"{address}/side-by-side")
    columns = page.get_by_test_id("column")
    expect(columns).to_have_count(3)
    expect(columns.first).to_contain_text("beats today")
    return columns


def impact(column: Locator) -> str:
    return plain(column.get_by_test_id("impact").inner_text())


def test_plans_stand_on_one_scale_and_the_answer_says_which_keeps_most(page: Page, demo: str, complaints):
    columns = stand_beside(page, demo)
    expect(page.get_by_test_id("answer")).to_contain_text(impact(columns.filter(has_text="Seed weeks")))
    page.goto(f"{demo}/counting-board?plan=1")
    board = page.get_by_test_id("answer")
    expect(board).to_contain_text("Over these")
    told = plain(board.inner_text())
    assert impact(stand_beside(page, demo).first) in told


def test_one_thing_otherwise_stands_beside_the_plan_and_changes_nothing_else(page: Page, demo: str, complaints):
    columns = stand_beside(page, demo)
    before = impact(columns.first)
    columns.first.get_by_role("button", name="otherwise…").press("Enter")
    page.get_by_role("radio", name="what goods cost").click()
    expect(columns).to_have_count(4)
    twisted = columns.nth(1)
    expect(twisted).to_contain_text("costs of everything 5 % higher")
    expect(twisted.get_by_test_id("impact")).not_to_have_text(before)
    at_five = impact(twisted)
    page.get_by_role("textbox", name="Higher by").press("ArrowUp")
    expect(twisted).to_contain_text("costs of everything 6 % higher")
    expect(twisted.get_by_test_id("impact")).not_to_have_text(at_five)
    page.keyboard.press("Escape")
    expect(columns.first.get_by_test_id("impact")).to_have_text(re.compile(re.escape(before)))
    page.reload()
    expect(columns).to_have_count(4)
    expect(columns.nth(1)).to_contain_text("costs of everything 6 % higher")
    places = page.get_by_role("navigation", name="Places")
    places.get_by_role("link", name="Till").click()
    places.get_by_role("link", name="Side by side").click()
    expect(columns).to_have_count(4)
    columns.nth(1).get_by_role("button", name="take away").click()
    expect(columns).to_have_count(3)


def test_every_way_to_hold_them_against_each_other(page: Page, demo: str, complaints):
    columns = stand_beside(page, demo)
    page.get_by_role("button", name="Put another beside them").press("Enter")
    page.get_by_role("menuitem", name="Today, with one thing otherwise").press("Enter")
    expect(columns).to_have_count(4)
    page.keyboard.press("Escape")
    details = page.get_by_role("tabpanel")
    for tab, shows in (
        ("what differs", "leaves “Spring twelve” out"),
        ("ledger", "You keep"),
        ("bridge", "The change by itself"),
        ("by cart type", "extra orders included"),
        ("by zone", "Islands and far"),
        ("stock", "Cherry tomato packet, 24 in stock"),
        ("which beats which", "keeps more than Seed weeks"),
        ("which response decides", "the line is where both keep the same"),
    ):
        page.get_by_role("tab", name=tab).click()
        expect(details).to_contain_text(shows)
        assert serious(page) == []
    figures = details.get_by_label("Across")
    figures.select_option(index=1)
    expect(details.get_by_role("img", name="How much more the one keeps")).to_be_visible()
    details.get_by_role("button", name="as a table").click()
    expect(details.get_by_role("row").nth(3)).to_be_visible()
