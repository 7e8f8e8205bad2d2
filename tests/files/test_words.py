"""Figures in words: the browser's formatter is held to the same cases."""

import json
from pathlib import Path

import pytest

from yellow_abacus.files.words import money, share, so_many

CASES = json.loads((Path(__file__).parents[2] / "frontend/src/pieces/figures.cases.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["text"])
def test_figures_read_as_they_do_in_the_browser(case):
    if case["says"] == "share":
        assert share(case["share"]) == case["text"]
    else:
        told = money(case["amount"], case["currency"], case["minor_digits"], whole=case["whole"])
        assert told == case["text"]


def test_halves_are_shown_away_from_zero():
    assert [money(amount, "EUR", 2, whole=True) for amount in (50, 150, -250)] == ["€1", "€2", "−€3"]


def test_so_many_of_something():
    told = [
        so_many(1, "order"),
        so_many(0, "order"),
        so_many(1200, "day"),
        so_many(1.04, "unit"),
        so_many(1.2, "unit"),
    ]
    assert told == ["1 order", "0 orders", "1,200 days", "1 unit", "1.2 units"]
