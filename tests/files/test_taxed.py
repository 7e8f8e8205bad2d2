"""Whether a file's prices are with tax, as far as the list prices tell."""

from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.files.amounts_told import AmountsTold
from yellow_abacus.files.tables import read_table

PRICES = {"a": 120.0, "b": 35.0, "c": 499.9, "d": 0.03}
COLUMNS = {"number": (0,), "sku": (1,), "quantity": (2,), "line_total": (3,), "line_discount": (4,)}
CENT = 0.01

percents = st.just(0) | st.integers(5, 40)  # off in amounts of more than 1, which are no shares of it
lines = st.lists(st.tuples(st.sampled_from("abcd"), st.integers(1, 5), percents), min_size=1, max_size=40)


def told(rows, times, rate):
    """The answer for lines at list prices times something, some percent off, told as amounts; at one rate of tax."""
    text = ["order,sku,qty,total,off"]
    for number, (sku, units, percent) in enumerate(rows):
        before = round(PRICES[sku] * times, 2) * units
        off = round(before * percent / 100, 2)
        text.append(f"{number},{sku},{units},{before - off:.2f},{off:.2f}")
    amounts = AmountsTold(read_table("\n".join(text).encode()), COLUMNS, ".")
    return amounts.are_taxed_otherwise(PRICES, dict.fromkeys(PRICES, 1 / (1 + rate)), CENT)


@given(lines, st.sampled_from([0.05, 0.07, 0.19, 0.2, 0.25]))
def test_prices_that_goods_asks_are_never_taken_for_prices_without_tax(rows, rate):
    tell = sum(sku != "d" for sku, _, _ in rows)
    assert told(rows, 1, rate) is (False if tell >= 3 else None)


@given(lines, st.sampled_from([0.05, 0.07, 0.19, 0.2]))
def test_prices_without_tax_are_told_as_such(rows, rate):
    tell = sum(sku != "d" for sku, _, _ in rows)
    assert told(rows, 1 / (1 + rate), rate) is (True if tell >= 3 else None)


@given(lines, st.integers(2, 60))
def test_a_whole_percentage_off_everything_is_a_discount(rows, percent):
    """A fifth off is just what prices without a quarter of tax are."""
    assert told(rows, 1 - percent / 100, 0.25) is None


@given(lines)
def test_other_prices_tell_nothing(rows):
    assert told(rows, 1.37, 0.19) is None
