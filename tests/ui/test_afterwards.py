"""Afterwards: offers that ran, what history says of them, and taking it over."""

import re

from playwright.sync_api import Page, expect

from tests.ui.board import saved
from tests.ui.test_places import serious
from tests.web.test_afterwards import give_maiden_pinks, make_post_free, make_seeds_cheap, send_codes
from yellow_abacus.store.shop_file import ShopFile


def test_a_code_in_the_orders_is_told_as_an_offer_and_its_uptake_taken_over(page: Page, demo: str, complaints):
    page.goto(f"{demo}/afterwards")
    found = page.get_by_role("region", name="Codes in your orders that no offer knows")
    expect(found.get_by_role("listitem")).to_have_count(2)
    found.get_by_role("button", name="Tell it as an offer with the code NEWLEAF").click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem")
    expect(ran).to_have_count(1)
    expect(ran).to_contain_text("with the code NEWLEAF, 1 November 2025 to 30 October 2026")
    expect(ran).to_contain_text("596 orders used it")
    expect(ran).to_contain_text("It ran on nearly all days")
    expect(found.get_by_role("listitem")).to_have_count(1)
    free = page.get_by_role("region", name="Delivery that is free from a value")
    expect(free.get_by_role("listitem").first).to_contain_text("Delivery to Home free from €90")
    expect(free.get_by_role("img")).to_have_count(1)

    ran.get_by_role("button", name="10 % off").press("ArrowUp")
    expect(ran.get_by_role("button", name="11 % off")).to_be_visible()
    expect(ran).to_contain_text("10.96 %, as the sentence says")  # gift cards are never discounted
    ran.get_by_role("button", name="Take over: who hold the code").first.click()
    page.get_by_role("menuitem", name=re.compile("Seeds by newsletter")).click()
    expect(page.get_by_text(re.compile(r"“Seed weeks” now expects 4.9\d?\s% who hold the code"))).to_be_visible()
    assert serious(page) == []

    plans = page.request.get(f"{demo}/api/plans").json()["plans"]
    offers = next(one["plan"]["offers"] for one in plans if one["plan"]["name"] == "Seed weeks")
    response = next(one["terms"]["response"] for one in offers if one["name"] == "Seeds by newsletter")
    assert 480 <= response["uptake_bp"] <= 500
    low, high = next((one["low"], one["high"]) for one in response["ranges"] if one["of"] == "uptake_bp")
    assert low < response["uptake_bp"] < high


def test_messages_are_told_and_an_offer_taken_off_again(page: Page, demo: str, complaints):
    page.goto(f"{demo}/afterwards")
    page.get_by_role("button", name="Tell it as an offer with the code TRADEROOT").click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem")
    ran.get_by_role("button", name="openly, to nobody in particular").press("Enter")
    page.get_by_label("Messages").fill("1000")
    page.keyboard.press("Escape")
    expect(ran).to_contain_text("in 1,000 messages")
    expect(ran).to_contain_text("uses of 1,000 messages")
    ran.get_by_role("button", name="Change TRADEROOT").click()
    page.get_by_role("menuitem", name="It never ran: take it off").click()
    expect(ran).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(ran).to_have_count(1)


def test_an_offer_of_a_plan_is_said_to_have_run_before(page: Page, demo: str, complaints):
    page.goto(f"{demo}/afterwards")
    page.get_by_role("button", name="Copy one from a plan").click()
    page.get_by_role("menuitem").first.click()
    expect(page.get_by_role("list", name="Offers that ran").get_by_role("listitem")).to_have_count(1)
    page.goto(f"{demo}/counting-board")
    saved(page)


def test_a_forecast_is_kept_on_the_board_and_held_against_what_came(page: Page, demo: str, complaints):
    plan = {
        "name": "Autumn leaf",
        "first_day": "2026-09-01",
        "last_day": "2026-09-21",
        "offers": [
            {
                "name": "Leaf",
                "terms": {
                    "gives": [{"kind": "percent_off", "percent_bp": 1000}],
                    "given": {"by": "code", "code": "NEWLEAF"},
                    "response": {"uptake_bp": 500},
                },
            }
        ],
    }
    saved_plan = page.request.post(f"{demo}/api/plans", data=plan).json()
    page.goto(f"{demo}/counting-board?plan={saved_plan['id']}")
    page.get_by_role("button", name="Keep this forecast").click()
    expect(page.get_by_text("Afterwards holds it against what comes")).to_be_visible()
    page.get_by_role("navigation").get_by_role("link", name="Afterwards").click()
    became = page.get_by_role("heading", level=1)
    expect(became).to_contain_text("Over these 21 days you kept €7,")
    expect(page.get_by_role("row", name=re.compile("^Orders"))).to_contain_text("562")
    expect(page.get_by_role("img", name=re.compile("^Expected €.*What came €"))).to_be_visible()
    page.get_by_role("button", name="how many orders came").click()
    behind = page.get_by_role("dialog", name="How many orders came")
    expect(behind.get_by_role("row", name=re.compile("September"))).to_have_count(21)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="what the orders were like").click()
    behind = page.get_by_role("dialog", name="What the orders were like")
    expect(behind.get_by_role("row", name=re.compile("550 more orders"))).to_be_visible()
    assert serious(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="by day").click()
    expect(page.get_by_role("img", name=re.compile("What each day keeps: 1 September .*expected"))).to_be_visible()
    expect(page.get_by_text("6 orders used TRADEROOT, which no offer of this plan knows.")).to_be_visible()
    expect(page.get_by_text("when its days were known")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("button", name="Learn from its offer").click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem")
    expect(ran).to_contain_text("with the code NEWLEAF, 1 to 21 September")
    expect(ran).to_contain_text("22 orders used it")
    expect(page.get_by_role("button", name="Learn from its offer")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Keep no more")).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("History tells")
    page.keyboard.press("Control+z")
    expect(became).to_contain_text("Over these 21 days you kept")


def test_a_figure_of_the_board_tells_what_history_says_and_takes_it_over(page: Page, demo: str, complaints):
    page.goto(f"{demo}/afterwards")
    page.get_by_role("button", name="Tell it as an offer with the code NEWLEAF").click()
    expect(page.get_by_role("list", name="Offers that ran").get_by_role("listitem")).to_contain_text("596 orders")
    plans = page.request.get(f"{demo}/api/plans").json()["plans"]
    seeds = next(one["id"] for one in plans if one["plan"]["name"] == "Seed weeks")
    page.goto(f"{demo}/counting-board?plan={seeds}")
    page.get_by_role("button", name="35 % of shoppers, 20 % to 55 %").click()
    said = page.get_by_role("list", name="What history says")
    expect(said).to_contain_text("NEWLEAF: 4.9 %, between 4.5 % and 5.4 %, from 6,565 orders of 364 days.")
    said.get_by_role("button", name="Take it over from NEWLEAF").press("Enter")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile(r"^4\.94\s% of shoppers, 4\.52\s% to 5\.4\s%"))).to_be_visible()
    saved(page)


def test_a_next_message_is_told_by_how_many_are_sent_and_taken_over(
    page: Page, demo: str, demo_shop: ShopFile, complaints
):
    send_codes(demo_shop, lambda body: page.request.put(f"{demo}/api/past", data=body))
    page.goto(f"{demo}/afterwards")
    following = page.get_by_role("region", name="The next one like them")
    expect(following).to_contain_text("As 6 codes sent before")
    expect(
        following.get_by_role("img", name=re.compile("^Answers of 6 before, by how many were sent"))
    ).to_be_visible()
    assert serious(page) == []
    plans = page.request.get(f"{demo}/api/plans").json()["plans"]
    seeds = next(one for one in plans if one["plan"]["name"] == "Seed weeks")
    code = next(one for one in seeds["plan"]["offers"] if one["terms"]["given"]["by"] == "code")
    code["terms"]["response"]["sends"] = {"size": 400, "response_bp": 200}
    assert page.request.put(
        f"{demo}/api/plans/{seeds['id']}", data={"revision": seeds["revision"], "plan": seeds["plan"]}
    ).ok
    page.goto(f"{demo}/counting-board?plan={seeds['id']}")
    page.get_by_role("button", name=re.compile(r"^2\s% order")).click()
    said = page.get_by_role("list", name="What history says").get_by_role("listitem").first
    expect(said).to_contain_text("Sent to 400, ")
    said.get_by_role("button", name="Take it over from those before it").press("Enter")
    page.keyboard.press("Escape")
    saved(page)
    after = next(one for one in page.request.get(f"{demo}/api/plans").json()["plans"] if one["id"] == seeds["id"])
    response = next(one for one in after["plan"]["offers"] if one["id"] == code["id"])["terms"]["response"]
    (range_,) = (one for one in response["ranges"] if one["of"] == "send_response_bp")
    assert range_["low"] < response["sends"]["response_bp"] < range_["high"]
    assert 800 < response["sends"]["response_bp"] < 1_500


def test_delivery_that_was_free_from_less_becomes_an_offer_that_ran(page: Page, demo: str, demo_shop: ShopFile):
    make_post_free(demo_shop)
    page.goto(f"{demo}/afterwards")
    freed = page.get_by_role("region", name="Delivery that was free from less for some days")
    expect(freed.get_by_role("listitem")).to_contain_text("From €40 to Home and Near abroad · €60 on other days;")
    assert serious(page) == []
    freed.get_by_role("button", name="Tell it as an offer from €40").click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem").first
    expect(ran).to_contain_text("Carts with €40 or more of anything get free delivery to Home and Near abroad")
    expect(freed).to_have_count(0)


def test_goods_that_nobody_paid_for_become_an_offer_that_ran(page: Page, demo: str, demo_shop: ShopFile):
    give_maiden_pinks(demo_shop)
    page.goto(f"{demo}/carts")
    page.get_by_role("link", name="tell it at Afterwards").click()
    gifts = page.get_by_role("region", name="Goods that nobody paid for")
    expect(gifts.get_by_role("listitem")).to_contain_text(
        re.compile("Maiden pink packet · from €50, 3 to 16 June 2026, \\d+ orders")
    )
    assert serious(page) == []
    gifts.get_by_role("button", name=re.compile("^Tell it as an offer that puts in Maiden pink packet")).click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem").first
    expect(ran).to_contain_text("Carts with €50 or more of anything get 1 unit of Maiden pink packet put in free")
    expect(ran).to_contain_text(re.compile("\\d+ orders used it"))
    expect(gifts).to_have_count(0)


def test_a_spell_of_lower_prices_becomes_an_offer_that_ran(page: Page, demo: str, demo_shop: ShopFile):
    make_seeds_cheap(demo_shop)
    page.goto(f"{demo}/afterwards")
    spells = page.get_by_role("region", name="Goods that cost less for some days")
    expect(spells.get_by_role("listitem")).to_contain_text("Seeds · 20 % less, 3 to 16 June 2026")
    assert serious(page) == []
    spells.get_by_role("button", name="Tell it as an offer on Seeds").click()
    ran = page.get_by_role("list", name="Offers that ran").get_by_role("listitem").first
    expect(ran).to_contain_text("20 % off seeds, without a code, 3 to 16 June")
    expect(spells).to_have_count(0)
