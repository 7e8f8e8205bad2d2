"""From an empty shop to a forecast in the browser: the demo button, and files of one's own."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, Route, expect

from tests.standins.test_carriers import answering
from tests.ui.server import serving
from tests.ui.test_places import serious
from yellow_abacus.order_feed import Feed
from yellow_abacus.standins.mood import Mood
from yellow_abacus.standins.order_feed import make_order_feed
from yellow_abacus.store.shop_file import ShopFile

PAPER = Path(__file__).parents[2] / "docs" / "paper"


def give(page: Page, what: str, name: str, data: bytes) -> None:
    page.get_by_label(f"File of {what}").set_input_files({"name": name, "mimeType": "text/csv", "buffer": data})


def goods_rows(page: Page) -> Locator:
    return page.get_by_role("rowheader")


def keep(page: Page, label: str, value: str, path: str) -> None:
    """Write into a box that is saved when it is left."""
    page.get_by_label(label).fill(value)
    with page.expect_response(f"**/api/{path}"):
        page.keyboard.press("Tab")


def test_one_button_fills_in_the_demo_shop(page: Page, empty: str, complaints):
    page.goto(empty)
    page.get_by_role("button", name="Fill in the demo shop").click()
    expect(page.get_by_test_id("answer")).to_contain_text("Over these 14 days", timeout=60_000)


def test_the_paper_shop_is_brought_in_by_hand_and_answers(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", (PAPER / "goods.csv").read_bytes())
    page.get_by_role("button", name="Bring in 5 goods").click()
    expect(page.get_by_role("status").last).to_contain_text("5 new")
    expect(goods_rows(page)).to_have_count(5)

    page.goto(f"{empty}/carts")
    give(page, "orders", "orders.csv", (PAPER / "orders.csv").read_bytes())
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("row", name="Quantity").get_by_role("combobox")).to_have_value("quantity")
    page.get_by_role("button", name="Bring in 8 orders").click()
    expect(page.get_by_role("heading", name="What came: 8 orders")).to_be_visible()

    page.goto(f"{empty}/delivery")
    lacks = page.get_by_title("2 zones without an option or tariff")
    expect(page.get_by_title("3 things to say: what tax is in your prices, 2 zones without")).to_be_visible()
    page.get_by_role("tab", name="Tax").click()
    page.get_by_role("button", name="It is so").click()
    expect(lacks).to_be_visible()
    tariffs = b"Tariff,Up to (kg),Price\nHome post,any,6\nFar post,any,14\n"
    charges = b"Zone,Option,Charge,Free from,Tariffs\nHome,Parcel,5,80,Home post\nAbroad,Parcel,10,,Far post\n"
    page.get_by_role("tab", name="Carriers").click()
    give(page, "tariffs", "tariffs.csv", tariffs)
    page.get_by_role("button", name="Bring in 2 tariffs").click()
    expect(page.get_by_role("button", name="Far post", exact=True)).to_be_visible()
    page.get_by_role("tab", name="Zones").click()
    give(page, "delivery charges", "charges.csv", charges)
    page.get_by_role("button", name="Bring in 2 delivery charges").click()
    expect(lacks).to_have_count(0)
    page.get_by_role("tab", name="Payment").click()
    page.get_by_role("button", name="Add a way to pay").click()
    page.get_by_role("textbox", name="Name").fill("card")
    page.keyboard.press("Enter")
    keep(page, "Of the total, card", "2", "settings")
    keep(page, "For each order, card", "0.20", "settings")
    page.get_by_role("tab", name="whole shop").click()
    keep(page, "Picking an order", "1", "settings")

    page.goto(f"{empty}/counting-board")
    page.get_by_role("button", name="Start a plan").click()
    expect(page.get_by_test_id("answer")).to_contain_text("keeps just what today keeps")
    page.keyboard.press("n")
    page.get_by_role("option").first.click()
    page.get_by_role("button", name="€60 or more").click()
    page.get_by_role("textbox", name="How much").fill("65")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="10 % off").click()
    page.get_by_role("textbox", name="Percentage off").fill("12")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="how many more orders it brings").click()
    page.get_by_role("textbox", name="Extra orders").fill("10")
    page.keyboard.press("Escape")
    page.keyboard.press("n")
    page.get_by_role("option", name="or more get free delivery").click()
    page.get_by_role("button", name="€60 or more").click()
    page.get_by_role("textbox", name="How much").fill("55")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="everywhere").click()
    page.get_by_role("radio", name="Only to").click()
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("answer")).to_have_text(
        "Over these 14 days the plan keeps €25.26 less than today. It needs 25 % more orders to break even."
    )


def test_a_bad_row_is_listed_downloaded_and_left_out(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"Artikelnr;VK;EK\nA;12,50;4\nB;-3;1\n")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("cells parted by semicolons")
    expect(dialog).to_contain_text("“-3” is below 0.")
    with page.expect_download() as download:
        dialog.get_by_role("link", name="Download them as CSV").click()
    assert "List price" in Path(download.value.path()).read_text(encoding="utf-8-sig")
    dialog.get_by_role("button", name="Bring in the good rows: 1 good").click()
    expect(goods_rows(page)).to_have_count(1)
    expect(page.get_by_label("List price, A")).to_have_value("12.50")


def test_rows_of_no_goods_are_ticked_by_name_and_passed_over(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"SKU,Price,Cost\nA,12.50,4\n")
    page.get_by_role("button", name="Bring in 1 good").click()
    expect(page.get_by_text("1 new")).to_be_visible()
    page.goto(f"{empty}/carts")
    told = b"order,date,sku,product,quantity\n1,2026-03-01,A,Pot,2\n1,2026-03-01,,Tip,1\n1,2026-03-01,,Card,1\n"
    give(page, "orders", "orders.csv", told)
    names = page.get_by_role("group", name="Passed over, as no goods, are rows of")
    expect(names.get_by_role("checkbox", name="Tip (1)")).to_be_checked()
    expect(page.get_by_role("dialog")).to_contain_text("1 of the rows has nothing wrong itself")
    names.get_by_role("checkbox", name="Card (1)").click()
    page.get_by_role("button", name="Bring in 1 order").click()
    expect(page.get_by_role("heading", name="What came: 1 order")).to_be_visible()


@pytest.mark.browser_context_args(timezone_id="Europe/Berlin")
def test_times_in_utc_are_put_on_the_readers_clock_or_one_that_is_chosen(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"SKU,Price,Cost\nA,12.50,4\n")
    page.get_by_role("button", name="Bring in 1 good").click()
    expect(page.get_by_text("1 new")).to_be_visible()
    page.goto(f"{empty}/carts")
    give(page, "orders", "orders.csv", b"order,date,sku,quantity\n1,2026-07-01T22:30:00Z,A,2\n")
    clock = page.get_by_label("on the clock of")
    expect(clock).to_have_value("Europe/Berlin")
    clock.select_option("America/New_York")
    expect(clock).to_have_value("America/New_York")
    page.get_by_role("button", name="Bring in 1 order").click()
    expect(page.get_by_role("heading", name="What came: 1 order")).to_be_visible()
    expect(page.get_by_text("1 July 2026").first).to_be_visible()


def test_an_answer_of_the_past_does_not_open_what_was_closed_again(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"SKU,Price,Cost\nA,12.50,4\n")
    save, held = page.get_by_role("button", name="Bring in 1 good"), []
    expect(save).to_be_enabled()

    def hold(route: Route) -> None:
        if route.request.method == "GET" and not held:
            held.append(route)
        else:
            route.continue_()

    page.route("**/api/uploads/*", hold)
    save.click()
    expect(page.get_by_text("1 new")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.evaluate(
        """() => new MutationObserver(() => {
            if (document.querySelector("[role=dialog]")) document.title = "open again";
        }).observe(document.body, { childList: true, subtree: true })"""
    )
    with page.expect_response("**/api/uploads/*"):
        held[0].continue_()
    page.keyboard.press("3")
    expect(page).to_have_url(f"{empty}/carts")
    assert page.title() != "open again"


def test_columns_not_recognised_are_chosen_by_hand(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"Thing,Asked,Paid\nA,12.50,4\n")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("No column was found for SKU")
    for heading, field in [("Thing", "SKU"), ("Asked", "List price"), ("Paid", "Purchase cost")]:
        dialog.get_by_role("row", name=heading).get_by_role("combobox").select_option(label=field)
        expect(dialog.get_by_role("row", name=heading).get_by_role("combobox")).to_be_enabled()
    dialog.get_by_role("button", name="Bring in 1 good").click()
    expect(dialog).to_have_count(0)
    expect(page.get_by_label("Purchase cost, A")).to_have_value("4.00")


def test_a_picture_named_csv_says_so_and_brings_nothing(page: Page, empty: str):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"\x89PNG\r\n\x1a\n" + b"\x00" * 100)
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("a PNG picture")
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_role("heading", name="Bring in what you sell")).to_be_visible()


def test_a_file_is_dropped_on_the_place(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    page.get_by_role("heading", name="Bring in what you sell").wait_for()
    drop = """() => {
      const data = new DataTransfer();
      data.items.add(new File(["SKU,Price\\nA,3\\n"], "dropped.csv", { type: "text/csv" }));
      const drop = new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true });
      document.querySelector("h1").dispatchEvent(drop);
    }"""
    page.evaluate(drop)
    expect(page.get_by_role("dialog")).to_contain_text("dropped.csv")


def test_lines_in_a_file_of_their_own_are_added_to_their_orders(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"SKU,Price,Cost\nA,12.00,4\n")
    page.get_by_role("button", name="Bring in 1 good").click()
    expect(goods_rows(page)).to_have_count(1)
    page.goto(f"{empty}/carts")
    give(page, "orders", "orders.csv", b"Order,Day\n1,2027-03-01\n2,2027-03-02\n")
    slip = page.get_by_role("dialog")
    expect(slip).to_contain_text("No column was found for SKU and Quantity.")
    assert serious(page) == []
    lines = {"name": "lines.csv", "mimeType": "text/csv", "buffer": b"Order,SKU,Units\n1,A,2\n2,A,1\n"}
    with page.expect_file_chooser() as chooser:
        slip.get_by_role("button", name="Add the other file").click()
    chooser.value.set_files(lines)
    expect(slip).to_contain_text("What orders.csv tells of orders goes with their lines of lines.csv, by Order")
    page.get_by_role("button", name="Bring in 2 orders").click()
    expect(page.get_by_role("heading", name="What came: 2 orders")).to_be_visible()
    page.get_by_role("button", name="1 file").click()
    expect(page.get_by_role("rowheader", name="orders.csv and lines.csv")).to_be_visible()


def test_of_many_columns_those_that_are_taken_stand_first_and_stay_there(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    others = ";".join(f"Shelf {at}" for at in range(9))
    give(page, "goods", "goods.csv", f"{others};SKU;Price\n{';'.join('123456789')};A;12\n".encode())
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Not understood, and left out unless you choose what they are: the last 9 columns")
    names = dialog.get_by_role("rowheader")
    expect(names).to_have_text(["SKU", "Price", *(f"Shelf {at}" for at in range(9))])
    dialog.get_by_role("row", name="Shelf 4").get_by_role("combobox").select_option(label="Stock")
    expect(dialog).to_contain_text("Not understood, and left out unless you choose what they are: Shelf 0, Shelf 1")
    expect(names).to_have_text(["SKU", "Price", *(f"Shelf {at}" for at in range(9))])


def test_until_the_place_shows_what_came_in_it_says_what_is_done(page: Page, empty: str):
    page.goto(f"{empty}/goods")
    answers: list[Route] = []
    give(page, "goods", "goods.csv", b"SKU;Product;Price;Shelf\nA;Pot;12,50;9\nB;Fern;8;9\n")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Not understood, and left out unless you choose what it is: Shelf")
    page.route("**/api/frame", lambda route: answers.append(route))
    dialog.get_by_role("button", name="Bring in 2 goods").click()
    expect(dialog.get_by_role("status")).to_contain_text("It is in. Counting what it changes")
    page.wait_for_function("() => true", polling=50)
    for answer in answers:
        answer.continue_()
    page.unroute_all(behavior="ignoreErrors")
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("heading", level=1)).to_have_text("2 goods")
    expect(page.get_by_text("2 new, 0 changed")).to_be_visible()


def test_new_orders_are_fetched_from_the_feed_or_it_says_why_not(page: Page, demo_shop: ShopFile):
    mood = Mood()
    with answering(make_order_feed(mood)) as feed, serving(demo_shop, feed=Feed(feed)) as address:
        page.goto(f"{address}/carts")
        mood.failing = -1
        page.get_by_role("button", name="Fetch new orders").click()
        expect(page.get_by_role("alert")).to_contain_text("answered with error 503")
        page.get_by_role("button", name="Close").click()
        mood.failing = 0
        page.get_by_role("button", name="Fetch new orders").click()
        page.get_by_role("button", name=re.compile("Bring in [0-9,]+ orders")).click()
        expect(page.get_by_text(re.compile("[0-9]+ new, 0 changed"))).to_be_visible()
        expect(page.get_by_role("button", name="2 files")).to_be_visible()


def test_rates_are_told_either_way_round(page: Page, demo: str, complaints):
    page.goto(f"{demo}/carts")
    prices = {"HF-HOBOS-1": 11.9, "HF-HOBOS-2": 24.9}
    rows = [
        f"X{at},2026-03-01,{sku},1,{price * 1.2:.2f},USD,1.20"
        for at, (sku, price) in enumerate([*prices.items()] * 2)
    ]
    give(page, "orders", "orders.csv", "\n".join(["order,date,sku,qty,price,currency,rate", *rows]).encode())
    told = page.get_by_role("dialog").get_by_label("rates as what")
    expect(told.locator("option:checked")).to_have_text("one EUR is in USD")
    told.select_option("one USD is in EUR")
    expect(told.locator("option:checked")).to_have_text("one USD is in EUR")
    page.get_by_role("button", name="Bring in 4 orders").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    (found,) = page.request.get(f"{demo}/api/orders", params={"text": "X0"}).json()["orders"]
    assert page.request.get(f"{demo}/api/orders/{found['id']}").json()["paid"] == 1714  # 14.28 at 1.20


def test_costs_in_another_currency_are_brought_in_by_their_rate(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", "SKU,Price,Cost\nA,€12.00,$4.00\nB,€3.50,$1.00\n".encode())
    slip = page.get_by_role("dialog")
    expect(slip).to_contain_text("Say what one USD is in EUR")
    slip.get_by_label("One USD is").fill("0.9")
    slip.get_by_role("button", name="Use these rates").click()
    page.get_by_role("button", name="Bring in 2 goods").click()
    expect(goods_rows(page)).to_have_count(2)
    expect(page.get_by_role("textbox", name="Purchase cost, A")).to_have_value("3.60")


def test_a_rate_card_is_brought_in_and_its_tariffs_serve_the_zones_they_are_called_by(
    page: Page, empty: str, complaints
):
    page.goto(f"{empty}/delivery")
    page.get_by_role("tab", name="Carriers").click()
    give(page, "tariffs", "card.csv", b"Weight (kg),Home,Far\n2,4.90,9.00\n5,6.10,14.00\n")
    page.get_by_role("button", name="Bring in 2 tariffs").click()
    expect(page.get_by_role("button", name="Far", exact=True)).to_be_visible()
    page.get_by_role("tab", name="Zones").click()
    give(page, "delivery charges", "charges.csv", b"Zone,Shipping cost\nHome,5\nFar,10\n")
    page.get_by_role("button", name="Bring in 2 delivery charges").click()
    for zone in ("Home", "Far"):
        page.get_by_role("row", name=f"{zone} · Delivery").get_by_role("button").click()
        with page.expect_response("**/api/zones"):
            page.get_by_role("button", name=f"take the tariff {zone}", exact=True).click()
        expect(page.get_by_role("button", name=f"take the tariff {zone}", exact=True)).to_have_count(0)
    assert page.request.get(f"{empty}/api/frame").json()["missing_delivery"]["count"] == 0


def test_what_goods_tell_of_tax_is_taken_over_and_what_they_leave_open_is_asked(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    goods = "SKU,Price excl. VAT,Cost,VAT rate\nA,12.00,4,19 %\nB,3.50,1,7 %\nC,3.50,1,Odd\n"
    give(page, "goods", "goods.csv", goods.encode())
    slip = page.get_by_role("dialog")
    expect(slip).to_contain_text("Your shop’s prices will be without tax, as these are.")
    expect(slip).to_contain_text("7 % will be a tax class of your shop")
    expect(slip.get_by_label("prices").locator("option:checked")).to_have_text("without tax")
    page.get_by_role("button", name="Bring in 3 goods").click()
    expect(goods_rows(page)).to_have_count(3)
    page.goto(f"{empty}/delivery")
    page.get_by_role("tab", name="Tax 1 to say").click()
    expect(page.get_by_role("checkbox", name="Prices and charges are with tax")).not_to_be_checked()
    expect(page.get_by_role("textbox", name="Rate of Standard")).to_have_value("19")
    expect(page.get_by_role("row", name="Odd")).to_contain_text("taxed as Standard until its rate is said")
    assert serious(page) == []
    keep(page, "Rate of Odd", "3", "settings")
    expect(page.get_by_role("row", name="Odd")).not_to_contain_text("until its rate is said")
    expect(page.get_by_role("tab", name="Tax", exact=True)).to_be_visible()
    expect(page.get_by_role("textbox", name="Rate of Odd")).to_have_value("3")


def test_a_way_to_pay_that_orders_name_is_added_and_what_is_not_said_is_counted(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"SKU,Price,Cost\nA,$12.00,$4.00\n")
    expect(page.get_by_text("Your shop will count in USD, as these prices do.")).to_be_visible()
    page.get_by_role("button", name="Bring in 1 good").click()
    expect(goods_rows(page)).to_have_count(1)
    page.goto(f"{empty}/carts")
    give(page, "orders", "orders.csv", b"Order,Date,SKU,Quantity,Payment\n1,2026-03-01,A,1,card\n")
    page.get_by_role("button", name="Bring in 1 order").click()
    expect(page.get_by_role("heading", name="What came: 1 order")).to_be_visible()
    page.goto(f"{empty}/delivery")
    expect(
        page.get_by_title("3 things to say: what tax is in your prices, what being paid costs you")
    ).to_be_visible()
    assert serious(page) == []
    page.get_by_role("tab", name="Payment 1 to say").click()
    page.get_by_role("button", name="Add card").click()
    expect(page.get_by_role("row", name="card")).to_be_visible()
    expect(page.get_by_role("tab", name="Payment", exact=True)).to_be_visible()
