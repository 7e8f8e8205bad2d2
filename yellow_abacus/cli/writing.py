"""Files written: what a shop has, and what its files and answers look like. docs/files.md."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from yellow_abacus.cli.common import fail, open_existing, shop_option
from yellow_abacus.files.forecast_json import forecast_schema
from yellow_abacus.files.kept_json import against_schema
from yellow_abacus.files.learned_json import learned_schema
from yellow_abacus.files.offers_json import offers_schema
from yellow_abacus.files.plan_json import plans_schema
from yellow_abacus.files.tables_out import Contents, Out, as_file, shop_table, template
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.settings import shop_row
from yellow_abacus.store.shop_file import ShopFile


@click.command("export")
@click.argument("kind", type=click.Choice(["goods", "tariffs", "charges", "surcharges"]))
@click.argument("out", type=click.Path(dir_okay=False, path_type=Path))
@shop_option
@click.option("--template", "as_template", is_flag=True, help="Write a template to fill in instead.")
def export(kind: Out, out: Path, shop_path: Path, as_template: bool) -> None:
    """Write all the shop has of one kind to a CSV or XLSX file, by its ending; it reads back just so."""
    ending = out.suffix.lower().lstrip(".")
    if ending not in ("csv", "xlsx"):
        fail(f"{out}: name a file that ends in .csv or .xlsx.")
    with open_existing(shop_path).reading() as session:
        has = Contents(all_goods(session), load_shop(session), shop_row(session).minor_digits)
    table = template(kind, has.digits) if as_template else shop_table(kind, has)
    out.write_bytes(as_file(table, "csv" if ending == "csv" else "xlsx"))
    click.echo(f"{out}: {len(table[1])} rows.")


@click.command("describe-api")
@click.argument("out", type=click.Path(path_type=Path))
def describe_api(out: Path) -> None:
    """Write the API description, from which the front end's types are generated."""
    import tempfile

    from yellow_abacus.web.app import make_app
    from yellow_abacus.web.description import description

    with tempfile.TemporaryDirectory() as folder:
        app = make_app(ShopFile(Path(folder) / "shop.sqlite"))
        _write_json(out, description(app))


def _schema_command(name: str, what: str, schema: Callable[[], Any]) -> click.Command:
    @click.command(name, help=f"Write the JSON Schema of {what}.")
    @click.argument("out", type=click.Path(path_type=Path))
    def run(out: Path) -> None:
        _write_json(out, schema())

    return run


describe_forecast = _schema_command("describe-forecast", "a forecast", forecast_schema)
describe_learned = _schema_command("describe-learned", "what history says", learned_schema)
describe_afterwards = _schema_command("describe-afterwards", "a kept forecast held against what came", against_schema)
describe_offers = _schema_command("describe-offers", "a file of offers", offers_schema)
describe_plans = _schema_command("describe-plans", "a file of plans", plans_schema)


def _write_json(out: Path, told: Any) -> None:
    out.write_text(json.dumps(told, indent=1, sort_keys=True, ensure_ascii=False) + "\n", encoding="utf-8")
