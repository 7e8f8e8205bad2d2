"""A scope says which goods are meant: in-lists united, out-lists winning over them, reduced goods in or out."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.goods import Goods
from yellow_abacus.core.money import Bools
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class Scope:
    """Goods of any of `categories` or `skus` (all goods if both are empty), none of the `except_` ones.

    reduced: whether lines that stand at their reduced price are meant too.
    """

    categories: tuple[str, ...] = ()
    except_categories: tuple[str, ...] = ()
    skus: tuple[str, ...] = ()
    except_skus: tuple[str, ...] = ()
    reduced: Literal["in", "out"] = "in"

    __pydantic_config__ = CLOSED

    def holds(self, goods: Goods) -> Bools:
        """One truth a SKU, reduced or not. Categories and SKUs the shop does not have hold nothing."""
        inside = _named(goods, self.categories, self.skus)
        if not self.categories and not self.skus:
            inside = np.ones(len(goods.skus), dtype=np.bool_)
        return inside & ~_named(goods, self.except_categories, self.except_skus)


def _named(goods: Goods, categories: tuple[str, ...], skus: tuple[str, ...]) -> Bools:
    inside = np.zeros(len(goods.skus), dtype=np.bool_)
    for name in categories:
        if name in goods.categories:
            inside |= goods.in_category[goods.categories.index(name)]
    for sku in skus:
        at = goods.index_of(sku)
        if at is not None:
            inside[at] = True
    return inside


EVERYTHING = Scope()
