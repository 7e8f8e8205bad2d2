from unittest.mock import patch

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.single_carts import carts_of
from yellow_abacus.core.carts import blocks
from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord

GOODS = make_goods([GoodRecord("A", list_price=100), GoodRecord("B", list_price=250)])


@given(st.lists(st.integers(0, 2), min_size=1, max_size=12), st.integers(1, 5))
def test_what_blocks_come_to_is_what_the_batch_does(sizes, lines):
    batch = carts_of(GOODS, *[[("A", at + 1), ("B", 1)][:size] for at, size in enumerate(sizes)])
    with patch.object(blocks, "LINES_A_BLOCK", lines):
        found = each_block(batch, lambda carts, block: (carts, block.worth_by_cart))
    assert np.concatenate([worth for _, worth in found]).tolist() == batch.worth_by_cart.tolist()
    assert [at for carts, _ in found for at in range(carts.start, carts.stop)] == list(range(len(sizes)))


def test_a_block_is_not_cut_again():
    batch = carts_of(GOODS, *[[("A", 1)]] * 8)

    def within(_: slice, block) -> list[slice]:
        return each_block(block, lambda carts, _: carts)

    with patch.object(blocks, "LINES_A_BLOCK", 2):
        found = each_block(batch, within)
    assert len(found) > 1
    assert all(inner == [slice(0, inner[0].stop)] for inner in found)
