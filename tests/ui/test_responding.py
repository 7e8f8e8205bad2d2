"""How shoppers respond, said below an offer; how sure the answer is; and the working behind a figure."""

import re
import time

from playwright.sync_api import Page, Route, expect

from tests.ui.board import also, offers, open_board, saved, write
from tests.ui.test_places import serious


def expect_also(offer, words: str) -> None:
    offer.get_by_role("button", name="also expect…").click()
    offer.page.get_by_role("menuitem", name=words).click()


def test_a_merchant_who_says_nothing_sees_what_is_not_said(page: Page, demo: str, complaints):
    open_board(page, demo, plan=2)
    offer = write(page, "link")
    expect(offer).to_contain_text("how many hold the code (everybody counts)")
    expect(offer).to_contain_text("how many more orders it brings (none count)")
    expect(page.get_by_test_id("answer")).to_contain_text("if everybody uses the code")
    offer.get_by_role("button", name="how many hold the code").press("ArrowDown")
    expect(page.get_by_test_id("answer")).not_to_contain_text("everybody")


def test_what_shoppers_do_is_said_word_by_word_and_moves_the_answer(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=2)
    offer = offers(page).first
    for words, says in [
        ("some orders only come sooner", "of them only come sooner"),
        ("an extra order costs something to win", "each costs €2 to win"),
        ("first-time shoppers hold the code otherwise", "of first-time ones"),
        ("the code is sent to shoppers", "The code goes to 1,000 shoppers"),
        ("it costs something once", "It costs €100 once"),
        ("a partner gets a share", "5 % of goods goes to a partner"),
    ]:
        before = answer.inner_text()
        expect_also(offer, words)
        expect(offer).to_contain_text(says)
        if not words.startswith("first-time"):  # as many as of all others, to begin with
            expect(answer).not_to_have_text(before)
    before = answer.inner_text()
    offer.get_by_role("button", name="once", exact=True).click()
    page.get_by_role("radio", name="Every day it is open").click()
    page.keyboard.press("Escape")
    expect(offer).to_contain_text("The code goes to 1,000 shoppers every day")
    expect(answer).not_to_have_text(before)
    offer.get_by_role("button", name="1,000 shoppers").click()
    page.get_by_role("button", name="Take it out").click()
    expect(offer).not_to_contain_text("The code goes to")
    saved(page)
    page.reload()
    expect(offers(page).first).to_contain_text("each costs €2 to win")


def test_messages_go_to_some_shoppers_alone(page: Page, demo: str):
    answer = open_board(page, demo, plan=2)
    offer = offers(page).first
    expect_also(offer, "the code is sent to shoppers")
    offer.get_by_role("button", name="who ordered before").click()
    before = answer.inner_text()
    page.get_by_role("radio", name="A zone").click()
    page.get_by_label("Which").select_option("Islands and far")
    expect(answer).not_to_have_text(before)
    assert serious(page) == []
    page.get_by_role("radio", name="Shoppers who were long away").click()
    page.get_by_label("Days since their last order, at least").fill("3000")
    page.keyboard.press("Escape")
    expect(page.get_by_role("alert")).to_contain_text("No order to expect is by such shoppers")
    offer.get_by_role("button", name="who ordered before, away for 3,000 days or more").click()
    page.get_by_role("radio", name="Carts mostly of a category").click()
    page.get_by_label("Which").select_option("Seeds")
    page.keyboard.press("Escape")
    expect(page.get_by_role("alert")).to_have_count(0)
    saved(page)
    page.reload()
    expect(offers(page).first).to_contain_text("who ordered before, who buy mostly Seeds")


def test_it_is_said_who_is_told_of_a_code(page: Page, demo: str, complaints):
    open_board(page, demo, plan=2)
    offer = offers(page).first
    expect_also(offer, "the code is told to few, or shown to all")
    offer.get_by_role("button", name="told to few").click()
    page.get_by_role("radio", name="Shown to everybody").click()
    page.keyboard.press("Escape")
    expect(offer).to_contain_text("The code is shown to all.")
    saved(page)
    page.reload()
    offer.get_by_role("button", name="shown to all").click()
    page.get_by_role("radio", name="Not said").click()
    expect(offer).not_to_contain_text("The code is")


def test_a_range_is_dragged_on_a_rod_and_the_answer_says_how_sure_it_is(page: Page, demo: str, complaints):
    open_board(page, demo, plan=3)
    sure = page.get_by_test_id("range")
    expect(sure).to_be_visible()
    offer = offers(page).first
    offer.get_by_role("button", name="12 % more").click()
    page.get_by_role("button", name="Say how sure you are").click()
    before = sure.inner_text()
    high = page.get_by_role("slider", name="Extra orders, as a share of those it reaches: high")
    for _ in range(12):
        high.press("ArrowRight")
    page.keyboard.press("Escape")
    expect(offer.get_by_role("button", name="12 % more, 6 % to 24 %")).to_be_visible()
    expect(sure).not_to_have_text(before)
    sure.click()
    dialog = page.get_by_role("dialog", name="How sure this is")
    expect(dialog.get_by_role("img")).to_have_attribute(
        "aria-label", re.compile("more orders: .*All of it|All of it")
    )
    expect(dialog).to_contain_text("Nothing bounds what")


def test_a_limit_that_ends_names_its_day(page: Page, demo: str, complaints):
    open_board(page, demo, plan=2)
    offer = offers(page).first
    also(offer, "so often in all")
    expect(offer).to_contain_text("of 500 uses")
    offer.get_by_role("button", name="500 times in all").click()
    page.get_by_role("textbox", name="At most").fill("20")
    page.keyboard.press("Escape")
    expect(offer).to_contain_text(re.compile("its 20 uses end on \\d+ \\w+"))


def test_the_working_of_a_figure_opens_down_to_single_orders(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    answer.get_by_role("button", name="less").click()
    dialog = page.get_by_role("dialog", name="Plan minus today")
    dialog.get_by_role("button", name="Delivery given up").click()
    dialog.get_by_role("button", name="less Delivery charged").click()
    dialog.get_by_role("button", name="Planters, large").first.click()
    expect(dialog).to_contain_text("times what one comes to")
    dialog.get_by_role("link").first.click()
    expect(page.get_by_role("dialog", name="Find an order")).to_be_visible()


def test_snags_are_mended_or_let_be_and_leaks_are_searched_and_open_in_the_till(page: Page, demo: str, complaints):
    open_board(page, demo)
    word = page.get_by_role("button", name="snags")
    word.click()
    dialog = page.get_by_role("dialog", name="Snags and leaks")
    snag = dialog.get_by_role("listitem").filter(has_text="comes off prices that are reduced already")
    snag.get_by_role("button", name="Leave reduced goods out").click()
    expect(snag).to_have_count(0)
    snag = dialog.get_by_role("listitem").filter(has_text="quantity prices")
    snag.get_by_role("button", name="Let it be…").click()
    page.keyboard.type("Meant so")
    page.keyboard.press("Enter")
    expect(dialog.get_by_text("“Meant so”")).to_be_visible()
    saved(page)
    dialog.get_by_role("button", name="Free post, what it gives").first.click()
    expect(page.locator("li[data-offer]").nth(1).locator("[data-spot^='/gives']").first).to_be_focused()
    word.click()
    dialog.get_by_role("button", name="Search for leaks").click()
    dialog.get_by_role("button", name="Open it in the Till").first.click()
    expect(page.get_by_test_id("till-answer")).to_contain_text("You lose")


def test_the_plan_day_by_day_and_how_long_the_stock_lasts(page: Page, demo: str, complaints):
    open_board(page, demo, plan=3)
    page.get_by_role("tab", name="by day").click()
    expect(page.get_by_role("img", name=re.compile("What each day keeps: 12 April"))).to_be_visible()
    expect(page.get_by_text("no Cherry tomato packet is left to put in")).to_be_visible()
    page.get_by_role("button", name="as a table").first.click()
    days = page.get_by_role("row").filter(has=page.get_by_role("rowheader", name=re.compile("April")))
    expect(days).to_have_count(14)
    page.get_by_role("tab", name="stock").click()
    row = page.get_by_role("row", name=re.compile("HF-SECHE-1"))
    expect(row).to_contain_text("until 14 April, today until 15 April")
    assert serious(page) == []


def test_what_shoppers_do_when_something_is_sold_out_is_said_below_the_stock(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=3)
    before = answer.inner_text()
    page.get_by_role("tab", name="stock").click()
    page.get_by_role("button", name="go on as if there were enough").click()
    page.get_by_role("radio", name="They go without it, or are not placed").click()
    page.get_by_role("textbox", name="Orders not placed, of those that want it").fill("45")
    assert serious(page) == []
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="go without it, but for 45 % that are not placed")).to_be_visible()
    expect(answer).not_to_have_text(before)
    page.get_by_role("tab", name="bridge").click()
    expect(page.get_by_text("Sold out", exact=True).first).to_be_visible()
    saved(page)
    page.reload()
    page.get_by_role("tab", name="stock").click()
    expect(page.get_by_role("button", name="go without it, but for 45 % that are not placed")).to_be_visible()


def test_two_numbers_are_looked_at_together_and_the_best_of_both_is_taken(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    before = answer.inner_text()
    offers(page).first.get_by_role("button", name="12 % off").click()
    page.get_by_role("button", name="Beside another number…").click()
    field = page.get_by_role("dialog", name="What two numbers keep together")
    expect(field).to_contain_text("Across: Spring twelve: What shoppers get, 12 %")
    field.get_by_role("combobox").select_option(label="Spring twelve: How much it takes, €65 or more")
    expect(field).to_contain_text("Best here:")
    assert serious(page) == []
    field.get_by_role("button", name="as a table").click()
    expect(field.get_by_role("row")).to_have_count(8)
    field.get_by_role("button", name="Take both").click()
    expect(field).to_have_count(0)
    expect(answer).not_to_have_text(before)
    saved(page)


def test_a_swing_opens_its_rod_and_a_curve_shows_response_that_stays(page: Page, demo: str, complaints):
    open_board(page, demo)
    page.get_by_test_id("range").click()
    page.get_by_role("button", name="Free post: more orders").click()
    slip = page.get_by_role("dialog", name="Extra orders, as a share of those it reaches")
    expect(slip.get_by_role("slider", name=re.compile("high"))).to_be_visible()
    slip.get_by_role("textbox").press("ArrowUp")  # said at what the offer gives now, and follows it from here on
    page.keyboard.press("Escape")
    saved(page)
    offers(page).nth(1).get_by_role("button", name="€55 or more").click()
    expect(page.get_by_text("Dashes: if response stays as it is")).to_be_visible()


def test_more_comes_back_of_what_an_offer_takes_something_off(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=3)
    before = answer.inner_text()
    offer = offers(page).nth(1)
    expect_also(offer, "more comes back of what it takes something off")
    expect(offer).to_contain_text("1.5 times as much comes back of what it takes something off")
    expect(answer).not_to_have_text(before)
    offer.get_by_role("button", name="1.5 times as much").press("ArrowUp")
    expect(offer).to_contain_text("1.6 times as much")
    offer.get_by_role("button", name="1.6 times as much").click()
    page.get_by_role("button", name="As much as without it").click()
    expect(answer).to_have_text(before)
    saved(page)


def test_the_depth_a_figure_is_said_at_is_of_what_is_typed(page: Page, demo: str, complaints):
    """The answer to a changed percentage is slow: what is said meanwhile goes by it all the same, once it comes."""
    open_board(page, demo)
    plan_id = page.request.get(f"{demo}/api/plans").json()["plans"][0]["id"]

    def slowly(route: Route) -> None:
        time.sleep(0.7)
        route.continue_()

    page.route("**/api/forecast", slowly)
    page.get_by_role("button", name="12 % off").press("Shift+ArrowUp")
    page.get_by_role("button", name=re.compile("^20 % more, 8")).press("ArrowUp")
    expect(page.get_by_role("button", name=re.compile("^21 % more"))).to_be_visible()
    saved(page)

    def depth() -> tuple[int, int]:
        plan = next(
            one["plan"] for one in page.request.get(f"{demo}/api/plans").json()["plans"] if one["id"] == plan_id
        )
        told = page.request.post(f"{demo}/api/forecast", data=plan).json()
        return plan["offers"][0]["terms"]["response"]["depth_bp"], told["offers"][0]["depth_bp"]

    deadline = time.monotonic() + 30
    while len(set(depth())) > 1 and time.monotonic() < deadline:
        page.wait_for_timeout(300)
    said, now = depth()
    assert said == now > 1_500


def test_a_share_is_said_at_another_depth_too(page: Page, demo: str, complaints):
    open_board(page, demo, plan=2)
    first = offers(page).first
    first.get_by_role("button", name="45 % more").click()
    page.get_by_role("button", name="Extra orders: one step more").click()
    page.get_by_role("button", name="Say it for another depth too").click()
    page.get_by_role("textbox", name="it is").fill("60")
    page.get_by_role("textbox", name="Where it gives away").fill("30")
    assert serious(page) == []
    page.keyboard.press("Escape")
    answer = page.get_by_test_id("answer").inner_text()
    first.get_by_role("button", name="15 % off").click()
    page.get_by_role("textbox", name="Off").fill("30")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("answer")).not_to_have_text(answer)
    first.get_by_role("button", name="46 % more").click()
    expect(page.get_by_text(re.compile(r"Said when it gave away .* so it counts as 5\d"))).to_be_visible()
    saved(page)


def test_goods_that_are_bought_in_place_of_others_cost_what_those_keep(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=3)
    before = answer.inner_text()
    first = offers(page).first
    first.get_by_role("button", name="also expect…").click()
    page.get_by_role("menuitem", name="some of its goods are bought in place of others").click()
    first.get_by_role("button", name="others", exact=True).click()
    page.get_by_role("radio", name="Only these").click()
    page.get_by_role("checkbox", name="Planters").check()
    page.keyboard.press("Escape")
    expect(first).to_contain_text("20 % of its goods are bought in place of planters")
    expect(answer).not_to_have_text(before)
    page.get_by_role("tab", name="ledger").click()
    row = page.get_by_role("row", name=re.compile("Bought in place of other goods"))
    expect(row).to_contain_text("−€")
    row.get_by_role("button").click()
    expect(page.get_by_role("dialog")).to_contain_text("Packets by the handful")
    saved(page)
