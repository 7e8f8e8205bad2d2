"""SKUs that an order file names and Goods does not have, as a goods file to fill in, with what is told of them.

>>> from yellow_abacus.files.tables import read_table
>>> table = read_table(b"order,sku,product,price\\n1,OLD-1,Vase,20.00\\n2,POT,Pot,9.00\\n3,OLD-1,Vase,20.00\\n")
>>> columns = {"number": (0,), "sku": (1,), "product": (2,), "unit_price": (3,)}
>>> (vase,) = missing_goods(table, columns, Reading(".", "day first"), 2, {"pot"})
>>> vase.sku, vase.product, vase.list_price
('OLD-1', 'Vase', 2000)
"""

from collections import Counter
from collections.abc import Container, Sequence

import numpy as np

from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CART, Ints
from yellow_abacus.core.ground.naming import LONGEST_TITLE, folded, unfit
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.goods import goods_rows
from yellow_abacus.files.meant_skus import tells_skus_by_name
from yellow_abacus.files.no_goods import passes_over
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, Reading, finer_money

TO_FILL_IN = ("SKU", "Product", "Option", "List price", "Purchase cost", "Weight (g)", "Categories", "Stock")


def missing_goods(
    table: Table, columns: Columns, reading: Reading, digits: int, known: Container[str]
) -> list[GoodRecord]:
    """The SKUs that are not known (folded), those of most rows first, each with the name, option and unit price that
    most of its rows tell, but for what is passed over as no goods. A price of 0 is left out, and all are where the
    file's are not told as the shop's."""
    if "sku" not in columns or "items" in columns or tells_skus_by_name(table, columns):
        return []
    skus = table.rows.columns[columns["sku"][0]]
    names = [text.strip() for text in skus.texts]
    strange = [bool(name) and folded(name) not in known and not unfit(name) for name in names]
    rows = np.flatnonzero(np.array(strange, dtype=bool)[skus.codes])
    by_sku: dict[str, list[int]] = {}
    for row, code in zip(rows.tolist(), skus.codes[rows].tolist(), strict=True):
        by_sku.setdefault(folded(names[code]), []).append(row)
    has_prices = reading.taxed == "as the shop" and "currency" not in columns
    found = (
        GoodRecord(
            names[skus.codes[some[0]]],
            product=_mostly(table, columns, "product", some),
            option=_mostly(table, columns, "variant", some),
            list_price=_price(_mostly(table, columns, "unit_price", some), reading, digits) if has_prices else None,
        )
        for some in sorted(map(np.array, by_sku.values()), key=len, reverse=True)
    )
    return [one for one in found if not passes_over(one.product, reading.no_goods)]


def missing_goods_table(missing: Sequence[GoodRecord], digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and rows of a goods file with a row for each, its costs, weights and categories to be filled in."""
    header, rows = goods_rows(missing, digits)
    places = [header.index(heading) for heading in TO_FILL_IN]
    return [header[at] for at in places], [[row[at] for at in places] for row in rows]


def _mostly(table: Table, columns: Columns, key: str, rows: Ints) -> str:
    """What most of some rows have in the column of a field; empty where there is none."""
    if key not in columns:
        return ""
    column = table.rows.columns[columns[key][0]]
    told = Counter(text for code in column.codes[rows].tolist() if (text := column.texts[code].strip()))
    text = told.most_common(1)[0][0] if told else ""
    return "" if unfit(text, LONGEST_TITLE) else text


def _price(text: str, reading: Reading, digits: int) -> int | None:
    try:
        return finer_money(text, reading.decimal_mark, digits, largest=LARGEST_CART)[0] or None if text else None
    except BadCellError:
        return None
