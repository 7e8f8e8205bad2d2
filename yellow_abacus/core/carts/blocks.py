"""Large batches cut into blocks of carts whose arrays fit the processor's cache, worked on several at a time."""

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context
from functools import cache
from threading import local
from typing import TypeVar

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.stopping import go_on, may_be_held_up

LINES_A_BLOCK = 200_000
"""Some 20,000 carts of ten lines: fewer blocks cost more memory traffic, more of them more calls."""

Result = TypeVar("Result")

_here = local()


@cache
def _workers(held_up: bool) -> ThreadPoolExecutor:
    """Work that may be held up has threads of its own: those it waits for find theirs free."""
    return ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="held-up" if held_up else "block")


def each_block(batch: CartBatch, work: Callable[[slice, CartBatch], Result]) -> list[Result]:
    """`work` done on every block, given which carts of the batch it is: the results in order.

    A block is not cut again: work on one that asks for blocks has it whole, or workers would wait for each other.
    """
    if getattr(_here, "is_block", False):
        return [work(slice(0, batch.axes.carts), batch)]
    blocks = batch.blocks(LINES_A_BLOCK)
    if len(blocks) == 1:
        return [work(*blocks[0])]

    def one(block: tuple[slice, CartBatch]) -> Result:
        _here.is_block = True
        try:
            go_on()
            return work(*block)
        finally:
            _here.is_block = False

    workers = _workers(may_be_held_up())
    asked = [workers.submit(copy_context().run, one, block) for block in blocks]
    return [each.result() for each in asked]
