"""What a column of discounts in an order file tells, as far as the amounts of its first rows show it: what came off
lines or orders, beside what others tell or again, and whether it is in other amounts already.
"""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.amounts_told import (
    A_CENT,
    A_FIFTH,
    A_RATE,
    FEWEST,
    FINE,
    HALF,
    MOST,
    NEARLY_ALL,
    AmountsTold,
    ratio,
)
from yellow_abacus.files.columns import free_columns
from yellow_abacus.files.headings import is_of_rates
from yellow_abacus.files.order_shapes import tells_a_list, tells_all_in_one_cell

MANY = 10
"""So many orders of several lines tell that rates on their first lines are of the orders."""
WHOLE_PERCENT = 100
MOST_RATES = 3


def discount_is_the_orders(amounts: AmountsTold) -> bool:
    """Whether what is taken for a discount on the line is one on the order.

    It is where it is told beside several lines in one cell, is alike on all lines of orders whose lines come to
    different amounts, or stands on the first line of each order alone and is no rate of it; a rate is where it
    stands there alone in many orders.
    """
    if _tells_several_a_row(amounts):
        return True
    if "number" not in amounts.columns:
        return False
    order, first, several = amounts.orders
    there, is_later = several & (amounts.off_lines > 0), np.arange(len(order)) != first[order]
    if amounts.are_rates_off_lines:
        is_told = amounts.column("line_discount").filled & several
        return bool(there.sum() >= MANY and not (is_told & is_later).any())
    orders = np.unique(order[there])
    if not len(orders):
        return False
    if not (there & is_later).any():
        is_told = amounts.column("line_discount").filled
        alone = len(orders) >= FEWEST or not (several & is_later & is_told).any()
        return alone and not _is_at_rates_of_lines(amounts, there)
    alike = ~np.isin(orders, _orders_of_unlike(amounts, amounts.off_lines))
    worth_unlike = np.isin(orders, _orders_of_unlike(amounts, amounts.worth))
    if len(orders) < FEWEST:
        return bool(alike.all() and worth_unlike.any()) and not _may_be_off_lines(amounts, there)
    return bool(alike.mean() >= MOST and worth_unlike.mean() > HALF)


def _may_be_off_lines(amounts: AmountsTold, some: Bools) -> bool:
    """Whether no discount on some lines is more than these are worth, and they are no whole percentages of orders
    rather than of lines."""
    if (amounts.off_lines > amounts.worth + A_CENT)[some].any():
        return False
    of_line, of_order = _whole_percents(amounts, some)
    return of_line == 1 or of_order < 1


def _is_at_rates_of_lines(amounts: AmountsTold, some: Bools) -> bool:
    """Whether discounts on some lines are at a few rates of these, or more often at whole percentages of them
    than of their orders."""
    some = some & (amounts.worth >= FINE)
    if _few(ratio(amounts.off_lines, amounts.worth)[some]):
        return True
    of_line, of_order = _whole_percents(amounts, some)
    return of_line > of_order


def _whole_percents(amounts: AmountsTold, some: Bools) -> tuple[float, float]:
    """The shares of discounts on some lines that are whole percentages of these, and of their orders."""
    of_order = amounts.by_order(amounts.worth)[amounts.orders[0]]
    return _whole_percent(amounts.off_lines, amounts.worth, some), _whole_percent(amounts.off_lines, of_order, some)


def tells_more_off(amounts: AmountsTold, at: int) -> bool:
    """Whether a column tells what came off lines besides the discount taken: what was asked less both is what was
    paid; where nothing tells what was asked, more lines of a SKU cost alike before both than before the one."""
    more, paid = amounts.taken_off(at), amounts.paid
    some = (more > A_CENT) & (paid > 0)
    if some.sum() < FEWEST or amounts.are_rates_off_lines or is_of_rates(amounts.table.header[at]):
        return False
    told = some & (amounts.asked > 0)
    if told.sum() >= FEWEST:
        return bool((np.abs(amounts.asked - amounts.off_lines - more - paid) <= A_CENT)[told].mean() >= MOST)
    units = amounts.of("quantity")
    alike, with_more = (
        _alike(amounts, (paid + off) / units) for off in (amounts.off_lines, amounts.off_lines + more)
    )
    return with_more > alike


def is_off_the_price(amounts: AmountsTold, at: int, prices: Mapping[str, float]) -> bool:
    """Whether a column tells what came off lines after the price they tell: that is mostly the list price where
    something came off, and never less than what did. prices: as in `guess_columns`."""
    off = amounts.taken_off(at)
    some = off > A_CENT
    if is_of_rates(amounts.table.header[at]) or not _is_mostly_at_list_prices(amounts, some, prices):
        return False
    told = some & (amounts.of("unit_price") > 0) & (amounts.listed(prices) > 0)
    return not (off > amounts.of("unit_price") * amounts.of("quantity") + A_CENT)[told].any()


def is_rate_off_the_price(amounts: AmountsTold, at: int, prices: Mapping[str, float]) -> bool:
    """The same, of a column of rates."""
    rate = amounts.taken_off(at)
    if not is_of_rates(amounts.table.header[at]) or (rate > WHOLE_PERCENT).any():
        return False
    return _is_mostly_at_list_prices(amounts, rate > 0, prices)


def _is_mostly_at_list_prices(amounts: AmountsTold, some: Bools, prices: Mapping[str, float]) -> bool:
    if not {"sku", "quantity", "unit_price"} <= amounts.columns.keys():
        return False
    return amounts.is_mostly_listed(amounts.columns["unit_price"][0], prices, some)


def is_beside_the_discounts(amounts: AmountsTold, at: int) -> bool:
    """Whether a column takes something off orders that the discounts taken take nothing off, and nothing off some
    that they do: it is no sum of them, and no part."""
    if "number" not in amounts.columns or ("line_discount" in amounts.columns and amounts.are_rates_off_lines):
        return False
    taken, more = (
        amounts.by_order(off) > A_CENT for off in (amounts.off_lines + amounts.off_order, amounts.taken_off(at))
    )
    return bool((more & ~taken).sum() >= FEWEST and (taken & ~more).sum() >= FEWEST)


def discount_told_twice(amounts: AmountsTold) -> str:
    """Which column to pass over where the discount on the order is the sum of those on its lines, and of others:
    that of the lines if there are others, else that on the order. Empty where it is another. What lines were paid
    may tell their discount too."""
    off, key = amounts.off_lines, "line_discount"
    if key not in amounts.columns:
        off = np.maximum(np.nan_to_num(amounts.asked - amounts.paid), 0.0)
        key = "line_total" if "line_total" in amounts.columns else "paid_price"
    elif amounts.are_rates_off_lines:
        return ""
    if not {"number", key} <= amounts.columns.keys():
        return ""
    lines, order = amounts.by_order(off), amounts.first_of_order(amounts.off_order)
    slack = A_CENT * np.bincount(amounts.orders[0])  # each line may be rounded
    some, more = lines > A_CENT, order - lines
    if some.sum() < FEWEST or (more >= -slack)[some].mean() < NEARLY_ALL:
        return ""
    if (np.abs(more) <= slack)[some].mean() < A_FIFTH:
        return ""
    return key if (more > slack).sum() >= FEWEST else "order_discount"


def _alike(amounts: AmountsTold, price: Floats) -> int:
    """How many lines have the price that most lines of their SKU have."""
    rows = np.flatnonzero(np.isfinite(price))
    if "sku" not in amounts.columns or not len(rows):
        return 0
    sku, cents = amounts.column("sku").codes[rows], np.rint(price[rows] * 100).astype(np.int64)
    both, many = np.unique(np.stack((sku, cents)), axis=1, return_counts=True)
    most = np.zeros(int(sku.max()) + 1, dtype=np.int64)
    np.maximum.at(most, both[0], many)
    return int(most.sum())


def _orders_of_unlike(amounts: AmountsTold, amount: Floats) -> NDArray[np.int64]:
    """The orders whose lines do not all have the same amount."""
    order, first, _ = amounts.orders
    return np.unique(order[np.abs(amount - amount[first][order]) > A_CENT / 2])


def is_taken_off_already(amounts: AmountsTold) -> bool:
    """Whether a discount on the order is in what its lines came to: orders come to the sum of their lines, with
    delivery or without, and none to that less the discount."""
    if "number" not in amounts.columns or "line_total" not in amounts.columns:
        return False
    first, lines = amounts.orders[1], amounts.by_order(np.nan_to_num(amounts.of("line_total")))
    off, delivery = (np.nan_to_num(amounts.of(key))[first] for key in ("order_discount", "delivery_paid"))
    some = np.abs(off) > A_CENT
    if some.sum() < FEWEST:
        return False
    free = free_columns(amounts.table.header, amounts.columns)
    every = [amounts.numbers(at)[first] for at in free if amounts.tells_numbers(at)]

    def is_told(amount: Floats) -> bool:
        wanted = (amount, amount + delivery)
        return any((np.abs(one - want)[some] <= A_CENT).mean() >= MOST for one in every for want in wanted)

    return is_told(lines) and not is_told(lines - np.abs(off))


def _tells_several_a_row(amounts: AmountsTold) -> bool:
    """Whether rows tell several lines, and one discount for them."""
    if tells_all_in_one_cell(amounts.columns):
        return True
    if "quantity" not in amounts.columns:
        return False
    units, off = amounts.column("quantity"), amounts.column("line_discount")
    return any(map(tells_a_list, units.used)) and not any(map(tells_a_list, off.used))


def _whole_percent(off: Floats, worth: Floats, some: Bools) -> float:
    """The share of some amounts that are a whole percentage of what they came off, but for the cent."""
    rate = np.rint(100 * ratio(off, worth)) / 100
    return float((np.abs(rate * worth - off) <= A_CENT)[some].mean()) if some.any() else 0.0


def _few(rates: Floats) -> bool:
    """Whether rates are a few, each told more than once."""
    _, many = np.unique(np.rint(rates / A_RATE), return_counts=True)
    most = np.sort(many)[-MOST_RATES:]
    return 0 < 2 * len(most) <= len(rates) and bool(most.sum() >= MOST * len(rates))
