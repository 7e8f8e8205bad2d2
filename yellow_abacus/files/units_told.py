"""In which units files of goods tell weights and lengths: by their headings, or by what goods can weigh.

>>> from yellow_abacus.files.tables import read_table
>>> table = read_table(b"sku,weight,length,width,height\\nPOT,0.9,20,20,15.5\\nFERN,1.2,15,15,30\\n")
>>> units = units_told(table, {"weight": (1,), "length": (2,), "width": (3,), "height": (4,)}, ".")
>>> units.weight, units.lengths["height"]
('kg', 'cm')
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Floats
from yellow_abacus.files.amounts_told import numbers_in
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.headings import unit_in
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import (
    LENGTHS,
    WEIGHTS,
    BadCellError,
    DecimalMark,
    bare_unit,
    number_if_any,
    parse_weight,
)

SIDES = ("length", "width", "height")
FEWEST_LIGHT = 0.25
"""Of the weights that are told without a unit: where so many are below 1, they are kilograms."""
HEAVIEST = 22.6
"""Grams a cubic centimetre: nothing weighs more."""
NAMES = {"g": "grams", "kg": "kilograms", "mm": "millimetres", "cm": "centimetres", "m": "metres"}
IN_CENTIMETRES = {"mm": 0.1, "cm": 1.0, "m": 100.0}

_BARE = re.compile(r"[\d.,\s'x×*]*[1-9][\d.,\s'x×*]*", re.IGNORECASE)


@dataclass(frozen=True)
class UnitsTold:
    """weight: of weights; lengths: of each side, and of three in one cell. says: which of them nothing names."""

    weight: str
    lengths: Mapping[str, str]
    says: tuple[str, ...]


def units_told(table: Table, columns: Columns, mark: DecimalMark) -> UnitsTold:
    """Where nothing names a unit, weights are grams, of which nothing weighs less than one, and lengths millimetres,
    or the next greater unit in which goods can weigh what they do."""
    told = {key: table.rows.columns[some[0]] for key, some in columns.items()}
    headed = {key: table.header[some[0]] for key, some in columns.items()}
    weight = unit_in(headed.get("weight", ""), WEIGHTS, "") or _only(told.get("weight_unit"))
    lengths = {key: unit_in(headed.get(key, ""), LENGTHS, "") for key in (*SIDES, "size")}
    says = []
    if "weight" in told and not weight:
        weight = _usual_weight(told["weight"], mark)
        if "weight_unit" not in told and tells_bare(told["weight"]):
            says.append(read_as("Weights", weight, "Weight"))
    unnamed = [key for key, unit in lengths.items() if key in told and not unit and tells_bare(told[key])]
    if unnamed and "length_unit" not in told:
        usual = _usual_length(_volumes(told, mark), _grams(told, mark, weight))
        lengths |= dict.fromkeys(unnamed, usual)
        says.append(read_as("Lengths", usual, "Length"))
    return UnitsTold(weight or "g", {key: unit or "mm" for key, unit in lengths.items()}, tuple(says))


def read_as(what: str, unit: str, heading: str) -> str:
    """That nothing names the unit of some amounts, and which they are read in. heading: one that could name it.

    >>> read_as("Weights", "g", "Weight")
    'Weights name no unit and are read as grams: if they are not, name theirs in the heading, like Weight (kg).'
    """
    other = {"g": "kg", "kg": "g", "mm": "cm"}.get(unit, "mm")
    read = f"{what} name no unit and are read as {NAMES[unit]}"
    return f"{read}: if they are not, name theirs in the heading, like {heading} ({other})."


def _only(units: Coded | None) -> str:
    """The one unit that a column of units tells; empty where there are several, or no column."""
    used = {bare_unit(text) for text in units.used if text.strip()} if units else set()
    return used.pop() if len(used) == 1 else ""


def tells_bare(column: Coded) -> bool:
    """Whether some cell tells a number above 0, or those of three sides, without any unit."""
    return any(map(_BARE.fullmatch, column.used))


def _usual_weight(column: Coded, mark: DecimalMark) -> str:
    told = [number for text in column.used if (number := number_if_any(text.strip(), mark))]
    return "kg" if told and sum(number < 1 for number in told) >= len(told) * FEWEST_LIGHT else "g"


def _usual_length(volumes: Floats, grams: Floats) -> str:
    """The smallest unit in which the usual good weighs no more than anything can. volumes: of its sides' numbers."""
    told = (volumes > 0) & (grams > 0)
    if told.any():
        density = float(np.median(grams[told] / volumes[told]))
        for unit, centimetres in IN_CENTIMETRES.items():
            if density <= HEAVIEST * centimetres**3:
                return unit
    return "mm"


def _grams(told: Mapping[str, Coded], mark: DecimalMark, usual: str) -> Floats:
    """By row; not a number where that is not told. usual: the unit of those that none stands beside."""

    def grams(text: str) -> float:
        number, unit = text.split("\0")
        try:
            return parse_weight(number, mark, bare_unit(unit) or usual)
        except BadCellError:
            return np.nan

    if "weight" not in told:
        return np.zeros(1)
    weight = told["weight"]
    unit = told.get("weight_unit", Coded([""], np.zeros_like(weight.codes)))
    texts = [f"{number}\0{named}" for number in weight.texts for named in unit.texts]
    return numbers_in(Coded(texts, weight.codes * len(unit.texts) + unit.codes), grams)


def _volumes(told: Mapping[str, Coded], mark: DecimalMark) -> Floats:
    """What three sides' bare numbers come to, by row; not a number where some is missing, or names its unit."""

    def product(text: str) -> float:
        sides = [number_if_any(side.strip(), mark) for side in re.split(r"[x×*]", text.lower())]
        return float(np.prod([np.nan if side is None else float(side) for side in sides]))

    sides = [told["size"]] if "size" in told else [told[key] for key in SIDES if key in told]
    found: Floats = np.prod([numbers_in(side, product) for side in sides], axis=0)
    return found if "size" in told or len(sides) == len(SIDES) else np.zeros(1)
