"""Lines of orders that are things an offer put in at no price: they paid nothing, and are no goods ordered.

docs/sums.md, "Carts".
"""

from collections.abc import Iterable, Sequence

import numpy as np

from yellow_abacus.core.carts.carts import RawLines
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import Terms
from yellow_abacus.core.offers.put_in import PutIn


def given_free(offers: Iterable[Terms], goods: Goods) -> Bools:
    """Whether one of the offers puts each SKU in at no price."""
    found = np.zeros(len(goods.skus), dtype=np.bool_)
    for offer in offers:
        for one in (one for one in offer.rewards() if isinstance(one, PutIn) and not one.amount):
            found[[at for sku in one.may_be(goods) if (at := goods.index_of(sku)) is not None]] = True
    return found


def put_in_on_its_days(
    offers: Sequence[Terms], goods: Goods, cart: Ints, sku: Ints, paid: Ints, day_by_cart: Ints
) -> Bools | None:
    """Whether each line is what an offer, of those that ran, put in on one of its days, or goods that are only put in
    on any day; None where none is.

    cart, sku, paid: one entry a line; paid: minor units, below 0 where that was not said. day_by_cart: ordinals.
    """
    free = np.flatnonzero(paid == 0)
    if not len(free):
        return None
    day, found = day_by_cart[cart[free]], ~goods.is_sold[sku[free]]
    for offer in offers:
        first, last, gives = offer.when.first_day, offer.when.last_day, given_free([offer], goods)
        if gives.any():
            begun = True if first is None else day >= first.toordinal()
            found |= gives[sku[free]] & begun & (True if last is None else day <= last.toordinal())
    lines = np.zeros(len(cart), dtype=np.bool_)
    lines[free[found]] = True
    lines = beside_others(lines, cart, len(day_by_cart))
    return lines if lines.any() else None


def unexplained(lines: RawLines, paid: Ints, priced: Bools, carts: int) -> Bools:
    """Lines of goods with a price that nothing was paid for, beside others, and that no offer told of put in.

    paid, priced: one entry a line; paid: minor units, below 0 where that was not said.
    """
    return beside_others((paid == 0) & priced & ~lines.is_put_in, lines.cart, carts)


def beside_others(lines: Bools, cart: Ints, carts: int) -> Bools:
    """Those of some lines in whose cart there are others."""
    others = np.bincount(cart[~lines], minlength=carts)
    result: Bools = lines & (others > 0)[cart]
    return result
