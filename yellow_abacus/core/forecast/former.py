"""What was found of a mix before some of its carts became otherwise, as when a price was saved.

What a cart comes to does not depend on its neighbours: so all of it still holds but for those carts, and those that
are given what is otherwise. Arrays alone are kept, not the carts they were found of.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import Touched
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.pieced import Pieced
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.axes import among, run_begins, spliced
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer, PutIn

Key = tuple[object, ...]


@dataclass(frozen=True, eq=False)
class BareFigures:
    """cart_by_row: of the rows. by_cart: one row a figure of FIGURES. charged, delivery_cost, kept: by row, minor
    units.
    """

    cart_by_row: Ints
    by_cart: Floats
    charged: Floats
    delivery_cost: Floats
    kept: Floats

    def with_carts(self, carts: Bools, cart_by_row: Ints, part: "BareFigures") -> "BareFigures":
        """The same where some carts come to what `part` says. cart_by_row: of all, as they are."""
        by_cart = self.by_cart.copy()
        by_cart[:, carts] = part.by_cart
        theirs, were = carts[cart_by_row], carts[self.cart_by_row]
        charged = spliced(self.charged, were, part.charged, theirs)
        cost = spliced(self.delivery_cost, were, part.delivery_cost, theirs)
        kept = spliced(self.kept, were, part.kept, theirs)
        return BareFigures(cart_by_row, by_cart, charged, cost, kept)

    def instead(self, carts: Ints, costed: Costed, option_by_row: Ints) -> "BareFigures":
        """The same where some carts, by rising index, come to what their rows do on average of each option.

        costed: rows of those carts alone, numbered among themselves; ways to choose what is put in lie together.
        """
        cart, share, by_cart = costed.cart_by_row, costed.share_by_row, self.by_cart.copy()
        first = np.searchsorted(cart, np.arange(len(carts)))
        by_cart[:, carts] = np.add.reduceat(costed.figures * share, first, axis=1)
        ways = np.flatnonzero(run_begins(cart, option_by_row))
        here = np.flatnonzero(among(carts, by_cart.shape[1])[self.cart_by_row])

        def placed(before: Floats, by_row: Floats) -> Floats:
            found = before.copy()
            found[here] = np.add.reduceat(by_row * share, ways) / np.add.reduceat(share, ways)
            return found

        return BareFigures(
            self.cart_by_row,
            by_cart,
            placed(self.charged, costed.figures[INDEX["delivery_charged"]]),
            placed(self.delivery_cost, -costed.figures[INDEX["delivery_cost"]]),
            placed(self.kept, costed.figures[AT["kept"]]),
        )


@dataclass(frozen=True, eq=False)
class Former:
    """otherwise: one entry a cart of the mix. skus: those that are. bares: by key of the mix. sets: by key; cleared
    when they have served."""

    otherwise: Bools
    skus: frozenset[str]
    bares: Mapping[Key, BareFigures]
    sets: dict[Key, Pieced]

    def among(self, mix: Mix) -> Bools:
        """Which carts are otherwise of a mix that was made of the one in question."""
        if mix.origin is None:
            return self.otherwise
        whole, cart = mix.origin
        return self.among(whole) if cart is None else self.among(whole)[cart]

    def puts_in(self, offer: Offer, goods: Goods) -> bool:
        """Whether the offer may put in what is otherwise: that matters to carts that hold nothing of it."""
        put_in = [one for one in offer.rewards() if isinstance(one, PutIn)]
        return any(one.categories or one.may_be_of(self.skus, goods) for one in put_in)

    def also(self, touched: Touched) -> "Former":
        """The same where more is otherwise."""
        otherwise = self.otherwise.copy()
        otherwise[touched.carts] = True
        return Former(otherwise, self.skus | touched.skus, self.bares, self.sets)
