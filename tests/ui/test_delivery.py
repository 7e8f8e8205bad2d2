"""The Delivery place: the curves, every sentence's words, tariffs fetched and written, and what cannot be."""

import re
from collections.abc import Iterator

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.standins.test_carriers import answering
from tests.test_bring_in import bring
from tests.ui.server import serving
from tests.ui.test_places import serious
from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.standins.carriers import Mood, make_carriers
from yellow_abacus.store.shop_file import ShopFile


@pytest.fixture
def mood() -> Mood:
    return Mood()


@pytest.fixture
def with_carriers(demo_shop: ShopFile, mood: Mood) -> Iterator[str]:
    with answering(make_carriers(mood)) as address, serving(demo_shop, Carriers(address)) as place:
        yield place


def put(page: Page, label: str, value: str, path: str = "zones") -> None:
    page.get_by_role("textbox", name=label, exact=True).fill(value)
    with page.expect_response(f"**/api/{path}"):
        page.keyboard.press("Enter")


def test_the_answer_and_the_curves_follow_the_option_that_is_chosen(page: Page, demo: str, complaints):
    page.goto(f"{demo}/delivery")
    expect(page.get_by_role("heading", level=1)).to_have_text(
        re.compile(r"Delivery took €15,\d{3} of your profit, 8.9")
    )
    curves = page.get_by_role("region", name="Curves of Home · To the door")
    expect(curves.get_by_role("img")).to_have_count(2)
    expect(curves.get_by_role("img").first).to_have_accessible_name(re.compile("costs more than shoppers pay from"))
    curves.get_by_text("The figures").first.click()
    expect(curves.get_by_role("table").get_by_role("row").nth(2)).to_contain_text("€4.05")
    page.get_by_role("button", name="Near abroad · Express").press("Enter")
    expect(page.get_by_role("region", name="Curves of Near abroad · Express")).to_be_visible()
    expect(page.get_by_text("what it costs you and 10 % and €1.00 on top")).to_be_visible()


def test_a_charge_is_changed_refused_and_taken_back(page: Page, demo: str):
    page.goto(f"{demo}/delivery")
    page.get_by_role("button", name="€4.90").click()
    put(page, "For an order", "5.90")
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("€15,")
    page.get_by_role("radio", name="By the weight of the goods").click()
    expect(page.get_by_role("button", name="€5.90 up to 5 kg and €7.90 up to 10 kg")).to_be_visible()
    put(page, "Goods weighing, step 2: up to", "4")
    expect(page.get_by_role("alert")).to_contain_text("not above the step before")
    page.keyboard.press("Escape")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="€5.90", exact=True)).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="€4.90")).to_be_visible()
    page.get_by_role("button", name="Home", exact=True).click()
    put(page, "Name of the zone", "Near abroad")
    expect(page.get_by_role("alert")).to_contain_text("two zones called Near abroad")


def test_an_option_is_added_served_and_taken_away(page: Page, demo: str, complaints):
    page.goto(f"{demo}/delivery")
    page.get_by_role("button", name="Add an option").click()
    page.get_by_role("textbox", name="Name").fill("Bicycle")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="no tariff yet")).to_be_visible()
    page.get_by_role("button", name="no tariff yet").click()
    page.get_by_role("checkbox", name="Swallow letter").check()
    expect(page.get_by_role("button", name="Swallow letter")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="0 % choose Bicycle").click()
    put(page, "Bicycle", "50")
    expect(page.get_by_role("button", name=re.compile("33.3 % choose Bicycle"))).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Take Bicycle away").click()
    expect(page.get_by_role("button", name="Home · Bicycle")).to_have_count(0)


def test_tariffs_are_fetched_with_their_date_or_say_why_not(page: Page, with_carriers: str, mood: Mood):
    mood.failing = 1
    page.goto(f"{with_carriers}/delivery")
    page.get_by_role("tab", name="Carriers").click()
    page.get_by_role("button", name="Fetch from carriers").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("alert")).to_contain_text("answered with error 503. Nothing was changed.")
    dialog.get_by_role("button", name="Ask again").click()
    expect(dialog.get_by_role("row", name="Swallow parcel")).to_contain_text("€3.95")
    dialog.get_by_role("button", name="Fetch 6").click()
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("row", name="Swallow parcel")).to_contain_text("fetched")
    page.get_by_role("button", name="Swallow parcel").click()
    expect(page.get_by_role("complementary", name="Tariff Swallow parcel")).to_contain_text("5.25 % for fuel")


def test_a_tariff_is_written_step_by_step(page: Page, demo: str, complaints):
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="Carriers").click()
    page.get_by_role("button", name="Write a tariff").click()
    page.get_by_role("textbox", name="Name").fill("Owl post")
    page.keyboard.press("Enter")
    panel = page.get_by_role("complementary", name="Tariff Owl post")
    put(page, "Parcels of Owl post, step 1: amount", "3.4567", "tariffs")
    panel.get_by_role("button", name="Add a step").click()
    put(page, "Parcels of Owl post, step 2: up to", "12.5", "tariffs")
    panel.get_by_role("button", name="takes nothing heavier").click()
    put(page, "For each kilogram begun", "0.8", "tariffs")
    expect(panel.get_by_role("button", name="€0.80 for each kilogram begun")).to_be_visible()
    page.keyboard.press("Escape")
    panel.get_by_role("button", name="Take Owl post away").click()
    expect(page.get_by_role("button", name="Owl post", exact=True)).to_have_count(0)


def test_a_surcharge_is_a_sentence(page: Page, demo: str, complaints):
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="Surcharges").click()
    page.get_by_role("button", name="Ask for something more").click()
    page.get_by_role("textbox", name="Name").fill("Ribbon")
    page.keyboard.press("Enter")
    ribbon = page.get_by_role("listitem").filter(has_text="Ribbon")
    ribbon.get_by_role("button", name="€1.00 an order").click()
    page.get_by_role("radio", name="so much for a unit").click()
    put(page, "Amount, as shoppers see it", "0.35", "surcharges")
    page.keyboard.press("Escape")
    ribbon.get_by_role("button", name="always").click()
    page.get_by_role("radio", name="If the shopper wants it").click()
    page.keyboard.press("Escape")
    ribbon.get_by_role("button", name="for every cart").click()
    page.get_by_role("button", name="Add a condition").click()
    page.keyboard.press("Escape")
    expect(ribbon).to_contain_text("€0.35 a unit, counting all goods, if the shopper wants it, as 10 % do")
    expect(ribbon).to_contain_text("for carts with at most €20 of anything")
    ribbon.get_by_role("button", name="Take it away").click()
    expect(ribbon).to_have_count(0)


def test_taxes_ways_to_pay_and_the_whole_shop_are_changed(page: Page, demo: str):
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="Tax").click()
    put(page, "Rate of Reduced in Home", "12", "settings")
    page.get_by_role("textbox", name="Rate of Standard", exact=True).fill("51")
    expect(page.get_by_role("alert")).to_contain_text("50 or less")
    page.get_by_role("tab", name="Payment").click()
    put(page, "Of the total, card", "1.9", "settings")
    expect(page.get_by_role("row", name="card")).to_contain_text("€1.20")
    page.get_by_role("tab", name="whole shop").click()
    put(page, "Postage of a return", "5.5", "settings")
    page.reload()
    page.get_by_role("tab", name="whole shop").click()
    expect(page.get_by_label("Postage of a return")).to_have_value("5.50")
    page.get_by_role("textbox", name="Currency").fill("JPY")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Start a new shop file")


def test_another_shop_is_opened_in_its_place_and_the_one_before_is_kept(page: Page, demo: str, demo_shop: ShopFile):
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="whole shop").click()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save the whole shop as one file").click()
    put_name = page.get_by_label("Name", exact=True)
    with page.expect_response("**/api/settings"):
        put_name.fill("Another")
        page.keyboard.press("Enter")
    page.get_by_role("button", name="Open another shop in its place").click()
    slip = page.get_by_role("dialog")
    assert serious(page) == []
    no_shop = {"name": "x.sqlite", "mimeType": "", "buffer": b"name,price"}
    slip.get_by_label("The file of a shop").set_input_files(files=[no_shop])
    expect(slip.get_by_role("alert")).to_contain_text("x.sqlite is not a shop file")
    slip.get_by_label("The file of a shop").set_input_files(saved.value.path())
    expect(slip.get_by_role("status")).to_contain_text("Hollow Fern Potting Co. is open now")
    (kept,) = demo_shop.path.parent.glob("*-before-*")
    expect(slip.get_by_role("status")).to_contain_text(kept.name)
    slip.get_by_role("button", name="Go to the Counting board").click()
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    assert httpx.get(f"{demo}/api/frame").json()["name"] == "Hollow Fern Potting Co."


def test_an_answer_of_the_past_never_overwrites_what_was_just_clicked(page: Page, demo: str):
    old = httpx.get(f"{demo}/api/delivery").json()
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="whole shop").click()
    together = page.get_by_label("Codes go together with offers without a code")
    with page.expect_response("**/api/settings"):
        together.uncheck()
    page.route(re.compile("/api/delivery$"), lambda route: route.fulfill(json=old))
    with page.expect_response(re.compile("/api/delivery$")):
        page.get_by_role("textbox", name="Currency").fill("JPY")
        page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Start a new shop file")
    expect(page.get_by_role("textbox", name="Currency")).to_have_value("EUR")
    expect(together).not_to_be_checked()


def test_changes_made_quickly_are_all_kept_in_their_order(page: Page, demo: str, demo_shop: ShopFile):
    page.goto(f"{demo}/delivery")
    page.get_by_role("tab", name="whole shop").click()
    labels = [
        "Codes go together with offers without a code",
        "Given back when goods come back",
        "market stall",
        "web",
    ]
    boxes = [page.get_by_label(label, exact=True) for label in labels]
    before = [box.is_checked() for box in boxes]
    with demo_shop.changing("Hold everybody else up"):
        for box, was in zip(boxes, before, strict=True):
            box.click()
            expect(box).to_be_checked(checked=not was)
    settings = {}
    for _ in range(800):
        settings = httpx.get(f"{demo}/api/delivery").json()["settings"]
        if settings["commission_channels"] == ["web"]:  # the last of them
            break
        page.wait_for_timeout(50)
    for box, was in zip(boxes, before, strict=True):
        expect(box).to_be_checked(checked=not was)
    assert not settings["codes_with_self_applying"]
    assert not settings["commission_returned"]
    assert settings["commission_channels"] == ["web"]


def test_options_are_added_as_orders_paid_and_held_against_them(page: Page, empty: str, empty_shop, complaints):
    bring(empty_shop, "goods", b"sku,product,price,cost\nA,A,12,4\nB,B,60,20\n")
    lines = [
        f"{n * 3 + at},2026-10-{n % 28 + 1:02d},{'AB'[n % 2]},1,{charges[n % 2]},{option},{zone}"
        for n in range(30)
        for at, (zone, option, charges) in enumerate(
            [("Home", "Post", (4.9, 0)), ("Home", "Express", (9.9, 9.9)), ("Isles", "Post", (7, 7))]
        )
    ]
    head = "order,date,sku,quantity,delivery charge,delivery option,country"
    bring(empty_shop, "orders", "\n".join([head, *lines]).encode())
    all_so = "All 30 orders by {} in the last 90 days paid just this."
    page.goto(f"{empty}/delivery")
    expect(page.get_by_text("30 orders by Post in the last 90 days paid €4.90, and nothing")).to_be_visible()
    page.get_by_role("button", name="Add Express").click()
    expect(page.get_by_text(all_so.format("Express"))).to_be_visible()
    page.get_by_role("button", name="Add all of them").click()
    page.get_by_role("button", name="Isles · Post").click()
    expect(page.get_by_text(all_so.format("Post"))).to_be_visible()
    page.get_by_role("button", name="€7.00", exact=True).click()
    put(page, "For an order", "8")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="never go free").click()
    put(page, "Goods worth, from which it is free", "200")
    page.keyboard.press("Escape")
    expect(page.get_by_text("Of 30 orders by Post in the last 90 days, none paid just this.")).to_be_visible()
    page.get_by_role("button", name="Take that").click()
    expect(page.get_by_text(all_so.format("Post"))).to_be_visible()
    expect(page.get_by_role("button", name="nothing from €200")).to_be_visible()  # of which no order tells
    assert serious(page) == []


def test_tariffs_are_held_against_what_orders_cost_and_made_of_it(page: Page, empty: str, empty_shop, complaints):
    bring(empty_shop, "goods", b"sku,product,price,cost,weight (g)\nA,A,12,4,500\nB,B,60,20,2500\n")
    lines = [
        f"{n * 2 + at},2026-10-{n % 28 + 1:02d},{'AB'[n % 2]},1,4.9,{costs[n % 2]},{option},Home"
        for n in range(30)
        for at, (option, costs) in enumerate([("Post", (4.1, 6.3)), ("Express", (9.5, 9.5))])
    ]
    head = "order,date,sku,quantity,delivery charge,label cost,delivery option,country"
    bring(empty_shop, "orders", "\n".join([head, *lines]).encode())
    page.goto(f"{empty}/delivery")
    page.get_by_role("button", name="Add all of them").click()
    expect(page.get_by_text("30 orders by Express in the last 90 days cost €9.50 each to deliver.")).to_be_visible()
    expect(page.get_by_text("All cost just €9.50 each.")).to_be_visible()
    page.get_by_role("button", name="Make tariffs of that").click()
    as_told = "30 orders by {} in the last 90 days cost {} each to deliver, as your tariffs say."
    expect(page.get_by_text(as_told.format("Express", "€9.50"))).to_be_visible()
    page.get_by_role("button", name="Home · Post").click()
    expect(page.get_by_text(as_told.format("Post", "€5.20"))).to_be_visible()
    page.get_by_role("tab", name="Carriers’ tariffs").click()
    page.get_by_role("button", name="Post to Home, as it cost").click()
    expect(page.get_by_label("Parcels of Post to Home, as it cost, step 2: amount")).to_have_value("6.30")
    assert serious(page) == []


def test_ways_to_pay_are_added_and_held_against_what_being_paid_cost(page: Page, empty: str, empty_shop, complaints):
    bring(empty_shop, "goods", b"sku,product,price,cost\nA,A,12,4\nB,B,60,20\n")
    lines = [
        f"{n},2026-10-{n % 28 + 1:02d},{'AB'[n % 2]},1,{(12, 60)[n % 2]},4.90,card,{(0.49, 1.16)[n % 2]}"
        for n in range(30)
    ]
    head = "order,date,sku,quantity,price paid,delivery charge,payment,transaction fee"
    bring(empty_shop, "orders", "\n".join([head, *lines]).encode())
    page.goto(f"{empty}/delivery")
    page.get_by_role("tab", name="Payment").click()
    page.get_by_role("button", name="Add card").click()
    expect(page.get_by_label("Of the total, card")).to_have_value("1.4")
    expect(page.get_by_label("For each order, card")).to_have_value("0.25")
    told = "30 orders paid by card in the last 90 days cost €0.83 each to be paid, "
    expect(page.get_by_text(f"{told}as is said here.")).to_be_visible()
    put(page, "Of the total, card", "2", "settings")
    expect(page.get_by_text(re.compile(f"{told}.* less than the €1.07 said here"))).to_be_visible()
    page.get_by_role("button", name="Take that").click()
    expect(page.get_by_text(f"{told}as is said here.")).to_be_visible()
    assert serious(page) == []


def test_how_many_are_refused_is_taken_as_orders_tell(page: Page, empty: str, empty_shop, complaints):
    bring(empty_shop, "goods", b"sku,product,price,cost\nA,A,12,4\n")
    lines = [
        f"{n},2026-{10 - n % 2}-{n % 28 + 1:02d},A,1,{('cash', 'card')[n % 2]},{'Refused' if n % 10 == 4 else 'Sent'}"
        for n in range(100)
    ]
    bring(empty_shop, "orders", "\n".join(["order,date,sku,quantity,payment,status", *lines]).encode())
    page.goto(f"{empty}/delivery")
    page.get_by_role("tab", name="Payment").click()
    page.get_by_role("button", name="Add cash").click()
    box = page.get_by_label("Cancelled or refused, cash")
    assert float(box.input_value()) > 10
    put(page, "Cancelled or refused, cash", "2", "settings")
    told = page.get_by_text(
        re.compile(r"^\d+ of \d+ orders paid by cash were refused .* more than the 2\s% said here")
    )
    expect(told).to_be_visible()
    page.get_by_role("button", name="Take that").click()
    expect(box).not_to_have_value("2")
    expect(page.get_by_text(re.compile("orders paid by cash .*, as is said here"))).to_be_visible()
    assert serious(page) == []


def test_shares_are_taken_as_orders_name_options_and_ways_to_pay(page: Page, demo: str, complaints):
    page.goto(f"{demo}/delivery")
    page.get_by_role("button", name="68 % choose To the door").click()
    page.get_by_role("button", name="Take these").click()
    expect(page.get_by_role("button", name=re.compile("^69 % choose To the door and 31 % choose"))).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Home · Pick-up point").click()
    page.get_by_role("button", name="Take Pick-up point away").click()
    expect(
        page.get_by_text(re.compile("^2,\\d{3} orders name Pick-up point, which is not here, and are"))
    ).to_be_visible()
    page.get_by_role("button", name="Add Pick-up point").click()
    expect(page.get_by_role("button", name=re.compile("^69 % choose To the door and 31 % choose"))).to_be_visible()
    page.get_by_role("tab", name="Payment").click()
    page.get_by_role("button", name="Take away wallet").click()
    page.get_by_role("button", name="Add wallet").click()
    expect(page.get_by_label("Share who pay by wallet")).to_have_value("24.03")
    put(page, "Share who pay by card", "30", "settings")
    page.get_by_role("button", name="Take the shares of your orders").click()
    expect(page.get_by_label("Share who pay by card")).to_have_value("61.82")
