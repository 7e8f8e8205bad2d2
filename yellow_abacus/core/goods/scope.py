"""A scope says which goods are meant: in-lists united, out-lists winning over them, reduced goods in or out."""

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from yellow_abacus.core.goods.goods import Goods, Names
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.shape import CLOSED

KINDS: tuple[Names, ...] = get_args(Names)
MOST_LOOKED_UP = 500


@dataclass(frozen=True)
class Scope:
    """Goods in any of the in-lists (all goods if they are all empty), in none of the `except_` lists.

    reduced: whether lines that stand at their reduced price are meant too.
    """

    categories: tuple[str, ...] = ()
    except_categories: tuple[str, ...] = ()
    products: tuple[str, ...] = ()
    except_products: tuple[str, ...] = ()
    brands: tuple[str, ...] = ()
    except_brands: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    except_tags: tuple[str, ...] = ()
    skus: tuple[str, ...] = ()
    except_skus: tuple[str, ...] = ()
    reduced: Literal["in", "out"] = "in"

    __pydantic_config__ = CLOSED

    def holds(self, goods: Goods) -> Bools:
        """One truth a SKU, reduced or not."""
        found = goods.looked_up.get(self)
        if found is None:
            found = self._named(goods, "except_")
            np.logical_not(found, out=found)
            if any(getattr(self, kind) for kind in KINDS):
                found &= self._named(goods, "")
            if len(goods.looked_up) >= MOST_LOOKED_UP:
                goods.looked_up.clear()
            goods.looked_up[self] = found
        return found

    def _named(self, goods: Goods, prefix: str) -> Bools:
        inside = np.zeros(len(goods.skus), dtype=np.bool_)
        for kind in KINDS:
            wanted = getattr(self, prefix + kind)
            if wanted:
                inside |= goods.with_any(kind, wanted)
        return inside


EVERYTHING = Scope()
