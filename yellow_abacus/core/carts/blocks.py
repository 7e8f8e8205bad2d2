"""Large batches cut into blocks of carts whose arrays fit the processor's cache, worked on several at a time."""

from collections.abc import Callable
from typing import TypeVar

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.several import each_part, in_a_part

LINES_A_BLOCK = 200_000
"""Some 20,000 carts of ten lines: fewer blocks cost more memory traffic, more of them more calls."""

Result = TypeVar("Result")


def each_block(batch: CartBatch, work: Callable[[slice, CartBatch], Result]) -> list[Result]:
    """`work` done on every block, given which carts of the batch it is: the results in order.

    A block is not cut again: work on one that asks for blocks has it whole.
    """
    if in_a_part():
        return [work(slice(0, batch.axes.carts), batch)]
    return each_part(batch.blocks(LINES_A_BLOCK), lambda block: work(*block))
