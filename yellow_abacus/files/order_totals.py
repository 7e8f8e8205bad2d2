"""What came off orders of which no column but their total tells it: many come to just what their goods and delivery
do, some to less, and next to none to more.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cache, partial
from types import MappingProxyType

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.amounts_told import A_CENT, A_FIFTH, MOST, NEARLY_ALL, AmountsTold, ratio
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.headings import has_words, is_in_minor_units, is_of_what_was_paid, may_be_of_a_total
from yellow_abacus.files.order_shapes import with_column
from yellow_abacus.files.reading import decimal_mark_of
from yellow_abacus.files.rows import coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.totals_told import beside_goods, headed
from yellow_abacus.files.values import DecimalMark
from yellow_abacus.files.words import so_many

TOLD_OTHERWISE = frozenset(["order_discount", "line_discount", "delivery_discount", "paid_price", "line_total"])
"""Where one of these is told, what a total lacks is something else."""
NO_TAX: Mapping[str, float] = MappingProxyType({})
"""Where none is known."""
MANY = 5
"""So many orders that come to just that tell what totals are."""


@dataclass(frozen=True, eq=False)
class Lacking:
    """What totals lack of goods, delivery and fees, and of tax where a column tells that. off: what came off goods,
    by order, 0 for those that lack nothing; off_delivery: off delivery, of those that lack just that. orders: of
    which that can be told; exact, more: the shares of those that come to just that, and to more."""

    off: Floats
    off_delivery: Floats
    orders: int
    exact: float
    more: float

    @property
    def plainly(self) -> bool:
        """Whether it is what came off orders, and nothing that the file does not tell."""
        exact = self.exact >= A_FIFTH and self.exact * self.orders >= MANY
        return exact and self.more <= 1 - NEARLY_ALL and bool(self.any_off.any())

    @property
    def any_off(self) -> Bools:
        """The orders that lack something."""
        return (self.off > 0) | (self.off_delivery > 0)


def with_order_totals(
    table: Table, columns: Columns, prices: Mapping[str, float], tax: Mapping[str, float] = NO_TAX
) -> Columns:
    """The columns, with the one of orders' totals where that tells what came off orders, and nothing else does.
    prices, tax: as in `guess_columns`."""
    if "order_total" in columns or not TOLD_OTHERWISE.isdisjoint(columns):
        return columns
    amounts = cache(partial(AmountsTold, table, columns))
    for at in (at for at in free_columns(table.header, columns) if may_be_of_an_order(table.header[at])):
        taken = {**columns, "order_total": (at,)}
        found = lacking(amounts(decimal_mark_of(table, taken)), at, prices, tax)
        if found is not None and found.plainly:
            return taken
    return columns


def may_be_of_an_order(heading: str) -> bool:
    """Whether a heading may be that of what orders come to."""
    return is_of_what_was_paid(heading) or may_be_of_a_total(heading) or has_words(heading, "order_total")


def less_what_totals_lack(
    table: Table,
    columns: Columns,
    mark: DecimalMark,
    prices: Mapping[str, float],
    digits: int,
    tax: Mapping[str, float] = NO_TAX,
) -> tuple[Table, Columns, int]:
    """A table with a column of orders' totals as one with discounts on those that come to less, and how many do; any
    other as it is. prices, tax: as in `guess_columns`. digits: of the currency."""
    if "order_total" not in columns or not TOLD_OTHERWISE.isdisjoint(columns):
        return table, columns, 0
    (at,) = columns["order_total"]
    amounts = AmountsTold(table, columns, mark, len(table.rows))
    found = lacking(amounts, at, prices, tax)
    if found is None or found.more > 1 - MOST:
        return table, columns, 0
    first = amounts.orders[1]
    for key, off in (("order_discount", found.off), ("delivery_discount", found.off_delivery)):
        texts, orders = np.full(len(table.rows), "", dtype=object), np.flatnonzero(off > 0)
        texts[first[orders]] = [f"{one:.{digits}f}".replace(".", mark) for one in off[orders].tolist()]
        if len(orders):
            table, columns = with_column(table, columns, key, coded(texts.tolist()))
    return table, columns, int(found.any_off.sum())


def notes_of_totals(orders: int) -> list[str]:
    """How many orders come to less than their goods and delivery, in words where some do."""
    come = "comes" if orders == 1 else "come"
    says = f"{so_many(orders, 'order')} {come} to less than goods and delivery: what the total lacks is a discount."
    return [says] if orders else []


def lacking(amounts: AmountsTold, at: int, prices: Mapping[str, float], tax: Mapping[str, float]) -> Lacking | None:
    """at: of the totals, with tax on prices without it where that shows what they lack. None where it cannot be
    said."""
    columns = amounts.columns.keys()
    if "number" not in columns or not ({"sku", "quantity"} <= columns or "items" in columns):
        return None
    if is_in_minor_units(amounts.table.header[at]):
        return None
    if not _is_once_an_order(amounts, amounts.numbers(at)):
        return None
    total, asked = amounts.first_of_order(amounts.numbers(at)), _asked(amounts, prices)
    goods = amounts.by_order(asked)
    alike = np.ones(len(goods))
    found = _held_against(amounts, total, goods, alike, (), A_CENT * alike)
    if found is None or found.plainly or not {"sku", "unit_price"} <= columns:
        return found
    with_tax = ratio(amounts.by_order(asked * amounts.by_sku(tax)), goods)
    rounded = A_CENT * (1 + amounts.by_order(amounts.of("quantity")))
    tried = (_held_against(amounts, total, goods, of, {1.0, *tax.values()}, rounded) for of in (alike, with_tax))
    return next((one for one in tried if one is not None and one.plainly), found)


def _held_against(
    amounts: AmountsTold, total: Floats, goods: Floats, tax: Floats, on_delivery: Collection[float], within: Floats
) -> Lacking | None:
    """By order. tax: what goods without it are in times with it, where totals are, else 1; on_delivery: the same that
    delivery and fees may be, beside that of goods. within: how much totals and goods may differ and still be the
    same."""
    total, back = total / tax, _given_back(amounts) / tax
    tells = (total > 0) & (goods > 0)
    told = tells & (back == 0)
    if not told.any():
        return None

    def unlike(off: Floats) -> tuple[int, int]:
        """How many orders are not just what goods and the rest come to, those that come to more first."""
        return int((off < -within)[told].sum()), int((off > within)[told].sum())

    times = [np.ones(len(tax)), *(one / tax for one in on_delivery)]
    every = (
        (goods + (charge + more) * brought - total, charge, charge * brought)
        for charge, more in beside_goods(amounts)
        for brought in times
    )
    off, charge, less_tax = min(every, key=lambda one: unlike(one[0]))
    some = tells & ~told
    before = (np.abs(off) <= within)[some].any() or (off < back - within)[some].any()
    less = (np.abs(off - back) <= within)[some].any()
    if before != less:  # so that it is known whether totals are less what was given back
        told, off = tells, off - back if less else off
    exact, more = np.abs(off) <= within, off < -within
    lacks = told & ~exact & ~more & (off <= goods + within) & ~_paid_otherwise(amounts, off * tax)
    free = lacks & (np.abs(off - less_tax) <= within)
    return Lacking(
        off=np.where(lacks & ~free, off, 0.0),
        off_delivery=np.where(free, charge, 0.0),
        orders=int(told.sum()),
        exact=float(exact[told].mean()),
        more=float(more[told].mean()),
    )


def _asked(amounts: AmountsTold, prices: Mapping[str, float]) -> Floats:
    """What lines were asked, by list prices where the file tells none."""
    if "unit_price" in amounts.columns:
        return amounts.asked
    if "line_asked" in amounts.columns:
        return amounts.of("line_asked")
    return amounts.lines_as_listed(prices)


def _is_once_an_order(amounts: AmountsTold, total: Floats) -> bool:
    """Whether amounts are told on the first line of an order alone, or alike on all of them."""
    return bool(amounts.is_unlike_the_first(total).mean() <= 1 - NEARLY_ALL)


def _given_back(amounts: AmountsTold) -> Floats:
    """What was given back of each order, which its total may be less."""
    back = np.zeros(len(amounts.orders[1]))
    for at in amounts.columns.get("refunded", ()):
        told = amounts.taken_off(at)
        is_of_lines = amounts.by_order(amounts.is_unlike_the_first(told).astype(np.float64)) > 0
        back += np.where(is_of_lines, amounts.by_order(told), amounts.first_of_order(told))
    return back


def _paid_otherwise(amounts: AmountsTold, off: Floats) -> Bools:
    """The orders whose totals lack just what was paid by a gift card or from credit."""
    found = np.zeros(len(off), dtype=np.bool_)
    for at in headed(amounts, "paid_before"):
        found |= np.abs(amounts.first_of_order(amounts.taken_off(at)) - off) <= A_CENT
    return found
