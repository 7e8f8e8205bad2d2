"""Who else pays for an offer: a supplier's share of it. docs/sums.md, "Supplier funding"."""

from collections.abc import Iterator
from dataclasses import dataclass

from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.ground.problem import Problem, amount_between, rate_between
from yellow_abacus.core.ground.shape import CLOSED


@dataclass(frozen=True)
class Funded:
    """share_bp: of what comes off goods, and of what shoppers save on things put in. each: minor units for every unit
    that something comes off or that is put in. of: the goods the supplier pays for.

    >>> import numpy as np
    >>> Funded(share_bp=5000, each=10).pays(np.array([300]), np.array([3]))
    array([180.])
    """

    share_bp: int = 0
    each: int = 0
    of: Scope = EVERYTHING

    __pydantic_config__ = CLOSED

    def pays(self, off: Ints, units: Ints) -> Floats:
        """off: minor units. units: those it is for."""
        result: Floats = off * (self.share_bp / WHOLE_BP) + self.each * units.astype(float)
        return result

    def problems(self) -> Iterator[Problem]:
        yield from rate_between("share_bp", "The supplier’s share", self.share_bp, 0)
        yield from amount_between("each", "What the supplier pays a unit", self.each, 0)

    @property
    def pays_anything(self) -> bool:
        return self.share_bp > 0 or self.each > 0


BY_NOBODY_ELSE = Funded()
