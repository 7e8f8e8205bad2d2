"""Pictures are drawn at the width they have: letters of one size, nothing cut, nothing on top of anything else."""

import pytest
from playwright.sync_api import Page, expect

from tests.ui.board import open_board

WIDTHS = [700, 820, 1000, 1280, 1920, 2560]

LETTERS = """([selector, width]) => {
  const svg = document.querySelector(selector);
  const drawn = svg && window.innerWidth === width
    && svg.width.baseVal.value === Math.floor(svg.parentElement.getBoundingClientRect().width);
  return drawn && [...svg.querySelectorAll("text")].map(text => {
    const box = text.getBoundingClientRect();
    return {words: text.textContent, left: box.left, right: box.right, top: box.top, bottom: box.bottom,
            size: text.getAttribute("font-size") * svg.getBoundingClientRect().width / svg.width.baseVal.value};
  });
}"""
"""The letters of a picture, once the window has its new width and the picture that of its place."""

PICTURES = {
    "counting-board?plan=3": ['svg[aria-label*="Given away"]', 'svg[aria-label="Cart types"]'],
    "carts": [
        'svg[aria-label="Carts to expect by what is in them"]',
        'svg[aria-label="Over the week"]',
        'svg[aria-label="Over the year"]',
    ],
    "delivery": ["figure:nth-of-type(1) > svg", "figure:nth-of-type(2) > svg"],
}


def assert_readable(letters: list[dict], width: int) -> None:
    assert letters
    for at, one in enumerate(letters):
        assert 10 <= one["size"] <= 14, one
        assert one["left"] >= -1, one
        assert one["right"] <= width + 1, one
        for other in letters[:at]:
            apart = (
                one["right"] <= other["left"] + 1
                or other["right"] <= one["left"] + 1
                or one["bottom"] <= other["top"] + 2.5
                or other["bottom"] <= one["top"] + 2.5
            )
            assert apart, (one, other)


@pytest.mark.parametrize("place", PICTURES)
def test_the_pictures_of_a_place_at_every_width(page: Page, demo: str, complaints, place):
    page.goto(f"{demo}/{place}")
    for width in WIDTHS:
        page.set_viewport_size({"width": width, "height": 900})
        for picture in PICTURES[place]:
            assert_readable(page.wait_for_function(LETTERS, arg=[picture, width]).json_value(), width)
        assert page.evaluate("document.documentElement.scrollWidth") <= width


def test_long_names_give_way_to_the_figures_beside_them(page: Page, demo: str, complaints):
    """Where a zone and an option are named at length, the rows grow taller and the table no wider than its place."""
    delivery = page.request.get(f"{demo}/api/delivery").json()
    zones = [
        {key: zone[key] for key in ("name", "places", "options")} | {"was": zone["name"]}
        for zone in delivery["zones"]
    ]
    zones[0]["name"] = "Deutschland, Österreich und die deutschsprachige Schweiz"
    zones[0]["options"][0]["name"] = "Hauszustellung an die Wohnungstür mit Unterschrift"
    assert page.request.put(f"{demo}/api/zones", data={"zones": zones}).ok
    page.goto(f"{demo}/delivery")
    row = page.get_by_role("row").filter(has_text="Hauszustellung").filter(has_text="6,288")
    expect(row).to_be_visible()
    ends, board = row.bounding_box(), page.get_by_role("region", name="Zones and options").bounding_box()
    assert ends
    assert board
    assert ends["x"] + ends["width"] <= board["x"] + board["width"] + 1


@pytest.mark.parametrize(("width", "stand"), [(980, "one under the other"), (1020, "side by side")])
def test_below_a_thousand_the_boards_columns_stand_one_under_the_other(page: Page, demo: str, width: int, stand: str):
    page.set_viewport_size({"width": width, "height": 900})
    open_board(page, demo)
    offers = page.get_by_role("region", name="Offers")
    bridge = page.get_by_role("heading", name="From today to the plan").element_handle()
    below = offers.evaluate(  # both in one moment, for more of either may still be coming
        "(one, other) => other.getBoundingClientRect().top >= one.getBoundingClientRect().bottom", bridge
    )
    assert below == (stand == "one under the other")
