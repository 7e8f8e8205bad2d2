"""Forecasts without a browser, what history says, and kept forecasts held against what came. docs/files.md.

They begin with the shop file: its large tables are read while the modules are that these commands need.
"""

import gc
from importlib import import_module
from pathlib import Path
from typing import Any

import click

from yellow_abacus.cli.common import open_existing, shop_option
from yellow_abacus.store.in_columns import ReadBeside

until_option = click.option(
    "--until", type=click.DateTime(["%Y-%m-%d"]), help="Go by the orders before this day alone."
)


@click.command()
@shop_option
@click.option("--plan", "name", required=True, help="The plan's name.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
@click.option(
    "--why", "key", help="Print how one figure is made: impact, today, plan, plan/goods, bridge/given_away …"
)
@click.option("--keep", "keeps", is_flag=True, help="Keep it, to be held against what comes.")
@until_option
def forecast(**asked: Any) -> None:
    """Forecast a plan: its answer, ledger and bridge."""
    _answer("forecast", **asked)


@click.command()
@shop_option
@until_option
@click.option("--sent", type=click.IntRange(1), multiple=True, help="Of a next message, sent to so many.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def learn(**asked: Any) -> None:
    """Say what history tells of how shoppers responded to the offers that ran."""
    _answer("learn", **asked)


@click.command()
@shop_option
@click.option("--plan", "name", required=True, help="The plan's name.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def afterwards(**asked: Any) -> None:
    """Hold a plan's last forecast kept before its first day against the orders of its days."""
    _answer("afterwards", **asked)


@click.command("price")
@shop_option
@click.option("--plan", "name", help="The plan's name. Without it, the plan or offers in the file; else no offers.")
@click.option("--carts", "file", required=True, type=click.Path(exists=True, dir_okay=False, path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def price_carts(**asked: Any) -> None:
    """Price the carts of a JSON file under a plan: every line, delivery, total, and why each offer applied or not."""
    _answer("price_carts", **asked)


def _answer(what: str, shop_path: Path, **asked: Any) -> None:
    """By a function of `answers`."""
    beside = ReadBeside(shop_path)
    gc.disable()  # modules stay to the end: to look through them takes a tenth of the time
    answers = import_module("yellow_abacus.cli.answers")
    gc.enable()
    getattr(answers, what)(open_existing(shop_path, beside), **asked)
