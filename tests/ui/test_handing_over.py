"""Handing over in the browser: what to key in, carts to try, files to take along, and the case for it; on paper."""

import csv
import io
import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.ui.board import open_board, plain
from tests.ui.test_places import serious


def from_the_board(page: Page, address: str, words: str, plan: int = 3) -> None:
    open_board(page, address, plan=plan)
    page.get_by_role("button", name="Choose or change a plan").press("Enter")
    page.get_by_role("menuitem", name=words).press("Enter")
    expect(page.get_by_role("button", name="Print it")).to_be_visible()


def saved_as(page: Page, button: str) -> str:
    with page.expect_download() as download:
        page.get_by_role("button", name=button).click()
    return Path(download.value.path()).read_text(encoding="utf-8")


def test_whoever_keys_it_in_finds_all_of_it_on_the_page_and_in_the_files(page: Page, demo: str, complaints):
    from_the_board(page, demo, "Hand it over")
    sheet = page.get_by_role("main")
    for words in (
        "Carts with 6 or more units of seeds",
        "from Monday, 12 April 2027, 00:00, until Sunday, 25 April 2027, 24:00",
        "by a link with the code BALCONY-27",
        "For the newsletter: not with Pot and plant.",
        "Only … more to spend, and you get",
        "parcels on the busiest day",
    ):
        expect(sheet).to_contain_text(words)
    assert serious(page) == []
    told = json.loads(saved_as(page, "JSON"))
    trials = page.request.post(
        f"{demo}/api/till/trials", data=page.request.get(f"{demo}/api/plans").json()["plans"][2]["plan"]
    ).json()["trials"]
    assert [one["pays"] for one in told["tries"]] == [one["pays"] for one in trials]
    assert len(told["offers"]) == 5
    text = plain(saved_as(page, "Markdown"))
    for offer in told["offers"]:
        assert plain(offer["sentence"]) in text
        assert plain(offer["told"]["refused"]) in text
    rows = list(csv.reader(io.StringIO(saved_as(page, "Codes as CSV"))))
    assert rows == [["offer", "code"], ["For the newsletter", "BALCONY-27"]]


def test_the_case_for_a_plan_says_what_the_board_does(page: Page, demo: str, complaints):
    answer = open_board(page, demo, plan=1)
    told = plain(answer.inner_text())
    from_the_board(page, demo, "The case for it", plan=1)
    sheet = page.get_by_role("main")
    expect(sheet).to_contain_text(told.split(".")[0].replace(" ", " "))
    for words in (
        "Nine times in ten it keeps between",
        "going by 365 days of history",
        "It leaks most on carts of",
        "What tells most: ",
    ):
        expect(sheet).to_contain_text(words)
    assert serious(page) == []


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_both_fit_on_paper(page: Page, demo: str, complaints, paper):
    page.goto(f"{demo}/the-case?plan=1")
    expect(page.get_by_role("button", name="Print it")).to_be_visible()
    assert page.pdf(format=paper).count(b"/Type /Page\n") == 1
    page.goto(f"{demo}/handing-over?plan=1")
    expect(page.get_by_role("button", name="Print it")).to_be_visible()
    page.emulate_media(media="print")
    wide = {"A4": 690, "Letter": 715}[paper]
    page.set_viewport_size({"width": wide, "height": 1000})
    assert page.evaluate("document.documentElement.scrollWidth") <= wide
    expect(page.get_by_role("navigation")).to_have_count(0)
    expect(page.get_by_role("button", name="Print it")).to_have_count(0)


def test_a_plan_goes_out_as_a_file_and_comes_in_again(page: Page, demo: str, tmp_path):
    def choose(words: str) -> None:
        page.get_by_role("button", name="Choose or change a plan").press("Enter")
        page.get_by_role("menuitem", name=words).press("Enter")

    open_board(page, demo, plan=2)
    with page.expect_download() as download:
        choose("Save this plan to a file")
    told = json.loads(Path(download.value.path()).read_text(encoding="utf-8"))
    told["plans"][0] |= {"name": "From elsewhere"}
    file = tmp_path / "plans.json"
    file.write_text(json.dumps(told), encoding="utf-8")
    page.get_by_label("JSON file of plans").set_input_files(file)
    expect(page.get_by_text("1 plan is brought in")).to_be_visible()
    page.get_by_role("button", name="Choose or change a plan").press("Enter")
    expect(page.get_by_role("menuitemradio", name="From elsewhere")).to_be_visible()
    page.keyboard.press("Escape")
    told["plans"][0]["offers"][0]["terms"]["on"]["categories"] = ["Rockets"]
    file.write_text(json.dumps(told), encoding="utf-8")
    page.get_by_label("JSON file of plans").set_input_files(file)
    expect(page.get_by_text("Rockets")).to_be_visible()
    expect(page.get_by_text("at /plans/0/offers/0/terms/on")).to_be_visible()
