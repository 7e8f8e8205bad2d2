"""The shops worked out on paper in docs/sums.md, read from the page and held against core and command line."""

import json
import re
from pathlib import Path

import pytest
from click.testing import CliRunner

from yellow_abacus.cli import main
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import likeliest_rows
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.store.loading import load
from yellow_abacus.store.shop_file import ShopFile

DOCS = Path(__file__).parents[1] / "docs"
PAGE, COSTS_PAGE = (DOCS / "sums.md").read_text(encoding="utf-8").split("# On paper")[1].split("# Costs on paper")


def tables(page: str) -> list[list[dict[str, str]]]:
    """Every table of a part of the page, row by row, each cell under its heading."""
    found = []
    for block in re.findall(r"(?:^\|.*\n)+", page, flags=re.MULTILINE):
        header, _, *rows = [[cell.strip() for cell in line.strip("|").split("|")] for line in block.splitlines()]
        found.append([dict(zip(header, row, strict=True)) for row in rows])
    return found


TODAY, PLAN, LEDGER, CHECKS = tables(PAGE)
_, COSTS = tables(COSTS_PAGE)
HEADINGS = {
    "goods": "goods net",
    "delivery_charged": "charge net",
    "surcharges": "surcharges net",
    "put_in_cost": "put in",
}
"""Of the rows of the ledger whose column is not called as they are."""


def run(*words: str) -> str:
    result = CliRunner().invoke(main, list(words))
    assert result.exit_code == 0, result.output
    return result.stdout


def shop_of(folder: Path, path: Path) -> Path:
    for kind, name in [
        ("shop", "shop.json"),
        ("goods", "goods.csv"),
        ("orders", "orders.csv"),
        ("plans", "plans.json"),
    ]:
        if (folder / name).exists():
            run("import", kind, str(folder / name), "--shop", str(path))
    return path


@pytest.fixture(scope="module")
def shop_path(tmp_path_factory) -> Path:
    return shop_of(DOCS / "paper", tmp_path_factory.mktemp("paper") / "shop.sqlite")


@pytest.fixture(scope="module")
def told(shop_path) -> dict:
    return json.loads(run("forecast", "--shop", str(shop_path), "--plan", "Paper fortnight", "--json"))


@pytest.mark.parametrize(("rows", "with_plan"), [(TODAY, False), (PLAN, True)])
def test_each_order_is_priced_and_costed_as_on_paper(shop_path, rows, with_plan):
    plan = PlansFile.model_validate_json((DOCS / "paper" / "plans.json").read_bytes()).plans[0].plan()
    check(shop_path, rows, plan.offers if with_plan else ())


def test_what_each_order_costs_is_as_on_paper(tmp_path):
    check(shop_of(DOCS / "paper" / "costs", tmp_path / "shop.sqlite"), COSTS, ())


def check(shop_path: Path, rows: list[dict[str, str]], offers: tuple[Offer, ...]) -> None:
    with ShopFile(shop_path).reading() as session:
        loaded = load(session)
    found = likeliest_rows(loaded.shop, loaded.batch, offers)
    priced = price(loaded.shop, found, offers)
    costed = cost(loaded.shop, found, priced)
    assert len(rows) == loaded.batch.axes.carts
    for at, row in enumerate(rows):
        seen = [priced.goods_by_row[at], priced.charge_by_row[at], priced.total[at]]
        assert seen == [round(float(row[figure]) * 100) for figure in ("goods", "charge", "total")]
        tax = priced.goods_tax[at] + priced.delivery_tax[at] + priced.surcharge_tax[at]
        assert tax == round(float(row["tax"]) * 100)
        told = [float(row.get(HEADINGS.get(one.key, one.key.replace("_", " ")), 0)) for one in ROWS]
        assert costed[:, at] == pytest.approx([figure * 100 for figure in told], abs=1e-4)
        assert costed[:, at].sum() == pytest.approx(float(row["kept"]) * 100)


def test_the_ledger_is_the_one_on_paper(told):
    assert [row["row"] for row in LEDGER] == [*INDEX, "profit"]
    for line, row in zip(told["ledger"], LEDGER, strict=True):
        assert line["key"] == row["row"]
        assert line["exact_today"] == pytest.approx(float(row["today"]) * 100)
        assert line["exact_plan"] == pytest.approx(float(row["plan"]) * 100)


def test_the_shown_ledger_and_bridge_foot(told):
    for column in ("today", "plan", "change"):
        *rows, kept = [line[column] for line in told["ledger"]]
        assert sum(rows) == kept
    assert told["start"] + sum(step["amount"] for step in told["bridge"]) == told["end"]
    exact = {row["row"]: [float(cell) * 100 for cell in list(row.values())[1:]] for row in LEDGER}
    steps = {step["key"]: step["exact"] for step in told["bridge"]}
    assert steps["given_away"] == pytest.approx(exact["goods"][1] - exact["goods"][0])
    assert steps["delivery_given_up"] == pytest.approx(exact["delivery_charged"][1] - exact["delivery_charged"][0])
    assert steps["more_orders"] == pytest.approx(exact["profit"][2])


def test_the_answer_and_its_figures_are_those_on_paper(told):
    checks = {row["check"]: float(row["figure"]) for row in CHECKS}
    first, second = told["offers"]
    assert told["ledger"][-1]["exact_plan"] - told["ledger"][-1]["exact_today"] == pytest.approx(
        checks["impact"] * 100
    )
    assert told["more_orders"]["value"] == pytest.approx(checks["more_orders"])
    assert [first["reached"], second["reached"]] == pytest.approx(
        [checks["offer 1 reached"], checks["offer 2 reached"]]
    )
    for number, offer in enumerate((first, second), start=1):
        (even,) = [one for one in offer["break_evens"] if one["figure"] == "extra_bp"]
        assert even["value"] == pytest.approx(checks[f"offer {number} extra_break_even"])
    answer = re.search(r"The answer: \*(.+?)\*", PAGE, flags=re.DOTALL)
    assert answer
    assert " ".join(answer[1].split()) in told["answer_text"].replace("\u00a0", " ")
