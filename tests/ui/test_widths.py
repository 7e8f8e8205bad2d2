"""Pictures are drawn at the width they have: letters of one size, nothing cut, nothing on top of anything else."""

import pytest
from playwright.sync_api import Page, expect

from tests.ui.board import open_board

WIDTHS = [700, 820, 1000, 1280, 1920, 2560]

DRAWN = "svg => svg.width.baseVal.value === Math.floor(svg.parentElement.getBoundingClientRect().width)"
"""Whether the picture has the width of its place."""

LETTERS = """svg => [...svg.querySelectorAll("text")].map(text => {
  const box = text.getBoundingClientRect();
  return {words: text.textContent, left: box.left, right: box.right, top: box.top, bottom: box.bottom,
          size: text.getAttribute("font-size") * svg.getBoundingClientRect().width / svg.width.baseVal.value};
})"""


def assert_readable(page: Page, picture, width: int) -> None:
    letters = picture.evaluate(LETTERS)
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


def test_the_pictures_of_every_place_at_every_width(page: Page, demo: str, complaints):
    open_board(page, demo, plan=3)
    pictures = [
        ("counting-board?plan=3", page.get_by_role("img", name="Given away")),
        ("counting-board?plan=3", page.get_by_role("list", name="Cart types")),
        ("carts", page.get_by_role("img", name="Carts by value")),
        ("delivery", page.get_by_role("img", name="By weight of goods")),
    ]
    for path in dict.fromkeys(path for path, _ in pictures):
        page.goto(f"{demo}/{path}")
        for width in WIDTHS:
            page.set_viewport_size({"width": width, "height": 900})
            for picture in (one for of, one in pictures if of == path):
                expect(picture).to_be_visible()
                page.wait_for_function(
                    "() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => done(true))))"
                )
                assert_readable(page, picture, width)
            assert page.evaluate("document.documentElement.scrollWidth") <= width


@pytest.mark.parametrize(("width", "stand"), [(980, "one under the other"), (1020, "side by side")])
def test_below_a_thousand_the_boards_columns_stand_one_under_the_other(page: Page, demo: str, width: int, stand: str):
    page.set_viewport_size({"width": width, "height": 900})
    open_board(page, demo)
    offers = page.get_by_role("region", name="Offers").bounding_box()
    bridge = page.get_by_role("heading", name="From today to the plan").bounding_box()
    assert offers
    assert bridge
    assert (bridge["y"] >= offers["y"] + offers["height"]) == (stand == "one under the other")
