"""The command line: bring files in, forecast without a browser, serve, and run the demo shop. docs/files.md.

A command is read when it is asked for: a forecast need not wait for what reads spreadsheets.
"""

import logging
from importlib import import_module
from typing import Any

import click

from yellow_abacus.cli.common import fail

COMMANDS = {
    "import": "importing:import_",
    "forecast": "forecasting:forecast",
    "learn": "forecasting:learn",
    "afterwards": "forecasting:afterwards",
    "price": "forecasting:price_carts",
    "serve": "serving:serve",
    "demo-shop": "serving:demo_shop",
    "carriers": "serving:carriers",
    "order-feed": "serving:order_feed",
    "export": "writing:export",
    "describe-api": "writing:describe_api",
    "describe-forecast": "writing:describe_forecast",
    "describe-learned": "writing:describe_learned",
    "describe-afterwards": "writing:describe_afterwards",
    "describe-offers": "writing:describe_offers",
    "describe-plans": "writing:describe_plans",
}
"""Module of this package, and the command in it."""


class Commands(click.Group):
    """Those of COMMANDS. Whatever cannot be read, written or listened on ends with a sentence and exit code 1."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        module, name = COMMANDS[cmd_name].split(":")
        command: click.Command = getattr(import_module(f"{__name__}.{module}"), name)
        return command

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except (click.ClickException, click.exceptions.Exit, click.Abort):
            raise
        except Exception as error:
            from yellow_abacus.cli.faults import said_of

            if (said := said_of(error, ctx.obj)) is None:
                raise
            fail(said)


@click.group(cls=Commands)
@click.option("--verbose", is_flag=True, help="Log more.")
def main(verbose: bool) -> None:
    """Yellow Abacus tells what an offer will do to profit, before it is launched."""
    logging.basicConfig(
        level=logging.DEBUG if verbose else logging.INFO, format="%(asctime)s %(levelname)s %(name)s %(message)s"
    )
    logging.getLogger("alembic").setLevel(logging.WARNING)
