"""Files brought into a shop. docs/files.md."""

from collections.abc import Callable
from pathlib import Path

import click

from yellow_abacus import bring_in
from yellow_abacus.bring_in_json import bring_in_plans, bring_in_shop
from yellow_abacus.cli.common import fail, file_argument, open_shop, progress, read_json, shop_option
from yellow_abacus.core.ground.naming import LONGEST_TITLE
from yellow_abacus.counting import CountingRoom, UnsoundPlanError
from yellow_abacus.files.clocks import known_clock
from yellow_abacus.files.columns import NoSuchColumnError, not_understood
from yellow_abacus.files.for_shop import Kind
from yellow_abacus.files.missing_goods import missing_goods_table
from yellow_abacus.files.orders import LARGEST_RATE
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.files.rejected import Rejection, faults, left_out_with_others, rejected_csv
from yellow_abacus.files.shop_json import ShopFileDoc
from yellow_abacus.files.tables import UnreadableFileError, refuse_size
from yellow_abacus.files.values import number_if_any
from yellow_abacus.files.writing import write_table
from yellow_abacus.store.settings import SettingsError

SHOWN_FAULTS = 20


@click.group("import")
def import_() -> None:
    """Bring a file into a shop."""


def _rates(_context: click.Context, _parameter: click.Parameter, told: tuple[str, ...]) -> dict[str, float]:
    """`USD=0.92` of each."""
    found = {}
    for one in told:
        currency, sign, text = one.partition("=")
        rate = number_if_any(text.strip(), ".") if sign else None
        if not currency.strip() or rate is None or not 0 < rate <= LARGEST_RATE:
            raise click.BadParameter(f"“{one}” tells no rate. Write it like USD=0.92.")
        found[currency.strip().upper()] = float(rate)
    return found


def _names(_context: click.Context, _parameter: click.Parameter, told: tuple[str, ...]) -> tuple[str, ...]:
    if too_long := next((one for one in told if len(one) > LONGEST_TITLE), ""):
        raise click.BadParameter(f"“{too_long[:40]}…” is no name: those have {LONGEST_TITLE} letters at most.")
    return told


def _clock(_context: click.Context, _parameter: click.Parameter, name: str) -> str:
    try:
        return known_clock(name)
    except ValueError as error:
        raise click.BadParameter(str(error)) from error


def _show_reading(checked: bring_in.Checked) -> None:
    """What is done with a file's amounts, rows and times."""
    for currency, rate in checked.reading.rates:
        if currency in checked.foreign:
            click.echo(f"One {currency} is taken as {rate:g} {checked.currency}.")
    if passed := [f"{one.name} ({one.rows:,})" for one in checked.no_goods if one.passed_over]:
        click.echo(f"Passed over, as no goods: {', '.join(passed)}.")
    if checked.in_utc and checked.reading.clock:
        click.echo(f"Its times, told in UTC, are put on the clock of {checked.reading.clock}.")
    elif checked.in_utc:
        click.echo("Its times are told in UTC and stand as they are: say your shop’s clock, --clock Europe/Berlin.")


def _csv_command(kind: Kind, what: str) -> Callable[..., None]:
    @import_.command(kind, help=f"Bring in {what} from a CSV, XLSX or ODS file: all of it, or nothing.")
    @click.argument(
        "files",
        nargs=-1,
        required=True,
        type=click.Path(exists=True, dir_okay=False, path_type=Path),
        metavar="FILE...",
    )
    @shop_option
    @click.option("--good-rows-only", is_flag=True, help="Leave the rejected rows out and bring in the rest.")
    @click.option(
        "--column",
        "chosen",
        multiple=True,
        metavar="HEADING=FIELD",
        help="Take a column for a field; may be repeated.",
    )
    @click.option(
        "--rate",
        "rates",
        multiple=True,
        metavar="CURRENCY=RATE",
        callback=_rates,
        help="What one unit of another currency is in the shop's; may be repeated.",
    )
    @click.option(
        "--no-goods",
        multiple=True,
        metavar="NAME",
        callback=_names,
        hidden=kind != "orders",
        help="Pass over rows of that name, without a SKU: they are no goods; may be repeated.",
    )
    @click.option(
        "--clock",
        default="",
        metavar="NAME",
        callback=_clock,
        hidden=kind != "orders",
        help="Your shop’s clock, such as Europe/Berlin, on which times told in UTC are put.",
    )
    @click.option("--rejected", type=click.Path(path_type=Path), help="Write the rejected rows to this CSV file.")
    @click.option(
        "--missing-goods",
        type=click.Path(path_type=Path),
        hidden=kind != "orders",
        help="Write the SKUs that Goods does not have to this goods file, to be filled in.",
    )
    def run(
        files: tuple[Path, ...],
        shop_path: Path,
        good_rows_only: bool,
        chosen: tuple[str, ...],
        rates: dict[str, float],
        no_goods: tuple[str, ...],
        clock: str,
        rejected: Path | None,
        missing_goods: Path | None,
    ) -> None:
        shop = open_shop(shop_path)
        try:
            refuse_size(sum(file.stat().st_size for file in files))
            first, *more = ((file.name, file.read_bytes()) for file in files)
            checked = bring_in.check(
                shop,
                kind,
                first[1],
                chosen,
                progress("Checking"),
                rates=rates.items(),
                no_goods=no_goods,
                clock=clock,
                file=first[0],
                more=more,
            )
            _show_matching(checked)
            _show_reading(checked)
            for told in checked.says:
                click.echo(told)
            if checked.rejected and rejected:
                rejected.write_text(rejected_csv(checked.table, checked.rejected), encoding="utf-8")
            if checked.missing_goods and missing_goods:
                table = missing_goods_table(checked.missing_goods, checked.digits)
                missing_goods.write_bytes(write_table("csv", *table))
            saved = bring_in.save(shop, checked, good_rows_only=good_rows_only, progress=progress("Saving"))
        except (UnreadableFileError, NoSuchColumnError, SettingsError) as error:
            fail(f"{', '.join(map(str, files))}: {error}")
        except bring_in.RejectedRowsError as error:
            _show_faults(error.rejected)
            fail(f"{error} Nothing was brought in. Mend them, or use --good-rows-only.")
        click.echo(f"{saved.new} new, {saved.changed} changed, {saved.unchanged} as they were.")
        if saved.fewer:
            click.echo(f"{saved.fewer} of them with fewer units than before: is the file of all that was ordered?")
        if saved.redated:
            click.echo(f"{saved.redated} of them of quite another day before: are they others with the same numbers?")

    return run


_csv_command("goods", "products and what they cost")
_csv_command("orders", "orders")
_csv_command("tariffs", "carriers' tariffs")
_csv_command("charges", "delivery options and what they charge")
_csv_command("surcharges", "surcharges")


@import_.command("shop")
@file_argument
@shop_option
def import_shop(file: Path, shop_path: Path) -> None:
    """Bring in shop settings and delivery zones from a JSON file."""
    doc = read_json(file, ShopFileDoc)
    try:
        bring_in_shop(open_shop(shop_path), doc)
    except SettingsError as error:
        fail(f"{file}: {error}")
    click.echo(f"{doc.settings.name}: settings and {len(doc.zones)} zones.")


@import_.command("plans")
@file_argument
@shop_option
def import_plans(file: Path, shop_path: Path) -> None:
    """Bring in plans from a JSON file; a plan of the same name is replaced."""
    doc = read_json(file, PlansFile)
    shop = open_shop(shop_path)
    try:
        bring_in_plans(shop, CountingRoom(shop), doc)
    except UnsoundPlanError as error:
        fail(f"{file}: {error}")
    click.echo(f"{len(doc.plans)} plans.")


def _show_faults(rejected: list[Rejection]) -> None:
    """What is really wrong, counted, the most frequent first; what only goes with it in one line."""
    told = faults(rejected)
    for one in told[:SHOWN_FAULTS]:
        more = one.rows - len(one.first_rows)
        rows = ", ".join(map(str, one.first_rows)) + (f" and {more:,} more" if more else "")
        click.echo(f"{'row' if one.rows == 1 else 'rows'} {rows}, {one.field}: {one.message} {one.mend}", err=True)
    if len(told) > SHOWN_FAULTS:
        click.echo(f"… and {len(told) - SHOWN_FAULTS} further kinds of fault", err=True)
    if others := left_out_with_others(rejected):
        click.echo(f"{others:,} further rows are left out because they belong to those.", err=True)


def _show_matching(checked: bring_in.Checked) -> None:
    if checked.missing:
        names = ", ".join(field.label for field in checked.missing)
        own = ", ".join(checked.table.header)
        apart = " Where orders and their lines stand in two files, name both." if checked.kind == "orders" else ""
        told = " ".join([*checked.says, f"No column was found for: {names}. The file's columns: {own}."])
        fail(f"{told} Name one with --column HEADING=FIELD.{apart}")
    labels = {field.key: field.label for field in bring_in.KINDS[checked.kind].fields}
    matched = (f"{checked.table.header[at]} → {labels[key]}" for key, some in checked.columns.items() for at in some)
    click.echo("; ".join(matched), err=True)
    if unknown := not_understood(checked.table.header, checked.columns):
        told = ", ".join(unknown)
        click.echo(f'Not understood and left out: {told}. Name a field with --column "{unknown[0]}=…".', err=True)
