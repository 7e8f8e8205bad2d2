"""Numbers of orders that were spelt otherwise before: with a mark in front, or as a spreadsheet writes numbers.

>>> [bare(one) for one in ("#1001", "No. 1001", "1001.0", "INV-1001")]
['1001', '1001', '1001', 'INV-1001']
"""

import re
from collections.abc import Mapping

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.store.imports import all_live, newest_ids

SAME_ORDER = np.timedelta64(2, "D")
"""How far apart two files may tell the moment of one order: in another time zone, or when it was paid."""

_MARK = re.compile(r"(?:#|№|(?:no|nr|num|n°|nº)\b\.?:?)\s*(?=\d)", re.IGNORECASE)
_AS_A_FIGURE = re.compile(r"(\d+)\.0+")


def bare(number: str) -> str:
    """A number without what spellings of it differ in."""
    text = number.strip()
    if mark := _MARK.match(text):
        text = text[mark.end() :]
    figure = _AS_A_FIGURE.fullmatch(text)
    return figure[1] if figure else text


def spelt_before(session: Session, told: Mapping[str, str]) -> dict[str, str]:
    """How orders that count spell the numbers of those told, where that is otherwise. told: by number, the moment of
    the order as the shop file has it, which is much the same for one order; empty where it is not known."""
    which = "" if all_live(session) else f"where id in ({newest_ids()})"
    rows = session.connection().exec_driver_sql(f"select number, placed_at from orders {which}").cursor.fetchall()
    there = dict(rows)
    asked = {bare(number): number for number in told if number not in there}
    if not asked:
        return {}
    found: dict[str, str] = {}
    for number, moment in there.items():
        meant = asked.get(bare(number))
        if meant is not None and number not in told and _near(told[meant], moment):
            found[meant] = number
    return found


def _near(one: str, other: str) -> bool:
    return not one or bool(np.abs(np.datetime64(one, "s") - np.datetime64(other, "s")) <= SAME_ORDER)
