"""Shop settings and zones in the shop file."""

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yellow_abacus.store.models import GoodRow, OrderRow, ShopRow, ZoneRow


class SettingsError(Exception):
    """A change that cannot be made. field: which one. message, mend: what is wrong and what to do."""

    def __init__(self, field: str, message: str, mend: str) -> None:
        super().__init__(message)
        self.field, self.message, self.mend = field, message, mend


def shop_row(session: Session) -> ShopRow:
    return session.get_one(ShopRow, 1)


def zone_rows(session: Session) -> list[ZoneRow]:
    return list(session.scalars(select(ZoneRow).order_by(ZoneRow.id)))


def orders_by_zone(session: Session) -> dict[int, int]:
    counted = session.execute(select(OrderRow.zone_id, func.count()).group_by(OrderRow.zone_id))
    return {zone_id: count for zone_id, count in counted}


def save_settings(session: Session, values: Mapping[str, Any]) -> None:
    """Raises SettingsError where the currency counts other minor digits and prices are already in."""
    row = shop_row(session)
    if (
        values.get("minor_digits", row.minor_digits) != row.minor_digits
        and session.scalars(select(GoodRow.id)).first()
    ):
        raise SettingsError(
            "currency",
            f"{values['currency']} is counted in other minor units than {row.currency}, and prices are in already.",
            "Start a new shop file for that currency.",
        )
    for name, value in values.items():
        setattr(row, name, value)


def save_zones(session: Session, zones: Sequence[Mapping[str, Any]]) -> None:
    """Make the zones just these. A zone with `was` is that zone renamed. Raises SettingsError."""
    names = [zone["name"] for zone in zones]
    for at, name in enumerate(names):
        if name.casefold() in (other.casefold() for other in names[:at]):
            raise SettingsError(f"zones/{at}/name", f"There are two zones called {name}.", "Give each its own name.")
    rows = {row.name: row for row in zone_rows(session)}
    used = orders_by_zone(session)
    kept = {zone.get("was") or zone["name"] for zone in zones}
    for name, row in rows.items():
        if name not in kept:
            if row.id in used:
                raise SettingsError("zones", f"{used[row.id]} orders went to {name}.", "Keep the zone, or rename it.")
            session.delete(row)
    session.flush()
    for zone in zones:
        values = {name: zone[name] for name in ("name", "charge", "free_from", "cost")}
        known = rows.get(zone.get("was") or zone["name"])
        if known is None:
            session.add(ZoneRow(**values))
        else:
            for name, value in values.items():
                setattr(known, name, value)
    session.flush()
