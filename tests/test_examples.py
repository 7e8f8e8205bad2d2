"""The worked examples of docs/sums.md, "Kind by kind", read from the page and rung up on the command line."""

import json
import re
from pathlib import Path

import pytest
from click.testing import CliRunner

from yellow_abacus.cli import main

DOCS = Path(__file__).parents[1] / "docs"
PAGE = (DOCS / "sums.md").read_text(encoding="utf-8").split("# Kind by kind")[1].split("\n# On paper")[0]
EXAMPLE = re.compile(r"\*\*(?P<title>.+?)\*\*.*?```json\n(?P<offers>.*?)```\n\n(?P<table>(?:\|[^\n]*\n)+)", re.DOTALL)
EXAMPLES = [found.groupdict() for found in EXAMPLE.finditer(PAGE)]


@pytest.fixture(scope="module")
def shop(tmp_path_factory) -> str:
    path = str(tmp_path_factory.mktemp("examples") / "shop.sqlite")
    for kind, name in (("shop", "shop.json"), ("goods", "goods.csv")):
        result = CliRunner().invoke(main, ["import", kind, str(DOCS / "paper" / name), "--shop", path])
        assert result.exit_code == 0, result.output
    return path


def units(text: str) -> list[dict]:
    """`2 POT-L, 1 FERN` as lines."""
    found = [part.split() for part in text.split(",") if part.strip()]
    return [{"sku": sku, "quantity": int(quantity)} for quantity, sku in found]


def test_the_page_has_an_example_of_every_kind():
    named = set(re.findall(r'"kind": "(\w+)"', PAGE))
    missing = set(re.findall(r"^\| `(\w+)`", (DOCS / "sums.md").read_text(encoding="utf-8"), re.MULTILINE)) - named
    assert not missing
    assert len(EXAMPLES) >= 20


@pytest.mark.parametrize("example", EXAMPLES, ids=lambda one: one["title"])
def test_carts_come_to_what_the_page_says(shop, tmp_path, example):
    terms = [json.loads(line) for line in example["offers"].splitlines()]
    rows = [[cell.strip() for cell in line.strip("|\n").split("|")] for line in example["table"].splitlines()[2:]]
    told = {
        "carts": [{"lines": units(cart), "zone": "Home"} for cart, *_ in rows],
        "offers": [{"id": f"offer {at}", "terms": one} for at, one in enumerate(terms, start=1)],
    }
    path = tmp_path / "carts.json"
    path.write_text(json.dumps(told), encoding="utf-8")
    result = CliRunner().invoke(main, ["price", "--shop", shop, "--carts", str(path), "--json"])
    assert result.exit_code == 0, result.output
    for (_, lines, put_in, delivery, total, why), cart in zip(rows, json.loads(result.stdout)["carts"], strict=True):
        (outcome,) = cart["outcomes"]
        assert ", ".join(f"{line['sku']} {line['net'] / 100:.2f}" for line in outcome["lines"]) == lines
        assert ", ".join(f"{gift['quantity']} {gift['sku']}" for gift in outcome["put_in"]) == put_in
        assert f"{outcome['delivery'] / 100:.2f}" == delivery
        assert f"{outcome['total'] / 100:.2f}" == total
        assert "; ".join(reason["text"] for reason in outcome["reasons"]) == why
        off = sum(taken["amount"] for line in outcome["lines"] for taken in line["taken_off"])
        stood = sum(line["standing"] * line["quantity"] for line in outcome["lines"])
        asked = sum(gift["asked"] for gift in outcome["put_in"])
        assert stood - off + asked == outcome["goods"]
