"""The Till in the browser: a cart from the keyboard, both sides of it, what is missing added, trials and cases."""

import re

from playwright.sync_api import Page, expect

from tests.ui.test_places import serious
from tests.ui.test_widths import LETTERS, WIDTHS, assert_readable


def ring_up(page: Page, address: str, *typed: str, plan: int = 3):
    page.goto(f"{address}/till?plan={plan}")
    box = page.get_by_role("combobox", name="Put in the cart")
    expect(box).to_be_visible()
    page.keyboard.press("n")
    expect(box).to_be_focused()
    for words in typed:
        page.keyboard.type(words)
        expect(page.get_by_role("option").first).to_be_visible()
        page.keyboard.press("Enter")
    page.get_by_role("heading", name="The shopper’s slip").click()
    return page.get_by_test_id("till-answer")


def test_a_cart_is_filled_from_the_keyboard_and_both_sides_move(page: Page, demo: str, complaints):
    answer = ring_up(page, demo, "5 semai")
    expect(answer).to_have_text(re.compile(r"You keep €[\d.]+, as today; the shopper pays €19\.40\."))
    expect(page.get_by_text("1 unit short of 6 units.")).to_be_visible()
    page.get_by_role("button", name="Add 1 × ").first.click()
    expect(answer).to_contain_text("less than today")
    expect(page.get_by_text(re.compile("Your last change: you keep"))).to_be_visible()
    expect(page.get_by_role("radio", name="Packets by the handful")).to_be_checked()
    whole = page.get_by_test_id("to-pay").inner_text()
    page.get_by_role("radio", name="Packets by the handful").press("ArrowLeft")
    expect(page.get_by_text("Goods so far")).to_be_visible()
    expect(page.get_by_test_id("to-pay")).not_to_have_text(whole)
    page.reload()
    expect(answer).to_contain_text("less than today")


def test_who_when_and_where_are_words(page: Page, demo: str, complaints):
    ring_up(page, demo, "6 semai")
    expect(page.get_by_text("applies: takes €1.32 off")).to_be_visible()
    page.get_by_role("button", name="Monday, 12 April, 12:00").click()
    page.get_by_label("Day", exact=True).fill("2027-05-01")
    page.keyboard.press("Escape")
    expect(page.get_by_text("ended on 25 April.").first).to_be_visible()
    page.get_by_role("button", name="Home").click()
    page.get_by_role("radio", name="Islands and far").click()
    page.keyboard.press("Escape")
    expect(page.get_by_text("Sent to Islands and far")).to_be_visible()
    page.get_by_role("button", name="a shopper nobody knows").click()
    page.get_by_role("radio", name="It is a first order").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="a first-time shopper")).to_be_visible()


def test_a_cart_begins_with_an_order_that_just_misses_an_offer(page: Page, demo: str, complaints):
    ring_up(page, demo)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="one that just misses A packet with it").click()
    expect(page.get_by_test_id("till-answer")).to_contain_text("You keep")
    expect(page.get_by_text(re.compile("short of €50"))).to_be_visible()
    expect(page.get_by_text("Nothing is in the cart yet")).to_have_count(0)


def test_orders_near_misses_and_any_cart_are_taken_from_the_history(page: Page, demo: str, complaints):
    answer = ring_up(page, demo)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Take another cart").click()
    page.get_by_role("menuitem", name="A packet with it").click()
    expect(page.get_by_text(re.compile("short of €50"))).to_be_visible()
    page.keyboard.press("/")
    page.get_by_label("Order number, shopper").fill("€40-60")
    page.get_by_role("dialog").get_by_role("listitem").first.get_by_role("button").click()
    expect(page.get_by_text("as it would come under this plan")).to_be_visible()
    expect(answer).to_contain_text("You keep")


def test_trials_open_in_the_till_and_cases_tell_when_a_plan_breaks_them(page: Page, demo: str, complaints):
    answer = ring_up(page, demo)
    page.get_by_role("tab", name="trials").click()
    page.get_by_role("button", name=re.compile("at what it asks for, step 2")).click()
    expect(answer).to_contain_text("€28.27")
    page.get_by_role("tab", name="cases").click()
    page.get_by_label("Keep this cart as a case").fill("Ten packets")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("button", name="Ten packets", exact=True)).to_be_visible()
    page.goto(f"{demo}/counting-board?plan=3")
    expect(page.get_by_test_id("answer")).to_contain_text("Over these")
    page.get_by_role("region", name="Offers").locator("li[data-offer] button").first.press("Space")
    line = page.get_by_role("link", name="The case “Ten packets” comes out otherwise")
    expect(line).to_be_visible()
    expect(page.get_by_text("saving…")).to_have_count(0)
    line.click()
    expect(page.get_by_text("It comes out otherwise: pays €32.40, not €28.27")).to_be_visible()
    page.get_by_role("button", name="Expect that from now on").click()
    expect(page.get_by_text("It comes out otherwise")).to_have_count(0)


def test_axe_finds_nothing_serious_at_the_till_with_a_cart_and_each_look(page: Page, demo: str, complaints):
    ring_up(page, demo, "10 semai", "2 trough")
    expect(page.get_by_text("applies: ").first).to_be_visible()
    assert serious(page) == []
    for look in ("trials", "cases"):
        page.get_by_role("tab", name=look).click()
        expect(page.get_by_role("tabpanel", name=look)).not_to_contain_text("Ringing up")
        assert serious(page) == []
    page.get_by_role("button", name="Home").click()
    assert serious(page) == []
    page.keyboard.press("Escape")
    page.goto(f"{demo}/counting-board?plan=1")
    page.get_by_role("button", name="snags").click()
    page.get_by_role("button", name="Search for leaks").click()
    expect(page.get_by_role("button", name="Open it in the Till").first).to_be_visible()
    assert serious(page) == []


def test_the_rods_of_a_cart_at_every_width(page: Page, demo: str, complaints):
    ring_up(page, demo, "10 semai", "2 trough")
    picture = 'svg[aria-label="Where the money of this cart goes"]'
    for width in WIDTHS:
        page.set_viewport_size({"width": width, "height": 900})
        assert_readable(page.wait_for_function(LETTERS, arg=[picture, width]).json_value(), width)
        assert page.evaluate("document.documentElement.scrollWidth") <= width
