"""The examples in docstrings come to what they say."""

import doctest
import importlib
import pkgutil
from pathlib import Path

import pytest

import yellow_abacus
from yellow_abacus import core

MODULES = [one.name for one in pkgutil.walk_packages(core.__path__, f"{core.__name__}.") if not one.ispkg]
ROOT = Path(*yellow_abacus.__path__)
ELSEWHERE = [
    ".".join((ROOT.name, *path.relative_to(ROOT).with_suffix("").parts))
    for path in sorted(ROOT.rglob("*.py"))
    if path.relative_to(ROOT).parts[0] != "core" and "\n>>> " in path.read_text("utf-8").replace("    >>> ", ">>> ")
]
CONCEPTS = (
    "money",
    "axes",
    "keeper",
    "making_goods",
    "naming",
    "reached",
    "together",
    "mix",
    "spread",
    "tax",
    "shelf",
    "rows",
    "trace",
    "sums",
    "costed",
    "chances",
    "outlook",
    "ranges",
    "working",
)
"""Modules that open with an example."""


@pytest.mark.parametrize("name", MODULES)
def test_examples_hold(name):
    found = doctest.testmod(importlib.import_module(name))
    assert found.failed == 0
    assert found.attempted > 0 or name.rpartition(".")[2] not in CONCEPTS


@pytest.mark.parametrize("name", ELSEWHERE)
def test_examples_outside_the_core_hold(name):
    found = doctest.testmod(importlib.import_module(name))
    assert found.failed == 0
    assert found.attempted > 0
