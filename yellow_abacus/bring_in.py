"""Bringing a file in: read, match, check, and save all of it or nothing. What the command line and the web call.

A new kind of file is one entry in KINDS.
"""

from collections import defaultdict
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from math import nan
from typing import Any, Literal

from babel.lists import format_list
from babel.numbers import get_currency_precision
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.making_goods import GoodTable
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.files.amounts_told import AmountsTold
from yellow_abacus.files.charges import ZoneOption, read_charges, with_zone_and_option
from yellow_abacus.files.clocks import tells_utc
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
    simplify,
)
from yellow_abacus.files.contents import Contents
from yellow_abacus.files.currencies_told import ForeignAmounts, foreign_amounts, only_currency, with_currencies
from yellow_abacus.files.goods import fields_given, notes_of_zeros, read_goods
from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.keyed_cells import lines_in_cells
from yellow_abacus.files.kits_told import ShopGoods, a_row_a_kit, notes_of_kits, with_units_of_parts
from yellow_abacus.files.meant_skus import with_skus_alone
from yellow_abacus.files.missing_goods import missing_goods
from yellow_abacus.files.no_goods import NameTold, notes_of_parts
from yellow_abacus.files.order_shapes import a_column_a_sku, a_row_a_unit, dated_in_parts, side_by_side
from yellow_abacus.files.order_statuses import StatusTold
from yellow_abacus.files.orders import OrderShop, read_orders
from yellow_abacus.files.rate_cards import OF_CARRIERS, OF_SHOPPERS, a_row_a_step
from yellow_abacus.files.reading import Progress, guess_reading
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.shop_json import OPTION, terms_of
from yellow_abacus.files.stock_told import a_row_a_sku, notes_of_stock, with_stock_of_places
from yellow_abacus.files.surcharges import read_surcharges
from yellow_abacus.files.tables import Table, read_table
from yellow_abacus.files.tariffs import notes_of_free_steps, read_tariffs
from yellow_abacus.files.taxes_told import called, taxes_told
from yellow_abacus.files.told_above import told_above
from yellow_abacus.files.values import Reading, Taxed
from yellow_abacus.files.with_tax import COSTS_WITHOUT, note_of, taxed_by
from yellow_abacus.remembering import recall, remember
from yellow_abacus.store.goods import Saved, any_goods, good_rows, save_goods, skus_and_kits, tax_classes_of
from yellow_abacus.store.imports import UNSAID
from yellow_abacus.store.loading import load_shop
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

Kind = Literal["goods", "orders", "tariffs", "charges", "surcharges"]


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
class About:
    """What reading a file takes of the shop it is for.

    goods: where it is a file of orders; classes, known: the tax classes of goods, and all that may be parts of kits,
    where it is one of goods. is_new: whether its currency may be told by its first goods; tax_is_open: whether its
    tax may be.
    """

    shop: Shop
    digits: int
    currency: str
    goods: GoodTable | None
    classes: Mapping[str, str]
    known: ShopGoods
    is_new: bool
    tax_is_open: bool

    def as_told(self, kind: Kind, table: Table, columns: Columns) -> "About":
        """A new shop in the currency its first goods are told in."""
        told = only_currency(table, columns, self.currency) if self.is_new and kind == "goods" else ""
        return replace(self, currency=told, digits=get_currency_precision(told)) if told else self

    def guess(self, table: Table, fields: tuple[Field, ...], by_hand: Mapping[str, int]) -> Columns:
        """The column taken for each field. by_hand: those chosen."""
        if self.goods is None:
            contents = Contents(table)
            columns = match_columns(table.header, fields, by_hand, contents.can_be)
            if "stock" in by_hand:
                return columns
            return with_stock_of_places(table, with_units_of_parts(table, columns), contents)
        return guess_columns(table, by_hand, self._prices)

    def guess_reading(self, table: Table, columns: Columns) -> Reading:
        """How the file's cells are read."""
        reading = guess_reading(table, columns)
        if self.goods is None:
            return reading
        told = AmountsTold(table, columns, reading.decimal_mark)
        if "rate" in columns:
            reading = replace(reading, rates_of="ours" if told.rates_are_ours(self._prices) else "theirs")
        otherwise = told.are_taxed_otherwise(self._prices, self._taxed_otherwise, 10**-self.digits)
        if otherwise:
            return replace(reading, taxed=self._other_taxed)
        both = "with tax" in {taxed_by([heading]) for heading in table.header}  # so that *net* is of tax there
        return reading if otherwise is None or both else replace(reading, taxed="as the shop")

    @property
    def _other_taxed(self) -> Taxed:
        """How prices are told that are not told as the shop's."""
        return "without tax" if self.shop.taxes.included else "with tax"

    @cached_property
    def _taxed_otherwise(self) -> dict[str, float]:
        """By SKU, folded, what prices told the other way are in times the shop's."""
        assert self.goods is not None, "orders name goods"
        taxes = self.shop.taxes
        more = [1 + one.rate_bp / WHOLE_BP for one in taxes.classes]
        times = [1 / one if taxes.included else one for one in more]
        of_class = (times[taxes.class_number(name or "")] for name in self.goods.columns["tax_class"])
        return dict(zip(map(folded, self.goods.skus), of_class, strict=True))

    def in_rows(self, kind: Kind, table: Table, file: str) -> Table:
        """The table with a row a line, whatever the shape that it tells orders in, or a row a step of tariffs."""
        if self.goods is None:
            card = {"tariffs": OF_CARRIERS, "charges": OF_SHOPPERS}.get(kind)
            table = table if card is None else a_row_a_step(table, card, file)
            return with_zone_and_option(table) if kind == "charges" else table
        skus = self._prices
        table = with_skus_alone(side_by_side(lines_in_cells(told_above(table, skus))), skus)
        return dated_in_parts(a_row_a_unit(a_column_a_sku(table, skus), skus))

    def foreign(self, table: Table, columns: Columns, reading: Reading) -> ForeignAmounts:
        """The amounts of a file, of anything but orders, that are not in the shop's currency."""
        return foreign_amounts(table, columns, self.currency, reading.rates)

    @property
    def skus(self) -> Collection[str]:
        """Of the shop, folded."""
        return self._prices.keys()

    @cached_property
    def _prices(self) -> dict[str, float]:
        """The list price of each SKU, folded, in units of the currency; not a number where it has none."""
        assert self.goods is not None, "orders name goods"
        in_units = (nan if one is None else one / 10**self.digits for one in self.goods.columns["list_price"])
        return dict(zip(map(folded, self.goods.skus), in_units, strict=True))

    @property
    def for_orders(self) -> OrderShop:
        zones = {folded(zone.name): zone.name for zone in self.shop.zones}
        zones |= {
            folded(place): zone.name
            for zone in self.shop.zones
            for place in zone.places
            if folded(place) not in zones
        }
        assert self.goods is not None, "orders name goods"
        prices, classes = (
            dict(zip(self.goods.skus, self.goods.columns[name], strict=True)) for name in ("list_price", "tax_class")
        )
        named = partial(self.goods.of, _by_name, "sku", "product", "option")
        return OrderShop(prices, self.digits, self.currency, self.shop.taxes, classes, zones, named)


def _by_name(skus: list[str], products: list[str], options: list[str]) -> dict[str, list[str]]:
    """The SKUs that go by each name of a product, alone and with its option."""
    found: dict[str, list[str]] = defaultdict(list)
    for sku, product, option in zip(skus, products, options, strict=True):
        for name in {simplify(product), simplify(f"{product} {option}")} - {""}:
            found[name].append(sku)
    return dict(found)


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
    merged = a_row_a_sku(table, columns, reading.decimal_mark)
    whole = a_row_a_kit(merged, columns, reading.decimal_mark)
    records, rejected = read_goods(whole, columns, reading, about.digits, foreign, tax, about.known, progress)
    notes = [
        *tax.notes,
        *notes_of_stock(table, merged, columns, reading.decimal_mark),
        *notes_of_zeros(records),
        *notes_of_kits(records),
    ]
    named = {record.tax_class for record in records}
    known = len(taxes.classes)
    added = [one for one in tax.taxes.classes[known:] if one.name in named]
    taxes = replace(tax.taxes, classes=(*tax.taxes.classes[:known], *added))
    return Found(records, rejected, foreign=foreign.currencies, taxes=taxes, notes=notes)


def _read_orders(table: Table, columns: Columns, reading: Reading, about: About, progress: Progress) -> Found:
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
        notes=notes_of_parts(found.parts),
    )


def _read_tariffs(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    foreign = about.foreign(table, columns, reading)
    found = read_tariffs(table, columns, reading, about.digits, foreign, about.shop.taxes)
    notes = [*([COSTS_WITHOUT] if reading.taxed == "with tax" else []), *notes_of_free_steps(found.things)]
    return Found(found.things, found.rejected, foreign=foreign.currencies, notes=notes)


def _read_charges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    tariffs = {tariff.name for tariff in about.shop.tariffs}
    taxes = about.shop.taxes
    foreign = about.foreign(table, columns, reading)
    found = read_charges(table, columns, reading, about.digits, foreign, tariffs, taxes)
    return Found(
        found.things, found.rejected, foreign=foreign.currencies, notes=note_of("Charges", taxes, reading.taxed)
    )


def _read_surcharges(table: Table, columns: Columns, reading: Reading, about: About, _: Progress) -> Found:
    taxes = about.shop.taxes
    foreign = about.foreign(table, columns, reading)
    found = read_surcharges(table, columns, reading, about.digits, foreign, about.shop.zone_names, taxes)
    return Found(
        found.things, found.rejected, foreign=foreign.currencies, notes=note_of("Amounts", taxes, reading.taxed)
    )


def _save_goods(session: Session, checked: Checked, progress: Progress) -> Saved:
    if checked.currency != shop_row(session).currency:
        if not _is_new(session):
            message = f"The shop does not count in {checked.currency}, as it did when the file was read."
            raise SettingsError([Problem(("currency",), message, "Choose the file again.")])
        save_settings(session, {"currency": checked.currency, "minor_digits": checked.digits})
    if checked.taxes is not None and checked.taxes != checked.before.taxes:
        if load_shop(session).taxes != checked.before.taxes:
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
) -> Checked:
    """Read and check a file. file: its name. columns and reading are those of the last file with the same headings,
    or guessed, unless given; chosen: columns chosen by hand besides, as `Their heading=field`. rates: what one unit
    of some currencies is in the shop's, besides those of the reading; no_goods: names of rows without goods to be
    passed over, besides; clock: the one that times told in UTC are put on, in place of the reading's, or of the usual
    one where that is guessed.

    Raises UnreadableFileError and NoSuchColumnError.
    """
    table, fields, remembered = read_table(data), KINDS[kind].fields, None
    with shop_file.reading() as session:
        about = _about(session, kind)
        table = about.in_rows(kind, table, file)
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
    found = Found([], []) if missing else KINDS[kind].read(table, columns, reading, about, progress)
    return Checked(
        kind,
        table,
        columns,
        reading,
        missing,
        file=file,
        remembered=remembered is not None,
        currency=about.currency,
        digits=about.digits,
        before=before,
        **vars(found),
    )


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
