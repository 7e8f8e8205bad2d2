"""What is shown and not saved yet is not lost when the page is left: the browser asks first."""

from playwright.sync_api import Page, Route, expect

from tests.ui.board import offers, open_board, saved


def leave(page: Page) -> str:
    """Try to close the page, and stay as it asks: what kind of question that was."""
    with page.expect_event("dialog") as asked:
        page.close(run_before_unload=True)
    asked.value.dismiss()
    return asked.value.type


def test_a_plan_being_saved_is_asked_for_before_the_page_goes_and_then_saved(page: Page, demo: str, complaints):
    held: list[Route] = []
    open_board(page, demo)
    page.route("**/api/plans/1", lambda asked: held.append(asked), times=1)
    page.get_by_role("button", name="12 % off").press("ArrowUp")
    with page.expect_request("**/api/plans/1"):
        assert leave(page) == "beforeunload"
    expect(page.get_by_text("saving…")).to_have_count(1)
    held[0].continue_()
    saved(page)
    page.reload()
    expect(offers(page).first).to_contain_text("13 % off")


def test_what_is_saved_in_its_turn_is_asked_for_too(page: Page, demo: str, complaints):
    held: list[Route] = []
    page.goto(f"{demo}/carts")
    growth = page.get_by_role("button", name="as many orders")
    expect(growth).to_be_visible()
    page.route("**/api/mixes", lambda asked: held.append(asked), times=1)
    with page.expect_request("**/api/mixes"):
        growth.press("Shift+ArrowUp")
    assert leave(page) == "beforeunload"
    expect(growth).to_have_count(0)
    held[0].continue_()
