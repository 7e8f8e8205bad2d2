"""The command line: bring files in, forecast without a browser, serve, and run the demo shop. docs/files.md."""

import json
import logging
import sys
from collections.abc import Callable
from contextlib import ExitStack
from datetime import date, datetime
from pathlib import Path
from typing import Any, NoReturn, TypeVar

import click
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DatabaseError

from yellow_abacus import bring_in
from yellow_abacus.bring_in_json import bring_in_plans, bring_in_shop, plan_of
from yellow_abacus.core.clauses.response import MOST_SENT
from yellow_abacus.core.forecast.working import UnknownFigureError
from yellow_abacus.counting import CountingRoom, NothingToCountError, UnsoundPlanError
from yellow_abacus.demo import fill_apart, fill_with_demo_shop
from yellow_abacus.files.cart_json import PricedCartsDoc
from yellow_abacus.files.carts_file import CartsFile
from yellow_abacus.files.columns import NoSuchColumnError, not_understood
from yellow_abacus.files.forecast_json import WholeForecastDoc, forecast_schema
from yellow_abacus.files.kept_json import against_schema, against_text
from yellow_abacus.files.learned_json import HistorySaysDoc, LookedDoc, history_text, learned_schema
from yellow_abacus.files.offers_json import offers_schema
from yellow_abacus.files.plan_json import PlanDoc, PlansFile, plans_schema
from yellow_abacus.files.rejected import Rejection, faults, left_out_with_others, rejected_csv
from yellow_abacus.files.shop_json import ShopFileDoc
from yellow_abacus.files.sound_json import unsound
from yellow_abacus.files.tables import UnreadableFileError, refuse_size
from yellow_abacus.files.tables_out import Contents, Out, as_file, shop_table, template
from yellow_abacus.files.words import money
from yellow_abacus.files.working_json import working_text
from yellow_abacus.keeping import NothingCameError, against, keep_forecast
from yellow_abacus.ringing_up import ALWAYS, UnsoundCartsError, ring_up
from yellow_abacus.store.faults import ShopFileError, fault_of
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.kept import kept_of
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.plans import all_plans, plan_named
from yellow_abacus.store.reading_back import NotReadBackError
from yellow_abacus.store.settings import SettingsError, shop_row
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.address import AddressError

DEFAULT_SHOP = Path("shop/shop.sqlite")
SHOWN_FAULTS = 20

Doc = TypeVar("Doc", bound=BaseModel)

shop_option = click.option(
    "--shop",
    "shop_path",
    type=click.Path(dir_okay=False, path_type=Path),
    default=DEFAULT_SHOP,
    show_default=True,
    help="The shop file (SQLite). Made if it is not there.",
)
until_option = click.option(
    "--until", type=click.DateTime(["%Y-%m-%d"]), help="Go by the orders before this day alone."
)
file_argument = click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))


class PlainSentences(click.Group):
    """Whatever cannot be read, written or listened on ends with a sentence and exit code 1, without a traceback."""

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except (ShopFileError, AddressError) as error:
            _fail(str(error))
        except DatabaseError as error:
            _fail(str(fault_of(ctx.obj or Path("the shop file"), error)))
        except NotReadBackError:
            _fail("A figure in it is larger than any can be. Nothing was changed.")
        except OSError as error:
            _fail(f"{error.filename or 'The disk'}: {error.strerror or error}.")


@click.group(cls=PlainSentences)
@click.option("--verbose", is_flag=True, help="Log more.")
def main(verbose: bool) -> None:
    """Yellow Abacus tells what an offer will do to profit, before it is launched."""
    logging.basicConfig(
        level=logging.DEBUG if verbose else logging.INFO, format="%(asctime)s %(levelname)s %(name)s %(message)s"
    )
    logging.getLogger("alembic").setLevel(logging.WARNING)


@main.group("import")
def import_() -> None:
    """Bring a file into a shop."""


def _csv_command(kind: bring_in.Kind, what: str) -> Callable[..., None]:
    @import_.command(kind, help=f"Bring in {what} from a CSV or XLSX file: all of it, or nothing.")
    @file_argument
    @shop_option
    @click.option("--good-rows-only", is_flag=True, help="Leave the rejected rows out and bring in the rest.")
    @click.option(
        "--column",
        "chosen",
        multiple=True,
        metavar="HEADING=FIELD",
        help="Take a column for a field; may be repeated.",
    )
    @click.option("--rejected", type=click.Path(path_type=Path), help="Write the rejected rows to this CSV file.")
    def run(
        file: Path, shop_path: Path, good_rows_only: bool, chosen: tuple[str, ...], rejected: Path | None
    ) -> None:
        shop = _open(shop_path)
        try:
            refuse_size(file.stat().st_size)
            checked = bring_in.check(shop, kind, file.read_bytes(), chosen, _progress("Checking"), file=file.name)
            _show_matching(checked)
            if checked.rejected and rejected:
                rejected.write_text(rejected_csv(checked.table, checked.rejected), encoding="utf-8")
            saved = bring_in.save(shop, checked, good_rows_only=good_rows_only, progress=_progress("Saving"))
        except (UnreadableFileError, NoSuchColumnError, SettingsError) as error:
            _fail(f"{file}: {error}")
        except bring_in.RejectedRowsError as error:
            _show_faults(error.rejected)
            _fail(f"{error} Nothing was brought in. Mend them, or use --good-rows-only.")
        click.echo(f"{saved.new} new, {saved.changed} changed, {saved.unchanged} as they were.")

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
    doc = _read_json(file, ShopFileDoc)
    try:
        bring_in_shop(_open(shop_path), doc)
    except SettingsError as error:
        _fail(f"{file}: {error}")
    click.echo(f"{doc.settings.name}: settings and {len(doc.zones)} zones.")


@import_.command("plans")
@file_argument
@shop_option
def import_plans(file: Path, shop_path: Path) -> None:
    """Bring in plans from a JSON file; a plan of the same name is replaced."""
    doc = _read_json(file, PlansFile)
    shop = _open(shop_path)
    try:
        bring_in_plans(shop, CountingRoom(shop), doc)
    except UnsoundPlanError as error:
        _fail(f"{file}: {error}")
    click.echo(f"{len(doc.plans)} plans.")


@main.command()
@shop_option
@click.option("--plan", "name", required=True, help="The plan's name.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
@click.option(
    "--why", "key", help="Print how one figure is made: impact, today, plan, plan/goods, bridge/given_away …"
)
@click.option("--keep", "keeps", is_flag=True, help="Keep it, to be held against what comes.")
@until_option
def forecast(shop_path: Path, name: str, as_json: bool, key: str | None, keeps: bool, until: datetime | None) -> None:
    """Forecast a plan: its answer, ledger and bridge."""
    shop = _open_existing(shop_path)
    doc = _plan_of(shop, name)
    room = CountingRoom(shop, None if until is None else until.date())
    try:
        if key is not None:
            working = room.working(doc, key)
            loaded = room.current().loaded
            text = working_text(working, loaded.currency, loaded.minor_digits)
            click.echo(working.model_dump_json(indent=2) if as_json else text)
            return
        whole = room.whole(doc)
        if keeps:
            keep_forecast(shop, room, doc)
    except UnknownFigureError:
        _fail(f"There is no figure “{key}”. Ask for impact, today or plan, or one of their parts.")
    except (UnsoundPlanError, NothingToCountError) as error:
        _fail(str(error))
    click.echo(whole.model_dump_json(indent=2) if as_json else _as_text(whole))


@main.command()
@shop_option
@until_option
@click.option("--sent", type=click.IntRange(1, MOST_SENT), multiple=True, help="Of a next message, sent to so many.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def learn(shop_path: Path, until: datetime | None, sent: tuple[int, ...], as_json: bool) -> None:
    """Say what history tells of how shoppers responded to the offers that ran."""
    from yellow_abacus.looking_back import look_back

    look, at = _progress("Looking back"), CountingRoom(_open_existing(shop_path)).current()
    try:
        *_, told = (_looked(one, look) for one in look_back(at, None if until is None else until.date(), sent))
    except UnsoundPlanError as error:
        _fail(str(error))
    assert told is not None
    click.echo(told.model_dump_json(indent=2) if as_json else history_text(told))


@main.command()
@shop_option
@click.option("--plan", "name", required=True, help="The plan's name.")
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def afterwards(shop_path: Path, name: str, as_json: bool) -> None:
    """Hold a plan's last forecast kept before its first day against the orders of its days."""
    shop = _open_existing(shop_path)
    with shop.reading() as session:
        rows = kept_of(session, name)
        session.expunge_all()
    if not rows:
        _fail(f"No forecast of “{name}” was kept. Keep one with forecast --keep.")
    before = [row for row in rows if date.fromisoformat(row.told["until"]) <= row.first_day]
    if not before:
        _fail(f"Every forecast kept of “{name}” knew orders of its days. Keep one with --until its first day.")
    try:
        told = against(shop, CountingRoom(shop), before[0])
    except (NothingCameError, UnsoundPlanError) as error:
        _fail(str(error))
    click.echo(told.model_dump_json(indent=2) if as_json else against_text(told))


def _looked(one: LookedDoc | HistorySaysDoc, look: Callable[[float], None]) -> HistorySaysDoc | None:
    if isinstance(one, HistorySaysDoc):
        return one
    look(one.share)
    return None


def _plan_of(shop: ShopFile, name: str) -> PlanDoc:
    with shop.reading() as session:
        row = plan_named(session, name)
        if row is None:
            names = ", ".join(plan.name for plan in all_plans(session)) or "none"
            _fail(f"The shop has no plan “{name}”. Its plans: {names}.")
        return plan_of(row)


@main.command("price")
@shop_option
@click.option("--plan", "name", help="The plan's name. Without it, the plan or offers in the file; else no offers.")
@click.option("--carts", "file", required=True, type=click.Path(exists=True, dir_okay=False, path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print everything as JSON.")
def price_carts(shop_path: Path, name: str | None, file: Path, as_json: bool) -> None:
    """Price the carts of a JSON file under a plan: every line, delivery, total, and why each offer applied or not."""
    carts = _read_json(file, CartsFile)
    shop = _open_existing(shop_path)
    room = CountingRoom(shop).current()
    plan = _plan_of(shop, name) if name is not None else carts.plan
    bare = plan is None
    plan = plan or PlanDoc(name="Offers", first_day=date.min, last_day=date.min, offers=carts.offers or [])
    try:
        checked = room.checked(plan)
        plan = plan if bare else checked
        window = ALWAYS if bare else (plan.first_day, plan.last_day)
        told = ring_up(room.loaded, carts.carts, plan.plan().typed.offers, plan.apply, window)
    except (UnsoundPlanError, UnsoundCartsError) as error:
        for problem in error.problems:
            where = "/".join(str(step) for step in problem.path)
            click.echo(f"{where}: {problem.message} {problem.mend}", err=True)
        _fail(f"{file}: nothing was priced.")
    click.echo(told.model_dump_json(indent=2) if as_json else _carts_as_text(told))


@main.command()
@shop_option
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", type=click.IntRange(0, 65535), default=8410, show_default=True)
@click.option(
    "--whoever-reaches-it-may-change-the-shop",
    "open_to_all",
    is_flag=True,
    help="Needed to listen on any address but this machine's own: there is no sign-in yet.",
)
@click.option("--demo", is_flag=True, help="Fill the shop with the demo shop if it is empty; start made-up carriers.")
@click.option("--carriers", "address", help="Address of the carriers' quote service.")
@click.option("--order-feed", "feed_address", help="Address of the feed new orders are fetched from.")
@click.option("--dev", is_flag=True, help="Restart when the code changes.")
def serve(
    shop_path: Path,
    host: str,
    port: int,
    open_to_all: bool,
    demo: bool,
    address: str | None,
    feed_address: str | None,
    dev: bool,
) -> None:
    """Serve the shop to a browser."""
    from yellow_abacus.carrier_tariffs import Carriers
    from yellow_abacus.order_feed import Feed
    from yellow_abacus.web.guard import LOOPBACK
    from yellow_abacus.web.serving import beside, make_server, run_server, run_server_reloading

    if host not in LOOPBACK and not open_to_all:
        _fail(
            f"{host} can be reached by others, and there is no sign-in yet. Use 127.0.0.1, or say"
            " --whoever-reaches-it-may-change-the-shop."
        )
    if dev:
        run_server_reloading(shop_path, host, port, demo)
        return
    shop = _open(shop_path)
    if demo:
        fill_apart(shop)
    with ExitStack() as standins:
        if demo:
            address = address or standins.enter_context(beside("carriers"))
            feed_address = feed_address or standins.enter_context(beside("order-feed"))
        carriers, feed = (Carriers(address) if address else None), (Feed(feed_address) if feed_address else None)
        run_server(make_server(shop, host, port, carriers, feed, open_to_all=open_to_all), host)


@main.command("demo-shop")
@shop_option
def demo_shop(shop_path: Path) -> None:
    """Fill an empty shop with the demo shop."""
    if not fill_with_demo_shop(_open(shop_path)):
        _fail("The shop is not empty: the demo shop only goes into a shop with nothing in it yet.")


def _standin(command: Callable[..., None]) -> Callable[..., None]:
    """The options of a stand-in for a service outside."""
    for option in (
        click.option("--failing", type=int, default=0, help="How many requests get an error; -1 for all."),
        click.option("--slow", type=float, default=0.0, help="Seconds before every answer."),
        click.option("--until-input-ends", is_flag=True, hidden=True, help="End with whoever started it."),
        click.option("--host", default="127.0.0.1", show_default=True),
    ):
        command = option(command)
    return command


@main.command()
@_standin
@click.option("--port", type=click.IntRange(0, 65535), default=8411, show_default=True)
def carriers(host: str, port: int, until_input_ends: bool, slow: float, failing: int) -> None:
    """Run the stand-in quote service of two made-up carriers."""
    from yellow_abacus.standins.carriers import make_carriers
    from yellow_abacus.standins.mood import Mood
    from yellow_abacus.web.serving import run_standin

    app = make_carriers(Mood(slow, failing))
    run_standin(app, "Two made-up carriers quote", host, port, until_input_ends=until_input_ends)


@main.command("order-feed")
@_standin
@click.option("--port", type=click.IntRange(0, 65535), default=8412, show_default=True)
def order_feed(host: str, port: int, until_input_ends: bool, slow: float, failing: int) -> None:
    """Run the stand-in shop that goes on selling, whose new orders can be fetched."""
    from yellow_abacus.standins.mood import Mood
    from yellow_abacus.standins.order_feed import make_order_feed
    from yellow_abacus.web.serving import run_standin

    app = make_order_feed(Mood(slow, failing))
    run_standin(app, "A made-up shop tells its orders", host, port, until_input_ends=until_input_ends)


@main.command("export")
@click.argument("kind", type=click.Choice(["goods", "tariffs", "charges", "surcharges"]))
@click.argument("out", type=click.Path(dir_okay=False, path_type=Path))
@shop_option
@click.option("--template", "as_template", is_flag=True, help="Write a template to fill in instead.")
def export(kind: Out, out: Path, shop_path: Path, as_template: bool) -> None:
    """Write all the shop has of one kind to a CSV or XLSX file, by its ending; it reads back just so."""
    ending = out.suffix.lower().lstrip(".")
    if ending not in ("csv", "xlsx"):
        _fail(f"{out}: name a file that ends in .csv or .xlsx.")
    with _open_existing(shop_path).reading() as session:
        has = Contents(all_goods(session), load_shop(session), shop_row(session).minor_digits)
    table = template(kind, has.digits) if as_template else shop_table(kind, has)
    out.write_bytes(as_file(table, "csv" if ending == "csv" else "xlsx"))
    click.echo(f"{out}: {len(table[1])} rows.")


@main.command("describe-api")
@click.argument("out", type=click.Path(path_type=Path))
def describe_api(out: Path) -> None:
    """Write the API description, from which the front end's types are generated."""
    import tempfile

    from yellow_abacus.web.app import make_app
    from yellow_abacus.web.description import description

    with tempfile.TemporaryDirectory() as folder:
        app = make_app(ShopFile(Path(folder) / "shop.sqlite"))
        _write_json(out, description(app))


@main.command("describe-forecast")
@click.argument("out", type=click.Path(path_type=Path))
def describe_forecast(out: Path) -> None:
    """Write the JSON Schema of a forecast."""
    _write_json(out, forecast_schema())


@main.command("describe-learned")
@click.argument("out", type=click.Path(path_type=Path))
def describe_learned(out: Path) -> None:
    """Write the JSON Schema of what history says."""
    _write_json(out, learned_schema())


@main.command("describe-afterwards")
@click.argument("out", type=click.Path(path_type=Path))
def describe_afterwards(out: Path) -> None:
    """Write the JSON Schema of a kept forecast held against what came."""
    _write_json(out, against_schema())


@main.command("describe-offers")
@click.argument("out", type=click.Path(path_type=Path))
def describe_offers(out: Path) -> None:
    """Write the JSON Schema of a file of offers."""
    _write_json(out, offers_schema())


@main.command("describe-plans")
@click.argument("out", type=click.Path(path_type=Path))
def describe_plans(out: Path) -> None:
    """Write the JSON Schema of a file of plans."""
    _write_json(out, plans_schema())


def _write_json(out: Path, told: Any) -> None:
    out.write_text(json.dumps(told, indent=1, sort_keys=True, ensure_ascii=False) + "\n", encoding="utf-8")


def _open_existing(path: Path) -> ShopFile:
    if not path.exists():
        _fail(f"There is no shop file {path}.")
    return _open(path)


def _open(path: Path) -> ShopFile:
    """Raises ShopFileError."""
    click.get_current_context().find_root().obj = path
    return ShopFile(path)


def _fail(message: str) -> NoReturn:
    click.echo(message, err=True)
    sys.exit(1)


def _read_json(file: Path, kind: type[Doc]) -> Doc:
    try:
        told = json.loads(file.read_bytes())
        if wrong := next(unsound(told), None):
            _fail(f"{file}: {'/'.join(map(str, wrong.path))}: {wrong.message} {wrong.mend}")
        return kind.model_validate(told)
    except (UnicodeDecodeError, RecursionError):
        _fail(f"{file} is not JSON that can be read.")
    except json.JSONDecodeError as error:
        _fail(f"{file} is not JSON: {error}.")
    except ValidationError as error:
        first: Any = error.errors()[0]
        _fail(f"{file}: {'/'.join(map(str, first['loc']))}: {first['msg']}")


def _progress(what: str) -> Callable[[float], None]:
    def show(share: float) -> None:
        if sys.stderr.isatty():
            click.echo(f"\r{what} {share:.0%} ", nl=share >= 1, err=True)

    return show


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
        _fail(f"No column was found for: {names}. The file's columns: {own}. Name one with --column HEADING=FIELD.")
    labels = {field.key: field.label for field in bring_in.KINDS[checked.kind].fields}
    matched = (f"{checked.table.header[at]} → {labels[key]}" for key, some in checked.columns.items() for at in some)
    click.echo("; ".join(matched), err=True)
    if unknown := not_understood(checked.table.header, checked.columns):
        told = ", ".join(unknown)
        click.echo(f'Not understood and left out: {told}. Name a field with --column "{unknown[0]}=…".', err=True)


def _as_text(told: WholeForecastDoc) -> str:
    width = max(len(line.label) for line in told.ledger)
    lines = [told.answer_text, "", f"{'':{width}} {'today':>14} {'plan':>14} {'change':>14}"]
    for line in told.ledger:
        figures = (money(value, told.currency, told.minor_digits) for value in (line.today, line.plan, line.change))
        lines.append(f"{line.label:{width}} " + " ".join(f"{figure:>14}" for figure in figures))
    return "\n".join([*lines, *(f"\n{caveat}" for caveat in told.caveats)])


def _carts_as_text(told: PricedCartsDoc) -> str:
    def cash(amount: int) -> str:
        return f"{money(amount, told.currency, told.minor_digits):>14}"

    lines: list[str] = []
    for number, cart in enumerate(told.carts, start=1):
        for outcome in cart.outcomes:
            share = "" if len(cart.outcomes) == 1 else f", {outcome.share:.0%} of shoppers"
            lines.append(f"Cart {cart.id or number}{share}")
            lines += [f"  {line.quantity:>4} x {line.sku:24} {cash(line.net)}" for line in outcome.lines]
            lines += [f"  {gift.quantity:>4} x {gift.sku:24} {cash(gift.asked)}  put in" for gift in outcome.put_in]
            for label, amount in (("delivery", outcome.delivery), ("tax", outcome.tax), ("total", outcome.total)):
                lines.append(f"  {label:31} {cash(amount)}")
            lines += [f"  {reason.offer}: {reason.text}" for reason in outcome.reasons]
    return "\n".join(lines)
