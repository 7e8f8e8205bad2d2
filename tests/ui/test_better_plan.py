"""A better plan in the browser: what may move, the search, and a plan that is taken over."""

from playwright.sync_api import Page, expect

from tests.ui.board import offers, open_board, plain, saved, sentence
from tests.ui.test_places import serious


def test_a_better_plan_is_searched_and_taken_over(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=2)
    page.get_by_role("button", name="A better plan…").press("Enter")
    dialog = page.get_by_role("dialog", name="A better plan")
    expect(dialog.get_by_role("button", name="Search")).to_be_disabled()
    dialog.get_by_role("checkbox", name="What shoppers get").check()
    dialog.get_by_role("textbox", name="to").fill("20")
    dialog.get_by_role("button", name="Search").click()
    better = dialog.get_by_test_id("better")
    expect(better).to_contain_text("better")
    expect(better).to_contain_text("(not 15 % off)")
    assert serious(page) == []
    told = plain(better.locator("strong").first.inner_text())
    better.get_by_role("button", name="Take it over").click()
    expect(dialog).to_have_count(0)
    expect(answer).to_contain_text(told.replace(" ", "\u00a0") if "%" in told else told)
    expect(sentence(offers(page).first)).not_to_contain_text("15")
    saved(page)
    page.keyboard.press("Control+z")
    expect(sentence(offers(page).first)).to_contain_text("15")


def test_a_search_can_be_stopped_and_a_better_plan_kept_as_one_of_its_own(page: Page, demo: str, complaints):
    open_board(page, demo, plan=1)
    page.get_by_role("button", name="A better plan…").click()
    dialog = page.get_by_role("dialog", name="A better plan")
    for name in ("Spring twelve: How much it takes", "Free post: How much it takes"):
        dialog.get_by_role("checkbox", name=name).check()
    dialog.get_by_role("button", name="Search").click()
    expect(dialog.get_by_role("status")).to_contain_text("plans looked at")
    dialog.get_by_role("button", name="Stop").click()
    expect(dialog.get_by_role("status")).to_have_count(0)
    for name in ("Spring twelve: How much it takes", "Free post: How much it takes"):
        dialog.get_by_role("checkbox", name=name).uncheck()
    dialog.get_by_role("checkbox", name="Spring twelve in or out").check()
    dialog.get_by_role("button", name="Search").click()
    expect(dialog.get_by_test_id("better")).to_contain_text("leaves “Spring twelve” out")
    dialog.get_by_role("button", name="As a plan of its own").click()
    expect(page.get_by_role("button", name="Plan: Potting-up fortnight, better")).to_be_visible()
