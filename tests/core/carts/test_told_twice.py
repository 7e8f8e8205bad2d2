"""Lines that tell a kit once more, held against a slow look at each cart."""

from collections import Counter

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.carts.told_twice import told_twice
from yellow_abacus.core.goods.making_goods import table_of
from yellow_abacus.core.goods.records import GoodRecord

POT, SOIL, FERN, SET, DUO = range(5)
TABLE = table_of(
    [
        *(GoodRecord(sku) for sku in ("A", "B", "C")),
        GoodRecord("SET", kit=(("A", 1), ("B", 2))),
        GoodRecord("SOIL2", kit=(("B", 2),)),
    ]
)
KITS = {SET: {POT: 1, SOIL: 2}, DUO: {SOIL: 2}}
UNSAID = -1

Line = tuple[int, int, int]
"""SKU, units, paid for all of them."""


def found(*carts: list[Line]) -> list[list[bool]]:
    cart = np.array([at for at, lines in enumerate(carts) for _ in lines], dtype=np.int64)
    sku, units, paid = np.array([line for lines in carts for line in lines], dtype=np.int64).reshape(-1, 3).T
    told = told_twice(TABLE.kit_parts, cart, sku, units, paid)
    told = np.zeros(len(cart), dtype=bool) if told is None else told
    return [told[cart == at].tolist() for at in range(len(carts))]


def slow(lines: list[Line]) -> list[bool]:
    kits = [at for at, (sku, _, _) in enumerate(lines) if sku in KITS]
    needed = Counter[int]()
    for at in kits:
        sku, units, _ = lines[at]
        needed.update({part: each * units for part, each in KITS[sku].items()})
    twice, left = [False] * len(lines), Counter(needed)
    priced = any(lines[at][2] > 0 for at in kits)
    free = [line[0] in needed and (line[2] == 0 or (line[2] == UNSAID and priced)) for line in lines]
    given = Counter[int]()
    for (sku, units, _), is_free in zip(lines, free, strict=True):
        given[sku] += units * is_free
    made_of = [KITS[lines[at][0]] for at in kits]
    whole = [parts for parts in made_of if all(given[part] >= each for part, each in parts.items())]
    for at, (sku, units, _) in enumerate(lines):
        if free[at] and any(sku in parts for parts in whole):
            twice[at] = left[sku] >= units
            left[sku] -= units
    parts = [at for at, (sku, _, _) in enumerate(lines) if sku in needed]
    units = Counter[int]()
    for at in parts:
        units[lines[at][0]] += lines[at][1]
    paid = [lines[at][2] for at in parts]
    if (
        parts
        and units == needed
        and min(paid) > 0
        and abs(sum(paid) - sum(lines[at][2] for at in kits)) <= len(parts)
    ):
        for at in parts:
            twice[at] = True
    bought = Counter[int]()
    for at in parts:
        bought[lines[at][0]] += lines[at][1] * (lines[at][2] > 0)
    for at in kits:
        if lines[at][2] == 0 and all(bought[part] >= needed[part] for part in KITS[lines[at][0]]):
            twice[at] = True
    return twice


lines = st.lists(
    st.tuples(st.integers(POT, DUO), st.integers(1, 3), st.sampled_from([UNSAID, 0, 0, 500, 1000, 1500])),
    min_size=1,
    max_size=6,
)


@given(st.lists(lines, min_size=1, max_size=8))
def test_as_a_slow_look_at_each_cart_finds(carts):
    assert found(*carts) == [slow(one) for one in carts]
    assert all(not all(one) for one in found(*carts)), "something is left of every cart"


CASES: list[tuple[str, list[Line], list[bool]]] = [
    ("its parts for nothing", [(SET, 1, 3000), (POT, 1, 0), (SOIL, 2, 0)], [False, True, True]),
    ("of one of two", [(SET, 2, 6000), (POT, 1, 0), (SOIL, 2, 0)], [False, True, True]),
    ("as many as the kits have", [(SET, 2, 6000), (POT, 2, 0), (SOIL, 4, 0)], [False, True, True]),
    (
        "one more was given",
        [(SET, 1, 3000), (POT, 1, 0), (SOIL, 2, 0), (POT, 1, 0)],
        [False, True, True, False],
    ),
    (
        "one more was bought",
        [(SET, 1, 3000), (POT, 1, 0), (SOIL, 2, 0), (POT, 1, 1200)],
        [False, True, True, False],
    ),
    ("one of them alone, given with it", [(SET, 1, 3000), (POT, 1, 0)], [False, False]),
    ("no price told for them", [(SET, 1, 3000), (POT, 1, UNSAID), (SOIL, 2, UNSAID)], [False, True, True]),
    ("no price told at all", [(SET, 1, UNSAID), (POT, 1, UNSAID)], [False, False]),
    ("the price told on the parts", [(SET, 1, 0), (POT, 1, 1300), (SOIL, 2, 1700)], [True, False, False]),
    ("a kit given beside one of its parts", [(SET, 1, 0), (POT, 1, 1300)], [False, False]),
    ("the price told on both", [(SET, 1, 3000), (POT, 1, 1300), (SOIL, 2, 1701)], [False, True, True]),
    ("its parts bought, too", [(SET, 1, 3000), (POT, 1, 1200), (SOIL, 2, 2400)], [False, False, False]),
    ("two kits of one part", [(SET, 1, 3000), (DUO, 1, 1400), (SOIL, 4, 0), (POT, 1, 0)], [False, False, True, True]),
    ("something else for nothing", [(SET, 1, 3000), (FERN, 1, 0)], [False, False]),
]


@pytest.mark.parametrize(("lines", "twice"), [case[1:] for case in CASES], ids=[case[0] for case in CASES])
def test_what_is_told_twice(lines, twice):
    assert found(lines) == [twice]


def test_not_in_another_order():
    assert found([(SET, 1, 3000)], [(POT, 1, 0), (FERN, 1, 900)]) == [[False], [False, False]]


def test_a_part_that_goods_does_not_have_is_passed_over():
    parts = table_of([GoodRecord("A"), GoodRecord("SET", kit=(("A", 1), ("GONE", 1)))]).kit_parts
    assert (parts.kit.tolist(), parts.part.tolist(), parts.units.tolist()) == ([1], [0], [1])
