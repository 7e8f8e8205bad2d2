"""What reading a file takes of the shop it is for: its goods and prices, its currency and its taxes."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import islice
from math import nan
from typing import Literal

from babel.numbers import get_currency_precision

from yellow_abacus.core.goods.making_goods import GoodTable
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.files.amounts_told import AmountsTold
from yellow_abacus.files.charges import with_zone_and_option, zoned_by_table
from yellow_abacus.files.columns import Columns, match_columns
from yellow_abacus.files.contents import Contents
from yellow_abacus.files.currencies_told import ForeignAmounts, foreign_amounts, only_currency
from yellow_abacus.files.discount_types import with_rates_marked
from yellow_abacus.files.fields import OF_GOODS, OF_ORDERS, Field
from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.headings import simplify
from yellow_abacus.files.keyed_cells import lines_in_cells
from yellow_abacus.files.kits_told import ShopGoods, with_units_of_parts
from yellow_abacus.files.meant_skus import with_leading_zeros, with_skus_alone, with_skus_of_names
from yellow_abacus.files.order_shapes import a_column_a_sku, a_row_a_unit, dated_in_parts, side_by_side
from yellow_abacus.files.order_shop import OrderShop
from yellow_abacus.files.rate_cards import OF_CARRIERS, OF_SHOPPERS, a_row_a_step
from yellow_abacus.files.reading import guess_reading
from yellow_abacus.files.several_tables import one_table
from yellow_abacus.files.stock_told import with_stock_of_places
from yellow_abacus.files.tables import Table
from yellow_abacus.files.told_above import told_above
from yellow_abacus.files.values import Reading, Taxed
from yellow_abacus.files.variants import VARIANT_OF, with_all_options, with_products_named
from yellow_abacus.files.with_tax import taxed_by

Kind = Literal["goods", "orders", "tariffs", "charges", "surcharges"]


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
            columns: Columns = match_columns(table.header, fields, by_hand, contents.can_be)
            if OF_GOODS[VARIANT_OF] in fields:
                columns = with_products_named(table, with_all_options(table, columns, by_hand))
            if "stock" in by_hand:
                return columns
            return with_stock_of_places(table, with_units_of_parts(table, columns), contents)
        return guess_columns(table, by_hand, self._prices, self._tax)

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
        return {sku: 1 / times if self.shop.taxes.included else times for sku, times in self._tax.items()}

    @cached_property
    def _tax(self) -> dict[str, float]:
        """By SKU, folded, what a price without tax is in times with it."""
        assert self.goods is not None, "orders name goods"
        taxes = self.shop.taxes
        more = [1 + one.rate_bp / WHOLE_BP for one in taxes.classes]
        of_class = (more[taxes.class_number(name or "")] for name in self.goods.columns["tax_class"])
        return dict(zip(map(folded, self.goods.skus), of_class, strict=True))

    def one_table(self, kind: Kind, files: Sequence[Sequence[Table]], fields: tuple[Field, ...], file: str) -> Table:
        """The table to bring in of those in some files, as `in_rows`. file: the name of the first. Raises
        UnreadableFileError."""
        if kind in ("tariffs", "charges") and sum(map(len, files)) > 1:
            every = [self.in_rows(kind, table, table.name) for some in files for table in some]
            told = iter(zoned_by_table(every) if kind == "charges" else every)
            files = [list(islice(told, len(some))) for some in files]
        table = one_table(files, fields, () if self.goods is None else self.skus)
        return self.in_rows(kind, table, file)

    def in_rows(self, kind: Kind, table: Table, file: str) -> Table:
        """The table with a row a line, whatever the shape that it tells orders in, or a row a step of tariffs."""
        if self.goods is None:
            card = {"tariffs": OF_CARRIERS, "charges": OF_SHOPPERS}.get(kind)
            if kind == "goods":
                table = with_leading_zeros(table, OF_GOODS["sku"], self.known.skus)
            table = table if card is None else a_row_a_step(table, card, file)
            return with_zone_and_option(table) if kind == "charges" else table
        skus = self._prices
        table = with_leading_zeros(table, OF_ORDERS["sku"], self.goods.skus)
        table = with_skus_of_names(lines_in_cells(told_above(table, skus)), skus, self._named)
        table = with_skus_alone(side_by_side(table, skus), skus)
        return with_rates_marked(dated_in_parts(a_row_a_unit(a_column_a_sku(table, skus), skus)))

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
        return OrderShop(
            prices, self.digits, self.currency, self.shop.taxes, classes, zones, self._named, self._prices, self._tax
        )

    def _named(self) -> Mapping[str, Sequence[str]]:
        """The SKUs that go by each name, simplified."""
        assert self.goods is not None, "orders name goods"
        found: dict[str, list[str]] = self.goods.of(_by_name, "sku", "product", "option")
        return found


def _by_name(skus: list[str], products: list[str], options: list[str]) -> dict[str, list[str]]:
    """The SKUs that go by each name of a product, alone and with its option."""
    found: dict[str, list[str]] = defaultdict(list)
    for sku, product, option in zip(skus, products, options, strict=True):
        for name in {simplify(product), simplify(f"{product} {option}")} - {""}:
            found[name].append(sku)
    return dict(found)
