"""A goods file to records and back: one row a SKU."""

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from yellow_abacus.core.goods.records import COSTS, PRICES, GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP
from yellow_abacus.core.ground.naming import unfit
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import ForeignAmounts
from yellow_abacus.files.dates import parse_day
from yellow_abacus.files.fields import GOODS, OF_GOODS
from yellow_abacus.files.goods_shapes import without_repeats
from yellow_abacus.files.headings import is_of_percentages
from yellow_abacus.files.kits_told import ShopGoods, parse_kit, without_kits_within_kits
from yellow_abacus.files.reading import Cells, Progress, cells_by_row
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.stock_told import stock_of
from yellow_abacus.files.tables import Table
from yellow_abacus.files.taxes_told import TaxesTold
from yellow_abacus.files.units_told import SIDES, UnitsTold
from yellow_abacus.files.values import (
    CUT_SHORT,
    NOT_CUT_SHORT,
    BadCellError,
    DecimalMark,
    Reading,
    are_shares,
    bare_unit,
    is_cut_short,
    join_names,
    parse_count,
    parse_flag,
    parse_length,
    parse_money,
    parse_rate,
    parse_rate_off,
    parse_size,
    parse_weight,
    split_names,
    split_tags,
)
from yellow_abacus.files.writing import decimal, figure, yes

MOST_UNITS = 1_000_000
ONE_PERCENT_BP = 100
KIT = OF_GOODS["kit"].label
FLAGS = ("never_discounted", "gift_only", "insured", "counted_by_product")

FILLS: dict[str, tuple[str, ...]] = {
    "size": SIDES,
    "return_rate": ("return_bp",),
    "commission": ("commission_bp",),
    "was_price": ("list_price", "reduced_price"),
    "price_discount": ("reduced_price",),
    "case_cost": ("purchase_cost",),
    "case_units": (),
    "weight_unit": ("weight",),
    "length_unit": (),
    "place": (),
    "kit_units": (),
    "variant_of": (),
}
"""Which fields of a record a column fills, where that is not the one of its own name."""


def fields_given(columns: Columns) -> frozenset[str]:
    """The fields of a record that a file with these columns tells."""
    return frozenset(name for key in columns for name in FILLS.get(key, (key,)))


@dataclass(frozen=True)
class _Amounts:
    """How many minor digits a file's money has, whether what comes off prices is told as shares of 1, and which parts
    of the cost are told in percent of the purchase cost."""

    digits: int
    shares_off: bool
    rates: frozenset[str]


def read_goods(
    table: Table,
    columns: Columns,
    reading: Reading,
    minor_digits: int,
    units: UnitsTold,
    foreign: ForeignAmounts,
    tax: TaxesTold,
    shop: ShopGoods,
    progress: Progress = lambda _: None,
) -> tuple[list[GoodRecord], list[Rejection]]:
    """The good rows as records, the others with what is wrong. units: of its weights and lengths. foreign: its
    amounts in other currencies. tax: what the file tells of it. shop: the goods that may be parts of kits, too.
    `progress` is told the share done."""
    table = without_repeats(table, columns)
    amounts = _Amounts(minor_digits, _tells_shares_off(table, columns), _told_in_percent(table, columns))
    skus = table.rows.columns[columns["sku"][0]].texts
    may_be_parts = shop.beside([text.strip() for text in skus if text.strip()]) if "kit" in columns else {}
    records: list[GoodRecord] = []
    rejected: list[Rejection] = []
    seen: dict[str, int] = {}
    for done, cells in enumerate(cells_by_row(table, columns, GOODS, foreign)):
        if done % 2000 == 0:
            progress(done / len(table.rows))
        record = _record(cells, reading, amounts, units, tax, may_be_parts)
        if not record.sku:
            cells.reject("sku", "The SKU is missing.", "Write the SKU.")
        elif is_cut_short(record.sku):
            cells.reject("sku", f"{record.sku} {CUT_SHORT}", NOT_CUT_SHORT)
        elif (first := seen.setdefault(record.sku, cells.number)) != cells.number:
            cells.reject("sku", f"SKU {record.sku} is already in row {first}.", "Keep one row for each SKU.")
        _check(cells, record)
        if cells.rejected:
            rejected += cells.rejected
        else:
            records.append(record)
    if "kit" in columns:
        records, within = without_kits_within_kits(records, seen, shop.kits, KIT)
        rejected += within
    return records, rejected


IN_PERCENT = ("freight_cost", "duty_cost", "other_cost")
"""Parts of the cost that may be told in percent of the purchase cost."""


def _told_in_percent(table: Table, columns: Columns) -> frozenset[str]:
    """Those whose heading says so."""
    return frozenset(
        key for key in IN_PERCENT if any(is_of_percentages(table.header[at]) for at in columns.get(key, ()))
    )


def _tells_shares_off(table: Table, columns: Columns) -> bool:
    return any(are_shares(table.header[at], table.rows.columns[at].used) for at in columns.get("price_discount", ()))


def _record(
    cells: Cells,
    reading: Reading,
    amounts: _Amounts,
    units: UnitsTold,
    tax: TaxesTold,
    may_be_parts: Mapping[str, str],
) -> GoodRecord:
    mark, digits = reading.decimal_mark, amounts.digits

    def price(text: str) -> int:
        return int(parse_money(text, mark, digits, largest=LARGEST_CART))

    def cost(text: str) -> float:
        return float(parse_money(text, mark, digits, largest=LARGEST_CART, extra_digits=2))

    def day(text: str) -> date:
        return parse_day(text, reading.date_order)

    def rate_off(text: str) -> int:
        return parse_rate_off(text, mark, shares=amounts.shares_off)

    weight_unit, length_unit = (bare_unit(cells.text(key)) for key in ("weight_unit", "length_unit"))

    def side(name: str) -> int | None:
        unit = length_unit or units.lengths[name]
        return cells.read(name, lambda text: parse_length(text, mark, unit), length_unit)

    size_unit = length_unit or units.lengths["size"]
    size = cells.read("size", lambda text: parse_size(text, mark, size_unit), length_unit)
    length, width, height = size or (None,) * 3

    def price_if_any(name: str) -> int | None:
        """Of prices beside the list price, which files tell as 0 where there are none."""
        return cells.read(name, price) or None

    listed, reduced, was = cells.read("list_price", price), price_if_any("reduced_price"), price_if_any("was_price")
    if was is not None and (listed is None or was > listed):
        listed, reduced = was, listed if reduced is None else reduced
    if reduced is None and (off := cells.read("price_discount", rate_off)):
        reduced = _less(off, listed, cells)
    is_told = bool(cells.text("purchase_cost"))
    purchase = cells.read("purchase_cost", cost) if is_told else _part_of_a_case(cells, cost, mark)

    def part_of_cost(name: str) -> float | None:
        if name not in amounts.rates and not cells.text(name).endswith("%"):
            return cells.read(name, cost)
        rate = cells.read(name, lambda text: parse_rate(text, mark))
        if rate and purchase is None:
            cells.reject(name, "What this is a percentage of is not told.", "Write the purchase cost beside it.")
        return None if rate is None or purchase is None else round(purchase * rate / WHOLE_BP, 2)

    record = GoodRecord(
        sku=cells.text("sku"),
        product=cells.text("product"),
        option=cells.text("option"),
        list_price=listed,
        going_price=price_if_any("going_price"),
        reduced_price=reduced,
        reduced_from=cells.read("reduced_from", day),
        reduced_to=cells.read("reduced_to", day),
        least_advertised=price_if_any("least_advertised"),
        quantity_prices=cells.read("quantity_prices", lambda text: _quantity_prices(text, price)) or (),
        group_prices=cells.read("group_prices", lambda text: _group_prices(text, price)) or (),
        counted_by_product=cells.read("counted_by_product", parse_flag) or False,
        purchase_cost=purchase,
        freight_cost=part_of_cost("freight_cost"),
        duty_cost=part_of_cost("duty_cost"),
        packaging_cost=cells.read("packaging_cost", cost),
        other_cost=part_of_cost("other_cost"),
        assembly_cost=cells.read("assembly_cost", cost),
        weight=cells.read("weight", lambda text: parse_weight(text, mark, weight_unit or units.weight), weight_unit),
        length=length if length is not None else side("length"),
        width=width if width is not None else side("width"),
        height=height if height is not None else side("height"),
        categories=categories_of(cells.text("categories")),
        stock=cells.read("stock", lambda text: stock_of(text, mark)),
        brand=cells.text("brand"),
        tags=split_tags(cells.text("tags")),
        tax_class=cells.read("tax_class", tax.named) or "",
        return_bp=cells.read("return_rate", lambda text: parse_rate(text, mark)) or 0,
        commission_bp=cells.read("commission", lambda text: parse_rate(text, mark)) or 0,
        never_discounted=cells.read("never_discounted", parse_flag) or False,
        gift_only=cells.read("gift_only", parse_flag) or False,
        insured=cells.read("insured", parse_flag) or False,
        kit=cells.read("kit", lambda text: parse_kit(text, may_be_parts)) or (),
    )
    return tax.as_the_shops(record, classed="tax_class" in cells.told, reject=cells.reject)


def _less(off: int, listed: int | None, cells: Cells) -> int | None:
    """A price less basis points of it, half a minor unit rounded up."""
    if listed is None:
        cells.reject("price_discount", "What this discount comes off is not told.", "Write the list price beside it.")
    elif off >= WHOLE_BP:
        cells.reject("price_discount", "This discount leaves no price.", "Write less than 100 %.")
    else:
        return (2 * listed * (WHOLE_BP - off) + WHOLE_BP) // (2 * WHOLE_BP)
    return None


def notes_of_zeros(records: Sequence[GoodRecord]) -> list[str]:
    """That some goods cost or weigh nothing, which files also tell of those of which that is not known.

    >>> notes_of_zeros([GoodRecord("A", purchase_cost=0.0, weight=0.0), GoodRecord("B", weight=0.0)])
    ['1 of these goods costs 0, and 2 weigh 0: leave those cells empty where that is not known.']
    """
    told = list[str]()
    for field, one_does, several in (("purchase_cost", "costs", "cost"), ("weight", "weighs", "weigh")):
        if zeros := sum(getattr(record, field) == 0 and not record.kit for record in records):
            told.append(f"{zeros:,}{'' if told else ' of these goods'} {one_does if zeros == 1 else several} 0")
    return [f"{', and '.join(told)}: leave those cells empty where that is not known."] if told else []


def notes_of_rates(records: Sequence[GoodRecord]) -> list[str]:
    """That all rates of a kind are below 1 %, which may be shares of 1.

    >>> notes_of_rates([GoodRecord("A", return_bp=5), GoodRecord("B", return_bp=3, commission_bp=1500)])
    ['Return rates are all below 1 %: write 5 for 5 %, if that is what 0.05 stands for.']
    """
    told = []
    for field, rates in (("return_bp", "Return rates"), ("commission_bp", "Commissions")):
        most = max((getattr(record, field) for record in records), default=0)
        if 0 < most < ONE_PERCENT_BP:
            told.append(rates)
    return [f"{rates} are all below 1 %: write 5 for 5 %, if that is what 0.05 stands for." for rates in told]


def _part_of_a_case(cells: Cells, cost: Callable[[str], float], mark: DecimalMark) -> float | None:
    """What a unit costs of which only cases are bought, to a hundredth of a cent."""
    case = cells.read("case_cost", cost)
    units = cells.read("case_units", lambda text: parse_count(text, mark, least=1, largest=MOST_UNITS))
    if case is not None and not cells.text("case_units"):
        cells.reject("case_units", "How many units a case has is not told.", "Write it, or what one unit costs.")
    return None if case is None or units is None else round(case / units, 2)


def categories_of(text: str) -> tuple[str, ...]:
    """Those a cell lists, or those of the paths it lists.

    >>> categories_of("Garden > Pots, Garden > Soil")
    ('Garden', 'Pots', 'Soil')
    """
    return split_names(re.sub(r"\s*[>,]\s*", ";", text) if " > " in text else text)


def _check(cells: Cells, record: GoodRecord) -> None:
    for key, names in (("categories", record.categories), ("tags", record.tags)):
        for name in names:
            if wrong := unfit(name):
                cells.reject(key, f"“{name[:40]}…” {wrong}.", "Shorten it.")
    for group, _, _ in record.group_prices:
        if wrong := unfit(group):
            cells.reject("group_prices", f"The group “{group[:40]}…” {wrong}.", "Shorten it.")
    if record.reduced_from and record.reduced_to and record.reduced_to < record.reduced_from:
        cells.reject("reduced_to", "The reduced price ends before it starts.", "Write a later day.")
    if any(sku == record.sku for sku, _ in record.kit):
        cells.reject("kit", f"{record.sku} is a part of itself.", "Leave it out of its own parts.")


def _quantity_prices(text: str, price: Callable[[str], int]) -> tuple[tuple[int, int], ...]:
    """`6: 4.20; 12: 3.90`: from 6 units at 4.20, from 12 at 3.90."""
    found: dict[int, int] = {}
    for part in filter(None, (part.strip() for part in text.split(";"))):
        units, colon, amount = part.rpartition(":")
        if not colon or not re.fullmatch(r"\d{1,6}", units.strip()) or int(units) < 1:
            raise BadCellError(f"“{part}” is not a quantity price.", "Write it like 6: 4.20; 12: 3.90.")
        if int(units) in found:
            raise BadCellError(f"There are two prices from {int(units)} units.", "Keep one of them.")
        found[int(units)] = price(amount.strip())
    return tuple(sorted(found.items()))


def _group_prices(text: str, price: Callable[[str], int]) -> tuple[tuple[str, int, int], ...]:
    """`trade: 9.50; trade from 12: 8.90`: the group's own price, and its quantity prices."""
    found: dict[tuple[str, int], int] = {}
    for part in filter(None, (part.strip() for part in text.split(";"))):
        name, colon, amount = part.rpartition(":")
        words = name.split()
        units = 1
        if len(words) > 2 and words[-2] == "from" and re.fullmatch(r"\d{1,6}", words[-1]):
            words, units = words[:-2], int(words[-1])
        group = " ".join(words)
        if not colon or not group or units < 1:
            raise BadCellError(f"“{part}” is not a group's price.", "Write it like trade: 9.50; trade from 12: 8.90.")
        if (group, units) in found:
            raise BadCellError(f"There are two prices for {group} from {units} units.", "Keep one of them.")
        found[group, units] = price(amount.strip())
    return tuple((group, units, amount) for (group, units), amount in sorted(found.items()))


def goods_rows(records: Iterable[GoodRecord], digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and rows of a goods file that reads back just so."""
    return [_HEADINGS.get(field.key, field.label) for field in _WRITTEN], [_row(one, digits) for one in records]


_HEADINGS = {"weight": "Weight (g)", **{side: f"{side.capitalize()} (mm)" for side in SIDES}}
_NOT_WRITTEN = FILLS.keys() - {"return_rate", "commission"}
"""What other columns tell."""
_WRITTEN = [field for field in GOODS if field.key not in _NOT_WRITTEN]


def _row(record: GoodRecord, digits: int) -> list[str]:
    told = {
        "quantity_prices": "; ".join(f"{units}: {decimal(price, digits)}" for units, price in record.quantity_prices),
        "group_prices": "; ".join(
            f"{group}{f' from {units}' if units > 1 else ''}: {decimal(price, digits)}"
            for group, units, price in record.group_prices
        ),
        "return_rate": figure(record.return_bp / 100) if record.return_bp else "",
        "commission": figure(record.commission_bp / 100) if record.commission_bp else "",
        "kit": "; ".join(f"{units} x {sku}" for sku, units in record.kit),
        **{name: decimal(getattr(record, name), digits, extra=2) for name in COSTS},
        **{name: decimal(getattr(record, name), digits) for name in PRICES},
        **{name: yes(getattr(record, name)) for name in FLAGS},
        **{name: figure(getattr(record, name)) for name in ("weight", "stock", *SIDES)},
        **{name: join_names(getattr(record, name)) for name in ("categories", "tags")},
        **{name: str(getattr(record, name) or "") for name in ("reduced_from", "reduced_to")},
    }
    return [told.get(field.key, "") if field.key in told else getattr(record, field.key) for field in _WRITTEN]


EXAMPLES: Sequence[GoodRecord] = (
    GoodRecord(
        "FERN-12", "Lace fern", "12 cm", 1290, purchase_cost=480.0, weight=600.0, categories=("House plants",)
    ),
)
"""What a template shows."""
