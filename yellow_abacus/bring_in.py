"""Bringing a file in: read, match, check, and save all of it or nothing. What the command line and the web call.

A new kind of file is one entry in KINDS.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from babel.lists import format_list
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.naming import LONGEST_NAME
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.facts_of_known import with_their_orders
from yellow_abacus.files.charges import ZoneOption, read_charges
from yellow_abacus.files.clocks import tells_utc
from yellow_abacus.files.columns import Columns, chosen_columns, match_columns, missing_columns
from yellow_abacus.files.currencies_told import with_currencies, without_foreign_costs
from yellow_abacus.files.fields import CHARGES, GOODS, ORDERS, SURCHARGES, TARIFFS, Field
from yellow_abacus.files.for_shop import About, Kind
from yellow_abacus.files.goods import fields_given, notes_of_rates, notes_of_zeros, read_goods
from yellow_abacus.files.goods_shapes import without_bare_rows
from yellow_abacus.files.kits_told import ShopGoods, a_row_a_kit, notes_of_kits
from yellow_abacus.files.meant_skus import notes_of_names
from yellow_abacus.files.missing_goods import missing_goods
from yellow_abacus.files.no_goods import NameTold, notes_of_parts
from yellow_abacus.files.order_statuses import StatusTold, of_refused
from yellow_abacus.files.order_totals import notes_of_totals
from yellow_abacus.files.orders import read_orders
from yellow_abacus.files.reading import Progress
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.shop_json import OPTION, terms_of
from yellow_abacus.files.stock_told import a_row_a_sku, notes_of_stock
from yellow_abacus.files.surcharges import read_surcharges
from yellow_abacus.files.tables import Table, read_tables, refuse_size
from yellow_abacus.files.tariffs import notes_of_free_steps, notes_of_steps, read_tariffs
from yellow_abacus.files.taxes_told import called, taxes_told
from yellow_abacus.files.units_told import units_told
from yellow_abacus.files.values import Reading
from yellow_abacus.files.variants import notes_of_variants, with_variants
from yellow_abacus.files.with_tax import COSTS_WITHOUT, note_of
from yellow_abacus.remembering import recall, remember
from yellow_abacus.store.goods import Saved, any_goods, good_rows, save_goods, skus_and_kits, tax_classes_of
from yellow_abacus.store.imports import UNSAID
from yellow_abacus.store.loading import load_shop, taxes_of
from yellow_abacus.store.migrating import NEW_SHOP
from yellow_abacus.store.orders import OrderFile, save_orders
from yellow_abacus.store.settings import (
    SettingsError,
    check_settings,
    put_options,
    put_surcharges,
    save_settings,
    save_tariffs,
    shop_row,
    taxes_as_kept,
    zone_rows,
)
from yellow_abacus.store.shop_file import ShopFile

FEW_NAMED = 2
"""So many of the files brought in together are named, or one more where that is all."""


class RejectedRowsError(Exception):
    """Some rows are not good, and it was not said to bring in the good ones only."""

    def __init__(self, rejected: list[Rejection]) -> None:
        super().__init__(f"{len({one.row for one in rejected})} rows cannot be brought in.")
        self.rejected = rejected


@dataclass(frozen=True)
class Before:
    """What a shop has that its first goods may set: its currency and taxes."""

    currency: str
    taxes: Taxes


@dataclass(frozen=True)
class Checked:
    """A file read and checked, nothing saved. missing: required fields no column was found for.

    records: what the good rows hold, as the kind of file has it. file: its name, where it has one. remembered:
    whether it is read as one of the same headings was before.

    foreign: currencies other than the shop's. Of orders: statuses, rounded, gone, tells, no_goods and in_utc as in
    `OrdersRead`; missing_goods as in `files.missing_goods`.

    currency: the shop's, or that a shop without anything takes over from its first goods; digits: of it. taxes: the
    shop's, with what goods tell of them; None of other kinds of files. notes: what is done with its amounts, in
    words. before: the shop as it is.
    """

    kind: Kind
    table: Table
    columns: Columns
    reading: Reading
    missing: list[Field]
    records: Sequence[Any]
    rejected: list[Rejection]
    before: Before
    file: str = ""
    remembered: bool = False
    statuses: tuple[StatusTold, ...] = ()
    rounded: int = 0
    foreign: tuple[str, ...] = ()
    missing_goods: Sequence[GoodRecord] = ()
    gone: Mapping[str, str] = field(default_factory=dict)
    tells: frozenset[str] = frozenset()
    no_goods: tuple[NameTold, ...] = ()
    in_utc: bool = False
    currency: str = ""
    digits: int = 2
    taxes: Taxes | None = None
    notes: Sequence[str] = ()

    @property
    def good(self) -> int:
        return len(self.records)

    @property
    def says(self) -> list[str]:
        """What it sets for the whole shop, and what is done with its amounts, in words."""
        told = list[str]()
        if self.currency != self.before.currency:
            told.append(f"Your shop will count in {self.currency}, as these prices do.")
        before, taxes = self.before.taxes, self.taxes or self.before.taxes
        if taxes.included != before.included:
            told.append(f"Your shop’s prices will be {'with' if taxes.included else 'without'} tax, as these are.")
        if taxes.classes[0] != before.classes[0]:
            told.append(f"Goods that tell no rate of tax will be taxed at {called(taxes.classes[0].rate_bp)}.")
        if added := [one.name for one in taxes.classes[len(before.classes) :]]:
            what = "a tax class" if len(added) == 1 else "tax classes"
            told.append(f"{format_list(added, locale='en')} will be {what} of your shop, as rates of these goods.")
        return [*told, *self.notes]


@dataclass(frozen=True)
class Found:
    """What was read of a file: the rest as in `Checked`."""

    records: Sequence[Any]
    rejected: list[Rejection]
    statuses: tuple[StatusTold, ...] = ()
    rounded: int = 0
    foreign: tuple[str, ...] = ()
    missing_goods: Sequence[GoodRecord] = ()
    gone: Mapping[str, str] = field(default_factory=dict)
    tells: frozenset[str] = frozenset()
    no_goods: tuple[NameTold, ...] = ()
    in_utc: bool = False
    taxes: Taxes | None = None
    notes: Sequence[str] = ()


@dataclass(frozen=True)
class FileKind:
    """One kind of file: its fields, how it is read, and how what was read is saved."""

    fields: tuple[Field, ...]
    read: Callable[[Table, Columns, Reading, About, Progress], Found]
    save: Callable[[Session, Checked, Progress], Saved]


def _read_goods(table: Table, columns: Columns, reading: Reading, about: About, progress: Progress) -> Found:
    taxes = about.shop.taxes
    tax = taxes_told(table, columns, reading, taxes, about.classes, is_new=about.tax_is_open)
    foreign = about.foreign(table, columns, reading)
    table, products = with_variants(without_bare_rows(table, columns), columns)
    merged = a_row_a_sku(table, columns, reading.decimal_mark)
    whole = a_row_a_kit(merged, columns, reading.decimal_mark)
    units = units_told(whole, columns, reading.decimal_mark)
    records, rejected = read_goods(whole, columns, reading, about.digits, units, foreign, tax, about.known, progress)
    notes = [
        *table.says,
        *notes_of_variants(products),
        *tax.notes,
        *notes_of_stock(table, merged, columns, reading.decimal_mark),
        *units.says,
        *notes_of_zeros(records),
        *notes_of_rates(records),
        *notes_of_kits(records),
    ]
    named = {record.tax_class for record in records}
    known = len(taxes.classes)
    added = [one for one in tax.taxes.classes[known:] if one.name in named]
    taxes = replace(tax.taxes, classes=(*tax.taxes.classes[:known], *added))
    return Found(records, rejected, foreign=foreign.currencies, taxes=taxes, notes=notes)


def _read_orders(table: Table, columns: Columns, reading: Reading, about: About, progress: Progress) -> Found:
    columns, left_out = without_foreign_costs(table, columns, about.currency.upper())
    table, columns = with_currencies(table, columns, about.currency.upper())
    found = read_orders(table, columns, reading, about.for_orders, progress)
    missing = missing_goods(table, columns, reading, about.digits, about.skus) if found.rejected else ()
    return Found(
        found.orders,
        found.rejected,
        found.statuses,
        found.rounded,
        found.foreign,
        missing,
        found.gone,
        found.tells,
        found.no_goods,
        found.in_utc,
        notes=[
            *table.says,
            *left_out,
            *notes_of_names(table, columns),
            *notes_of_parts(found.parts),
            *of_refused(found.statuses),
            *notes_of_totals(found.less),
        ],
    )


def _read_tariffs(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    foreign = about.foreign(table, columns, reading)
    found = read_tariffs(table, columns, reading, about.digits, foreign, about.shop.taxes)
    notes = [
        *table.says,
        *([COSTS_WITHOUT] if reading.taxed == "with tax" else []),
        *notes_of_steps(table, columns),
        *notes_of_free_steps(found.things),
    ]
    return Found(found.things, found.rejected, foreign=foreign.currencies, notes=notes)


def _read_charges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    tariffs = {tariff.name for tariff in about.shop.tariffs}
    taxes = about.shop.taxes
    foreign = about.foreign(table, columns, reading)
    found = read_charges(table, columns, reading, about.digits, foreign, tariffs, taxes)
    notes = [*table.says, *notes_of_steps(table, columns), *note_of("Charges", taxes, reading.taxed)]
    return Found(found.things, found.rejected, foreign=foreign.currencies, notes=notes)


def _read_surcharges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    taxes = about.shop.taxes
    foreign = about.foreign(table, columns, reading)
    found = read_surcharges(table, columns, reading, about.digits, foreign, about.shop.zone_names, taxes)
    notes = [*table.says, *note_of("Amounts", taxes, reading.taxed)]
    return Found(found.things, found.rejected, foreign=foreign.currencies, notes=notes)


def _save_goods(session: Session, checked: Checked, progress: Progress) -> Saved:
    if checked.currency != shop_row(session).currency:
        if not _is_new(session):
            message = f"The shop does not count in {checked.currency}, as it did when the file was read."
            raise SettingsError([Problem(("currency",), message, "Choose the file again.")])
        save_settings(session, {"currency": checked.currency, "minor_digits": checked.digits})
    if checked.taxes is not None and checked.taxes != checked.before.taxes:
        if taxes_of(shop_row(session)) != checked.before.taxes:
            message = "The shop's tax was set otherwise since the file was read."
            raise SettingsError([Problem(("tax_classes",), message, "Choose the file again.")])
        save_settings(session, taxes_as_kept(checked.taxes))
        check_settings(session)
    return save_goods(session, checked.records, fields_given(checked.columns), progress)


def _save_orders(session: Session, checked: Checked, progress: Progress) -> Saved:
    file = OrderFile(checked.file or UNSAID, checked.gone, checked.rounded, checked.tells)
    return save_orders(session, checked.records, progress, file)


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
    "goods": FileKind(GOODS, _read_goods, _save_goods),
    "orders": FileKind(ORDERS, _read_orders, _save_orders),
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
    rates: Iterable[tuple[str, float]] = (),
    no_goods: Iterable[str] = (),
    clock: str = "",
    usual_clock: str = "",
    file: str = "",
    more: Sequence[tuple[str, bytes]] = (),
) -> Checked:
    """Read and check a file. file: its name. more: names and bytes of others brought in together with it. columns and
    reading are those of the last file with the same headings, or guessed, unless given; chosen: columns chosen by
    hand besides, as `Their heading=field`. rates: what one unit of some currencies is in the shop's, besides those of
    the reading; no_goods: names of rows without goods to be passed over, besides; clock: the one that times told in
    UTC are put on, in place of the reading's, or of the usual one where that is guessed.

    Raises UnreadableFileError and NoSuchColumnError.
    """
    files, fields, remembered = _read([(file, data), *more]), KINDS[kind].fields, None
    with shop_file.reading() as session:
        about = _about(session, kind)
        table = _one_table(session, about, kind, files, file)
        if columns is None:
            by_hand = chosen_columns(table.header, fields, chosen)
            remembered = None if by_hand else recall(session, kind, table.header)
            columns = about.guess(table, fields, by_hand) if remembered is None else remembered.columns(fields)
            reading = reading if remembered is None else remembered.reading
    before = Before(about.currency, about.shop.taxes)
    about = about.as_told(kind, table, columns)
    missing = missing_columns(columns, fields)
    if reading is None:
        reading = about.guess_reading(table, columns)
        in_utc = kind == "orders" and tells_utc(table, columns)
        reading = replace(reading, clock=usual_clock if in_utc else "")
    reading = replace(
        reading,
        rates=tuple((dict(reading.rates) | dict(rates)).items()),
        no_goods=tuple((dict(reading.no_goods) | dict.fromkeys(no_goods, True)).items()),
        clock=clock or reading.clock,
    )
    found = Found([], [], notes=table.says) if missing else KINDS[kind].read(table, columns, reading, about, progress)
    return Checked(
        kind,
        table,
        columns,
        reading,
        missing,
        file=all_named([file, *(name for name, _ in more)]),
        remembered=remembered is not None,
        currency=about.currency,
        digits=about.digits,
        before=before,
        **vars(found),
    )


def _one_table(session: Session, about: About, kind: Kind, files: Sequence[Sequence[Table]], file: str) -> Table:
    """The table to bring in: of files that tell something of orders the shop has, and no goods, with those beside.
    Raises UnreadableFileError."""
    fields = KINDS[kind].fields
    table = about.one_table(kind, files, fields, file)
    if kind != "orders" or not missing_columns(match_columns(table.header, fields), fields):
        return table
    if not missing_columns(about.guess(table, fields, {}), fields):  # which takes long
        return table
    return with_their_orders(session, files) or table


def all_named(files: Iterable[str]) -> str:
    """The names of files brought in together: a few, and how many more; cut short where that is longer than a name
    may be.

    >>> all_named(["orders.csv", "items.csv"]), all_named(["a.csv", "b.csv", "c.csv", "d.csv", "e.csv"])
    ('orders.csv and items.csv', 'a.csv, b.csv, and 3 more')
    """
    names = list(files)
    if len(names) > FEW_NAMED + 1:
        names = [*names[:FEW_NAMED], f"{len(names) - FEW_NAMED} more"]
    return format_list(names, locale="en")[:LONGEST_NAME]


def _read(files: Sequence[tuple[str, bytes]]) -> list[list[Table]]:
    """The tables of each file. Raises UnreadableFileError, which names the file where there are several."""
    refuse_size(sum(len(data) for _, data in files))
    found = []
    for name, data in files:
        try:
            found.append(read_tables(data, name))
        except UnreadableFileError as error:
            if len(files) == 1:
                raise
            raise UnreadableFileError(f"{name}: {error.message}", error.mend, error.row) from error
    return found


def _about(session: Session, kind: Kind) -> About:
    row, goods = shop_row(session), good_rows(session)[0] if kind == "orders" else None
    classes = tax_classes_of(session) if kind == "goods" else {}
    known = ShopGoods(*skus_and_kits(session)) if kind == "goods" else ShopGoods([], {})
    tax_is_open = not row.tax_said and _is_bare(session)
    return About(
        load_shop(session), row.minor_digits, row.currency, goods, classes, known, _is_new(session), tax_is_open
    )


def _is_new(session: Session) -> bool:
    """Whether nothing is in the shop yet that counts in a currency, and nobody has chosen another than it begins
    with."""
    return shop_row(session).currency == NEW_SHOP["currency"] and _is_bare(session)


def _is_bare(session: Session) -> bool:
    return not any_goods(session) and not zone_rows(session)


def save(
    shop_file: ShopFile, checked: Checked, *, good_rows_only: bool = False, progress: Progress = lambda _: None
) -> Saved:
    """Save what was checked, as one undoable change. Raises RejectedRowsError and SettingsError."""
    if checked.rejected and not good_rows_only:
        raise RejectedRowsError(checked.rejected)
    with shop_file.changing(f"Bring in {checked.good} {checked.kind}", adds_only=checked.kind == "orders") as session:
        remember(session, checked.kind, checked.table.header, checked.columns, checked.reading)
        return KINDS[checked.kind].save(session, checked, progress)
