"""A scope says which goods are meant: in-lists united, out-lists winning over them."""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.goods import Goods
from yellow_abacus.core.money import Bools
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class Scope:
    """Goods of any of `categories` (of every category if empty) and of none of `except_categories`."""

    categories: tuple[str, ...] = ()
    except_categories: tuple[str, ...] = ()

    __pydantic_config__ = CLOSED

    def holds(self, goods: Goods) -> Bools:
        """One truth a SKU. Categories the shop does not have hold nothing."""
        inside = np.full(len(goods.skus), not self.categories)
        for name in self.categories:
            if name in goods.categories:
                inside |= goods.in_category[goods.categories.index(name)]
        for name in self.except_categories:
            if name in goods.categories:
                inside &= ~goods.in_category[goods.categories.index(name)]
        return inside


EVERYTHING = Scope()
