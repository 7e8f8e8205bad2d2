"""What rows put on the scales with all that offers put in, and what carriers ask for that.

A changed number of an offer changes what is put in on few rows, mostly to what was there before, or to nothing:
carriers are asked again for the others alone.
docs/sums.md, "Delivery".
"""

import numpy as np

from yellow_abacus.core.delivery.parcels import Load, with_put_in
from yellow_abacus.core.delivery.zones import Carriage, Delivery
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.pricing.rows import Rows


def load_with(rows: Rows, put_in: Ints) -> Load:
    """The load of each row with all that offers put in. put_in: one row a gift, one column a row."""
    return _with_put_in(rows.plain.load, rows, put_in, rows.choice_by_row)


def carriage_of(delivery: Delivery, rows: Rows, put_in: Ints) -> Carriage:
    """What carriers ask for each row with what is put in, kept: check-out and costs both ask.

    put_in: one row a gift, one column a row.
    """
    bare = rows.carriage(delivery)
    if not put_in.any():
        return bare
    return rows.kept(("carriage with", delivery, put_in.tobytes()), lambda: _find(delivery, rows, put_in, bare))


def _find(delivery: Delivery, rows: Rows, put_in: Ints, bare: Carriage) -> Carriage:
    before, asked = rows.carried.get(delivery, (np.zeros_like(put_in), bare))
    with_some = put_in.any(axis=0)
    anew = np.flatnonzero(with_some & (put_in != before).any(axis=0))
    if len(anew):
        load = _with_put_in(rows.plain.load.some(anew), rows, put_in[:, anew], rows.choice_by_row[:, anew])
        asked = asked.with_rows(anew, delivery.carriage(load, rows.option_by_row[anew]))
        before = before.copy()
        before[:, anew] = put_in[:, anew]
        rows.carried[delivery] = (before, asked)
    without = np.flatnonzero(~with_some)
    return asked.with_rows(without, bare.some(without))


def _with_put_in(load: Load, rows: Rows, put_in: Ints, choices: Ints) -> Load:
    for gift, units, choice in zip(rows.gifts, put_in, choices, strict=True):
        if units.any():
            load = with_put_in(load, gift.skus[choice], units)
    return load
