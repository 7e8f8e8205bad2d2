"""What the commands of `forecasting` answer, of a shop that is being read."""

from collections.abc import Callable
from datetime import date, datetime
from pathlib import Path

import click

from yellow_abacus.bring_in_json import plan_of
from yellow_abacus.cli.common import fail, progress, read_json
from yellow_abacus.core.clauses.response import MOST_SENT
from yellow_abacus.core.forecast.working import UnknownFigureError
from yellow_abacus.counting import CountingRoom, NothingToCountError, UnsoundPlanError
from yellow_abacus.files.cart_json import PricedCartsDoc
from yellow_abacus.files.carts_file import CartsFile
from yellow_abacus.files.forecast_json import WholeForecastDoc
from yellow_abacus.files.kept_json import against_text
from yellow_abacus.files.learned_json import HistorySaysDoc, LookedDoc, history_text
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.words import money
from yellow_abacus.files.working_json import working_text
from yellow_abacus.keeping import NothingCameError, against, keep_forecast
from yellow_abacus.ringing_up import ALWAYS, UnsoundCartsError, ring_up
from yellow_abacus.store.kept import kept_of
from yellow_abacus.store.plans import all_plans, plan_named
from yellow_abacus.store.shop_file import ShopFile


def forecast(shop: ShopFile, name: str, as_json: bool, key: str | None, keeps: bool, until: datetime | None) -> None:
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
        fail(f"There is no figure “{key}”. Ask for impact, today or plan, or one of their parts.")
    except (UnsoundPlanError, NothingToCountError) as error:
        fail(str(error))
    click.echo(whole.model_dump_json(indent=2) if as_json else _as_text(whole))


def learn(shop: ShopFile, until: datetime | None, sent: tuple[int, ...], as_json: bool) -> None:
    from yellow_abacus.looking_back import look_back

    if max(sent, default=0) > MOST_SENT:
        raise click.BadParameter(f"No message goes to more than {MOST_SENT:,}.", param_hint="--sent")
    look, at = progress("Looking back"), CountingRoom(shop).current()
    try:
        *_, told = (_looked(one, look) for one in look_back(at, None if until is None else until.date(), sent))
    except UnsoundPlanError as error:
        fail(str(error))
    assert told is not None
    click.echo(told.model_dump_json(indent=2) if as_json else history_text(told))


def afterwards(shop: ShopFile, name: str, as_json: bool) -> None:
    with shop.reading() as session:
        rows = kept_of(session, name)
        session.expunge_all()
    if not rows:
        fail(f"No forecast of “{name}” was kept. Keep one with forecast --keep.")
    before = [row for row in rows if date.fromisoformat(row.told["until"]) <= row.first_day]
    if not before:
        fail(f"Every forecast kept of “{name}” knew orders of its days. Keep one with --until its first day.")
    try:
        told = against(shop, CountingRoom(shop), before[0])
    except (NothingCameError, UnsoundPlanError) as error:
        fail(str(error))
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
            fail(f"The shop has no plan “{name}”. Its plans: {names}.")
        return plan_of(row)


def price_carts(shop: ShopFile, name: str | None, file: Path, as_json: bool) -> None:
    carts = read_json(file, CartsFile)
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
        fail(f"{file}: nothing was priced.")
    click.echo(told.model_dump_json(indent=2) if as_json else _carts_as_text(told))


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
