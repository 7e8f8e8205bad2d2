"""Rate cards of carriers, and of what shoppers are charged, made rows of one step of weight each: zones or services
side by side, weights down or across, and tariffs that are called by several columns.

>>> from yellow_abacus.files.tables import read_table
>>> table = read_table(b"Weight (kg),Home,Abroad\\n2,4.90,9.00\\n5,6.10,14.00\\n")
>>> card = a_row_a_step(table, OF_CARRIERS, "card.csv")
>>> card.header, [row.cells for row in card.rows][:2]
(['Up to (kg)', 'Tariff', 'Price'], [['2', 'Home', '4.90'], ['2', 'Abroad', '9.00']])
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.files.columns import Columns, answering, match_columns
from yellow_abacus.files.contents import Contents
from yellow_abacus.files.fields import CHARGES, OF_CHARGES, OF_TARIFFS, TARIFFS, Field
from yellow_abacus.files.headings import simplify, unit_in, words_of
from yellow_abacus.files.order_shapes import gathered, with_others
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.tables import Table, without_ending
from yellow_abacus.files.values import WEIGHTS
from yellow_abacus.files.weight_steps import is_more, is_start, is_step

_AMOUNT = re.compile(r"[^\w]*(?:[^\W\d_]{1,3}[^\w]*)?\d[\d .,'’\u00a0\u202f]*[^\w]*(?:[^\W\d_]{1,3}\.?)?")
_NONE = re.compile(r"[-–—/x.]*|n\.?/?a\.?", re.IGNORECASE)
"""Where a carrier takes nothing so heavy there."""
_BARE = re.compile(r"\d+(?:[.,]\d+)?")
_IN_BRACKETS = re.compile(r"\s*([(\[][^()\[\]]*[)\]])\s*")
LONGEST = 100
"""Letters of a cell or heading that are looked at."""
FEWEST = 2
"""Steps that stand side by side."""


@dataclass(frozen=True)
class CardKind:
    """The fields of a file, and those of them that its rows or columns of prices are called by, and its prices."""

    fields: tuple[Field, ...]
    name: Field
    price: Field


OF_CARRIERS = CardKind(TARIFFS, OF_TARIFFS["name"], OF_TARIFFS["price"])
OF_SHOPPERS = CardKind(CHARGES, OF_CHARGES["zone"], OF_CHARGES["charge"])


def a_row_a_step(table: Table, kind: CardKind, file: str) -> Table:
    """A rate card as rows of one step each; any other table as it is, but for columns of where steps begin, which is
    where those below end. file: its name, for what it names nowhere."""
    header = table.header
    known = match_columns(header, kind.fields, None, Contents(table).can_be)
    if "upto" in known and "from_weight" in known and _are_starts(table, known):
        return a_row_a_step(with_others(table, known["from_weight"], {}), kind, file)
    every, taken = range(len(header)), _places(known, kind.price.key, "carrier", "upto", "option", "places")
    amounts = [at for at in every if _are_prices(table, at) and not _is_aside(header[at])]
    names = [
        at
        for at in answering(header, kind.name)
        if at not in taken and (at not in amounts or _numbers_names(table, at, kind.name))
    ]
    across = [at for at in amounts if at not in names and is_step(header[at])]
    weights = known.get("upto", ()) or _weights(table, names)[:1]
    if not weights and not across:
        across = _bare_steps(header, amounts)
    if len(across) >= FEWEST and set(weights) <= set(across):
        filled = (at for at in every if at not in taken and table.rows.columns[at].filled.any())
        names = names or [at for at in filled if at not in amounts][:1]
        return _weights_across(table, across, names, kind, file)
    if not weights:
        return table
    mine = {kind.name.key, kind.price.key}
    others = {*_places(known, *(known.keys() - mine)), *names, *weights}
    if starts := [at for at in every if at not in others and is_start(header[at])]:
        return a_row_a_step(with_others(table, starts, {}), kind, file)
    prices = [at for at in amounts if at not in others]
    if not prices or (len(names) == len(prices) == 1 and mine <= known.keys()):
        return table
    return _weights_down(table, weights[0], prices, names, kind, file)


def _bare_steps(header: Sequence[str], amounts: Sequence[int]) -> list[int]:
    """The columns of amounts that are headed by numbers, each greater than the one before."""
    found = [at for at in amounts if _BARE.fullmatch(header[at].strip())]
    told = [float(header[at].strip().replace(",", ".")) for at in found]
    return found if told == sorted(set(told)) else []


def _places(columns: Columns, *keys: str) -> set[int]:
    return {at for key in keys for at in columns.get(key, ())}


def _are_starts(table: Table, known: Columns) -> bool:
    """Whether what an option is used from tells where its steps begin: with those below they end."""
    (start,), (upto,) = known["from_weight"], known["upto"]
    begins, ends = ({text.strip() for text in table.rows.columns[at].used} - {"", "0"} for at in (start, upto))
    return bool(begins) and begins <= ends


def _weights_down(
    table: Table, weights: int, prices: Sequence[int], names: Sequence[int], kind: CardKind, file: str
) -> Table:
    """A row for each price: its step in the column `weights`."""
    row, which = _told(table, prices)
    headings, aside = _without_common_brackets([table.header[at] for at in prices])
    headings = [f"Zone {heading}" if _BARE.fullmatch(heading) else heading for heading in headings]
    of_row, above = _names(table, names), _labels_above(table, prices)
    called = [
        ", ".join(filter(None, (of_row[at], above[one], headings[one] if len(prices) > 1 else ""))) or _named_by(file)
        for at, one in zip(row.tolist(), which.tolist(), strict=True)
    ]
    step, unit = table.rows.columns[weights].rows(row), unit_in(table.header[weights], WEIGHTS, "")
    told = _columns(kind, called, step, unit, gathered(table.rows, prices, row, which), aside)
    return with_others(table, {weights, *prices, *names}, told, row)


def _weights_across(table: Table, steps: Sequence[int], names: Sequence[int], kind: CardKind, file: str) -> Table:
    """A row for each price: its step in the heading of its column."""
    row, which = _told(table, steps)
    of_row = _names(table, names)
    called = [of_row[at] or _named_by(file) for at in row.tolist()]
    step = Coded([table.header[at] for at in steps], which)
    unit = next((found for at in names if (found := unit_in(table.header[at], WEIGHTS, ""))), "")
    told = _columns(kind, called, step, unit, gathered(table.rows, steps, row, which), "")
    return with_others(table, {*steps, *names}, told, row)


def _columns(kind: CardKind, called: list[str], step: Coded, unit: str, price: Coded, aside: str) -> dict[str, Coded]:
    """The columns of the rows, by heading. unit: of steps that name none. aside: what is said of all prices."""
    more = np.array([is_more(text) for text in step.texts], dtype=np.bool_)[step.codes]
    told = {
        f"Up to ({unit})" if unit else "Up to": _only(step, ~more),
        kind.name.label: coded(called),
        f"{kind.price.label} {aside}".strip(): _only(price, ~more),
    }
    return told | ({f"Each kilogram more {aside}".strip(): _only(price, more)} if more.any() else {})


def _told(table: Table, places: Sequence[int]) -> tuple[Ints, Ints]:
    """The row, and which of some columns, of every price."""
    told = np.array([_is_price(table.rows.columns[at]) for at in places])
    row, which = np.nonzero(told.T)
    return row, which


def _is_price(column: Coded) -> Bools:
    told: Bools = np.array([not _NONE.fullmatch(text.strip()) for text in column.texts], dtype=np.bool_)[column.codes]
    return told


def _numbers_names(table: Table, at: int, name: Field) -> bool:
    """Whether a column tells names by their number, as *Zone* with 1, 2, 3."""
    spelt = simplify(table.header[at]) in {simplify(word.lstrip("=")) for word in name.words}
    return spelt and all(text.strip().isdecimal() for text in table.rows.columns[at].used if text.strip())


def _only(column: Coded, where: Bools) -> Coded:
    """The column, empty elsewhere."""
    return Coded([*column.texts, ""], np.where(where, column.codes, len(column.texts)))


def _is_aside(heading: str) -> bool:
    """Whether a column of numbers tells anything but prices."""
    return is_start(heading) or not words_of("beside_prices").isdisjoint(simplify(heading).split())


def _are_prices(table: Table, at: int) -> bool:
    """Whether a column tells amounts, or nothing where there is none."""
    told = [text for one in table.rows.columns[at].used if not _NONE.fullmatch(text := one.strip()[:LONGEST])]
    return bool(told) and all(map(_AMOUNT.fullmatch, told))


def _weights(table: Table, names: Sequence[int]) -> tuple[int, ...]:
    """The columns whose cells are steps of weight that name their unit."""
    return tuple(
        at
        for at, column in enumerate(table.rows.columns)
        if at not in names and (used := list(filter(str.strip, column.used))) and all(map(is_step, used))
    )


def _names(table: Table, columns: Sequence[int]) -> list[str]:
    """What each row's tariff is called by some columns; where one is empty, by the row above."""
    found = [list[str]() for _ in columns]
    for texts, at in zip(found, columns, strict=True):
        heading, last = _IN_BRACKETS.sub(" ", table.header[at][:LONGEST]).strip(), ""
        column = table.rows.columns[at]
        for code in column.codes.tolist():
            last = column.texts[code].strip() or last
            texts.append(f"{heading} {last}".strip() if _BARE.fullmatch(last) else last)
    return [", ".join(filter(None, parts)) for parts in zip(*found, strict=True)] or [""] * len(table.rows)


def _labels_above(table: Table, places: Sequence[int]) -> list[str]:
    """What stands above some columns that have the same headings, as *Standard* and *Express* do above the zones of
    each: above the first of those it is for."""
    headings = [table.header[at] for at in places]
    if not table.above or len(set(headings)) == len(headings):
        return [""] * len(places)
    cells, last = table.above[-1].cells, ""
    found = []
    for at in range(len(table.header)):
        last = (cells[at].strip() if at < len(cells) else "") or last
        found.append(last)
    return [found[at] for at in places]


def _without_common_brackets(headings: Sequence[str]) -> tuple[list[str], str]:
    """Headings without the brackets that all of them have, such as a currency, and those."""
    told = [tuple(_IN_BRACKETS.findall(heading[:LONGEST])) for heading in headings]
    if not told[0] or len(set(told)) > 1:
        return list(headings), ""
    return [_IN_BRACKETS.sub(" ", heading).strip() or heading for heading in headings], " ".join(told[0])


def _named_by(file: str) -> str:
    return without_ending(file) or "Tariff"
