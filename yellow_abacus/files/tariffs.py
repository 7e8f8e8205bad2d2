"""A file of carrier tariffs to `Tariff`s and back: one row a step of weight."""

from collections.abc import Iterable

from babel.lists import format_list

from yellow_abacus.core.delivery.parcels import Carries
from yellow_abacus.core.delivery.tariffs import MOST_FUEL_BP, Tariff, WeightStep
from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.ground.money import LARGEST_CHARGE
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import ForeignAmounts
from yellow_abacus.files.fields import TARIFFS
from yellow_abacus.files.grouped import Block, Read, read_blocks
from yellow_abacus.files.headings import unit_in
from yellow_abacus.files.scope_text import parse_scope, write_scope
from yellow_abacus.files.tables import Table
from yellow_abacus.files.units_told import read_as, tells_bare
from yellow_abacus.files.values import (
    LENGTHS,
    WEIGHTS,
    Reading,
    is_weight_unit,
    number_if_any,
    parse_count,
    parse_length,
    parse_money,
    parse_rate,
    parse_weight,
)
from yellow_abacus.files.weight_steps import upto_of, usual_unit
from yellow_abacus.files.with_tax import cost_without_tax, rate_of_delivery
from yellow_abacus.files.writing import decimal, figure

FIELD_OF = {"steps": "upto", "per_kilogram": "per_kilogram", "divisor": "divisor", "fuel_bp": "fuel"}
FIELD_OF |= {"insurance_bp": "insurance", "carries": "heaviest", "name": "name"}


def read_tariffs(
    table: Table, columns: Columns, reading: Reading, digits: int, foreign: ForeignAmounts, taxes: Taxes
) -> Read[Tariff]:
    """taxes: the shop's. Prices that are told with tax are taken without it."""
    rate_bp = rate_of_delivery(taxes)
    units = step_units(table, columns)

    def make(block: Block) -> Tariff | None:
        def cost(text: str) -> float:
            told = float(parse_money(text, reading.decimal_mark, digits, largest=LARGEST_CHARGE, extra_digits=2))
            return cost_without_tax(told, rate_bp, reading.taxed)

        steps = []
        for cells in block.rows:
            amount = cells.read("price", cost)
            if cells.text("price") or cells.text("upto"):
                upto = cells.read("upto", lambda text: parse_step(text, reading, units["upto"]))
                if not cells.text("price"):
                    cells.reject("price", "The price of the step is missing.", "Write it.")
                steps.append(WeightStep(upto, amount or 0.0))
        mark = reading.decimal_mark

        def rate(key: str, most: int = 10_000) -> int:
            return block.once(key).read(key, lambda text: parse_rate(text, mark, most=most)) or 0

        return Tariff(
            name=block.name[0],
            carrier=block.once("carrier").text("carrier"),
            steps=tuple(sorted(steps, key=lambda step: float("inf") if step.upto is None else step.upto)),
            per_kilogram=block.once("per_kilogram").read("per_kilogram", cost),
            divisor=block.once("divisor").read(
                "divisor", lambda text: parse_count(text, mark, least=1, largest=1_000_000)
            ),
            fuel_bp=rate("fuel", MOST_FUEL_BP),
            insurance_bp=rate("insurance"),
            carries=read_carries(block, reading, units),
        )

    def problems(tariff: Tariff) -> list[tuple[str, Problem]]:
        return [(FIELD_OF.get(str(one.path[0]), "name"), one) for one in tariff.problems()]

    return read_blocks(table, columns, TARIFFS, foreign, ("name",), make, problems)


def notes_of_free_steps(tariffs: Iterable[Tariff]) -> list[str]:
    """That some steps cost nothing in tariffs of which others do, as rate cards tell what is not carried."""
    free = [
        one.name for one in tariffs if any(step.amount for step in one.steps) for step in one.steps if not step.amount
    ]
    if not free:
        return []
    names, step = format_list(list(dict.fromkeys(free)), locale="en"), "step" if len(free) == 1 else "steps"
    return [f"{len(free)} {step} of {names} cost 0: leave cells empty where the carrier takes nothing so heavy."]


def parse_step(text: str, reading: Reading, unit: str) -> int | None:
    """Up to how many grams a step holds, told as a weight, a span or in words; None for any weight. Raises
    BadCellError."""
    is_plain = number_if_any(text, reading.decimal_mark, is_weight_unit) is not None
    told = text if is_plain else upto_of(text)
    return round(parse_weight(told, reading.decimal_mark, unit)) if told else None


def step_units(table: Table, columns: Columns) -> dict[str, str]:
    """The units in which columns of weights and lengths state them."""

    def heading(key: str) -> str:
        return table.header[columns[key][0]] if key in columns else ""

    def usual(key: str) -> str:
        return usual_unit(table.rows.columns[columns[key][0]].used) if key in columns else "g"

    units = {key: unit_in(heading(key), WEIGHTS, "") or usual(key) for key in ("upto", "heaviest", "from_weight")}
    return units | {"longest": unit_in(heading("longest"), LENGTHS, "mm")}


def notes_of_steps(table: Table, columns: Columns) -> list[str]:
    """What steps of weight are read in that name no unit."""
    for at in columns.get("upto", ()):
        if not unit_in(table.header[at], WEIGHTS, "") and tells_bare(table.rows.columns[at]):
            return [read_as("Steps of weight", step_units(table, columns)["upto"], "Up to")]
    return []


def read_carries(block: Block, reading: Reading, units: dict[str, str]) -> Carries:
    mark = reading.decimal_mark
    heaviest = block.once("heaviest").read("heaviest", lambda text: parse_weight(text, mark, units["heaviest"]))
    return Carries(
        heaviest=None if heaviest is None else round(heaviest),
        longest=block.once("longest").read("longest", lambda text: parse_length(text, mark, units["longest"])),
        refuses=block.once("refuses").read("refuses", parse_scope) or EVERYTHING,
    )


def write_carries(carries: Carries) -> list[str]:
    return [figure(carries.heaviest), figure(carries.longest), write_scope(carries.refuses)]


def tariff_rows(tariffs: Iterable[Tariff], digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and rows of a file that reads back just so."""
    rows: list[list[str]] = []
    for tariff in tariffs:
        once = [
            decimal(tariff.per_kilogram, digits, extra=2),
            figure(tariff.divisor),
            figure(tariff.fuel_bp / 100) if tariff.fuel_bp else "",
            figure(tariff.insurance_bp / 100) if tariff.insurance_bp else "",
            *write_carries(tariff.carries),
        ]
        steps = [
            ["any" if step.upto is None else str(step.upto), decimal(step.amount, digits, extra=2)]
            for step in tariff.steps
        ] or [["", ""]]
        for number, step in enumerate(steps):
            first = number == 0
            rows.append([tariff.name, tariff.carrier if first else "", *step, *(once if first else [""] * len(once))])
    return [field.label for field in TARIFFS], rows


EXAMPLES = (
    Tariff("Parcel", "My carrier", (WeightStep(2000, 390.0), WeightStep(5000, 520.0)), 85.0, 5000, 600),
    Tariff("Letter", "My carrier", (WeightStep(500, 210.0),), carries=Carries(longest=350)),
)
"""What a template shows."""
