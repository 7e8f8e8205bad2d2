"""Bringing a file in: read, match, check, and save all of it or nothing. What the command line and the web call."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.records import GoodRecord, OrderRecord
from yellow_abacus.files.columns import GOODS, ORDERS, Field, match_columns, missing_columns
from yellow_abacus.files.goods import read_goods
from yellow_abacus.files.orders import read_orders
from yellow_abacus.files.reading import Progress, guess_reading
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.tables import Table, read_table
from yellow_abacus.files.values import Reading
from yellow_abacus.store.goods import Saved, all_goods, save_goods
from yellow_abacus.store.orders import save_orders
from yellow_abacus.store.settings import shop_row
from yellow_abacus.store.shop_file import ShopFile

Kind = Literal["goods", "orders"]

FIELDS: dict[Kind, tuple[Field, ...]] = {"goods": GOODS, "orders": ORDERS}


class RejectedRowsError(Exception):
    """Some rows are not good, and it was not said to bring in the good ones only."""

    def __init__(self, rejected: list[Rejection]) -> None:
        super().__init__(f"{len({one.row for one in rejected})} rows cannot be brought in.")
        self.rejected = rejected


@dataclass(frozen=True)
class Checked:
    """A file read and checked, nothing saved. missing: required fields no column was found for."""

    kind: Kind
    table: Table
    columns: dict[str, int]
    reading: Reading
    missing: list[Field]
    goods: list[GoodRecord]
    orders: list[OrderRecord]
    rejected: list[Rejection]

    @property
    def good(self) -> int:
        return len(self.goods) + len(self.orders)


def check(
    shop_file: ShopFile,
    kind: Kind,
    data: bytes,
    columns: Mapping[str, int] | None = None,
    reading: Reading | None = None,
    progress: Progress = lambda _: None,
) -> Checked:
    """Read and check a file. columns and reading are guessed unless given. Raises UnreadableFileError."""
    table = read_table(data)
    return check_table(shop_file, kind, table, columns, reading, progress)


def check_table(
    shop_file: ShopFile,
    kind: Kind,
    table: Table,
    columns: Mapping[str, int] | None = None,
    reading: Reading | None = None,
    progress: Progress = lambda _: None,
) -> Checked:
    matched = match_columns(table.header, FIELDS[kind]) if columns is None else dict(columns)
    reading = reading or guess_reading(table, matched)
    missing = missing_columns(matched, FIELDS[kind])
    goods: list[GoodRecord] = []
    orders: list[OrderRecord] = []
    rejected: list[Rejection] = []
    if not missing:
        with shop_file.reading() as session:
            digits = shop_row(session).minor_digits
            prices = {good.sku: good.list_price for good in all_goods(session)} if kind == "orders" else {}
        if kind == "goods":
            goods, rejected = read_goods(table, matched, reading, digits, progress)
        else:
            orders, rejected = read_orders(table, matched, reading, digits, prices, progress)
    return Checked(kind, table, matched, reading, missing, goods, orders, rejected)


def save(
    shop_file: ShopFile, checked: Checked, *, good_rows_only: bool = False, progress: Progress = lambda _: None
) -> Saved:
    """Save what was checked, as one undoable change. Raises RejectedRowsError."""
    if checked.rejected and not good_rows_only:
        raise RejectedRowsError(checked.rejected)
    if checked.kind == "goods":
        with shop_file.changing(f"Bring in {checked.good} goods") as session:
            return save_goods(session, checked.goods, frozenset(checked.columns))
    with shop_file.changing(f"Bring in {checked.good} orders") as session:
        return save_orders(session, checked.orders, progress)
