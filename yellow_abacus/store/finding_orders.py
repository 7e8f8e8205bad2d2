"""Orders looked for by what people remember of one: its number, shopper, code, day, value, or a SKU in it."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import Select, func, or_, select
from sqlalchemy.orm import Session

from yellow_abacus.store.imports import of_live
from yellow_abacus.store.models import GoodRow, OrderLineRow, OrderRow


@dataclass(frozen=True)
class FoundOrders:
    """The newest of them, and how many there are in all."""

    rows: list[OrderRow]
    found: int


def find_orders(session: Session, text: str, count: int) -> FoundOrders:
    """text: empty for all."""
    meant = _meant(text.strip())
    wanted = select(OrderRow) if meant is None else select(OrderRow).where(meant)
    wanted = of_live(session, wanted)
    found = session.scalars(select(func.count()).select_from(wanted.subquery())).one()
    return FoundOrders(
        list(session.scalars(wanted.order_by(OrderRow.placed_at.desc(), OrderRow.id).limit(count))), found
    )


def orders_of_ids(session: Session, ids: Sequence[int]) -> list[OrderRow]:
    """In the order of the ids."""
    found = {row.id: row for row in session.scalars(select(OrderRow).where(OrderRow.id.in_(ids)))}
    return [found[one] for one in ids if one in found]


def order_that_counts(session: Session, order_id: int) -> OrderRow | None:
    return session.scalars(of_live(session, select(OrderRow).where(OrderRow.id == order_id))).first()


def _meant(text: str) -> Any:
    if not text:
        return None
    try:
        day = datetime.combine(date.fromisoformat(text), datetime.min.time())
    except ValueError:
        pass
    else:
        return (OrderRow.placed_at >= day) & (OrderRow.placed_at < day + timedelta(days=1))
    same = func.lower(text)
    return or_(
        OrderRow.number.startswith(text, autoescape=True),
        func.lower(OrderRow.shopper) == same,
        _has_code(text.lower()),
        OrderRow.id.in_(_with_sku(text)),
    )


def _has_code(text: str) -> Any:
    """Orders that used a code, alone or beside others."""
    parted = func.replace(func.replace(func.replace(func.lower(OrderRow.code), ";", ","), "|", ","), ", ", ",")
    return func.instr("," + parted + ",", f",{text},") > 0


def _with_sku(text: str) -> Select[Any]:
    lines = select(OrderLineRow.order_id).join(GoodRow, GoodRow.id == OrderLineRow.good_id)
    return lines.where(func.lower(GoodRow.sku) == func.lower(text))


_NUMBER = r"(\d{1,9}(?:[.,]\d{1,3}){0,3})"
_AMOUNT = rf"[^\d.,<>–-]{{0,3}}\s*{_NUMBER}\s*[^\d.,<>–-]{{0,3}}"
_BETWEEN = re.compile(rf"{_AMOUNT}(?:-|–|to)\s*{_AMOUNT}", re.IGNORECASE)
_BEYOND = re.compile(rf"([<>])\s*{_AMOUNT}")
_SIGN = r"[^\w\s.,<>–-]"
_EXACTLY = re.compile(rf"(?:{_SIGN}\s*{_NUMBER}|{_NUMBER}\s*{_SIGN})")


def values_meant(text: str, unit: int) -> tuple[int, int] | None:
    """The least and greatest value of goods (minor units) that `€40-60`, `> 100` or `€37.80` mean; None for no value.

    unit: minor units in one of the currency.

    >>> values_meant("€40-60", 100), values_meant("¥4,000", 1), values_meant("> 1.250,50", 100)[0]
    ((4000, 6000), (4000, 4000), 125051)
    """
    text = text.strip()

    def minor(told: str) -> int:
        whole, *groups = re.split("[.,]", told)
        has_cents = bool(groups) and (len(groups[-1]) < THOUSANDS or (unit == 1000 and len(groups) == 1))
        cents = groups.pop() if has_cents else ""
        return round(float(f"{whole}{''.join(groups)}.{cents}") * unit)

    if (found := _BETWEEN.fullmatch(text)) and minor(found[1]) <= minor(found[2]):
        return minor(found[1]), minor(found[2])
    if found := _BEYOND.fullmatch(text):
        return (minor(found[2]) + 1, LARGEST) if found[1] == ">" else (0, minor(found[2]) - 1)
    if found := _EXACTLY.fullmatch(text):
        return minor(found[1] or found[2]), minor(found[1] or found[2])
    return None


LARGEST = 2**62
THOUSANDS = 3
"""Digits behind a mark that is no decimal one."""
