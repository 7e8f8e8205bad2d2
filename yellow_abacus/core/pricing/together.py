"""Which offers go together on one order.

Two offers conflict if one says never with or yields to the other, or if the shop's settings forbid the pair; and an
order takes so many different codes at most. Offers with one and the same code never conflict for their code.
docs/sums.md, "Together".

>>> from yellow_abacus.core.offers import Alongside
>>> shy = Offer((), alongside=Alongside(never="all"), id="shy")
>>> Together([Offer((), id="a"), shy, Offer((), id="b")], Settings()).largest_sets([0, 1, 2])
[(0, 2), (1,)]
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.shop.shop import Settings

MOST_SETS = 64
"""Most largest sets a plan may come to."""


@dataclass(frozen=True, eq=False)
class Together:
    """Offers in plan order, and the shop's settings."""

    offers: Sequence[Offer]
    settings: Settings

    @cached_property
    def conflicts(self) -> Bools:
        """Pairs that may not both take effect, whatever else does: one row and one column an offer, symmetric."""
        size = len(self.offers)
        found = np.zeros((size, size), dtype=np.bool_)
        for a, b in combinations(range(size), 2):
            found[a, b] = found[b, a] = self._conflict(self.offers[a], self.offers[b])
        return found

    @cached_property
    def all_go_together(self) -> bool:
        """Whether no two of the offers are ever in each other's way, and none waits for what others do."""
        if self.yielding(range(len(self.offers))):
            return False
        codes = {offer.given.key for offer in self.offers} - {None}
        return not self.conflicts.any() and len(codes) <= self.settings.codes_per_order

    def _conflict(self, one: Offer, other: Offer) -> bool:
        for this, that in ((one, other), (other, one)):
            if this.alongside.never_goes_with(that.id) or this.alongside.yields_before(that.id):
                return True
        a, b, settings = one.given.key, other.given.key, self.settings
        if a is None and b is None:
            return settings.self_applying == "one"
        if a is None or b is None:
            return not settings.codes_with_self_applying
        return a != b and settings.codes_per_order == 1

    def yielding(self, available: Sequence[int]) -> list[int]:
        """Those of the available offers that yield. Yielding is what an offer says, whoever else is there."""
        return [at for at in available if self.offers[at].alongside.yields_at_all]

    def steady(self, available: Sequence[int]) -> list[int]:
        """Those of the available offers that yield to nobody."""
        return [at for at in available if not self.offers[at].alongside.yields_at_all]

    def largest_sets(self, available: Sequence[int]) -> list[tuple[int, ...]]:
        """The largest sets of the available offers that may apply together, in plan order each."""
        key = tuple(available)
        if key not in self._largest:
            self._largest[key] = self._find_largest(key)
        return self._largest[key]

    @cached_property
    def _largest(self) -> dict[tuple[int, ...], list[tuple[int, ...]]]:
        return {}

    def _find_largest(self, available: Sequence[int]) -> list[tuple[int, ...]]:
        found: set[tuple[int, ...]] = set()
        codes = list(dict.fromkeys(key for at in available if (key := self.offers[at].given.key) is not None))
        for some in combinations(codes, min(self.settings.codes_per_order, len(codes))):
            allowed = [at for at in available if (key := self.offers[at].given.key) is None or key in some]
            found |= self._independent(frozenset(), frozenset(allowed), frozenset())
        return sorted(one for one in found if not self._can_grow(one, available))

    def _independent(
        self, chosen: frozenset[int], open_: frozenset[int], closed: frozenset[int]
    ) -> set[tuple[int, ...]]:
        """Largest sets without a pair in conflict: Bron and Kerbosch's walk with a pivot."""
        if not open_ and not closed:
            return {tuple(sorted(chosen))}
        pivot = max(open_ | closed, key=lambda at: sum(not self.conflicts[at, other] for other in open_))
        found: set[tuple[int, ...]] = set()
        for at in sorted(other for other in open_ if other == pivot or self.conflicts[pivot, other]):
            goes = frozenset(other for other in open_ | closed if other != at and not self.conflicts[at, other])
            found |= self._independent(chosen | {at}, open_ & goes, closed & goes)
            open_, closed = open_ - {at}, closed | {at}
        return found

    def _can_grow(self, chosen: tuple[int, ...], available: Sequence[int]) -> bool:
        codes = {self.offers[at].given.key for at in chosen} - {None}
        full = len(codes) >= self.settings.codes_per_order
        return any(
            not self.conflicts[at, list(chosen)].any() and not (full and (key := self._key(at)) and key not in codes)
            for at in available
            if at not in chosen
        )

    def _key(self, at: int) -> str | None:
        return self.offers[at].given.key

    def in_its_way(self, at: int, available: Bools) -> Bools:
        """Which offers could keep this one from applying: one row an offer, one column a cart, as in `available`.

        Where an order takes several codes and the offers there have more, those are all that have other codes.
        """
        found = np.repeat(self.conflicts[at][:, None], available.shape[1], axis=1)
        crowded = self._codes_taken(at, available & ~found)
        for other in range(len(self.offers)):
            if self._key(other) not in (None, self._key(at)):
                found[other] |= crowded
        return found

    def shut_out(self, at: int, took_effect: Bools) -> Bools:
        """On which carts the offer is shut out by those that took effect: one row an offer, one column a cart."""
        shut: Bools = took_effect[self.conflicts[at]].any(axis=0) | self._codes_taken(at, took_effect)
        return shut

    def _codes_taken(self, at: int, there: Bools) -> Bools:
        """Where the offers that are there leave no room for the code of this one; nowhere if it has none."""
        keys = [self._key(other) for other in range(len(self.offers))]
        others = set(keys) - {None, keys[at]}
        if keys[at] is None or not others:
            return np.zeros(there.shape[1], dtype=np.bool_)
        held = [there[[key == one for key in keys]].any(axis=0) for one in others]
        taken: Bools = np.sum(held, axis=0) >= self.settings.codes_per_order
        return taken
