"""Which column of an order file is which: by the headings, as far as the cells below them can be what those say, and
by the cells alone where no heading tells.

What the amounts show goes before what a heading says: a total of the order is not taken for the line's, nor an amount
for all units of a line for one of a unit, nor a discount on the order for one on each of its lines.
"""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace

import numpy as np

from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.amounts_told import FEWEST, AmountsTold
from yellow_abacus.files.columns import Columns, answering, free_columns, match_columns
from yellow_abacus.files.contents import HALF, Contents
from yellow_abacus.files.discounts_told import (
    discount_is_the_orders,
    discount_told_twice,
    is_beside_the_discounts,
    is_off_the_price,
    is_rate_off_the_price,
    is_taken_off_already,
    tells_more_off,
)
from yellow_abacus.files.fields import ALONE, BESIDE_ORDERS, OF_ORDERS, ORDERS, Field
from yellow_abacus.files.headings import (
    ends_in_a_discount,
    is_of_a_total,
    is_of_rates,
    is_of_what_was_paid,
    may_be_of_a_total,
    simplify,
)
from yellow_abacus.files.order_shapes import counted, tells_all_in_one_cell, things_in
from yellow_abacus.files.order_totals import NO_TAX, with_order_totals
from yellow_abacus.files.reading import decimal_mark_of
from yellow_abacus.files.tables import Table
from yellow_abacus.files.totals_told import DISCOUNTS, discounts_as_totals_show, is_of_orders, totals_show
from yellow_abacus.files.with_tax import taxed_by

NUMBERED = "0123456789 "
OF_ONE_LINE = frozenset(["unit_price", "paid_price", "line_asked", "line_total"])
"""Amounts of one line, or of one unit of it."""
LISTS_LOOKED_AT = 200
"""Different cells of a column that may list goods."""
MOST = 0.9
"""So many of a column's different cells are SKUs of the shop where no heading says that it is one of them."""

_SKU = OF_ORDERS["sku"]
_DISCOUNT = replace(
    OF_ORDERS["line_discount"], words=tuple(word.lstrip(ALONE) for word in OF_ORDERS["line_discount"].words)
)
_WITHOUT_SKUS = tuple(one for one in ORDERS if one.key != "sku")
_FIRST = tuple(one for one in ORDERS if not one.last)
PRICED = (("unit_price", "line_asked"), ("paid_price", "line_total"))
"""What is told of a unit, and the same of all units of a line."""
PAID_OR_OFF = DISCOUNTS | {"paid_price", "line_total"}
"""What tells what lines were paid, beside what they were asked."""


def guess_columns(
    table: Table, by_hand: Mapping[str, int], prices: Mapping[str, float], tax: Mapping[str, float] = NO_TAX
) -> Columns:
    """The column taken for each field of an order file. by_hand: those chosen.

    prices: the list price of each SKU of the shop, folded; not a number where it has none. tax: of each, what a price
    without tax is in times with it.
    """
    header, contents, found = table.header, Contents(table, prices), dict(by_hand)

    def put_skus(columns: Iterable[int], least: float) -> None:
        """Take the column of the most SKUs, whatever its heading stands for."""
        share, at = contents.most_skus(columns)
        if share >= least:
            for key in [key for key, one in found.items() if one == at]:
                del found[key]
            found["sku"] = at

    if DISCOUNTS.isdisjoint(found):
        found |= _discount_of_orders(table, contents, found.values())
    if "sku" not in found:
        put_skus((at for at in answering(header, _SKU) if at not in found.values()), HALF)
    found = {key: at for key, (at,) in match_columns(header, _FIRST, found, contents.tells).items()}
    if found.keys().isdisjoint(["sku", "items"]) or _of_nothing_known(found, by_hand, contents):
        certain = {at for key, at in found.items() if key in by_hand or OF_ORDERS[key].cells in ("number", "money")}
        put_skus((at for at in range(len(header)) if at not in certain), MOST)
    found = _with_goods_of_orders(table, found, by_hand, contents, prices)
    if "number" not in found:
        free = [at for at in range(len(header)) if at not in found.values()]
        at = contents.parts_orders(free, found.get("date"))
        found |= {} if at is None else {"number": at}
    fields = _WITHOUT_SKUS if tells_all_in_one_cell(found) else ORDERS
    matched = _without_amounts_of_one(match_columns(header, fields, found, contents.tells), by_hand)
    matched = {**matched, **_total_of_lines(table, matched, contents)}
    columns = _as_amounts_show(table, matched, by_hand, prices)
    found = {key: at for key, (at,) in columns.items()}
    if "date" not in found:
        clock = {"time"} & found.keys() - by_hand.keys()
        at = contents.only_days((*free_columns(header, columns), *map(found.__getitem__, clock)))
        if at is not None:
            found = {key: one for key, one in found.items() if one != at} | {"date": at}
    if found.keys().isdisjoint(["status", "cancelled"]):
        # a column headed *Payment* may tell what was paid, pending or cancelled
        taken = {at for key, at in found.items() if key != "payment" or key in by_hand}
        at = contents.only_statuses(at for at in range(len(header)) if at not in taken)
        if at is not None:
            found = {key: one for key, one in found.items() if one != at} | {"status": at}
    columns = match_columns(header, ORDERS, found, contents.may_tell_later)
    columns = _without_the_same_again(table, columns, by_hand)
    columns = _with_those_beside(table, columns, columns.keys() - by_hand.keys())
    columns = _with_more_discounts(table, columns, prices, by_hand)
    return with_order_totals(table, columns, prices, tax)


def _with_goods_of_orders(
    table: Table,
    found: Mapping[str, int],
    by_hand: Collection[str],
    contents: Contents,
    prices: Mapping[str, float],
) -> dict[str, int]:
    """The columns found, with one whose cells list SKUs of the shop, whatever its heading stands for, where none
    tells a SKU a row. Units must be told among them where another column may tell those."""
    if {"items", "sku"} & {*by_hand} or ("sku" in found and contents.share_of_skus(found["sku"]) >= HALF):
        return dict(found)
    for at, column in enumerate(table.rows.columns):
        cells = [things_in(text) for text in column.used[:LISTS_LOOKED_AT] if text.strip()]
        things = [thing for cell in cells for thing in cell]
        skus = [counted(thing)[0] for thing in things]
        many = sum(thing != sku for thing, sku in zip(things, skus, strict=True))
        is_list = many >= FEWEST or (len(things) > len(cells) and (many or "quantity" not in found))
        if is_list and np.mean([folded(sku) in prices for sku in skus]) >= MOST:
            return {key: one for key, one in found.items() if one != at and key != "sku"} | {"items": at}
    return dict(found)


def _without_amounts_of_one(columns: Columns, by_hand: Collection[str]) -> Columns:
    """The columns, where all goods of an order are in one cell without those that would tell an amount of each."""
    if not tells_all_in_one_cell(columns):
        return columns
    return {key: at for key, at in columns.items() if key in by_hand or key not in OF_ONE_LINE}


def _discount_of_orders(table: Table, contents: Contents, taken: Collection[int]) -> dict[str, int]:
    """Where a table of orders is joined with one of their lines, the column there that tells a discount, whatever it
    would be of elsewhere."""
    field, header = OF_ORDERS["order_discount"], table.header
    headed = (*answering(header, field), *_loosely_discounts(header, {}))
    there = [at for at in headed if at in table.of_orders and at not in taken and contents.tells(at, field)]
    return {field.key: there[0]} if there else {}


def _total_of_lines(table: Table, columns: Columns, contents: Contents) -> Columns:
    """The column here that tells a total, in whatever words."""
    field, free = OF_ORDERS["line_total"], free_columns(table.header, columns)
    if not table.of_orders or field.key in columns:
        return {}
    headed = [at for at in free if at not in table.of_orders and is_of_a_total(table.header[at])]
    return next(({field.key: (at,)} for at in headed if contents.tells(at, field)), {})


def _without_the_same_again(table: Table, columns: Columns, by_hand: Collection[str]) -> Columns:
    """The columns without what carriers asked where that is just what shoppers paid: it is told twice."""
    if not columns.keys() >= {"delivery_paid", "delivery_cost"} or "delivery_cost" in by_hand:
        return columns
    paid, cost = (table.rows.columns[columns[key][0]] for key in ("delivery_paid", "delivery_cost"))
    pairs = np.unique(np.stack([paid.codes, cost.codes]), axis=1).T.tolist()
    if any(paid.texts[one].strip() != cost.texts[other].strip() for one, other in pairs):
        return columns
    return {key: at for key, at in columns.items() if key != "delivery_cost"}


def _with_those_beside(table: Table, columns: Columns, guessed: Collection[str]) -> Columns:
    """The columns, with more that tell statuses, those of lines beside those of orders too; and codes: those headed
    as the one of codes but for a number."""
    header, found = table.header, dict(columns)
    free = free_columns(header, columns)
    if "status" in guessed:
        beside = {*answering(header, BESIDE_ORDERS["status"])}
        beside |= {*answering(header, OF_ORDERS["status"])} if table.of_orders else set()
        found["status"] = tuple(sorted((*columns["status"], *beside.intersection(free))))
    if "code" in guessed:
        found["code"] = (*columns["code"], *_headed_alike(header, columns["code"][0], free))
    return found


def _headed_alike(header: list[str], one: int, others: Iterable[int]) -> list[int]:
    """Those of other columns that are headed as one but for a number."""
    name = simplify(header[one]).strip(NUMBERED)
    return [at for at in others if simplify(header[at]).strip(NUMBERED) == name]


def _with_more_discounts(
    table: Table, columns: Columns, prices: Mapping[str, float], by_hand: Collection[str]
) -> Columns:
    """The columns, with all that tell discounts, of several kinds, on the same lines or orders."""
    if not DISCOUNTS.isdisjoint(by_hand):
        return columns
    taken = {at for key in DISCOUNTS & columns.keys() for at in columns[key]}
    more = _loosely_discounts(table.header, columns, OF_ORDERS["order_discount"])
    if not taken and not more:
        return columns
    amounts = AmountsTold(table, columns, decimal_mark_of(table, columns))
    columns = discounts_as_totals_show(amounts, sorted({*taken, *more}))
    if columns.keys().isdisjoint(["line_total", "paid_price"]):
        return _with_discounts_beside(table.header, columns, amounts, prices)
    if "line_discount" not in columns:
        return columns
    for at in _loosely_discounts(table.header, columns):
        if tells_more_off(amounts.taken_as(columns), at):
            columns = {**columns, "line_discount": (*columns["line_discount"], at)}
    return columns


def _with_discounts_beside(
    header: list[str], columns: Columns, amounts: AmountsTold, prices: Mapping[str, float]
) -> Columns:
    """The columns, with those that tell discounts where the ones taken tell none, none if totals show those alone;
    and with rates headed as the one taken but for a number."""
    free = sorted({*_loosely_discounts(header, columns, OF_ORDERS["order_discount"])})
    rates = [at for at in columns.get("line_discount", ()) if is_of_rates(header[at])]
    if rates:
        alike = filter(lambda at: is_of_rates(header[at]), _headed_alike(header, rates[0], free))
        return {**columns, "line_discount": (*columns["line_discount"], *alike)}
    if not free or totals_show(amounts.taken_as(columns)):
        return columns
    for at in free:
        so_far = amounts.taken_as(columns)
        if is_off_the_price(so_far, at, prices) and is_beside_the_discounts(so_far, at):
            alone = amounts.taken_as({**columns, "line_discount": (at,)})
            key = "order_discount" if discount_is_the_orders(alone) else "line_discount"
            columns = {**columns, key: (*columns.get(key, ()), at)}
    return columns


def _of_nothing_known(found: Mapping[str, int], by_hand: Mapping[str, int], contents: Contents) -> bool:
    """Whether the column taken for SKUs holds none of the shop."""
    return "sku" in found and "sku" not in by_hand and not contents.share_of_skus(found["sku"])


def _as_amounts_show(
    table: Table, columns: Columns, by_hand: Mapping[str, int], prices: Mapping[str, float]
) -> Columns:
    """The columns, those of amounts as these show what they are."""
    found, amounts = dict(columns), AmountsTold(table, columns, decimal_mark_of(table, columns))
    guessed = found.keys() - by_hand.keys()
    if "returned" in guessed and _tells_what_was_refunded(table.header, found, amounts):
        found["refunded"] = found.pop("returned")
    for each, every in PRICED:
        told, amounts = {each, every} & found.keys(), amounts.taken_as(found)
        if told == {each} <= guessed and amounts.is_of_all_units(each, prices):
            found[every] = found.pop(each)
        elif told == {every} <= guessed and amounts.is_of_one_unit(every, prices):
            found[each] = found.pop(every)
    if "line_total" not in by_hand:
        found |= _plain_total(table.header, found, amounts.taken_as(found), prices)
    if found.keys().isdisjoint(PAID_OR_OFF):
        asked = amounts.taken_as(found)
        some = _loosely_discounts(table.header, found)
        off = [at for at in some if is_off_the_price(asked, at, prices) or is_rate_off_the_price(asked, at, prices)]
        found |= {"line_discount": (off[0],)} if off else {}
    if found.keys().isdisjoint(PAID_OR_OFF) and "unit_price" in found.keys() - by_hand.keys():
        found |= _two_prices(table.header, found, amounts.taken_as(found), prices)
    guessed = found.keys() - by_hand.keys()
    total = amounts.taken_as(found)
    if "line_total" in guessed and (
        not total.total_is_the_lines() or total.is_less_what_came_back() or is_of_orders(total, prices)
    ):
        del found["line_total"]
    discounts = DISCOUNTS & found.keys()
    if discounts == {"line_discount"} <= guessed and discount_is_the_orders(amounts.taken_as(found)):
        found["order_discount"] = found.pop("line_discount")
    if "order_discount" in found.keys() - by_hand.keys() and is_taken_off_already(amounts.taken_as(found)):
        del found["order_discount"]
    guessed = found.keys() - by_hand.keys()
    if "order_discount" in guessed and (twice := discount_told_twice(amounts.taken_as(found))) in guessed:
        del found[twice]
    return found


def _tells_what_was_refunded(header: list[str], columns: Columns, amounts: AmountsTold) -> bool:
    """Whether the column taken for units sent back may as well be headed as money given back, and cannot be of
    units."""
    if "refunded" in columns or columns["returned"][0] not in answering(header, OF_ORDERS["refunded"]):
        return False
    return amounts.returns_more_than_there_was() or tells_all_in_one_cell(columns)


def _two_prices(header: list[str], columns: Columns, amounts: AmountsTold, prices: Mapping[str, float]) -> Columns:
    """What a unit was asked and what was paid for it, of two columns headed as its price that tax does not part: most
    are alike, if a heading speaks of it."""
    (one,) = columns["unit_price"]
    for at in sorted({*answering(header, OF_ORDERS["unit_price"])} & {*free_columns(header, columns)}):
        if taxed_by([header[at]]) != taxed_by([header[one]]) and not amounts.are_mostly_alike(at, one):
            continue
        if amounts.is_reduced_from(at, one):
            return {"paid_price": (at,)}
        if amounts.is_reduced_from(one, at) and amounts.is_mostly_listed(at, prices):
            return {"unit_price": (at,), "paid_price": (one,)}
    return {}


def _loosely_discounts(header: list[str], columns: Columns, *more: Field) -> list[int]:
    """The columns taken for nothing with a word for a discount anywhere in their headings. more: fields they may
    answer to besides."""
    free = free_columns(header, columns)
    headed = [at for field in (_DISCOUNT, *more) for at in answering(header, field)]
    return [at for at in (*headed, *filter(lambda at: ends_in_a_discount(header[at]), free)) if at in free]


def _plain_total(header: list[str], columns: Columns, amounts: AmountsTold, prices: Mapping[str, float]) -> Columns:
    """The column of the line's total, where one that is headed as such, or as some total, plainly is that; of several
    one that is that of another, in some lines less."""
    headed = [at for at, heading in enumerate(header) if is_of_what_was_paid(heading)]
    headed += [*columns.get("line_total", ()), *answering(header, OF_ORDERS["line_total"])]
    headed += [at for at, heading in enumerate(header) if is_of_a_total(heading)]
    loosely = [at for at, heading in enumerate(header) if may_be_of_a_total(heading)]
    others = {key: some for key, some in columns.items() if key != "line_total"}
    free = free_columns(header, others)
    told = [
        at
        for at in dict.fromkeys([*headed, *loosely])
        if at in free and amounts.is_plainly_the_lines(at, prices, is_headed=at in headed)
    ]
    less = (
        at for at in told for one in told if amounts.are_mostly_alike(at, one) and amounts.is_reduced_from(at, one)
    )
    return {"line_total": (at,)} if (at := next(less, next(iter(told), None))) is not None else {}
