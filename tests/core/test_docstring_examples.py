"""The examples in docstrings come to what they say."""

import doctest
import importlib
import pkgutil

import pytest

from yellow_abacus import core, files

MODULES, OF_FILES = (
    [one.name for one in pkgutil.walk_packages(package.__path__, f"{package.__name__}.") if not one.ispkg]
    for package in (core, files)
)
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


@pytest.mark.parametrize("name", OF_FILES)
def test_examples_of_files_hold(name):
    assert doctest.testmod(importlib.import_module(name)).failed == 0
