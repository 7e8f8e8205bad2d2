"""The carts to expect, in the browser."""

import re

from playwright.sync_api import Page, expect

from tests.test_bring_in import bring
from tests.ui.board import open_board, take_hold


def expected_orders(page: Page) -> int:
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text("orders,")
    return int(re.search(r"([\d,]+) orders,", heading.inner_text()).group(1).replace(",", ""))


def wait_for_orders(page: Page, orders: str) -> None:
    expect(page.get_by_role("heading", level=1)).to_contain_text(f"{orders} orders,")


def test_growth_is_nudged_where_it_stands_and_kept(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    usual = expected_orders(page)
    growth = page.get_by_role("button", name="as many orders")
    growth.focus()
    with page.expect_response(
        lambda one: '"growth_bp":1000,' in (one.request.post_data or "") and one.request.method == "PUT"
    ):
        for _ in range(10):
            page.keyboard.press("ArrowUp")
    expect(page.get_by_role("button", name="10 % more orders")).to_be_visible()
    wait_for_orders(page, f"{usual * 1.1:,.0f}")
    expect(page.get_by_text("growth")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="10 % more orders")).to_be_visible()


def test_how_sure_the_volume_is_is_taken_over_from_the_past(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    page.get_by_role("button", name="as many orders").click()
    expect(page.get_by_text(re.compile(r"History, \d+ times \d+ days"))).to_be_visible()
    with page.expect_response(lambda one: one.request.method == "PUT"):
        page.get_by_role("button", name="Take it over").click()
    assert float(page.get_by_role("textbox", name="Low").input_value().replace("\u2212", "-")) < -10
    assert float(page.get_by_role("textbox", name="High").input_value()) > 10
    expect(page.get_by_role("button", name="Take it over")).to_have_count(0)
    page.get_by_role("button", name="One figure, no range").click()
    expect(page.get_by_role("button", name="Say how sure you are")).to_be_visible()


def test_a_bead_of_the_week_is_dragged_and_given_back(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    sunday = page.get_by_role("slider", name="Sunday")
    before = float(sunday.get_attribute("aria-valuenow"))
    box = sunday.bounding_box()
    x, y = take_hold(sunday, box["width"] / 2, box["height"] / 2)
    page.mouse.move(x, y - box["height"] / 2 + 30, steps=4)
    page.mouse.up()
    week = page.get_by_role("region", name="Over the week")
    expect(week).to_contain_text("as you said")
    assert float(sunday.get_attribute("aria-valuenow")) < before
    week.get_by_role("button", name="As counted").click()
    expect(week).not_to_contain_text("as you said")
    expect(sunday).to_have_attribute("aria-valuenow", str(before))


def test_beads_are_nudged_by_arrows(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    march = page.get_by_role("slider", name="March")
    march.focus()
    page.keyboard.press("ArrowUp")
    expect(march).to_have_attribute("aria-valuenow", "1.3")
    expect(page.get_by_role("region", name="Over the year")).to_contain_text("as you said")


def test_further_carts_are_kept_by_name_and_a_plan_expects_them(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    expected_orders(page)
    page.get_by_role("button", name="and also…").click()
    page.get_by_role("menuitem", name="let some carts weigh more").click()
    page.get_by_role("button", name="first orders at 150 %").click()
    page.get_by_role("radio", name="Returning shoppers").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="returning shoppers at 150 %")).to_be_visible()
    page.get_by_role("button", name="Choose or keep other carts").click()
    page.get_by_role("menuitem", name="Keep these under another name").click()
    page.get_by_label("Name of the carts to expect").fill("Many regulars")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="“Many regulars”. Choose")).to_be_visible()

    answer = open_board(page, demo)
    page.get_by_role("button", name="the usual carts").click()
    page.get_by_role("radio", name="“Many regulars”").click()
    expect(page.get_by_text("orders expected of “Many regulars”")).to_be_visible()
    expect(answer).to_contain_text("the plan keeps")


def test_days_no_order_came_on_are_told_at_the_word(page: Page, demo: str):
    page.goto(f"{demo}/carts")
    page.get_by_role("button", name="all of your history").click()
    page.get_by_role("radio", name="From one day to another").click()
    page.get_by_role("dialog").get_by_label("First day").fill("2020-01-01")
    page.get_by_role("dialog").get_by_label("Last day").fill("2020-01-31")
    expect(page.get_by_role("alert").filter(has_text="No orders are left")).to_be_visible()


def test_a_file_of_orders_is_taken_back_and_brought_again(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    expect(page.get_by_role("heading", name="What came: 12,000 orders")).to_be_visible()
    expect(page.get_by_role("heading", name="When they come")).to_be_visible()
    page.get_by_role("button", name="1 file").click()
    page.get_by_role("button", name="Take back orders.csv").click()
    expect(page.get_by_role("heading", name="Bring in the orders that came")).to_be_visible()
    page.get_by_role("button", name="0 of 1 files").click()
    page.get_by_role("button", name="Bring again orders.csv").click()
    expect(page.get_by_role("heading", name="What came: 12,000 orders")).to_be_visible()


def test_orders_cancelled_since_are_taken_out_and_files_of_some_goods_or_of_others_are_told(
    page: Page, demo: str, complaints
):
    def give(name: str, row: str) -> None:
        data = f"order,date,sku,qty,status\n{row}\n".encode()
        page.get_by_label("File of orders").set_input_files({"name": name, "mimeType": "text/csv", "buffer": data})

    page.goto(f"{demo}/carts")
    give("cancelled.csv", "HF20001,2025-11-01,HF-TOPOT-1,1,cancelled")
    page.get_by_role("button", name="Leave out 1 order").click()
    expect(page.get_by_role("heading", name="What came: 11,999 orders")).to_be_visible()
    give("begonias.csv", "HF20002,2025-11-01,HF-TOBON-1,1,paid")
    page.get_by_role("button", name="Bring in 1 order").click()
    expect(
        page.get_by_text("0 new, 1 changed, 0 as they were. 1 of them has fewer units than before.")
    ).to_be_visible()
    give("market.csv", "HF20003,2026-03-05,HF-TOBON-1,9,paid")
    page.get_by_role("button", name="Bring in 1 order").click()
    expect(page.get_by_text("1 of them was of another day before: is it another order")).to_be_visible()
    page.get_by_role("button", name="4 files").click()
    for name in ("Fewer units", "Another day"):
        expect(page.get_by_role("dialog").get_by_role("columnheader", name=name)).to_be_visible()


def look_at_march(page: Page, address: str) -> None:
    """The days of the first plan, on which the place opens where none is in hand."""
    page.goto(f"{address}/carts")
    expect(page.get_by_role("button", name="1 to 14 March 2027")).to_be_visible()


def test_a_threshold_is_nudged_over_the_carts_and_kept_in_its_plan(page: Page, demo: str, complaints):
    look_at_march(page, demo)
    mark = page.get_by_role("slider", name="Spring twelve")
    mark.focus()
    told = page.get_by_text(re.compile(r"orders reach the €65 of Spring twelve"))
    expect(told).to_contain_text("come within €8 of it")
    expect(page.get_by_role("img", name="“Potting-up fortnight” against today: −€974 at €65")).to_be_visible()
    with page.expect_response(
        lambda one: one.request.method == "PUT" and '"n":7000' in (one.request.post_data or "")
    ):
        for _ in range(5):
            page.keyboard.press("ArrowRight")
    expect(page.get_by_text("orders reach the €70 of Spring twelve")).to_be_visible()
    open_board(page, demo)
    expect(page.get_by_role("button", name="€70 or more")).to_be_visible()


def test_free_delivery_of_today_is_nudged_on_and_stays_in_hand(page: Page, demo: str, complaints):
    look_at_march(page, demo)
    mark = page.get_by_role("slider", name=re.compile("free delivery to Home"))
    before = int(mark.get_attribute("aria-valuenow"))
    mark.focus()
    with page.expect_response(
        lambda one: one.request.method == "PUT" and f'"now":{before + 4}00' in (one.request.post_data or "")
    ):
        for _ in range(4):
            page.keyboard.press("ArrowRight")
    expect(mark).to_have_attribute("aria-valuenow", str(before + 4))
    expect(mark).to_be_focused()
    page.wait_for_load_state("networkidle")
    with page.expect_response("**/api/delivery/free-from"):
        page.keyboard.press("ArrowLeft")
    expect(mark).to_have_attribute("aria-valuenow", str(before + 3))
    page.goto(f"{demo}/delivery")
    expect(page.get_by_role("button", name=f"nothing from €{before + 3}").first).to_be_visible()


def test_a_threshold_is_dragged_and_carts_are_sorted_otherwise(page: Page, demo: str, complaints):
    look_at_march(page, demo)
    mark = page.get_by_role("slider", name="Free post")
    box = mark.locator("circle").bounding_box()
    x, y = take_hold(mark.locator("circle"), box["width"] / 2, box["height"] / 2)
    page.mouse.move(x - 100, y, steps=5)
    expect(page.get_by_text(re.compile(r"reach the €4\d of Free post"))).to_be_visible()
    with page.expect_response("**/api/plans/*"):
        page.mouse.up()
    page.get_by_role("button", name="by units").click()
    expect(page.get_by_role("slider", name="Free post")).to_have_count(0)


def test_an_order_is_found_from_the_keyboard_and_opened(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    expect(page.get_by_role("heading", name="What came")).to_be_visible()
    page.keyboard.press("/")
    expect(page.get_by_label("Order number, shopper, code, SKU or day")).to_be_focused()
    page.keyboard.type("2026-10-31")
    expect(page.get_by_role("dialog").get_by_text(re.compile(r"^\d+ orders"))).to_be_visible()
    page.get_by_role("dialog").get_by_role("listitem").first.get_by_role("button").click()
    order = page.get_by_role("region", name=re.compile("^Order "))
    expect(order.get_by_role("row", name=re.compile("^You (keep|lose)"))).to_be_visible()


def test_what_looks_like_a_kit_is_made_one_and_its_parts_count_with_it(page: Page, empty, empty_shop, complaints):
    bring(empty_shop, "goods", b"sku,name,price,cost\nPOT,Pot,12.00,4\nSOIL,Soil,8.00,3\nSET,Starter set,24.00,\n")
    told = "{0},2026-03-0{0},SET,1,24.00\n{0},2026-03-0{0},POT,1,0\n{0},2026-03-0{0},SOIL,2,0\n"
    orders = "order,date,sku,quantity,line total\n" + "".join(map(told.format, range(1, 5)))
    bring(empty_shop, "orders", orders.encode())
    page.goto(f"{empty}/carts")
    said = page.get_by_text("Starter set looks like a kit: 4 orders tell 1 × Pot and 2 × Soil beside it")
    expect(said).to_be_visible()
    expect(page.get_by_role("heading", name="What came: 4 orders, €52.00 each")).to_be_visible()
    page.get_by_role("button", name="It is made of them").click()
    expect(page.get_by_role("heading", name="What came: 4 orders, €24.00 each")).to_be_visible()
    expect(page.get_by_text("12 units told beside their kits count with them, and not again.")).to_be_visible()
    expect(said).to_have_count(0)
    page.keyboard.press("/")
    page.get_by_label("Order number, shopper, code, SKU or day").press_sequentially("3")
    # a click on a list that is about to be another one goes by
    expect(page.get_by_role("dialog").get_by_text("1 order", exact=True)).to_be_visible()
    page.get_by_role("button", name="3 2026-03-03").click()
    expect(page.get_by_role("row", name="2 × Soil SOIL counts with its kit")).to_be_visible()
