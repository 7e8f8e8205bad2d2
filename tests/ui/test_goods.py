"""The Goods place: edited in place, changed many at once, missing figures walked through, thousands scrolled."""

import re

from playwright.sync_api import Page, expect

from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.store.goods import save_goods
from yellow_abacus.store.shop_file import ShopFile

MANY = 5_000


def leave(page: Page, path: re.Pattern = re.compile("/api/goods/one")) -> None:
    with page.expect_response(path):
        page.keyboard.press("Tab")


def test_a_cost_is_written_in_place_and_taken_back(page: Page, demo: str, complaints):
    page.goto(f"{demo}/goods")
    row = page.get_by_role("row", name="Fern print A3")
    expect(row).to_contain_text("€9.32")
    page.get_by_label("Purchase cost, Fern print A3").fill("5.90")
    leave(page)
    expect(row).to_contain_text("€8.33")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Purchase cost, Fern print A3")).to_have_value("4.90")
    expect(row).to_contain_text("€9.32")


def test_what_is_missing_is_walked_through_and_the_bead_goes(page: Page, demo: str, complaints):
    page.goto(f"{demo}/goods")
    expect(page.get_by_title("1 without a cost, weight or list price")).to_be_visible()
    page.get_by_role("heading", level=1).wait_for()
    page.keyboard.press("m")
    panel = page.get_by_role("complementary", name="Linen apron")
    expect(panel.get_by_label("Purchase", exact=True)).to_be_focused()
    page.keyboard.type("11.50")
    page.keyboard.press("Enter")
    expect(page.get_by_title("1 without a cost, weight or list price")).to_have_count(0)
    expect(page.get_by_role("button", name="mend one by one")).to_have_count(0)
    expect(panel).to_contain_text("up to 5")


def test_many_are_changed_at_once_after_a_look_at_what_it_does(page: Page, demo: str, complaints):
    page.goto(f"{demo}/goods")
    page.get_by_label("Show").select_option(label="Planters")
    page.get_by_role("button", name="Change many at once").click()
    form = page.get_by_role("form", name="Change many goods at once")
    expect(form).to_contain_text("of the 9 goods shown below")
    form.get_by_label("How much").fill("6")
    form.get_by_role("button", name="See what it does").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("9 goods would change")
    expect(dialog).to_contain_text(re.compile(r"you would keep €[\d,]+ less"))
    expect(dialog.get_by_role("row", name="Stone trough")).to_contain_text("€31.50€33.39")
    dialog.get_by_role("button", name="Change them").click()
    expect(dialog).to_have_count(0)
    expect(page.get_by_label("Purchase cost, Stone trough 45 cm")).to_have_value("33.39")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Purchase cost, Stone trough 45 cm")).to_have_value("31.50")


def test_every_price_of_a_product_is_a_rod_and_can_be_changed(page: Page, demo: str, complaints):
    page.goto(f"{demo}/goods")
    page.get_by_role("heading", level=1).wait_for()
    page.keyboard.press("/")
    page.keyboard.type("trough")
    expect(page.get_by_role("rowheader")).to_have_count(1)
    page.get_by_role("button", name="Stone trough").click()
    panel = page.get_by_role("complementary", name="Stone trough")
    prices = panel.get_by_role("table", name="What a unit leaves at each price")
    expect(prices.get_by_role("row")).to_have_count(4)
    expect(prices.get_by_role("img").first).to_have_attribute("aria-label", re.compile("purchase €31.50, .*kept €"))
    panel.get_by_role("button", name="Quantity prices: add one").click()
    panel.get_by_label("Quantity price 1", exact=True).fill("65")
    panel.get_by_role("button", name="Save").click()
    expect(prices.get_by_role("row", name="From 6 units")).to_contain_text("€65.00")
    panel.get_by_label("Purchase", exact=True).fill("-4")
    expect(panel.get_by_role("alert")).to_contain_text("0 or more")


def test_a_sku_is_added_and_what_cannot_be_is_refused(page: Page, demo: str):
    page.goto(f"{demo}/goods")
    page.get_by_role("heading", level=1).wait_for()
    page.keyboard.press("n")
    page.get_by_role("textbox", name="SKU").fill("hf-gifer-1")
    expect(page.get_by_role("alert")).to_contain_text("has this SKU already")
    page.get_by_role("textbox", name="SKU").fill("HF-NEW-1")
    page.keyboard.press("Enter")
    panel = page.get_by_role("complementary", name="HF-NEW-1, opened")
    panel.get_by_role("button", name="Kit parts: add one").click()
    panel.get_by_label("SKU of part 1").fill("NOPE")
    panel.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status").last).to_contain_text("“NOPE” cannot be a part. Choose another SKU")


def test_five_thousand_goods_scroll_and_filter(page: Page, empty: str, empty_shop: ShopFile, complaints):
    goods = [GoodRecord(f"S{at:05d}", f"Thing {at}", list_price=1000 + at, purchase_cost=400.0) for at in range(MANY)]
    with empty_shop.changing("Many") as session:
        save_goods(session, goods, frozenset({"product", "list_price", "purchase_cost"}))
    page.goto(f"{empty}/goods")
    table = page.get_by_role("table", name="Goods")
    expect(table).to_have_attribute("aria-rowcount", str(MANY + 1))
    assert page.get_by_role("rowheader").count() < 60
    table.evaluate("one => one.scrollTo(0, one.scrollHeight)")
    expect(page.get_by_role("rowheader", name=f"Thing {MANY - 1}")).to_be_visible()
    page.get_by_label("Find").fill("Thing 4321")
    expect(page.get_by_role("rowheader")).to_have_count(1)
    page.get_by_label("Find").fill("")
    page.get_by_label("Sort by").select_option(index=1)
    expect(table).to_have_attribute("aria-rowcount", str(MANY + 1))


def test_by_name_is_in_order_of_names(page: Page, demo: str):
    page.goto(f"{demo}/goods")
    page.get_by_label("Sort by").select_option(label="name")
    rows = page.get_by_role("table", name="Goods").get_by_role("row")
    expect(rows.nth(2)).to_be_visible()
    names = [rows.nth(at).inner_text().split("\n")[0] for at in range(1, 9)]
    assert names == sorted(names, key=str.casefold)
