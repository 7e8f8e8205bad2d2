"""Every kind of table that goes out: what the shop has, and templates to fill in."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.files import charges, goods, surcharges, tariffs
from yellow_abacus.files.writing import Format, write_table

Out = Literal["goods", "tariffs", "charges", "surcharges"]


@dataclass(frozen=True)
class Contents:
    """What a shop has to tell."""

    goods: Sequence[GoodRecord]
    shop: Shop
    digits: int


def shop_table(kind: Out, has: Contents) -> tuple[list[str], list[list[str]]]:
    """Header and rows of all the shop has of that kind."""
    match kind:
        case "goods":
            return goods.goods_rows(has.goods, has.digits)
        case "tariffs":
            return tariffs.tariff_rows(has.shop.tariffs, has.digits)
        case "charges":
            return charges.charge_rows(has.shop.zones, has.digits)
        case "surcharges":
            return surcharges.surcharge_rows(has.shop.surcharges, has.digits)


def template(kind: Out, digits: int) -> tuple[list[str], list[list[str]]]:
    """Header and example rows."""
    match kind:
        case "goods":
            return goods.goods_rows(goods.EXAMPLES, digits)
        case "tariffs":
            return tariffs.tariff_rows(tariffs.EXAMPLES, digits)
        case "charges":
            return charges.charge_rows(charges.EXAMPLES, digits)
        case "surcharges":
            return surcharges.surcharge_rows(surcharges.EXAMPLES, digits)


def as_file(table: tuple[list[str], list[list[str]]], kind: Format) -> bytes:
    return write_table(kind, *table)
