"""What changes where shoppers choose another option of delivery because an offer lowers its charge to nothing.

Of those who would go by an option that still asks something, a share go by the freed one instead: the same carts,
priced that way. A cart has one option they move to, the first that is freed, of the first offer that frees one.
docs/sums.md, "Option shift".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import labels
from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.outlook import costed_of
from yellow_abacus.core.forecast.sums import AT, Sums
from yellow_abacus.core.forecast.trying import Setup
from yellow_abacus.core.ground.axes import Axes, run_begins
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import Rows, rows_of


def shifted(setup: Setup, places: Sequence[int]) -> dict[int, Sums]:
    """By offer that shoppers shift for: what changes where all of them do."""
    key = setup.key("shifted", tuple(places))
    return setup.outlook.kept(key, lambda: dict(_shifted(setup, places))) if places else {}


def _shifted(setup: Setup, places: Sequence[int]) -> Iterator[tuple[int, Sums]]:
    shop, batch = setup.outlook.shop, setup.mix.batch
    anyhow = batch.kept("any option", lambda: _any_option(batch))
    there = reached(setup.offers, shop, anyhow)
    carts = np.flatnonzero(there[list(places)].any(axis=0))
    some, here = anyhow.some(carts), there[:, carts]
    rows = rows_of(shop, some, setup.offers, here)
    ways = _Ways(rows, carts, shop.delivery.shares(batch), shop.delivery.shares(some))
    priced = price(shop, rows, setup.offers, setup.apply, there=here)
    told = costed_of(shop, rows, priced, setup.as_today.kept_as_they_were(carts, rows))
    still = np.ones(len(carts), dtype=np.bool_)
    for at in places:
        freed = (priced.delivery_off[at] > 0) & (priced.charge_by_row == 0)
        to = ways.first_of(freed & still[rows.cart_by_row])
        movers = np.flatnonzero((to >= 0) & (priced.charge_by_row > 0) & (ways.share_by_row > 0))
        still[rows.cart_by_row[movers]] = False
        if len(movers):
            yield at, _moved(setup, told, ways, movers, to[movers])


def _any_option(batch: CartBatch) -> CartBatch:
    """The carts where it is not known which option they go by."""
    return replace(batch, facts=replace(batch.facts, option=labels([""] * batch.axes.carts)), raw=None)


@dataclass(frozen=True, eq=False)
class _Ways:
    """Rows by every option of their zone. carts: which of the mix's each of their carts is. chosen, shares: how
    likely carts go by each option, [option, cart]: the mix's as far as that is known, and theirs if it were not.
    """

    rows: Rows
    carts: Ints
    chosen: Floats
    shares: Floats

    @cached_property
    def share_by_row(self) -> Floats:
        """How likely a cart goes that way; ways to choose what is put in as they are."""
        option, cart = self.rows.option_by_row, self.rows.cart_by_row
        if not len(self.shares):
            return np.zeros(len(option))
        of_choice = self.rows.share_by_row / np.where(option >= 0, self.shares[option, cart], 1.0)
        result: Floats = np.where(option >= 0, self.chosen[option, self.carts[cart]] * of_choice, 0.0)
        return result

    def first_of(self, freed: Bools) -> Ints:
        """For each row, the row of the first freed option of its cart that chooses the same; -1 where there is none.

        Ways to choose lie together, and are as many for each of a cart's options.
        """
        option, cart = self.rows.option_by_row, self.rows.cart_by_row
        opens = run_begins(cart, option)
        first = np.flatnonzero(opens)
        group = np.cumsum(opens) - 1
        ways = Axes(np.append(first, len(option)))
        is_freed = ways.sum_by_cart(freed.astype(np.int64)) == ways.lines_by_cart
        of_cart = np.full(len(self.carts), -1)
        free = np.flatnonzero(is_freed)[::-1]
        of_cart[cart[first[free]]] = first[free]
        begins = of_cart[cart]
        result: Ints = np.where(begins >= 0, begins + np.arange(len(option)) - first[group], -1)
        return result


def _moved(setup: Setup, told: Costed, ways: _Ways, movers: Ints, to: Ints) -> Sums:
    """What rows come to that go another way, less what they come to as they went. movers, to: rows."""
    offers = range(len(told.given))
    went, goes = told.some(movers, offers), told.some(to, offers)
    figures = goes.figures.copy()
    figures[AT["kept_today"]] = went.figures[AT["kept_today"]]
    figures[AT["change_squared"]] = (figures[AT["kept"]] - figures[AT["kept_today"]]) ** 2
    carts, share = ways.carts[went.cart_by_row], ways.share_by_row[movers]
    after = replace(goes, cart_by_row=carts, share_by_row=share, figures=figures)
    return after.less(replace(went, cart_by_row=carts, share_by_row=share), setup.mix)
