"""Changing goods by hand: one, or many at once, with what it would do to today's profit shown before it is saved."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, fields, replace
from datetime import date
from typing import Any, Literal, get_args

from sqlalchemy.orm import Session

from yellow_abacus.core.carts.carts import CartBatch, CartTooLargeError
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP
from yellow_abacus.core.ground.naming import LONGEST_NAME, LONGEST_TITLE, unfit
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.store.goods import goods_named, save_goods, tax_classes_of
from yellow_abacus.store.history import version_to_be
from yellow_abacus.store.loading import LoadedShop, taxes_of
from yellow_abacus.store.settings import SettingsError, shop_row
from yellow_abacus.store.shop_file import ShopFile

Numeric = Literal[
    "list_price",
    "going_price",
    "reduced_price",
    "least_advertised",
    "purchase_cost",
    "freight_cost",
    "duty_cost",
    "packaging_cost",
    "other_cost",
    "assembly_cost",
    "weight",
    "length",
    "width",
    "height",
    "stock",
    "return_bp",
    "commission_bp",
]
Flag = Literal["insured", "gift_only", "never_discounted", "counted_by_product"]
Named = Literal["tags", "categories"]
Text = Literal["tax_class", "brand"]

WHOLE = (
    "list_price",
    "going_price",
    "reduced_price",
    "least_advertised",
    "length",
    "width",
    "height",
    "stock",
    "return_bp",
    "commission_bp",
)
RATES = ("return_bp", "commission_bp")
AMOUNTS = tuple(name for name in get_args(Numeric) if name not in RATES)


@dataclass(frozen=True)
class Change:
    """What is done to a field of each SKU.

    how: *set* to `value` (None clears it), *raise* by `value` basis points (below 0 lowers), *add* `value`; for tags
    and categories *add* or *remove* `name`; for a tax class or brand *set* to `name`; for a flag *set* to `flag`.
    """

    field: str
    how: Literal["set", "raise", "add", "remove"]
    value: float | None = None
    name: str = ""
    flag: bool = False

    def on(self, record: GoodRecord) -> GoodRecord:
        after: dict[str, Any] = {self.field: self._after(getattr(record, self.field))}
        return replace(record, **after)

    def _after(self, before: Any) -> Any:
        if self.field in get_args(Named):
            rest = tuple(one for one in before if one != self.name)
            return rest if self.how == "remove" else (*rest, self.name)
        if self.field in get_args(Text):
            return self.name
        if self.field in get_args(Flag):
            return self.flag
        after = self._figure(before)
        if after is None:
            return 0 if self.field in RATES else None
        if self.field in WHOLE:
            return math.floor(after + 0.5)
        return round(after, WEIGHT_DECIMALS if self.field == "weight" else 2)

    def _figure(self, before: float | None) -> float | None:
        if self.how == "set" or self.value is None:
            return self.value
        if before is None:
            return None
        return before * (1 + self.value / WHOLE_BP) if self.how == "raise" else before + self.value


@dataclass(frozen=True)
class Previewed:
    """changed: each SKU before and after. profit_*: over the orders counted, minor units, no offer running."""

    changed: list[tuple[GoodRecord, GoodRecord]]
    profit_before: float
    profit_after: float


def changed(session: Session, skus: Sequence[str], change: Change) -> list[tuple[GoodRecord, GoodRecord]]:
    """Each SKU as it is and as it would be, where that differs. Raises SettingsError."""
    known = goods_named(session, skus)
    problems = [
        Problem(("skus", at), f"The shop has no SKU “{sku}”.", "Choose a SKU that Goods has.")
        for at, sku in enumerate(skus)
        if sku not in known
    ]
    if problems:
        raise SettingsError(problems)
    pairs = [(known[sku], change.on(known[sku])) for sku in skus]
    return [(before, after) for before, after in pairs if before != after]


@dataclass(frozen=True)
class Changed:
    """How many SKUs are otherwise, and the shop's data version with them."""

    changed: int
    version: int


def preview(
    shop_file: ShopFile, loaded: LoadedShop, outlook: Outlook, skus: Sequence[str], change: Change
) -> Previewed:
    """What a change would do to the shop as it is loaded; nothing is saved. outlook: of the shop. Raises
    SettingsError."""
    with shop_file.reading() as session:
        pairs = changed(session, skus, change)
        check(session, [after for _, after in pairs])
    try:
        found = loaded.with_goods([after for _, after in pairs])
    except CartTooLargeError as error:
        message = "At that price an order of the history is worth more than any cart can be."
        raise SettingsError([Problem(("value",), message, "Choose a lower price.")]) from error
    before = outlook.on_day(date.today()).profit
    return Previewed(pairs, before, before + _profit(loaded, found.after) - _profit(loaded, found.before))


def make_change(shop_file: ShopFile, skus: Sequence[str], change: Change, label: str) -> Changed:
    """Change many at once, as one undoable change. Raises SettingsError."""
    with shop_file.changing(label) as session:
        pairs = changed(session, skus, change)
        return _save(session, [after for _, after in pairs])


def put_goods(shop_file: ShopFile, records: Sequence[GoodRecord], label: str) -> Changed:
    """Save SKUs as they are told, as one undoable change. Raises SettingsError."""
    with shop_file.changing(label) as session:
        return _save(session, records)


@dataclass(frozen=True)
class SavedGood:
    """A SKU as it was saved, the parts it is made of, and the shop's data version with it."""

    record: GoodRecord
    parts: tuple[GoodRecord, ...]
    version: int


def put_good(shop_file: ShopFile, record: GoodRecord) -> SavedGood:
    """Save one SKU as it is told, new or known. Costs are kept to four decimals of the
    currency, weights to a milligram, as in files. Raises SettingsError."""
    with shop_file.changing(f"Change {record.sku}") as session:
        finest = COST_DECIMALS - shop_row(session).minor_digits
        costs = {name: getattr(record, name) for name in (*COST_PARTS, "assembly_cost")}
        told: dict[str, Any] = {name: cost if cost is None else round(cost, finest) for name, cost in costs.items()}
        weight = record.weight if record.weight is None else round(record.weight, WEIGHT_DECIMALS)
        kept = replace(record, **told, weight=weight)
        saved = _save(session, [kept])
        parts = goods_named(session, [sku for sku, _ in record.kit])
        return SavedGood(kept, tuple(parts.values()), saved.version)


def _save(session: Session, records: Sequence[GoodRecord]) -> Changed:
    """Raises SettingsError."""
    check(session, records)
    saved = save_goods(session, records, EVERY_FIELD)
    return Changed(saved.new + saved.changed, version_to_be(session))


WEIGHT_DECIMALS = 3
"""Of a gram."""

COST_DECIMALS = 4
"""Of the currency: what files and the ledger of costs keep."""

EVERY_FIELD = frozenset(field.name for field in fields(GoodRecord))


def _profit(loaded: LoadedShop, batch: CartBatch) -> float:
    """What some of the shop's carts keep, no offer running, minor units."""
    mix = alike(loaded.shop, batch)
    profit = Outlook(loaded.shop, mix).on_day(date.today()).profit
    mix.let_go()
    return profit


def check(session: Session, records: Sequence[GoodRecord]) -> None:
    """Raises SettingsError for what no SKU can be."""
    classes = {"", *(one.name for one in taxes_of(shop_row(session)).classes)}
    if any(record.tax_class not in classes for record in records):
        classes.update(tax_classes_of(session).values())  # which goods may keep until their rate is said
    parts = {sku for record in records for sku, _ in record.kit}
    known = {**(goods_named(session, parts) if parts else {}), **{record.sku: record for record in records}}
    if problems := [problem for record in records for problem in _problems(record, classes, known)]:
        raise SettingsError(problems)


def _problems(record: GoodRecord, classes: set[str], known: Mapping[str, GoodRecord]) -> Iterator[Problem]:
    def tell(field: str, message: str, mend: str) -> Problem:
        return Problem((field,), f"{record.sku}: {message}", mend)

    yield from _texts(record)
    for name in AMOUNTS:
        value = getattr(record, name)
        if value is not None and not 0 <= value <= LARGEST_CART:
            yield tell(name, "it would be below 0 or out of bounds.", "Choose 0 or more.")
    for name in RATES:
        if not 0 <= getattr(record, name) <= WHOLE_BP:
            yield tell(name, "the rate is not between 0 and 100 %.", "Choose a rate within.")
    if record.tax_class not in classes:
        yield tell("tax_class", f"there is no tax class “{record.tax_class}”.", "Choose one the shop has.")
    if record.reduced_from and record.reduced_to and record.reduced_to < record.reduced_from:
        yield tell("reduced_to", "the reduced price ends before it starts.", "Choose a later day.")
    for sku, _ in record.kit:
        if sku not in known or sku == record.sku:
            yield tell("kit", f"“{sku}” cannot be a part.", "Choose another SKU of the shop.")
        elif known[sku].kit:
            yield tell("kit", f"“{sku}” is a kit itself.", "List its parts instead.")


def _texts(record: GoodRecord) -> Iterator[Problem]:
    """Names that cannot be shown, or are too long."""
    for name, texts, longest in (
        ("sku", (record.sku,), LONGEST_NAME),
        ("product", (record.product,), LONGEST_TITLE),
        ("option", (record.option,), LONGEST_TITLE),
        ("brand", (record.brand,), LONGEST_NAME),
        ("categories", record.categories, LONGEST_NAME),
        ("tags", record.tags, LONGEST_NAME),
        ("group_prices", tuple(group for group, _, _ in record.group_prices), LONGEST_NAME),
    ):
        for text in texts:
            if wrong := unfit(text, longest):
                yield Problem((name,), f"“{text[:40]}” {wrong}.", "Write it anew.")
