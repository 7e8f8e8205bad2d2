"""A goods file to records: one row a SKU."""

from collections.abc import Mapping

from yellow_abacus.core.money import LARGEST_CART
from yellow_abacus.core.records import GoodRecord
from yellow_abacus.files.columns import GOODS, unit_of_weight
from yellow_abacus.files.reading import Cells, Progress, cells_of
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import Reading, parse_count, parse_flag, parse_money, parse_weight, split_names

MOST_STOCK = 1_000_000_000


def read_goods(
    table: Table, columns: Mapping[str, int], reading: Reading, minor_digits: int, progress: Progress = lambda _: None
) -> tuple[list[GoodRecord], list[Rejection]]:
    """The good rows as records, the others with what is wrong. `progress` is told the share done."""
    unit = unit_of_weight(table.header[columns["weight"]]) if "weight" in columns else "g"
    records: list[GoodRecord] = []
    rejected: list[Rejection] = []
    seen: dict[str, int] = {}
    for done, row in enumerate(table.rows):
        if done % 2000 == 0:
            progress(done / len(table.rows))
        cells = cells_of(table, row, columns, GOODS)
        record = _record(cells, reading, minor_digits, unit)
        if not record.sku:
            cells.reject("sku", "The SKU is missing.", "Write the SKU.")
        elif (first := seen.setdefault(record.sku, row.number)) != row.number:
            cells.reject("sku", f"SKU {record.sku} is already in row {first}.", "Keep one row for each SKU.")
        if cells.rejected:
            rejected += cells.rejected
        else:
            records.append(record)
    return records, rejected


def _record(cells: Cells, reading: Reading, minor_digits: int, unit: str) -> GoodRecord:
    mark = reading.decimal_mark

    def price(text: str) -> int:
        return int(parse_money(text, mark, minor_digits, largest=LARGEST_CART))

    def cost(text: str) -> float:
        return float(parse_money(text, mark, minor_digits, largest=LARGEST_CART, extra_digits=2))

    return GoodRecord(
        sku=cells.text("sku"),
        product=cells.text("product"),
        option=cells.text("option"),
        list_price=cells.read("list_price", price),
        reduced_price=cells.read("reduced_price", price),
        unit_cost=cells.read("unit_cost", cost),
        weight=cells.read("weight", lambda text: parse_weight(text, mark, unit)),
        categories=split_names(cells.text("categories")),
        stock=cells.read("stock", lambda text: parse_count(text, mark, least=0, largest=MOST_STOCK)),
        brand=cells.text("brand"),
        tags=split_names(cells.text("tags")),
        never_discounted=cells.read("never_discounted", parse_flag) or False,
    )
