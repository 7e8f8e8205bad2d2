"""Shop settings, zones, tariffs and surcharges in the shop file."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.check_shop import check_shop
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.store.history import recorder_of
from yellow_abacus.store.imports import of_live
from yellow_abacus.store.loading import TAX_CLASSES, load_shop
from yellow_abacus.store.models import GoodRow, OrderRow, ShopRow, SurchargeRow, TariffRow, ZoneRow


class SettingsError(Exception):
    """A change that cannot be made; `problems` tell where, why, and what to do."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        super().__init__("; ".join(f"{problem.message} {problem.mend}" for problem in problems))
        self.problems = problems


def shop_row(session: Session) -> ShopRow:
    return session.get_one(ShopRow, 1)


def zone_rows(session: Session) -> list[ZoneRow]:
    return list(session.scalars(select(ZoneRow).order_by(ZoneRow.id)))


def tariff_rows(session: Session) -> list[TariffRow]:
    return list(session.scalars(select(TariffRow).order_by(TariffRow.name)))


def surcharge_rows(session: Session) -> list[SurchargeRow]:
    return list(session.scalars(select(SurchargeRow).order_by(SurchargeRow.id)))


def orders_by_zone(session: Session) -> dict[int, int]:
    counted = session.execute(of_live(session, select(OrderRow.zone_id, func.count()).group_by(OrderRow.zone_id)))
    return {zone_id: count for zone_id, count in counted}


def check_settings(session: Session) -> None:
    """Raises SettingsError unless the shop as the session has it makes sense; to be called after every change."""
    session.flush()
    if problems := check_shop(load_shop(session)):
        raise SettingsError(problems)


def save_settings(session: Session, values: Mapping[str, Any]) -> None:
    """Raises SettingsError where the currency counts other minor digits and prices are already in."""
    row = shop_row(session)
    if (
        values.get("minor_digits", row.minor_digits) != row.minor_digits
        and session.scalars(select(GoodRow.id)).first()
    ):
        message = (
            f"{values['currency']} is counted in other minor units than {row.currency}, and prices are in already."
        )
        raise SettingsError([Problem(("currency",), message, "Start a new shop file for that currency.")])
    for name, value in values.items():
        setattr(row, name, value)


def taxes_as_kept(taxes: Taxes) -> dict[str, Any]:
    """For `save_settings`: whether prices are with tax, and the classes."""
    return {
        "prices_with_tax": taxes.included,
        "tax_classes": TAX_CLASSES.dump_python(taxes.classes, mode="json"),
    }


def save_zones(session: Session, zones: Sequence[Mapping[str, Any]]) -> None:
    """Make the zones just these, in this order. Raises SettingsError.

    A zone with `was` is that zone renamed; so is the one option that has another name than before in its place, and
    orders that went by it follow.
    """
    names = [zone["name"] for zone in zones]
    for at, name in enumerate(names):
        if folded(name) in map(folded, names[:at]):
            message = f"There are two zones called {name}."
            raise SettingsError([Problem(("zones", at, "name"), message, "Give each its own name.")])
    rows = {row.name: row for row in zone_rows(session)}
    used = orders_by_zone(session)
    kept = {zone.get("was") or zone["name"] for zone in zones}
    for name, row in rows.items():
        if name not in kept:
            if row.id in used:
                message = f"{used[row.id]} orders went to {name}."
                raise SettingsError([Problem(("zones",), message, "Keep the zone, or rename it.")])
            session.delete(row)
    session.flush()
    renamed = {zone["was"]: zone["name"] for zone in zones if zone.get("was") and zone["was"] != zone["name"]}
    for zone in zones:
        values = {name: zone[name] for name in ("name", "places", "options")}
        known = rows.get(zone.get("was") or zone["name"])
        if known is not None:
            _rename_option(session, known, [option["name"] for option in zone["options"]])
        _put(session, ZoneRow, known, values)
    if renamed:
        _rename(session, renamed)
    session.flush()


def _rename_option(session: Session, zone: ZoneRow, names: Sequence[str]) -> None:
    before = [option["name"] for option in zone.options]
    moved = [(was, name) for was, name in zip(before, names, strict=False) if was != name]
    if len(before) != len(names) or len(moved) != 1 or moved[0][1] in before:
        return
    was, name = moved[0]
    orders = OrderRow.__table__
    here = (orders.c.zone_id == zone.id) & (orders.c.option == was)
    recorder = recorder_of(session)
    for row in session.execute(select(orders).where(here)).mappings():
        recorder.row_was(OrderRow.__tablename__, row["id"], dict(row))
    session.execute(update(OrderRow).where(OrderRow.zone_id == zone.id, OrderRow.option == was).values(option=name))


def _rename(session: Session, renamed: Mapping[str, str]) -> None:
    """Call zones by their new names wherever taxes and surcharges name them."""
    for surcharge in surcharge_rows(session):
        where = surcharge.terms.get("where", {})
        told = {clause: [renamed.get(zone, zone) for zone in where.get(clause, [])] for clause in _ZONE_CLAUSES}
        surcharge.terms = surcharge.terms | {"where": where | told}
    row = shop_row(session)
    row.tax_classes = [
        one | {"zones": [rate | {"zone": renamed.get(rate["zone"], rate["zone"])} for rate in one.get("zones", [])]}
        for one in row.tax_classes
    ]


_ZONE_CLAUSES = ("zones", "except_zones")


def _refuse_twins(what: str, told: Sequence[tuple[str, Mapping[str, Any]]]) -> None:
    """Raises SettingsError where two have one name."""
    seen: set[str] = set()
    for at, (name, _) in enumerate(told):
        if folded(name) in seen:
            problem = Problem((what, at, "name"), f"There are two of the name “{name}”.", "Give each its own.")
            raise SettingsError([problem])
        seen.add(folded(name))


def save_tariffs(
    session: Session, tariffs: Sequence[tuple[str, Mapping[str, Any]]], source: str = "", at: datetime | None = None
) -> tuple[int, int, int]:
    """Add tariffs, or change those of the same name; how many were new, changed, and just so already."""
    _refuse_twins("tariffs", tariffs)
    known = {row.name: row for row in tariff_rows(session)}
    new = changed = 0
    for name, terms in tariffs:
        row = known.get(name)
        if row is None:
            new += 1
            session.add(TariffRow(name=name, terms=dict(terms), source=source, fetched_at=at))
        elif row.terms != terms or row.source != source or at is not None:
            changed += row.terms != terms
            row.terms, row.source, row.fetched_at = dict(terms), source, at
    session.flush()
    return new, changed, len(tariffs) - new - changed


def put_options(
    session: Session,
    zones: Mapping[str, tuple[Sequence[str], Sequence[Mapping[str, Any]]]],
    *,
    places_too: bool,
) -> tuple[int, int, int]:
    """Give zones (made if they are not there) their places and options; how many were new, changed, just so."""
    rows = {row.name: row for row in zone_rows(session)}
    new = changed = 0
    for name, (places, options) in zones.items():
        told = [dict(option) for option in options]
        row = rows.get(name)
        if row is None:
            new += 1
            session.add(ZoneRow(name=name, places=list(places), options=told))
            continue
        wanted = list(places) if places_too else row.places
        if row.options != told or row.places != wanted:
            changed += 1
            row.options, row.places = told, wanted
    session.flush()
    return new, changed, len(zones) - new - changed


def put_surcharges(session: Session, surcharges: Sequence[tuple[str, Mapping[str, Any]]]) -> tuple[int, int, int]:
    """Add surcharges, or change those of the same name; how many were new, changed, and just so already."""
    rows = {row.name: row for row in surcharge_rows(session)}
    changed = [name for name, terms in surcharges if name in rows and rows[name].terms != terms]
    fresh = [name for name, _ in surcharges if name not in rows]
    for name, terms in surcharges:
        _put(session, SurchargeRow, rows.get(name), {"name": name, "terms": dict(terms)})
    session.flush()
    return len(fresh), len(changed), len(surcharges) - len(fresh) - len(changed)


def remove_tariff(session: Session, name: str) -> None:
    """Options that went by it go by it no more."""
    for row in tariff_rows(session):
        if row.name == name:
            session.delete(row)
    for zone in zone_rows(session):
        zone.options = [
            option
            | {
                "tariffs": [one for one in option.get("tariffs", []) if one != name],
                "preferred": [rule for rule in option.get("preferred", []) if rule["tariff"] != name],
            }
            for option in zone.options
        ]
    session.flush()


def save_surcharges(session: Session, surcharges: Sequence[tuple[str, Mapping[str, Any]]]) -> None:
    """Make the surcharges just these."""
    _refuse_twins("surcharges", surcharges)
    rows = {row.name: row for row in surcharge_rows(session)}
    kept = {name for name, _ in surcharges}
    for name, row in rows.items():
        if name not in kept:
            session.delete(row)
    session.flush()
    put_surcharges(session, surcharges)


def _put(session: Session, kind: type, known: Any, values: Mapping[str, Any]) -> None:
    if known is None:
        session.add(kind(**values))
        return
    for name, value in values.items():
        setattr(known, name, value)
