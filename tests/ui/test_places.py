"""All seven places: reachable by key, complaining of nothing, and sound for everybody."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.ui.board import open_board

AXE = (Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js").read_text(encoding="utf-8")

PLACES = ["goods", "delivery", "carts", "counting-board", "till", "side-by-side", "afterwards"]


def serious(page: Page) -> list[str]:
    """What axe-core finds serious or critical."""
    page.wait_for_function("() => document.getAnimations().every(one => one.playState !== 'running')")
    page.evaluate(AXE)
    found = page.evaluate("() => axe.run(document, { resultTypes: ['violations'] })")["violations"]
    return [
        f"{one['id']}: {node['html'][:160]} {node['failureSummary']}"
        for one in found
        if one["impact"] in ("serious", "critical")
        for node in one["nodes"]
    ]


@pytest.mark.parametrize("place", PLACES)
def test_axe_finds_nothing_serious_with_the_demo_shop(page: Page, demo: str, complaints, place):
    page.goto(f"{demo}/{place}")
    page.get_by_role("heading").first.wait_for()
    page.wait_for_load_state("networkidle")
    assert serious(page) == []


@pytest.mark.parametrize("place", ["goods", "delivery", "carts", "counting-board"])
def test_axe_finds_nothing_serious_in_an_empty_shop(page: Page, empty: str, complaints, place):
    page.goto(f"{empty}/{place}")
    page.get_by_role("heading").first.wait_for()
    assert serious(page) == []


def test_axe_finds_nothing_serious_with_an_editor_or_menu_open(page: Page, demo: str, complaints):
    page.goto(f"{demo}/counting-board")
    for open_it in (
        lambda: page.get_by_role("button", name="€65 or more").click(),
        lambda: page.get_by_role("button", name="anything").first.click(),
        lambda: page.get_by_role("button", name="without a code").first.click(),
        lambda: page.get_by_role("button", name="Write an offer").click(),
        lambda: page.get_by_role("button", name="Find an offer").click(),
        lambda: page.get_by_role("button", name="and also…").first.click(),
        lambda: page.get_by_role("button", name="while the plan runs").first.click(),
        lambda: page.get_by_role("button", name="the best for the shopper").click(),
        lambda: page.get_by_role("button", name="all reasons").first.click(),
        lambda: page.get_by_role("button", name="Keys").click(),
    ):
        open_it()
        page.locator("[role=dialog],[role=menu]").wait_for()
        # while a menu is open all else is hidden from assistive technology on purpose, focusable or not
        assert [one for one in serious(page) if not one.startswith("aria-hidden-focus")] == []
        page.keyboard.press("Escape")


def test_axe_finds_nothing_serious_in_the_words_of_every_kind(page: Page, demo: str, complaints):
    open_board(page, demo, plan=3)
    for word in ("1 unit", "15 % off", "the cheapest unit", "Maiden pink", "by a link", "only for", "not with"):
        page.get_by_role("button", name=word).first.click()
        page.get_by_role("dialog").wait_for()
        assert serious(page) == []
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)


def test_axe_finds_nothing_serious_in_goods_and_delivery_opened(page: Page, demo: str, complaints):
    page.goto(f"{demo}/goods")
    page.get_by_role("button", name="Fern print").click()
    page.get_by_role("button", name="Change many at once").click()
    page.get_by_role("complementary").wait_for()
    page.wait_for_load_state("networkidle")
    assert serious(page) == []
    page.get_by_role("button", name="See what it does").click()
    page.get_by_role("dialog").wait_for()
    assert serious(page) == []
    page.goto(f"{demo}/delivery")
    for tab in ("Carriers", "Surcharges", "Tax", "Payment", "whole shop", "Zones"):
        page.get_by_role("tab", name=tab).click()
        page.wait_for_load_state("networkidle")
        assert serious(page) == []
    for word in ("€4.90", "the cheapest of", "68 %", "Fernland"):
        page.get_by_role("button", name=word).first.click()
        page.get_by_role("dialog").wait_for()
        assert serious(page) == []
        page.keyboard.press("Escape")


def test_keys_1_to_7_go_to_the_places_and_the_list_of_keys_opens(page: Page, demo: str, complaints):
    page.goto(demo)
    expect(page.get_by_test_id("answer")).to_be_visible()
    for number, place in enumerate(PLACES, start=1):
        page.keyboard.press(str(number))
        page.wait_for_url(f"**/{place}*")
        expect(page.get_by_role("navigation").get_by_role("link").nth(number - 1)).to_have_attribute(
            "aria-current", "page"
        )
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_the_first_load_is_light(page: Page, demo: str):
    sizes = []
    page.on("response", lambda answer: sizes.append(len(answer.body())) if answer.url.endswith(".js") else None)
    page.goto(demo)
    expect(page.get_by_test_id("answer")).to_be_visible()
    assert sum(sizes) < 900_000  # plain bytes; make bench prints what they come to compressed


def test_every_place_opens_on_the_plan_in_hand(page: Page, demo: str, complaints):
    open_board(page, demo)
    page.get_by_role("button", name="Choose or change a plan").click()
    page.get_by_role("menuitemradio", name="Seed weeks").click()
    expect(page.get_by_test_id("answer")).to_contain_text("Over these 21 days")
    places = page.get_by_role("navigation", name="Places")
    places.get_by_role("link", name="Till").click()
    expect(page.get_by_role("button", name="Plan: Seed weeks")).to_be_visible()
    places.get_by_role("link", name="Carts").click()
    expect(page.get_by_role("button", name="8 to 28 February 2027")).to_be_visible()
    places.get_by_role("link", name="Counting board").click()
    expect(page.get_by_test_id("answer")).to_contain_text("Over these 21 days")
