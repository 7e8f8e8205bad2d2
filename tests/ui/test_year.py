"""Offers over the year in the browser: a plan is moved to other days, and its forecast with it."""

from playwright.sync_api import Page, Route, expect

from tests.ui.board import open_board, plain, take_hold
from tests.ui.test_places import serious


def test_a_plan_is_moved_by_keys_and_by_the_mouse_and_undone(page: Page, demo: str, complaints):
    page.goto(f"{demo}/side-by-side")
    page.get_by_role("button", name="Over the year").press("Enter")
    rows = page.get_by_role("list", name="Plans over the year").get_by_role("listitem")
    expect(rows).to_have_count(3)
    row = rows.filter(has_text="Seed weeks")
    kept = row.get_by_test_id("on-days")
    expect(kept).to_contain_text("more")
    before = kept.inner_text()
    assert serious(page) == []
    bead = row.get_by_role("button", name="Seed weeks")
    for _ in range(4):
        bead.press("Shift+ArrowRight")
    expect(row).to_contain_text("8 to 28 March 2027")
    expect(kept).not_to_have_text("…")
    expect(kept).not_to_have_text(before)
    expect(page.get_by_text("Shaded, plans overlap: 8 to 14 March")).to_be_visible()
    there = plain(kept.inner_text())
    bead.press("Enter")
    expect(page.get_by_text("“Seed weeks” now runs 8 to 28 March 2027.")).to_be_visible()
    answer = open_board(page, demo, plan=2)
    expect(answer).to_contain_text(there.split(" ")[0])
    page.goto(f"{demo}/side-by-side?look=year")
    expect(row).to_contain_text("8 to 28 March 2027")
    page.keyboard.press("Control+z")
    expect(row).to_contain_text("8 to 28 February 2027")

    x, y = take_hold(row.get_by_role("button", name="Seed weeks"), 10, 12)
    page.mouse.move(x + 200, y, steps=5)
    expect(row).not_to_contain_text("February 2027")
    page.mouse.up()
    expect(page.get_by_text("“Seed weeks” now runs")).to_be_visible()


def test_what_is_only_looked_at_does_not_drop_what_is_asked_to_save(page: Page, demo: str, complaints):
    page.clock.install()
    page.goto(f"{demo}/side-by-side?look=year")
    row = page.get_by_role("list", name="Plans over the year").get_by_role("listitem").filter(has_text="Seed weeks")
    expect(row.get_by_test_id("on-days")).to_contain_text("more")
    asked: list[Route] = []
    page.route("**/api/year/move", lambda route: asked.append(route))
    page.clock.pause_at(page.evaluate("Date.now()"))
    bead = row.get_by_role("button", name="Seed weeks")
    bead.press("ArrowRight")
    bead.press("Enter")
    with page.expect_response("**/api/plans/*"):
        page.clock.run_for(1_000)  # a pause long enough that a forecast would be asked for
        page.wait_for_timeout(200)
        assert len(asked) == 1
        asked[0].continue_()
    page.clock.resume()
    expect(page.get_by_text("“Seed weeks” now runs 9 February to 1 March 2027")).to_be_visible()


def test_all_offers_come_as_a_calendar(page: Page, demo: str, complaints):
    page.goto(f"{demo}/side-by-side?look=year")
    with page.expect_download() as download:
        page.get_by_role("link", name="All offers as a calendar").click()
    assert download.value.suggested_filename == "offers.ics"


def test_what_runs_already_stands_beside_the_plans(page: Page, demo: str, complaints):
    plan = page.request.get(f"{demo}/api/plans").json()["plans"][0]["plan"]
    assert page.request.put(f"{demo}/api/running", data={"offers": [plan["offers"][1]]}).ok
    page.goto(f"{demo}/side-by-side?look=year")
    rows = page.get_by_role("list", name="Plans over the year").get_by_role("listitem")
    expect(rows).to_have_count(4)
    expect(rows.last).to_contain_text("Free post")
    expect(rows.last).to_contain_text("until further notice")
