import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.forecast.from_stock import NOTHING, FromStock, Taking, together

entries = st.lists(st.tuples(st.integers(0, 5), st.integers(0, 3), st.integers(1, 9)), max_size=8)


def taking(told) -> Taking:
    row, sku, units = np.array(told, dtype=np.int64).reshape(-1, 3).T
    return Taking(row, sku, units.astype(np.float64))


def listed(found: Taking) -> list[tuple]:
    return sorted(zip(found.row.tolist(), found.sku.tolist(), found.units.tolist(), strict=True))


@given(entries, st.permutations(range(6)), st.integers(0, 6))
def test_what_some_rows_take_is_numbered_among_them(told, order, many):
    some = order[:many]
    expected = [(some.index(row), sku, float(units)) for row, sku, units in told if row in some]
    assert listed(taking(told).some(np.array(some, dtype=np.int64), 6)) == sorted(expected)


@given(entries, entries)
def test_entries_one_after_another(one, other):
    shifted = [(row + 6, sku, float(units)) for row, sku, units in other]
    expected = sorted([(row, sku, float(units)) for row, sku, units in one] + shifted)
    assert listed(together([taking(one), taking(other).from_row(6)])) == expected
    assert listed(taking(one).beside(NOTHING)) == listed(taking(one))


def test_sums_of_different_goods_add_up():
    one = FromStock((1, 4), np.array([[[1.0, 0.5], [2.0, 2.0]]]))
    other = FromStock((4, 7), np.array([[[10.0, 0.0], [20.0, 5.0]]]))
    both = one.joined(other, np.add)
    assert both.skus == (1, 4, 7)
    assert both.units.tolist() == [[[1, 0.5], [12, 2], [20, 5]]]
    assert (both.of(7).tolist(), both.of(2)) == ([[20, 5]], None)
    assert one.joined(one, np.subtract).units.tolist() == [[[0, 0], [0, 0]]]
    assert one.each(lambda units: units * 3).of(4).tolist() == [[6, 6]]
