"""From an empty shop to a forecast in the browser: the demo button, and files of one's own."""

from pathlib import Path

from playwright.sync_api import Page, expect

PAPER = Path(__file__).parents[2] / "docs" / "paper"


def give(page: Page, what: str, name: str, data: bytes) -> None:
    page.get_by_label(f"CSV file of {what}").set_input_files({"name": name, "mimeType": "text/csv", "buffer": data})


def test_one_button_fills_in_the_demo_shop(page: Page, empty: str, complaints):
    page.goto(empty)
    page.get_by_role("button", name="Fill in the demo shop").click()
    expect(page.get_by_test_id("answer")).to_contain_text("Over these 14 days", timeout=60_000)


def test_the_paper_shop_is_brought_in_by_hand_and_answers(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", (PAPER / "goods.csv").read_bytes())
    page.get_by_role("button", name="Bring in 5 goods").click()
    expect(page.get_by_role("status")).to_contain_text("5 new")
    expect(page.locator("tbody tr")).to_have_count(5)

    page.goto(f"{empty}/carts")
    give(page, "orders", "orders.csv", (PAPER / "orders.csv").read_bytes())
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("row", name="Quantity").get_by_role("combobox")).to_have_value("quantity")
    page.get_by_role("button", name="Bring in 8 orders").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("8 orders")

    page.goto(f"{empty}/delivery")
    expect(page.get_by_title("2 zones without an option or tariff")).to_be_visible()
    for label, value in [
        ("Shoppers pay, Home", "5"), ("Free from, Home", "80"), ("It costs you, Home", "6"),
        ("Shoppers pay, Abroad", "10"), ("It costs you, Abroad", "14"),
    ]:  # fmt: skip
        page.get_by_label(label).fill(value)
        with page.expect_response("**/api/zones"):
            page.keyboard.press("Tab")
    expect(page.get_by_title("2 zones without an option or tariff")).to_have_count(0)
    page.get_by_label("Payment, share").fill("2")
    page.get_by_label("and for each order").fill("0.20")
    page.get_by_label("Picking and packing an order").fill("1")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("button", name="Save")).to_be_disabled()

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
    page.get_by_role("button", name="0 % more").click()
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
    dialog.get_by_role("button", name="Bring in the good rows: 1 goods").click()
    expect(page.locator("tbody tr")).to_have_count(1)
    expect(page.locator("tbody tr")).to_contain_text("€12.50")


def test_columns_not_recognised_are_chosen_by_hand(page: Page, empty: str, complaints):
    page.goto(f"{empty}/goods")
    give(page, "goods", "goods.csv", b"Thing,Asked,Paid\nA,12.50,4\n")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("No column was found for SKU")
    for heading, field in [("Thing", "SKU"), ("Asked", "List price"), ("Paid", "Purchase cost")]:
        dialog.get_by_role("row", name=heading).get_by_role("combobox").select_option(label=field)
        expect(dialog.get_by_role("row", name=heading).get_by_role("combobox")).to_be_enabled()
    dialog.get_by_role("button", name="Bring in 1 goods").click()
    expect(dialog).to_have_count(0)
    expect(page.locator("tbody tr")).to_contain_text("€4.00")


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


def test_a_change_of_delivery_is_refused_in_place_or_undone(page: Page, demo: str):
    page.goto(f"{demo}/delivery")
    box = page.get_by_label("Shoppers pay, Home")
    box.fill("5.90")
    with page.expect_response("**/api/zones"):
        page.keyboard.press("Tab")
    page.reload()
    expect(box).to_have_value("5.90")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Control+z")
    expect(box).to_have_value("4.90")
    page.get_by_label("Name of zone 1").fill("Near abroad")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("two zones called Near abroad")
    page.get_by_label("Tax rate").fill("120")
    expect(page.get_by_role("alert").last).to_contain_text("100 or less")
