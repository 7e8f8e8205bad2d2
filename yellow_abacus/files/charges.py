"""A file of delivery charges to zones with options and back: one row a step of a charge."""

import re
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

from yellow_abacus.core.delivery.charges import (
    Charge,
    ChargeByValue,
    ChargeByWeight,
    ChargeStep,
    CostPlus,
    FlatCharge,
    ValueStep,
)
from yellow_abacus.core.delivery.zones import Option, Preferred, Zone
from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.ground.money import LARGEST_CART, LARGEST_CHARGE
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.files.columns import Columns, match_columns
from yellow_abacus.files.contents import Contents
from yellow_abacus.files.currencies_told import ForeignAmounts
from yellow_abacus.files.fields import CHARGES
from yellow_abacus.files.grouped import Block, Read, read_blocks
from yellow_abacus.files.order_shapes import with_others
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.scope_text import parse_scope, write_scope
from yellow_abacus.files.tables import Table, without_ending
from yellow_abacus.files.tariffs import parse_step, read_carries, step_units, write_carries
from yellow_abacus.files.values import (
    HEAVIEST,
    BadCellError,
    Reading,
    join_names,
    parse_money,
    parse_rate,
    parse_weight,
    split_names,
    split_tags,
)
from yellow_abacus.files.with_tax import price_as_the_shops, rate_of_delivery
from yellow_abacus.files.writing import decimal, figure

_BOUND = re.compile(r"(weight|value)\s+from\s+(\S.*)", re.IGNORECASE)

FEWEST_ZONES = 2
"""That tables of charges are called by."""

KINDS = {"flat": "flat", "by value": "by_value", "by weight": "by_weight", "cost plus": "cost_plus"}


@dataclass(frozen=True)
class ZoneOption:
    """One option of one zone. places: of the zone, where the file tells."""

    zone: str
    option: Option
    places: tuple[str, ...]


def with_zone_and_option(table: Table) -> Table:
    """A table of charges that names no option, as one of options called *Delivery*; one of countries alone, as one of
    zones that are called as they are."""
    known = match_columns(table.header, CHARGES, None, Contents(table).can_be)
    told: dict[str, Coded] = {}
    if "zone" not in known and "places" in known:
        told["Zone"] = table.rows.columns[known["places"][0]]
    if "option" not in known and ("zone" in known or told):
        told["Option"] = coded(["Delivery"] * len(table.rows))
    return with_others(table, (), told) if told else table


def zoned_by_table(tables: Sequence[Table]) -> Sequence[Table]:
    """Tables of charges none of which tells zones, such as a sheet a zone, as those of zones called by their tables;
    any others as they are."""
    known = [match_columns(table.header, CHARGES, None, Contents(table).can_be) for table in tables]
    charged = [at for at, columns in enumerate(known) if "charge" in columns]
    if len(charged) < FEWEST_ZONES or any("zone" in columns or "places" in columns for columns in known):
        return tables
    return [
        with_zone_and_option(with_others(table, (), {"Zone": coded([without_ending(table.name)] * len(table.rows))}))
        if at in charged
        else table
        for at, table in enumerate(tables)
    ]


def _kind(block: Block) -> str:
    """How an option is charged that does not say it."""
    told_by = {"from_value": "by_value", "upto": "by_weight", "markup": "cost_plus"}
    return next((kind for key, kind in told_by.items() if block.tells(key)), "flat")


@dataclass(frozen=True)
class _Reader:
    """How one file states amounts, weights and lengths."""

    reading: Reading
    digits: int
    units: dict[str, str]
    taxes: Taxes

    def money(self, text: str) -> int:
        """A charge, on the shop's side of tax."""
        told = int(parse_money(text, self.reading.decimal_mark, self.digits, largest=LARGEST_CHARGE))
        return price_as_the_shops(told, self.taxes, rate_of_delivery(self.taxes), self.reading.taxed)

    def value(self, text: str) -> int:
        return int(parse_money(text, self.reading.decimal_mark, self.digits, largest=LARGEST_CART))

    def rate(self, text: str, most: int = 10_000) -> int:
        return parse_rate(text, self.reading.decimal_mark, most=most)

    def weight(self, text: str) -> int:
        upto = parse_step(text, self.reading, self.units["upto"])
        return HEAVIEST if upto is None else upto

    def from_weight(self, text: str) -> int:
        return round(parse_weight(text, self.reading.decimal_mark, self.units["from_weight"]))

    def preferred(self, text: str) -> tuple[Preferred, ...]:
        """`tag: fragile → Fragile parcel | weight from 5 kg; value from 80 → Freight`. Raises BadCellError."""
        found = []
        for part in filter(None, (part.strip() for part in text.split("|"))):
            which, arrow, name = part.replace("->", "→").partition("→")
            if not arrow or not name.strip() or not which.strip():
                raise BadCellError(
                    f"“{part}” does not say which orders go by which tariff.", "Write tag: fragile → Parcel."
                )
            bounds, goods = {}, []
            for clause in which.split(";"):
                bound = _BOUND.fullmatch(clause.strip())
                if bound is None:
                    goods.append(clause)
                elif bound[1].casefold() == "weight":
                    bounds["from_weight"] = round(parse_weight(bound[2], self.reading.decimal_mark, "g"))
                else:
                    bounds["from_value"] = self.value(bound[2])
            found.append(Preferred(name.strip(), parse_scope(";".join(goods)), **bounds))
        return tuple(found)

    def charge(self, block: Block) -> Charge | None:
        cells = block.once("kind")
        if block.tells("from_value") and block.tells("upto"):
            message = f"{' · '.join(block.name)} tells steps of value and of weight."
            block.once("upto").reject("upto", message, "Keep one of the two.")
        amount = block.once("charge").read("charge", self.money) or 0
        match KINDS.get(cells.text("kind").casefold()) if block.tells("kind") else _kind(block):
            case "flat":
                self._check_alike(block, amount)
                return FlatCharge(amount)
            case "cost_plus":
                return CostPlus(
                    block.once("markup").read("markup", lambda text: self.rate(text, 100_000)) or 0, amount
                )
            case "by_value":
                return self._by_value(block)
            case "by_weight":
                return self._by_weight(block)
        cells.reject("kind", f"“{cells.text('kind')}” is no way to charge.", f"Write one of {', '.join(KINDS)}.")
        return None

    def _check_alike(self, block: Block, amount: int) -> None:
        for row in block.rows:
            if row.text("charge") and row.read("charge", self.money) != amount:
                first = block.once("charge").number
                message = f"{' · '.join(block.name)} is charged otherwise in row {first}."
                row.reject("charge", message, "Tell from what value or up to what weight each holds, or keep one.")

    def _by_value(self, block: Block) -> ChargeByValue:
        base, steps = None, []
        for row in block.rows:
            start = row.read("from_value", self.value) or 0
            amount = row.read("charge", self.money)
            if start:
                steps.append(ValueStep(start, amount or 0))
            elif amount is not None:
                base = amount
        if base is None and steps:
            least = min(step.value for step in steps)
            message = f"What is charged below {decimal(least, self.digits)} is not told."
            block.once("from_value").reject("from_value", message, "Add a row that tells it, from 0.")
        return ChargeByValue(base or 0, tuple(sorted(steps, key=lambda step: step.value)))

    def _by_weight(self, block: Block) -> ChargeByWeight:
        steps = []
        for row in block.rows:
            upto = row.read("upto", self.weight)
            if upto is not None:
                steps.append(ChargeStep(upto, row.read("charge", self.money) or 0))
        beyond = block.once("per_kilogram").read("per_kilogram", self.money) or 0
        return ChargeByWeight(tuple(sorted(steps, key=lambda step: step.upto)), beyond)


def read_charges(
    table: Table,
    columns: Columns,
    reading: Reading,
    digits: int,
    foreign: ForeignAmounts,
    tariffs: Collection[str],
    taxes: Taxes,
) -> Read[ZoneOption]:
    """tariffs: names of those the shop has; taxes: its own. Charges become as its prices are, with tax or without."""
    reader = _Reader(reading, digits, step_units(table, columns), taxes)

    def make(block: Block) -> ZoneOption | None:
        charge = reader.charge(block)
        if charge is None:
            return None
        share = block.once("share").read("share", reader.rate)
        option = Option(
            name=block.name[1],
            charge=charge,
            free_from=block.once("free_from").read("free_from", reader.value),
            share_bp=10_000 if share is None else share,
            carries=read_carries(block, reading, reader.units),
            from_weight=block.once("from_weight").read("from_weight", reader.from_weight),
            tariffs=split_names(block.once("tariffs").text("tariffs")),
            preferred=block.once("preferred").read("preferred", reader.preferred) or (),
        )
        for name in option.tariffs:
            if name not in tariffs:
                block.once("tariffs").reject("tariffs", f"There is no tariff “{name}”.", "Bring in tariffs first.")
        places = dict.fromkeys(place for row in block.rows for place in split_tags(row.text("places")))
        return ZoneOption(block.name[0], option, tuple(places))

    def problems(one: ZoneOption) -> list[tuple[str, Problem]]:
        found = [("charge", problem) for problem in one.option.charge.problems()]
        return found + [("heaviest", problem) for problem in one.option.carries.problems()]

    return read_blocks(table, columns, CHARGES, foreign, ("zone", "option"), make, problems)


def charge_rows(zones: Iterable[Zone], digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and rows of a file that reads back just so."""
    rows: list[list[str]] = []
    for zone in zones:
        for number, option in enumerate(zone.options):
            once = [
                decimal(option.free_from, digits),
                figure(option.share_bp / 100),
                join_names(option.tariffs),
                " | ".join(_write_preferred(rule, digits) for rule in option.preferred),
                *write_carries(option.carries),
                figure(option.from_weight),
            ]
            kind = next(word for word, key in KINDS.items() if key == option.charge.kind)
            for step, cells in enumerate(_steps(option.charge, digits)):
                start = [zone.name, join_names(zone.places) if number == step == 0 else "", option.name]
                rows.append([*start, kind if step == 0 else "", *cells, *(once if step == 0 else [""] * len(once))])
    return [field.label for field in CHARGES], rows


def _write_preferred(rule: Preferred, digits: int) -> str:
    which = [write_scope(rule.of)] if rule.of != EVERYTHING else []
    which += [] if rule.from_weight is None else [f"weight from {rule.from_weight} g"]
    which += [] if rule.from_value is None else [f"value from {decimal(rule.from_value, digits)}"]
    return f"{'; '.join(which)} → {rule.tariff}"


def _steps(charge: Charge, digits: int) -> list[list[str]]:
    """From value, up to weight, charge, each kilogram more, markup."""
    match charge:
        case FlatCharge():
            return [["", "", decimal(charge.amount, digits), "", ""]]
        case CostPlus():
            return [["", "", decimal(charge.amount, digits), "", figure(charge.markup_bp / 100)]]
        case ChargeByValue():
            steps = [["", "", decimal(charge.amount, digits), "", ""]]
            return steps + [[decimal(s.value, digits), "", decimal(s.amount, digits), "", ""] for s in charge.steps]
        case ChargeByWeight():
            beyond = decimal(charge.per_kilogram, digits)
            return [
                ["", str(step.upto), decimal(step.amount, digits), beyond if number == 0 else "", ""]
                for number, step in enumerate(charge.steps)
            ]


EXAMPLES = (
    Zone("Home", (Option("Parcel", ChargeByValue(590, (ValueStep(5000, 390),)), 9000),), ("Borealia",)),
    Zone("Abroad", (Option("Parcel", ChargeByWeight((ChargeStep(2000, 990), ChargeStep(5000, 1290)), 150)),)),
)
"""What a template shows."""
