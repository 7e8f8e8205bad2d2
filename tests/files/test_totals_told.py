"""What orders' totals show of discounts: files made with discounts of several kinds are taken as they were made."""

from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.tables import read_table

PRICES = {"a": 12.0, "b": 3.5}
NAMES = ("Voucher discount", "Loyalty discount", "Season discount")
FORMS = ("line_discount", "order_discount")


def made(forms, draw, *, first_row_alone, with_delivery, with_tax, total="Order total"):
    """A file of 30 orders of two lines, in which each of NAMES takes something off lines or orders, as `forms` says;
    None for one that takes nothing off."""
    rows = []
    for number in range(1, 31):
        units = {"A": draw.randint(1, 3), "B": draw.randint(1, 4)}
        asked = {sku: round(100 * PRICES[sku.lower()]) * many for sku, many in units.items()}
        told, off = {}, 0
        for name, form in zip(NAMES, forms, strict=True):
            amounts = [draw.randint(1, 150) if draw.random() < 0.7 else 0 for _ in units]
            told[name] = [amounts[0]] * 2 if form == "order_discount" else amounts
            off += {None: 0, "order_discount": amounts[0], "line_discount": sum(amounts)}[form]
        tax, delivery = draw.randint(100, 900) * with_tax, 490 * with_delivery
        worth = sum(asked.values()) - off + tax + delivery
        for at, (sku, many) in enumerate(units.items()):
            own = {name: told[name][at] for name, form in zip(NAMES, forms, strict=True) if form}
            once = {"Shipping": delivery + 100, "Shipping discount": 100, "Tax": tax, total: worth}
            if first_row_alone and at:
                once = dict.fromkeys(once, "")
                own |= {name: "" for name, form in zip(NAMES, forms, strict=True) if form == "order_discount"}
            cells = {"Order": number, "Date": "2026-03-01", "SKU": sku, "Qty": many, "Price": PRICES[sku.lower()]}
            amounts = {**own, **once}
            rows.append(cells | {name: f"{one / 100:.2f}" if one != "" else "" for name, one in amounts.items()})
    lines = [",".join(map(str, row.values())) for row in rows]
    return "\n".join([",".join(rows[0]), *lines])


@given(
    forms=st.tuples(*[st.sampled_from([None, *FORMS])] * 3).filter(any),
    seed=st.integers(0, 10_000),
    first_row_alone=st.booleans(),
    with_delivery=st.booleans(),
    with_tax=st.booleans(),
)
def test_discounts_are_taken_as_the_totals_show(forms, seed, first_row_alone, with_delivery, with_tax):
    text = made(forms, Random(seed), first_row_alone=first_row_alone, with_delivery=with_delivery, with_tax=with_tax)
    table = read_table(text.encode())
    found = guess_columns(table, {}, PRICES)
    taken = {key: {table.header[at] for at in found.get(key, ())} for key in FORMS}
    assert taken == {key: {name for name, form in zip(NAMES, forms, strict=True) if form == key} for key in FORMS}


@pytest.mark.parametrize("by_hand", [{"line_discount": 5}, {"order_discount": 6}])
def test_what_is_chosen_by_hand_stays(by_hand):
    text = made(
        ("order_discount", "order_discount", None),
        Random(1),
        first_row_alone=False,
        with_delivery=True,
        with_tax=False,
    )
    found = guess_columns(read_table(text.encode()), by_hand, PRICES)
    assert {key: found[key] for key in by_hand} == {key: (at,) for key, at in by_hand.items()}
