"""What tests of the Counting board share."""

from playwright.sync_api import Locator, Page, expect


def open_board(page: Page, address: str, plan: int | None = None) -> Locator:
    page.goto(f"{address}/counting-board{f'?plan={plan}' if plan else ''}")
    answer = page.get_by_test_id("answer")
    expect(answer).to_contain_text("Over these")
    return answer


def offers(page: Page) -> Locator:
    return page.get_by_role("region", name="Offers").locator("li[data-offer]")


def sentence(offer: Locator) -> Locator:
    return offer.locator("p.text-sentence")


def write(page: Page, words: str) -> Locator:
    """A new offer by the first opening that begins with these words."""
    before = offers(page).count()
    page.keyboard.press("n")
    expect(page.get_by_role("combobox", name="Say it in your words")).to_be_focused()
    page.keyboard.type(words)
    page.keyboard.press("Enter")
    expect(offers(page)).to_have_count(before + 1)
    return offers(page).last


def also(offer: Locator, clause: str) -> None:
    """Add a clause to an offer's sentence."""
    offer.get_by_role("button", name="and also…").click()
    offer.page.get_by_role("menuitem", name=clause).click()


def saved(page: Page) -> None:
    """Wait until what was changed is in the shop file."""
    expect(page.get_by_text("saving…")).to_have_count(0)


def plain(text: str) -> str:
    return text.replace("\u00a0", " ")


def take_hold(of: Locator, x: float, y: float) -> tuple[float, float]:
    """Press the mouse on a thing once nothing on its way may move it any more; where on the page that is."""
    of.page.wait_for_load_state("networkidle")
    of.hover(position={"x": x, "y": y})
    box = of.bounding_box()
    assert box
    of.page.mouse.down()
    return box["x"] + x, box["y"] + y
