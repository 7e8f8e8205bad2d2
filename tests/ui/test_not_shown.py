"""A place that fails says so and how to go on; the others are there."""

from playwright.sync_api import Page, expect

from tests.ui.test_places import serious


def test_a_place_that_is_not_there_any_more_says_so_and_is_there_when_loaded_again(page: Page, demo: str):
    """As where a newer version took the place of the one that the page was opened with."""
    page.goto(f"{demo}/goods")
    expect(page.get_by_role("table", name="Goods")).to_be_visible()
    page.route("**/assets/till-*.js", lambda asked: asked.fulfill(status=404), times=1)
    page.get_by_role("link", name="Till").click()
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("What you saved is safe")
    assert serious(page) == []
    page.get_by_role("link", name="Goods").click()
    expect(page.get_by_role("table", name="Goods")).to_be_visible()
    page.get_by_role("link", name="Till").click()
    alert.get_by_role("button", name="Load it again").press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Ring up a cart")
    expect(alert).to_have_count(0)
