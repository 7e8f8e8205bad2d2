"""Bringing a file in: read, match, check, and save all of it or nothing. What the command line and the web call.

A new kind of file is one entry in KINDS.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from sqlalchemy.orm import Session

from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.files.charges import ZoneOption, read_charges
from yellow_abacus.files.columns import (
    CHARGES,
    GOODS,
    ORDERS,
    SURCHARGES,
    TARIFFS,
    Columns,
    Field,
    chosen_columns,
    match_columns,
    missing_columns,
)
from yellow_abacus.files.goods import fields_given, read_goods
from yellow_abacus.files.orders import read_orders
from yellow_abacus.files.reading import Progress, guess_reading
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.shop_json import OPTION, terms_of
from yellow_abacus.files.surcharges import read_surcharges
from yellow_abacus.files.tables import Table, read_table
from yellow_abacus.files.tariffs import read_tariffs
from yellow_abacus.files.values import Reading
from yellow_abacus.store.goods import Saved, all_goods, save_goods
from yellow_abacus.store.imports import UNSAID
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.orders import save_orders
from yellow_abacus.store.settings import check_settings, put_options, put_surcharges, save_tariffs, shop_row
from yellow_abacus.store.shop_file import ShopFile

Kind = Literal["goods", "orders", "tariffs", "charges", "surcharges"]


class RejectedRowsError(Exception):
    """Some rows are not good, and it was not said to bring in the good ones only."""

    def __init__(self, rejected: list[Rejection]) -> None:
        super().__init__(f"{len({one.row for one in rejected})} rows cannot be brought in.")
        self.rejected = rejected


@dataclass(frozen=True)
class Checked:
    """A file read and checked, nothing saved. missing: required fields no column was found for.

    records: what the good rows hold, as the kind of file has it. file: its name, where it has one.
    """

    kind: Kind
    table: Table
    columns: Columns
    reading: Reading
    missing: list[Field]
    records: Sequence[Any]
    rejected: list[Rejection]
    file: str = ""

    @property
    def good(self) -> int:
        return len(self.records)


@dataclass(frozen=True)
class About:
    """What reading a file takes of the shop it is for."""

    shop: Shop
    digits: int
    prices: Mapping[str, int | None]


Found = tuple[Sequence[Any], list[Rejection]]


@dataclass(frozen=True)
class FileKind:
    """One kind of file: its fields, how it is read, and how what was read is saved."""

    fields: tuple[Field, ...]
    read: Callable[[Table, Columns, Reading, About, Progress], Found]
    save: Callable[[Session, Checked, Progress], Saved]


def _read_goods(table: Table, columns: Columns, reading: Reading, about: About, progress: Progress) -> Found:
    return read_goods(table, columns, reading, about.digits, progress)


def _read_orders(table: Table, columns: Columns, reading: Reading, about: About, progress: Progress) -> Found:
    return read_orders(table, columns, reading, about.digits, about.prices, progress)


def _read_tariffs(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    found = read_tariffs(table, columns, reading, about.digits)
    return found.things, found.rejected


def _read_charges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    tariffs = {tariff.name for tariff in about.shop.tariffs}
    found = read_charges(table, columns, reading, about.digits, tariffs)
    return found.things, found.rejected


def _read_surcharges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    classes = {one.name for one in about.shop.taxes.classes}
    found = read_surcharges(table, columns, reading, about.digits, about.shop.zone_names, classes)
    return found.things, found.rejected


def _save_charges(session: Session, checked: Checked, _: Progress) -> Saved:
    zones: dict[str, tuple[tuple[str, ...], list[dict[str, Any]]]] = {}
    for one in checked.records:
        assert isinstance(one, ZoneOption)
        places, options = zones.get(one.zone, ((), []))
        zones[one.zone] = (places or one.places, [*options, OPTION.dump_python(one.option, mode="json")])
    saved = put_options(session, zones, places_too="places" in checked.columns)
    check_settings(session)
    return Saved(*saved)


def _save_tariffs(session: Session, checked: Checked, _: Progress) -> Saved:
    saved = save_tariffs(session, [terms_of(tariff) for tariff in checked.records])
    check_settings(session)
    return Saved(*saved)


def _save_surcharges(session: Session, checked: Checked, _: Progress) -> Saved:
    saved = put_surcharges(session, [terms_of(one) for one in checked.records])
    check_settings(session)
    return Saved(*saved)


KINDS: dict[Kind, FileKind] = {
    "goods": FileKind(
        GOODS,
        _read_goods,
        lambda session, checked, progress: save_goods(
            session, checked.records, fields_given(checked.columns), progress
        ),
    ),
    "orders": FileKind(
        ORDERS,
        _read_orders,
        lambda session, checked, progress: save_orders(session, checked.records, progress, checked.file or UNSAID),
    ),
    "tariffs": FileKind(TARIFFS, _read_tariffs, _save_tariffs),
    "charges": FileKind(CHARGES, _read_charges, _save_charges),
    "surcharges": FileKind(SURCHARGES, _read_surcharges, _save_surcharges),
}


def check(
    shop_file: ShopFile,
    kind: Kind,
    data: bytes,
    chosen: Iterable[str] = (),
    progress: Progress = lambda _: None,
    *,
    columns: Columns | None = None,
    reading: Reading | None = None,
    file: str = "",
) -> Checked:
    """Read and check a file. file: its name. columns and reading are guessed unless given; chosen: columns chosen by
    hand besides those guessed, as `Their heading=field`.

    Raises UnreadableFileError and NoSuchColumnError.
    """
    table, fields = read_table(data), KINDS[kind].fields
    if columns is None:
        columns = match_columns(table.header, fields, chosen_columns(table.header, fields, chosen))
    return replace(check_table(shop_file, kind, table, columns, reading, progress), file=file)


def check_table(
    shop_file: ShopFile,
    kind: Kind,
    table: Table,
    columns: Columns | None = None,
    reading: Reading | None = None,
    progress: Progress = lambda _: None,
) -> Checked:
    fields = KINDS[kind].fields
    matched = match_columns(table.header, fields) if columns is None else dict(columns)
    reading = reading or guess_reading(table, matched)
    missing = missing_columns(matched, fields)
    records: Sequence[Any] = []
    rejected: list[Rejection] = []
    if not missing:
        with shop_file.reading() as session:
            prices = {good.sku: good.list_price for good in all_goods(session)} if kind == "orders" else {}
            about = About(load_shop(session), shop_row(session).minor_digits, prices)
        records, rejected = KINDS[kind].read(table, matched, reading, about, progress)
    return Checked(kind, table, matched, reading, missing, records, rejected)


def save(
    shop_file: ShopFile, checked: Checked, *, good_rows_only: bool = False, progress: Progress = lambda _: None
) -> Saved:
    """Save what was checked, as one undoable change. Raises RejectedRowsError and SettingsError."""
    if checked.rejected and not good_rows_only:
        raise RejectedRowsError(checked.rejected)
    with shop_file.changing(f"Bring in {checked.good} {checked.kind}") as session:
        return KINDS[checked.kind].save(session, checked, progress)
