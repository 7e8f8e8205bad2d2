"""The Counting board as a merchant uses it."""

import re
import subprocess
import sys

from playwright.sync_api import Page, Route, expect

from tests.ui.board import offers, open_board, plain, saved, take_hold


def test_the_browser_says_what_paper_and_command_line_say(page: Page, paper, complaints):
    address, path = paper
    answer = open_board(page, address)
    command = [
        sys.executable,
        "-m",
        "yellow_abacus",
        "forecast",
        "--shop",
        str(path),
        "--plan",
        "Paper fortnight",
    ]
    told = plain(subprocess.run(command, capture_output=True, text=True, check=True).stdout)
    said = plain(answer.inner_text())
    assert (
        said == "Over these 14 days the plan keeps €25.26 less than today. It needs 25 % more orders to break even."
    )
    assert said in told
    page.get_by_role("tab", name="ledger").click()
    rows = page.get_by_role("tabpanel").locator("tbody").first.locator("tr")
    for line in told.splitlines()[3:10]:
        label, *figures = re.split(r"\s{2,}", line.strip())
        cells = [cell.removeprefix("+") for cell in rows.filter(has_text=label).locator("td").all_inner_texts()]
        assert cells[:3] == figures


def test_arrows_nudge_a_number_where_it_stands_and_the_answer_follows(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    before = answer.inner_text()
    page.get_by_role("button", name="12 % off").focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("button", name="11 % off")).to_be_focused()
    expect(answer).not_to_have_text(before)
    saved(page)
    after = answer.inner_text()
    page.reload()
    expect(answer).to_have_text(after)


WATCH = """() => {
  const offer = document.querySelector("[data-offer]");
  window.tops = new Set();
  const watch = () => {
    window.tops.add(Math.round(offer.getBoundingClientRect().top));
    requestAnimationFrame(watch);
  };
  watch();
}"""


def test_nothing_moves_under_the_hand_while_a_change_is_counted_and_saved(page: Page, demo: str, complaints):
    waiting: list[Route] = []
    page.route("**/forecast/range", lambda asked: waiting.append(asked), times=1)
    with page.expect_request("**/forecast/range"):
        answer = open_board(page, demo)
    before = answer.inner_text()
    page.evaluate(WATCH)
    waiting[0].continue_()
    expect(page.get_by_test_id("range")).to_be_visible()
    page.get_by_role("button", name="12 % off").press("ArrowUp")
    expect(page.get_by_text("saving…")).to_be_visible()
    expect(answer).not_to_have_text(before)
    saved(page)
    page.wait_for_load_state("networkidle")
    assert len(page.evaluate("[...window.tops]")) == 1


def test_nothing_moves_as_the_first_answer_comes(page: Page, demo: str, complaints):
    waiting: list[Route] = []
    page.route("**/api/forecast", lambda asked: waiting.append(asked), times=1)
    with page.expect_request("**/api/forecast"):
        page.goto(f"{demo}/counting-board")
    expect(page.get_by_text("Counting…")).to_be_visible()
    place = page.get_by_role("region", name="Offers")
    before = place.bounding_box()
    waiting[0].continue_()
    expect(page.get_by_test_id("answer")).to_be_visible()
    assert place.bounding_box() == before


def test_a_number_is_typed_with_its_curve_beside_it(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    before = answer.inner_text()
    page.get_by_role("button", name="€65 or more").press("Enter")
    box = page.get_by_role("textbox", name="How much")
    expect(box).to_be_focused()
    box.fill("72,50")
    expect(page.get_by_role("button", name="€72.50 or more")).to_be_visible()
    expect(answer).not_to_have_text(before)
    expect(page.get_by_text("Best here")).to_be_visible()
    page.get_by_role("button", name="How much: one step more").click()
    expect(page.get_by_role("button", name="€73 or more")).to_be_visible()
    page.get_by_role("button", name="Take it").click()
    expect(page.get_by_role("button", name="€73 or more")).to_have_count(0)
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_what_cannot_be_a_number_is_said_in_place_and_not_taken(page: Page, demo: str):
    open_board(page, demo)
    page.get_by_role("button", name="12 % off").click()
    for typed, says in [
        ("abc", "Write a number"),
        ("12.345", "fewer decimals"),
        ("-5", "or more"),
        ("120", "100 or less"),
    ]:
        page.get_by_role("textbox", name="Percentage off").fill(typed)
        expect(page.get_by_role("alert")).to_contain_text(says)
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="12 % off")).to_be_visible()


def test_an_offer_slides_out_and_in_by_key_and_by_mouse(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    before = answer.inner_text()
    page.get_by_role("button", name="Spring twelve: in the plan").press("Space")
    expect(page.get_by_role("button", name="Spring twelve: slid out")).to_have_attribute("aria-pressed", "false")
    expect(answer).not_to_have_text(before)
    expect(offers(page).first).not_to_contain_text("Reaches")  # all that is told of it has gone, and nothing moves
    saved(page)
    x, y = take_hold(page.get_by_role("button", name="Spring twelve: slid out"), 15, 13)
    page.mouse.move(x + 30, y, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name="Spring twelve: in the plan")).to_be_visible()
    expect(answer).to_have_text(before)


def test_offers_are_reordered_by_key_and_by_dragging(page: Page, demo: str, complaints):
    open_board(page, demo)
    expect(offers(page).first).to_contain_text("Spring twelve")
    with page.expect_response("**/api/reach"):  # the last that comes in, and may move what stands below it
        page.get_by_role("button", name="Spring twelve: in the plan").press("Alt+ArrowDown")
    expect(offers(page).nth(1)).to_contain_text("Spring twelve")
    bead = page.get_by_role("button", name="Spring twelve: in the plan")
    bead.hover(position={"x": 15, "y": 13})
    page.mouse.down()
    held, top = bead.bounding_box(), offers(page).first.bounding_box()
    assert held
    assert top
    page.mouse.move(held["x"] + 16, top["y"] + 4, steps=6)
    page.mouse.up()
    expect(offers(page).first).to_contain_text("Spring twelve")


def test_an_offer_is_written_named_noted_copied_deleted_and_all_of_it_undone(page: Page, demo: str, complaints):
    open_board(page, demo)
    page.keyboard.press("n")
    page.get_by_role("option").first.click()
    expect(page.get_by_role("dialog")).to_have_count(0)  # the focus it gives back would close a menu
    expect(offers(page)).to_have_count(4)
    expect(offers(page).last).to_contain_text("Reaches")
    saved(page)
    page.get_by_role("button", name="Change offer 4").click()
    page.get_by_role("menuitem", name="Give it a name").click()
    page.get_by_label("Name of the offer").fill("Fresh leaves")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Change Fresh leaves").click()
    page.get_by_role("menuitem", name="Write a note").click()
    page.get_by_label("Note on Fresh leaves").fill("Ask Mina first.")
    saved(page)
    page.get_by_role("button", name="Change Fresh leaves").click()
    page.get_by_role("menuitem", name="Copy", exact=True).click()
    expect(offers(page)).to_have_count(5)
    saved(page)
    page.get_by_role("button", name="Change Fresh leaves (copy)").click()
    page.get_by_role("menuitem", name="Delete").click()
    expect(offers(page)).to_have_count(4)
    page.get_by_role("heading", name="From today to the plan").click()
    for count in (5, 4):
        page.keyboard.press("Control+z")
        expect(offers(page)).to_have_count(count)
    page.keyboard.press("Control+Shift+z")
    expect(offers(page)).to_have_count(5)


def test_goods_code_and_days_are_set_as_words(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    first = offers(page).first
    before = answer.inner_text()
    first.get_by_role("button", name="everything").click()
    page.get_by_role("radio", name="Only these").click()
    page.get_by_role("checkbox", name="Seeds").check()
    page.get_by_role("checkbox", name="Soils").check()
    page.keyboard.press("Escape")
    expect(first.get_by_role("button", name="seeds and soils")).to_be_visible()
    first.get_by_role("button", name="without a code").click()
    page.get_by_role("radio", name="To shoppers who type a code").click()
    page.get_by_label("Code", exact=True).fill("dewfall")
    page.keyboard.press("Escape")
    expect(first.get_by_role("button", name="with the code DEWFALL")).to_be_visible()
    expect(first).to_contain_text("Not said yet: how many hold the code (everybody counts)")
    first.get_by_role("button", name="while the plan runs").click()
    page.get_by_role("radio", name="On days of its own").click()
    page.get_by_label("Last day").fill("2027-03-05")
    page.keyboard.press("Escape")
    expect(first.get_by_role("button", name="1 to 5 March")).to_be_visible()
    expect(answer).not_to_have_text(before)


def test_a_clause_is_added_and_taken_off_without_trace(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    first = offers(page).first
    words, before = first.locator("p").first.inner_text(), answer.inner_text()
    first.get_by_role("button", name="and also…").click()
    page.get_by_role("menuitem", name="free delivery").click()
    expect(first.get_by_role("button", name="free delivery")).to_be_visible()
    first.get_by_role("button", name="free delivery").click()
    page.get_by_role("button", name="Take this off the offer").click()
    expect(first.locator("p").first).to_have_text(words)
    expect(answer).to_have_text(before)


def test_units_single_products_limits_and_a_price_for_each_are_words_too(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    first = offers(page).first
    before = answer.inner_text()
    first.get_by_role("button", name="and also…").click()
    page.get_by_role("menuitem", name="only with so many units").click()
    first.get_by_role("button", name="3 or more units").press("ArrowUp")
    expect(first.get_by_role("button", name="4 or more units")).to_be_visible()
    first.get_by_role("button", name="and", exact=True).click()
    expect(first.get_by_role("button", name="or", exact=True)).to_be_visible()
    first.get_by_role("button", name="4 or more units").click()
    page.get_by_label("Measured in").select_option(label="weight")
    page.get_by_label("Which side counts").select_option(label="at most that")
    page.keyboard.press("Escape")
    expect(first.get_by_role("button", name="at most 2 kg")).to_be_visible()

    first.get_by_role("button", name="everything").click()
    page.get_by_role("radio", name="All but these").click()
    page.get_by_label("Products").fill("trough")
    page.get_by_role("checkbox", name="Stone trough").check()
    page.get_by_label("Leave out goods already reduced").check()
    expect(page.get_by_role("dialog")).to_contain_text("units a month")
    page.keyboard.press("Escape")
    words = "everything except Stone trough 45 cm, reduced goods left out"
    expect(first.get_by_role("button", name=words)).to_be_visible()

    for clause, name in [
        ("never more than an amount", "at most €10 an order"),
        ("on so many units at most", "on the cheapest 3 units"),
    ]:
        first.get_by_role("button", name="and also…").click()
        page.get_by_role("menuitem", name=clause).click()
        expect(first.get_by_role("button", name=name)).to_be_visible()
    first.get_by_role("button", name="on the cheapest 3 units").click()
    page.get_by_role("radio", name="The dearest first").click()
    page.keyboard.press("Escape")
    first.get_by_role("button", name="at most €10 an order").click()
    page.get_by_role("button", name="No such limit").click()
    first.get_by_role("button", name="12 % off").click()
    page.get_by_label("What kind").select_option(label="a price for each unit")
    page.keyboard.press("Escape")
    expect(first.get_by_role("button", name="a price of €9 each")).to_be_visible()
    assert "No number of extra orders" not in before
    expect(answer).to_contain_text("No number of extra orders would make it break even")
    saved(page)
    said = answer.inner_text()
    page.reload()
    expect(first.get_by_role("button", name="on the dearest 3 units")).to_be_visible()
    expect(answer).to_have_text(said)


def test_an_offer_that_cannot_work_says_so_in_place_and_is_not_saved(page: Page, demo: str):
    page.clock.install()
    open_board(page, demo)
    first = offers(page).first
    first.get_by_role("button", name="while the plan runs").click()
    page.get_by_role("radio", name="On days of its own").click()
    page.get_by_label("Last day").fill("2027-02-01")
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("ends before it starts")
    page.keyboard.press("Escape")
    expect(page.get_by_text("This answer is from before")).to_be_visible()
    expect(first.locator(".word[data-unsound=true]")).to_have_count(1)
    page.clock.fast_forward(5_000)  # long after it would have been saved
    page.get_by_role("heading", name="From today to the plan").click()
    page.keyboard.press("Control+z")
    expect(first.get_by_role("button", name="while the plan runs")).to_be_visible()
    expect(page.get_by_text("This answer is from before")).to_have_count(0)
    page.reload()
    expect(first.get_by_role("button", name="while the plan runs")).to_be_visible()


def test_several_plans_are_kept_opened_copied_and_deleted(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    first = answer.inner_text()
    menu = page.get_by_role("button", name=re.compile("Choose or change a plan"))
    menu.click()
    page.get_by_role("menuitemradio", name="Seed weeks").click()
    expect(answer).to_contain_text("21 days")
    menu.click()
    page.get_by_role("menuitem", name="Copy this plan").click()
    expect(menu).to_contain_text("Seed weeks (copy)")
    menu.click()
    page.get_by_role("menuitem", name="Rename this plan").click()
    page.get_by_label("Name of the plan").fill("Sowing weeks")
    page.keyboard.press("Enter")
    saved(page)
    menu.click()
    page.get_by_role("menuitem", name="Delete this plan").click()
    expect(menu).to_contain_text("Potting-up fortnight")
    expect(answer).to_have_text(first)
    menu.click()
    expect(page.get_by_role("menuitemradio")).to_have_count(3)
    page.get_by_role("menuitem", name="Start a new plan").click()
    expect(answer).to_contain_text("keeps just what today keeps")


def test_rods_are_readable_as_numbers_and_by_zone(page: Page, demo: str, complaints):
    open_board(page, demo)
    page.get_by_role("button", name="by main category").click()
    rod = page.get_by_role("listitem", name=re.compile("Mostly Planters, an average order: the shopper pays €"))
    expect(rod).to_be_visible()
    page.get_by_role("button", name="by zone").click()
    page.get_by_role("button", name="as a table").click()
    table = page.get_by_role("region", name="Where an order’s money goes").get_by_role("table")
    expect(table.locator("tbody tr")).to_have_count(3)
    for row in table.locator("tbody tr").all():
        cells = [
            float(re.sub(r"[^\d.−]", "", text).replace("−", "-")) for text in row.locator("td").all_inner_texts()[1:]
        ]
        pays, goods, delivery, fees, tax, kept, *_ = cells
        assert round(goods + delivery + fees + tax + kept, 2) == pays


def test_figures_of_the_answer_open_to_the_sum_behind_them(page: Page, demo: str, complaints):
    answer = open_board(page, demo)
    answer.get_by_role("button", name="less").click()
    expect(page.get_by_role("dialog", name="Plan minus today")).to_contain_text("Given away")
    page.keyboard.press("Escape")
    answer.get_by_role("button", name="more orders").click()
    expect(page.get_by_role("dialog", name="What it needs to break even")).to_contain_text("you expect")


def test_a_change_in_another_window_is_not_overwritten(page: Page, demo: str, context):
    open_board(page, demo)
    other = context.new_page()
    open_board(other, demo)
    other.get_by_role("button", name="12 % off").press("ArrowUp")
    saved(other)
    page.get_by_role("button", name="12 % off").press("ArrowDown")
    expect(page.get_by_role("status")).to_contain_text("changed in another window")
    expect(page.get_by_role("button", name="13 % off")).to_be_visible()
