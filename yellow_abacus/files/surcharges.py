"""A file of surcharges to `Surcharge`s and back: one row each."""

from collections.abc import Collection, Iterable
from typing import get_args

from yellow_abacus.core.clauses.conditions import NOTHING_NEEDED
from yellow_abacus.core.goods.scope import EVERYTHING
from yellow_abacus.core.ground.money import LARGEST_CHARGE
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Where, Who
from yellow_abacus.core.shop.surcharges import AmountFor, Counted, PartOfGoods, Surcharge
from yellow_abacus.core.shop.tax import Taxes
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.currencies_told import ForeignAmounts
from yellow_abacus.files.fields import SURCHARGES
from yellow_abacus.files.grouped import Block, Read, read_blocks
from yellow_abacus.files.scope_text import parse_earned, parse_scope, write_earned, write_scope
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import Reading, join_names, parse_flag, parse_money, parse_rate, split_names
from yellow_abacus.files.with_tax import price_as_the_shops
from yellow_abacus.files.writing import decimal, figure, yes

FIELD_OF = {"asks": "amount", "chosen_bp": "chosen", "earned": "earned", "who": "groups"}


def read_surcharges(
    table: Table,
    columns: Columns,
    reading: Reading,
    digits: int,
    foreign: ForeignAmounts,
    zones: Collection[str],
    taxes: Taxes,
) -> Read[Surcharge]:
    """zones: names of the shop's; taxes: its own. Amounts become as its prices are, with tax or without."""
    mark = reading.decimal_mark
    classes = {one.name for one in taxes.classes}

    def make(block: Block) -> Surcharge | None:
        cells = block.rows[0]
        for extra in block.rows[1:]:
            extra.reject("name", f"{block.name[0]} is already in row {cells.number}.", "Keep one row for each.")

        def names(key: str) -> tuple[str, ...]:
            return split_names(cells.text(key))

        told = cells.read("amount", lambda text: int(parse_money(text, mark, digits, largest=LARGEST_CHARGE)))
        rate_bp = taxes.classes[taxes.class_number(cells.text("tax_class"))].rate_bp
        amount = None if told is None else price_as_the_shops(told, taxes, rate_bp, reading.taxed)
        percent = cells.read("percent", lambda text: parse_rate(text, mark))
        counted = cells.text("counted").casefold() or "order"
        if counted not in get_args(Counted):
            cells.reject(
                "counted", f"“{counted}” cannot be counted.", f"Write one of {', '.join(get_args(Counted))}."
            )
        if (amount is None) == (percent is None) and not cells.rejected:
            cells.reject(
                "amount", "It asks for an amount, or for a percentage of goods.", "Write just one of the two."
            )
        for key, known in (("zones", zones), ("except_zones", zones)):
            for name in names(key):
                if name not in known:
                    cells.reject(key, f"There is no zone “{name}”.", "Choose a zone the shop has.")
        tax_class = cells.text("tax_class") or None
        if tax_class is not None and tax_class not in classes:
            cells.reject("tax_class", f"There is no tax class “{tax_class}”.", "Choose one the shop has.")
        asks = AmountFor(amount or 0, counted) if percent is None else PartOfGoods(percent)  # type: ignore[arg-type]
        return Surcharge(
            name=block.name[0],
            asks=asks,
            of=cells.read("of", parse_scope) or EVERYTHING,
            chosen_bp=cells.read("chosen", lambda text: parse_rate(text, mark)),
            earned=cells.read("earned", lambda text: parse_earned(text, mark, digits)) or NOTHING_NEEDED,
            who=Who(
                groups=names("groups"),
                except_groups=names("except_groups"),
                first_order=cells.read("first_order", parse_flag) or False,
            ),
            where=Where(
                zones=names("zones"),
                except_zones=names("except_zones"),
                channels=names("channels"),
                payments=names("payments"),
                currencies=names("currencies"),
            ),
            tax_class=tax_class,
        )

    def problems(surcharge: Surcharge) -> list[tuple[str, Problem]]:
        return [(FIELD_OF.get(str(one.path[0]), "name"), one) for one in surcharge.problems()]

    return read_blocks(table, columns, SURCHARGES, foreign, ("name",), make, problems)


def surcharge_rows(surcharges: Iterable[Surcharge], digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and rows of a file that reads back just so."""
    return [field.label for field in SURCHARGES], [_row(one, digits) for one in surcharges]


def _row(one: Surcharge, digits: int) -> list[str]:
    by_amount = isinstance(one.asks, AmountFor)
    return [
        one.name,
        decimal(one.asks.amount, digits) if isinstance(one.asks, AmountFor) else "",
        "" if by_amount else figure(one.asks.rate_bp / 100),  # type: ignore[union-attr]
        one.asks.counted if isinstance(one.asks, AmountFor) else "",
        write_scope(one.of),
        "" if one.chosen_bp is None else figure(one.chosen_bp / 100),
        write_earned(one.earned, digits),
        join_names(one.who.groups),
        join_names(one.who.except_groups),
        yes(one.who.first_order),
        join_names(one.where.zones),
        join_names(one.where.except_zones),
        join_names(one.where.channels),
        join_names(one.where.payments),
        join_names(one.where.currencies),
        one.tax_class or "",
    ]


EXAMPLES = (
    Surcharge("Packing of heavy goods", AmountFor(150, "kilogram")),
    Surcharge("Gift wrap", AmountFor(350), chosen_bp=800),
)
"""What a template shows."""
