"""What a goods file tells of tax: whether its prices are with it, and of which class each good is, by name or rate.

A rate that no class of the shop has makes a class of its own, called by its rate or the word for it. Names that the
shop does not know stay as they are told: what their rate is, is asked at Delivery.

>>> shop = Taxes((TaxClass("Standard", 2000), TaxClass("Books", 500), TaxClass("Exempt", 0)))
>>> [class_told(text, shop) for text in ("5 %", "books", "none", "Drinks", "VAT 20%", "Normal")]
['Books', 'Books', 'Exempt', 'Drinks', 'Standard', '']
"""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal

from yellow_abacus.core.goods.records import COSTS, PRICES, GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.shop.check_shop import HIGHEST_TAX_BP, MOST_TAX_CLASSES
from yellow_abacus.core.shop.tax import TaxClass, Taxes
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, Reading, Taxed, parse_rate
from yellow_abacus.files.with_tax import (
    COSTS_WITHOUT,
    cost_without_tax,
    is_ours,
    note_of,
    price_as_the_shops,
    taxed_by,
)
from yellow_abacus.files.writing import figure

CellsOfTax = Literal["names", "rates", "shares", "flags"]
"""What the cells of a column of tax are: names of classes; rates, whose sign may be missing, told as shares of 1 too;
or yes and no to whether a good is taxed. A cell with its sign is a rate, a word a name, in any of them."""

_RATE = re.compile(r"\D*?(\d+(?:[.,]\d+)?)\s*%\D*")
_BARE = re.compile(r"\d{1,2}(?:[.,]\d+)?")
_SHARE = re.compile(r"0?[.,]\d{1,4}")


@dataclass(frozen=True)
class TaxesTold:
    """Of one file. taxes: the shop's, as they will be once its goods are in.

    before: the classes of goods the shop has, by SKU, which stand where the file has no column of them. meant: how
    its prices are told. costs: the costs whose headings say that they are with tax.
    """

    taxes: Taxes
    cells: CellsOfTax
    before: Mapping[str, str]
    meant: Taxed
    costs: tuple[str, ...] = ()

    @property
    def notes(self) -> list[str]:
        """What is done with the file's amounts, in words."""
        return [*note_of("Prices", self.taxes, self.meant), *([COSTS_WITHOUT] if self.costs else [])]

    def named(self, text: str) -> str:
        """The class that a cell tells; empty for the shop's first one. Raises BadCellError."""
        return class_told(_plainly(text, self.cells), self.taxes)

    def as_the_shops(
        self, record: GoodRecord, *, classed: bool, reject: Callable[[str, str, str], None]
    ) -> GoodRecord:
        """A good of the file with its amounts as the shop has them. classed: whether the file tells its class.

        reject: told the field, what is wrong and the mend where that cannot be.
        """
        if is_ours(self.meant, self.taxes) and not self.costs:
            return record
        name = record.tax_class if classed else self.before.get(record.sku, "")
        if name and name not in (one.name for one in self.taxes.classes):
            message = f"No rate is said for “{name}”, by which these amounts are told with tax or without."
            reject("tax_class", message, "Add it at Delivery, Tax, first.")
            return record
        rate = self.taxes.classes[self.taxes.class_number(name)].rate_bp

        def ours(amount: int) -> int:
            return price_as_the_shops(amount, self.taxes, rate, self.meant)

        prices = {name: amount for name in PRICES if (amount := getattr(record, name)) is not None}
        costs = {name: amount for name in self.costs if (amount := getattr(record, name)) is not None}
        amounts: dict[str, Any] = {name: ours(amount) for name, amount in prices.items()}
        amounts |= {name: cost_without_tax(amount, rate, "with tax") for name, amount in costs.items()}
        found = replace(
            record,
            **amounts,
            quantity_prices=tuple((units, ours(amount)) for units, amount in record.quantity_prices),
            group_prices=tuple((group, units, ours(amount)) for group, units, amount in record.group_prices),
        )
        if any((getattr(found, name) or 0) > LARGEST_CART for name in PRICES):
            reject("list_price", "With tax it is more than any cart can be worth.", "Check the price.")
        return found


def taxes_told(
    table: Table, columns: Columns, reading: Reading, taxes: Taxes, before: Mapping[str, str], *, is_new: bool
) -> TaxesTold:
    """taxes: the shop's. before: as in `TaxesTold`. is_new: whether nobody has said yet what they are, and nothing is
    in: then the file says whether prices are with tax, and its highest rate is that of goods that name none."""
    if is_new and reading.taxed != "as the shop":
        taxes = replace(taxes, included=reading.taxed == "with tax")
    columns_of_tax = columns.get("tax_class", ())
    told = [bare for at in columns_of_tax for text in table.rows.columns[at].used if (bare := text.strip())]
    cells = _cells(told, [table.header[at] for at in columns_of_tax])
    rates = dict[int, str]()
    for text in told:
        plain = _plainly(text, cells)
        try:
            rate = rate_told(plain)
        except BadCellError:  # told with its row
            continue
        if rate is not None:
            rates.setdefault(rate, called(rate) if any(map(str.isdigit, plain)) else text)
    first, *others = taxes.classes
    highest = max(rates, default=0)
    if is_new and highest and first.rate_bp not in rates:
        taxes = replace(taxes, classes=(replace(first, rate_bp=highest), *others))
    known = {one.rate_bp for one in taxes.classes}
    added = [TaxClass(rates[rate], rate) for rate in sorted(rates, reverse=True) if rate not in known]
    taxes = replace(taxes, classes=(*taxes.classes, *added[: max(MOST_TAX_CLASSES - len(taxes.classes), 0)]))
    return TaxesTold(taxes, cells, before, reading.taxed, _costs_with_tax(table, columns))


def _costs_with_tax(table: Table, columns: Columns) -> tuple[str, ...]:
    """The costs of a record whose columns say that they are told with tax."""
    told = {
        {"case_cost": "purchase_cost"}.get(key, key)
        for key in (*COSTS, "case_cost")
        for at in columns.get(key, ())
        if taxed_by([table.header[at]]) == "with tax"
    }
    return tuple(sorted(told))


def _cells(texts: Iterable[str], headings: Iterable[str]) -> CellsOfTax:
    if any(not words_of("tax_classes").isdisjoint(simplify(heading).split()) for heading in headings):
        return "names"
    bare = {text for text in texts if _BARE.fullmatch(text)}
    if bare == {"0", "1"} or bare == {"1"}:
        return "flags"
    shares = bool(bare - {"0"}) and all(_SHARE.fullmatch(text) for text in bare - {"0"})
    return "shares" if shares else "rates"


def _plainly(text: str, cells: CellsOfTax) -> str:
    """A cell as it would be told with its sign."""
    word = simplify(text)
    if cells == "names" or not text:
        return text
    if cells == "flags" and text in ("0", "1"):
        return "0 %" if text == "0" else ""
    if _BARE.fullmatch(text):
        return (
            f"{figure(round(float(text.replace(',', '.')) * WHOLE_BP, 4), 100)} %"
            if cells == "shares"
            else f"{text} %"
        )
    if word in words_of("no") or word in words_of("yes"):
        return "0 %" if word in words_of("no") else ""
    return text


def class_told(text: str, taxes: Taxes) -> str:
    """The class that a cell tells, as the shop calls it where it has it; empty for the first. Raises BadCellError."""
    by_name = {folded(one.name): one.name for one in taxes.classes}
    if folded(text) in by_name:
        return by_name[folded(text)]
    rate = rate_told(text)
    if rate is not None:
        return next((one.name for one in taxes.classes if one.rate_bp == rate), called(rate))
    return "" if simplify(text) in words_of("taxed_as_usual") else text


def rate_told(text: str) -> int | None:
    """The rate that a cell tells, basis points; None where it tells none. Raises BadCellError where it can be none.

    >>> [rate_told(text) for text in ("20 %", "VAT 5.5%", "exempt", "Reduced", "20")]
    [2000, 550, 0, None, None]
    """
    if found := _RATE.fullmatch(text):
        return parse_rate(found[1], "," if "," in found[1] else ".", most=HIGHEST_TAX_BP)
    return 0 if simplify(text) in words_of("untaxed") else None


def called(rate_bp: int) -> str:
    """The name of a class that was told by its rate."""
    return f"{figure(rate_bp, 100)} %"
