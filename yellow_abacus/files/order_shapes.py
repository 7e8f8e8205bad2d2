"""Order files of other shapes, made rows of one line each. Several lines side by side in numbered columns or a column
for each SKU, a row for each unit, all goods of an order in one cell or in a list a column, a row for the order itself
above those of its lines, units sent back in rows of their own, or goods told by their names.
"""

import re
from collections import defaultdict
from collections.abc import Container, Mapping, Sequence
from dataclasses import replace

import numpy as np

from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, answering, match_columns
from yellow_abacus.files.contents import HALF, Contents
from yellow_abacus.files.fields import OF_A_LINE, OF_ORDERS, ORDERS
from yellow_abacus.files.headings import is_of_rates, simplify, words_of
from yellow_abacus.files.rows import Coded, Codes, Rows, coded, emptied
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import split_names

_NUMBERED = re.compile(r"(?P<word>.*\D) ?(?P<number>\d{1,3})")
_NUMBERED_LINE = re.compile(r"\D*(?P<number>\d{1,3}) ?(?P<word>\D+)")
_BEFORE = re.compile(r"(\d{1,7})\s*(?:[x×*]|\s)\s*(\S.*)", re.IGNORECASE | re.DOTALL)
_BEHIND = re.compile(r"(.*\S)\s*(?:[x×*:]|\s[x×*])\s*(\d{1,7})", re.IGNORECASE | re.DOTALL)
_IN_BRACKETS = re.compile(r"(.*\S)\s*[(\[]\s*[x×*]?\s*(\d{1,7})\s*[x×*]?\s*[)\]]", re.IGNORECASE | re.DOTALL)


def side_by_side(table: Table, skus: Container[str]) -> Table:
    """A table with columns such as *SKU 1, Quantity 1, SKU 2, Quantity 2*, or *Items[0].SKU, Items[0].Quantity*, as
    one with a row a line; any other as it is. skus: of the shop, folded."""
    groups: dict[str, dict[int, int]] = defaultdict(dict)
    for at, heading in enumerate(table.header):
        if told_by := _NUMBERED.fullmatch(simplify(heading)) or _NUMBERED_LINE.fullmatch(simplify(heading)):
            groups[told_by["word"].strip()].setdefault(int(told_by["number"]), at)
    many = {word: told for word, told in groups.items() if len(told) > 1}
    word = _of_skus(table, many, skus)
    if word is None:
        return table
    goods = groups[word]
    numbers = sorted(goods)
    repeated = {base: told for base, told in groups.items() if len(told.keys() & goods.keys()) > 1}
    taken = {at for told in repeated.values() for number, at in told.items() if number in goods}
    rows = table.rows
    row, which = _lines_of(np.array([rows.columns[goods[number]].filled for number in numbers]))
    told_again = {
        _bare(table.header[min(told.values())]): gathered(rows, [told.get(one) for one in numbers], row, which)
        for told in repeated.values()
    }
    return with_others(table, taken, told_again, row)


def _of_skus(table: Table, groups: Mapping[str, Mapping[int, int]], skus: Container[str]) -> str | None:
    """Which words head columns of SKUs: those that say so, or else under which most cells are SKUs of the shop; None
    where none do."""
    words = list(groups)
    if found := match_columns(words, (OF_ORDERS["sku"],)):
        return words[found["sku"][0]]
    contents = Contents(table, skus)
    shares = {word: min(map(contents.share_of_skus, told.values())) for word, told in groups.items()}
    return next((word for word, share in shares.items() if share >= HALF), None)


def _lines_of(told: Bools) -> tuple[Codes, Codes]:
    """The row, and the column, of each line that is told. told: one row a column of the table; an order without goods
    is told as such, in the first."""
    told[0] |= ~told.any(axis=0)
    row, which = np.nonzero(told.T)
    return row, which


def with_others(
    table: Table, places: Container[int | None], others: Mapping[str, Coded], row: Codes | None = None
) -> Table:
    """A table with other columns, by their headings, behind the rest, in place of some. row: of the table, for each
    of the new one; None where they are the same."""
    rows, left = table.rows, [at for at in range(len(table.header)) if at not in places]
    columns = [*((rows.columns[at] if row is None else rows.columns[at].rows(row)) for at in left), *others.values()]
    header = [*(table.header[at] for at in left), *others]
    new = Rows(rows.numbers, columns, rows.extra) if row is None else Rows(rows.numbers[row], columns, {})
    of_orders = frozenset(new for new, at in enumerate(left) if at in table.of_orders)
    return replace(table, header=header, rows=new, of_orders=of_orders)


def gathered(rows: Rows, columns: Sequence[int | None], row: Codes, which: Codes) -> Coded:
    """The cell of each row in the column of its number."""
    texts, offset, codes = [""], 1, np.zeros(len(row), dtype=np.int64)
    for number, at in enumerate(columns):
        if at is None:
            continue
        here = which == number
        codes[here] = rows.columns[at].codes[row[here]] + offset
        texts += rows.columns[at].texts
        offset += len(rows.columns[at].texts)
    return Coded(texts, codes)


def _bare(heading: str) -> str:
    """A heading without its number, and what stands before one in its midst."""
    return re.sub(r"[\s_#.-]*\d+\s*$|^.*?\d+\W*_?(?=[^\W\d_])", "", heading)


def a_column_a_sku(table: Table, skus: Container[str]) -> Table:
    """A table with columns headed by SKUs, that tell how many units of each were ordered, as one with a row a line;
    any other as it is. skus: of the shop, folded."""
    rows, header = table.rows, table.header
    places = [at for at, name in enumerate(header) if folded(name) in skus and _tells_units(rows.columns[at])]
    if len(places) < 2:
        return table
    row, which = _lines_of(np.array([_tells_some(rows.columns[at]) for at in places]))
    sku, quantity = Coded([header[at] for at in places], which), gathered(rows, list(places), row, which)
    return with_others(table, places, {"SKU": sku, "Quantity": quantity}, row)


_UNITS = ("quantity", "items")
_WHOLE = re.compile(r"\d{0,7}(?:[.,]0+)?")


def _tells_units(column: Coded) -> bool:
    return all(_WHOLE.fullmatch(text.strip()) for text in column.used)


def _tells_some(column: Coded) -> Bools:
    some: Bools = np.array([bool(text.strip(" 0.,")) for text in column.texts], dtype=np.bool_)[column.codes]
    return some


def a_row_a_unit(table: Table, skus: Container[str]) -> Table:
    """A table with a column of SKUs that tells nowhere how many of them, as one with a unit on each row; any other as
    it is, and also where a column whose heading is not known may tell it. skus: of the shop, folded."""
    header, contents = table.header, Contents(table, skus)
    matched = match_columns(header, ORDERS, can_be=contents.tells)
    taken = {at for key, some in matched.items() if key not in _UNITS for at in some}
    if any(at not in taken for key in _UNITS for at in answering(header, OF_ORDERS[key])):
        return table
    share, at = contents.most_skus(range(len(header)))
    if share < HALF:
        return table
    unknown = (one for one, heading in enumerate(header) if not match_columns([heading], ORDERS))
    if any(_may_tell_units(table.rows.columns[one]) for one in unknown if not is_of_rates(header[one])):
        return table
    one_each = Coded(["", "1"], table.rows.columns[at].filled.astype(np.int64))
    return with_others(table, (), {"Quantity: each row is one": one_each})


def _may_tell_units(column: Coded) -> bool:
    """Whether cells are whole numbers of few digits, and differ; not the numbers of the lines of each order."""
    if not all(_FEW.fullmatch(text.strip()) for text in column.used):
        return False
    whole = [int(text) if text.strip().isdecimal() else 0 for text in column.texts]
    number = np.array(whole, dtype=np.int64)[column.codes]
    goes_on = number == np.concatenate(([0], number[:-1])) + 1
    return len(set(number.tolist()) - {0}) > 1 and not (goes_on | (number == 1)).all()


_FEW = re.compile(r"\d{0,3}")


def dated_in_parts(table: Table) -> Table:
    """A table that tells year, month and day in a column each as one with a column of dates; any other as it is."""
    names = [simplify(heading) for heading in table.header]
    places = [next((at for at, name in enumerate(names) if name in words_of(part)), None) for part in _PARTS]
    if None in places:
        return table
    parts = [table.rows.columns[at] for at in places if at is not None]
    if not all(_WHOLE.fullmatch(text.strip()) for one in parts for text in one.used):
        return table
    rows = zip(*(one.cells for one in parts), strict=True)
    days = coded(["-".join(part.strip().zfill(2) for part in told) if all(told) else "" for told in rows])
    return with_others(table, places, {"Date": days})


_PARTS = ("year", "month", "day")


def with_column(table: Table, columns: Columns, key: str, column: Coded) -> tuple[Table, Columns]:
    """The table with a column more, which the file does not head, taken for a field."""
    rows = Rows(table.rows.numbers, [*table.rows.columns, column], table.rows.extra)
    return replace(table, rows=rows), {**columns, key: (len(rows.columns) - 1,)}


def tells_all_in_one_cell(columns: Container[str]) -> bool:
    """Whether rows tell all goods of an order in one cell."""
    return "items" in columns and "sku" not in columns


def one_by_one(table: Table, columns: Columns) -> tuple[Table, Columns]:
    """A table whose orders tell all their goods in one cell (`2 x HF-1; HF-2 x 3`), as one with a row a line."""
    if not tells_all_in_one_cell(columns):
        return table, columns
    column = table.rows.columns[columns["items"][0]]
    told = [items_in(text) or [("", "")] for text in column.texts]
    counts = np.array([len(one) for one in told])[column.codes]
    row = np.repeat(np.arange(len(table.rows)), counts)
    lines = [line for code in column.codes.tolist() for line in told[code]]
    sku, quantity = (coded([line[at] for line in lines]) for at in (0, 1))
    rows = Rows(table.rows.numbers[row], [one.rows(row) for one in table.rows.columns], {})
    table, columns = with_column(replace(table, rows=rows), columns, "sku", sku)
    return with_column(table, columns, "quantity", quantity)


def items_in(text: str) -> list[tuple[str, str]]:
    """SKU and units of each thing in a cell; one where no number stands."""
    return [counted(name) for name in things_in(text)]


def counted(name: str) -> tuple[str, str]:
    """A thing, and how many of it: one where no number stands.

    >>> counted("2 x POT"), counted("POT (x2)"), counted("POT: 2"), counted("POT")
    (('POT', '2'), ('POT', '2'), ('POT', '2'), ('POT', '1'))
    """
    if told := _BEFORE.fullmatch(name):
        return told[2].strip(), told[1]
    if told := _BEHIND.fullmatch(name) or _IN_BRACKETS.fullmatch(name):
        return told[1].strip(), told[2]
    return name, "1"


def things_in(text: str) -> tuple[str, ...]:
    """The things a cell lists, however they are parted."""
    return split_names(text.replace("\n", ";").replace(",", ";") if ";" not in text and "|" not in text else text)


OF_A_ROW = frozenset(["number", "sku", "quantity"])
"""Fields of a file with a row a line."""


def in_lists(table: Table, columns: Columns) -> Table:
    """A table whose rows list the SKUs of an order in one cell and their units in another, in the same order, as one
    with a row a line; any other as it is. Cells of a line that list as many are taken apart with them."""
    told = _told(table, columns)
    if told is None:
        return table
    _, sku, quantity = told
    listed = np.array([tells_a_list(text) for text in quantity.texts], dtype=np.bool_)
    if not listed.any():
        return table
    places = [columns[key][0] for key in OF_A_LINE & columns.keys()]
    lists = {place: [things_in(text) for text in table.rows.columns[place].texts] for place in places}
    units, skus = (
        np.array([len(one) for one in lists[columns[key][0]]], dtype=np.int64)[column.codes]
        for key, column in (("quantity", quantity), ("sku", sku))
    )
    times = np.where(listed[quantity.codes] & (units == skus), units, 1)
    row = np.repeat(np.arange(len(times)), times)
    at = np.arange(len(row)) - np.repeat(np.cumsum(times) - times, times)
    parted = [
        _taken_apart(one.rows(row), lists[place], times[row], at) if place in lists else one.rows(row)
        for place, one in enumerate(table.rows.columns)
    ]
    return replace(table, rows=Rows(table.rows.numbers[row], parted, {}))


_UNITS_LISTED = re.compile(r"[1-9]\d*(?:\s*[,;|\n]\s*[1-9]\d*)+")


def tells_a_list(text: str) -> bool:
    """Whether a cell lists whole numbers, as units of several lines are."""
    return _UNITS_LISTED.fullmatch(text.strip()) is not None


def _taken_apart(column: Coded, lists: list[tuple[str, ...]], many: Codes, at: Codes) -> Coded:
    """Each cell's own of what it lists, where it lists as many as its row does; the whole cell elsewhere."""
    cells = zip(column.codes.tolist(), many.tolist(), at.tolist(), strict=True)
    return coded(
        [lists[code][one] if of > 1 and len(lists[code]) == of else column.texts[code] for code, of, one in cells]
    )


def told_by_name(columns: Columns) -> bool:
    """Whether goods are told by the names of product and option alone."""
    return "product" in columns and columns.keys().isdisjoint(["sku", "items"])


def by_name(table: Table, columns: Columns, named: Mapping[str, Sequence[str]]) -> tuple[Table, Columns]:
    """A table that tells goods by name as one that tells their SKUs.

    named: SKUs by their names, simplified. What is the name of no SKU, or of several, stays as it is written.
    """
    product = table.rows.columns[columns["product"][0]]
    option = table.rows.columns[columns["variant"][0]] if "variant" in columns else coded([""] * len(product))
    both, together = np.unique(product.codes * len(option.texts) + option.codes, return_inverse=True)
    texts = []
    for one in both.tolist():
        name, variant = product.texts[one // len(option.texts)], option.texts[one % len(option.texts)]
        found = named.get(simplify(f"{name} {variant}"), ()) or named.get(simplify(name), ())
        texts.append(found[0] if len(found) == 1 else f"{name} {variant}".strip())
    return with_column(table, columns, "sku", Coded(texts, together))


def below_their_orders(table: Table, columns: Columns) -> Table:
    """A table in which orders have a row of their own, without goods, above the rows of their lines, as one in which
    the first line tells what that row does; any other as it is."""
    told = _told(table, columns)
    if told is None:
        return table
    number, sku, quantity = told
    own = ~number.filled
    own[1:] |= number.codes[1:] == number.codes[:-1]  # of the order of the row above
    heads = number.filled & ~sku.filled & ~quantity.filled
    heads[:-1] &= own[1:] & sku.filled[1:]
    heads[-1:] = False
    at = np.flatnonzero(heads)
    if not len(at):
        return table
    of_lines = {place for key in OF_A_LINE & columns.keys() for place in columns[key]}
    moved = [one if place in of_lines else _moved_down(one, at) for place, one in enumerate(table.rows.columns)]
    return replace(table, rows=Rows(table.rows.numbers, moved, table.rows.extra).some(np.flatnonzero(~heads)))


def _moved_down(column: Coded, at: Codes) -> Coded:
    """The column where rows below some others tell what those do, unless they tell something of their own."""
    codes, empty = column.codes.copy(), at[~column.filled[at + 1]]
    codes[empty + 1] = codes[empty]
    return Coded(column.texts, codes)


def sent_back_below(table: Table, columns: Columns, in_words: Bools) -> tuple[Table, Columns]:
    """A table in which units sent back stand below the line they were of, as fewer than none or as rows that say so,
    or in a later order of the same shopper, as credit notes have them, as one that tells them beside the line; any
    other as it is. in_words: the rows that say so."""
    told = None if "returned" in columns else _told(table, columns)
    if told is None:
        return table, columns
    number, sku, quantity = told
    below_none = np.array([_units_back(text) for text in quantity.texts], dtype=np.int64)[quantity.codes]
    back = below_none
    if in_words.any():
        units = np.array([_units_back(f"-{text.strip()}") for text in quantity.texts], dtype=np.int64)[quantity.codes]
        back = np.where(in_words & (below_none == 0), units, below_none)
    lines, rows = np.flatnonzero(back == 0), np.flatnonzero(back)
    if not len(lines) or not len(rows):
        return table, columns
    begins = first_row_of_order(number)
    of = _first_of(number.codes[begins] * len(sku.texts) + sku.codes, lines, rows)
    if "shopper" in columns:
        shopper = table.rows.columns[columns["shopper"][0]].rows(begins)
        theirs = shopper.codes * len(sku.texts) + sku.codes
        before = _last_before(theirs, lines[shopper.filled[lines]], rows)
        of = np.where((of < 0) & shopper.filled[rows] & (below_none[rows] > 0), before, of)
    fits = of >= 0
    returned = np.zeros_like(back)
    np.add.at(returned, of[fits], back[rows[fits]])
    told_beside = coded([str(units or "") for units in returned.tolist()])
    table, columns = with_column(table, columns, "returned", told_beside)
    left = np.setdiff1d(np.arange(len(back)), rows[fits])
    return replace(table, rows=table.rows.some(left)), columns


def first_row_of_order(number: Coded) -> Codes:
    """For each row the one that tells its order's number: itself, or the nearest above."""
    found: Codes = np.maximum.accumulate(np.where(number.filled, np.arange(len(number)), 0))
    return found


def tells_one_of(column: Coded, skus: Container[str]) -> Bools:
    """The rows whose cell is one of some SKUs, folded."""
    found: Bools = np.array([folded(text.strip()) in skus for text in column.texts], dtype=np.bool_)[column.codes]
    return found


def without_lines(table: Table, columns: Columns, goes: Bools) -> Table:
    """The table without some of its rows; the first one of an order stays for what it tells of that, without its
    goods."""
    order = table.rows.columns[columns["number"][0]]
    _, first = np.unique(order.codes[first_row_of_order(order)], return_index=True)
    begins = goes & among(first, len(goes))
    places = [at for key in OF_A_LINE & columns.keys() for at in columns[key]]
    rows = table.rows.changed({at: emptied(table.rows.columns[at], begins) for at in places})
    return replace(table, rows=rows.some(np.flatnonzero(~goes | begins)))


def _first_of(key: Codes, lines: Codes, rows: Codes) -> Codes:
    """For each of the rows the first of the lines with its key, if that stands above it; else -1."""
    known, first = np.unique(key[lines], return_index=True)
    at = np.minimum(np.searchsorted(known, key[rows]), len(known) - 1)
    of = lines[first[at]]
    return np.where((known[at] == key[rows]) & (of < rows), of, -1)


def _last_before(key: Codes, lines: Codes, rows: Codes) -> Codes:
    """For each of the rows the last of the lines above it with its key; else -1. lines: in order."""
    if not len(lines):
        return np.full(len(rows), -1)
    by_key = lines[np.argsort(key[lines], kind="stable")]
    size = np.int64(len(key))
    at = np.searchsorted(key[by_key] * size + by_key, key[rows] * size + rows) - 1
    of = by_key[np.maximum(at, 0)]
    return np.where((at >= 0) & (key[of] == key[rows]), of, -1)


def _told(table: Table, columns: Columns) -> tuple[Coded, Coded, Coded] | None:
    """The columns of order number, SKU and quantity; None where one is not there."""
    if not columns.keys() >= OF_A_ROW:
        return None
    number, sku, quantity = (table.rows.columns[columns[key][0]] for key in ("number", "sku", "quantity"))
    return number, sku, quantity


_BACK = re.compile(r"[-−](\d{1,7})(?:[.,]0+)?")


def _units_back(text: str) -> int:
    found = _BACK.fullmatch(text.strip())
    return int(found[1]) if found else 0
