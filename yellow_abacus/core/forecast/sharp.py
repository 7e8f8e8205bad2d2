"""Sharp-eyed shoppers: a share of orders that are a cart somebody built to get the most of the offers, in place of
what they would have been. docs/sums.md, "Leaks"."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.facts import labels
from yellow_abacus.core.carts.guise import Guise, facts_of
from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.forecast.groups import COHORTS
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.sketched import SKETCHED
from yellow_abacus.core.forecast.sums import Sums
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.shop.shop import Shop

Opened = tuple[tuple[int, Offer], ...]

NAME = "Sharp-eyed shoppers"
NOBODY = Guise()


@dataclass(frozen=True)
class Sharp:
    """share_bp: of the orders that come anyway. lines: SKU and units. codes: held, case folded.

    offers: ids of those it is built for; while one of them is not open, nobody builds it.
    """

    share_bp: int
    lines: tuple[tuple[str, int], ...]
    zone: str
    option: str = ""
    guise: Guise = NOBODY
    codes: frozenset[str] = frozenset()
    offers: tuple[str, ...] = ()

    @property
    def share(self) -> float:
        return self.share_bp / WHOLE_BP

    def there(self, opened: Opened) -> Opened | None:
        """The offers such shoppers have of those open, with their numbers; None where they would not come."""
        held = ((at, replace(one, runs=False)) for at, one in opened)  # by the codes of their own cart
        have = tuple((at, one) for at, one in held if one.given.key is None or one.given.key in self.codes)
        return have if {one.id for _, one in have} >= set(self.offers) else None

    def mix(self, shop: Shop, goods: Goods) -> Mix:
        """Their cart alone, at the prices of `goods`."""
        at = [goods.meant_by(sku) for sku, _ in self.lines]
        sku = np.array([0 if one is None else one for one in at], dtype=np.int64)
        units = np.array([count for _, count in self.lines], dtype=np.int64)
        zones = {folded(name): number for number, name in enumerate(shop.zone_names)}
        nowhere = np.zeros_like(sku)
        facts = replace(facts_of([self.guise], np.zeros(1, dtype=np.int64)), option=labels([self.option]))
        batch = make_batch(goods, np.array([zones[folded(self.zone)]]), nowhere, sku, units, nowhere, facts)
        mine = CartTypes((NAME,), np.zeros(1, dtype=np.int64))
        return Mix(shop, batch, np.ones(1), (SKETCHED, self, goods.price_key), typed=lambda _: mine)

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        if not 0 < self.share_bp <= WHOLE_BP:
            yield Problem(("share_bp",), "It is a share no shoppers can have.", "Choose more than 0, to 100 %.")
        for number, (sku, _) in enumerate(self.lines):
            meant = goods.meant_by(sku)
            if meant is None or goods.list_price[meant] < 0:
                message = f"The shop does not sell “{sku}” at a list price."
                yield Problem(("cart", "lines", number, "sku"), message, "Search for leaks again.")
        if folded(self.zone) not in {folded(name) for name in shop.zone_names}:
            yield Problem(("cart", "zone"), f"The shop does not deliver to “{self.zone}”.", "Search for leaks again.")


def of_every_order(sums: Sums) -> Sums:
    """Sums of their one cart as those of an order of each weekday, by cohort."""
    of_cohort = (sums.groups.cohort == np.arange(COHORTS)[:, None]).astype(np.float64)
    return sums.weighed(np.tile(of_cohort, (WEEKDAYS, 1)))
