"""Writing is reading: offers typed in any words, and sentences copied out and pasted in."""

import pytest
from playwright.sync_api import Page, expect

from tests.ui.board import offers, open_board, plain, saved, sentence
from tests.ui.test_places import serious


@pytest.fixture
def browser_context_args(browser_context_args):
    return {**browser_context_args, "permissions": ["clipboard-read", "clipboard-write"]}


def paste(page: Page, text: str) -> None:
    page.evaluate(
        """text => {
            const data = new DataTransfer();
            data.setData("text/plain", text);
            document.body.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
        }""",
        text,
    )


def test_words_in_any_order_become_an_offer_and_what_is_not_understood_is_told(page: Page, demo: str, complaints):
    open_board(page, demo)
    before = offers(page).count()
    page.keyboard.press("n")
    page.keyboard.type("code FRONDLET, 15 % off seeds from 3, 3 to 10 March, and a pony")
    first = page.get_by_role("option").first
    expect(first).to_contain_text("Carts with 3 or more units of seeds get")
    expect(first).to_contain_text("Left out, not understood: “pony”")
    assert serious(page) == []
    page.keyboard.press("Enter")
    expect(offers(page)).to_have_count(before + 1)
    expect(sentence(offers(page).last)).to_contain_text("with the code FRONDLET, 3 to 10 March")
    saved(page)


def test_what_is_typed_right_after_the_key_is_not_lost(page: Page, demo: str, complaints):
    open_board(page, demo)
    focused = page.evaluate(
        """() => {
            document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "n", bubbles: true }));
            return document.activeElement.getAttribute("role");
        }"""
    )
    assert focused == "combobox"


def test_a_sentence_copied_out_is_pasted_in_as_the_same_offer(page: Page, demo: str, complaints):
    open_board(page, demo, plan=3)
    last = offers(page).last
    told = sentence(last).inner_text()
    last.get_by_role("button", name="Change For the newsletter").click()
    page.get_by_role("menuitem", name="Copy its sentence out").click()
    expect(page.get_by_text("Its sentence is copied.")).to_be_visible()
    copied = page.evaluate("navigator.clipboard.readText()")
    before = offers(page).count()
    page.locator("body").click(position={"x": 5, "y": 5})
    paste(page, copied)
    expect(page.get_by_role("combobox", name="Say it in your words")).to_have_value(plain(copied))
    page.keyboard.press("Enter")
    expect(offers(page)).to_have_count(before + 1)
    expect(sentence(offers(page).last)).to_have_text(told)
    saved(page)


def test_a_text_too_long_for_an_offer_is_refused(page: Page, demo: str, complaints):
    open_board(page, demo)
    before = offers(page).count()
    paste(page, "10 % off seeds, " * 7_000)
    expect(page.get_by_role("alert").filter(has_text="That is too long for one offer.")).to_be_visible()
    page.keyboard.press("Escape")
    expect(offers(page)).to_have_count(before)
