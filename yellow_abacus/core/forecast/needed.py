"""Units of goods that orders need: those their carts hold, what shoppers add, and things put in.

docs/sums.md, "Day by day".
"""

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import CELLS, Course, Flow, parts_of
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.states import State, over_cells
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats, Ints


class Needed:
    """Units of some SKUs (index), as courses of one plan need them."""

    def __init__(self, outlook: Outlook, plan: Plan, drawn: Drawn, skus: Ints) -> None:
        self.outlook, self.plan, self.drawn, self.skus = outlook, plan, drawn, skus
        self._known: dict[int, _Units] = {}

    def of(self, course: Course) -> Floats:
        """[draw, SKU]."""
        whole = np.zeros((self.drawn.draws, len(self.skus)))
        for flow in course.flows:
            state = flow.state
            if id(state) not in self._known:
                self._known[id(state)] = _Units(self.outlook, self.plan, state, self.drawn, self.skus)
            whole += self._known[id(state)].of(flow)
        return whole


class _Units:
    """Units of some SKUs that orders of a state hold: of every order, and of those each offer takes effect on.

    summed: which of them are counted by sums.
    """

    def __init__(self, outlook: Outlook, plan: Plan, state: State, drawn: Drawn, skus: Ints) -> None:
        self.drawn, self.state, self.skus = drawn, state, skus
        self.brings = [at for at in state.numbers if drawn.extra_by_cell(at).any()]
        offers, span = tuple(offer for _, offer in state.available.offers), state.span
        self.summed = np.isin(skus, span.mix.watched)
        if state.available.sharp and plan.sharp is not None:
            mix = plan.sharp.mix(outlook.shop, span.mix.batch.goods)
            each = np.where(self.summed, 0.0, _by_group(mix, mix.share_by_cart, skus).sum(axis=0))
            self.every = np.tile(each, (CELLS, 1))
            self.reached = {at: self.every for at in self.brings}
            return
        mix = span.mix.branched((*offers, *span.today))
        self.every = self._by_cell(mix, mix.share_by_cart)
        self.reached = {}
        if self.brings:
            numbers = [state.numbers.index(at) for at in self.brings]
            took = outlook.took_effect_by_cart(mix, offers, plan.apply, numbers, span.today)
            for at, by_cart in zip(self.brings, took, strict=True):
                self.reached[at] = self._by_cell(mix, by_cart * mix.share_by_cart)

    def _by_cell(self, mix: Mix, weight_by_cart: Floats) -> Floats:
        """[cell, SKU]."""
        found: Floats = over_cells(self.state.span.source, mix.groups) @ _by_group(mix, weight_by_cart, self.skus)
        return np.where(self.summed, 0.0, found)

    def of(self, flow: Flow) -> Floats:
        """[draw, SKU], of the orders of a flow and those they bring."""
        found: Floats = flow.orders @ self.every
        extras = {at: flow.orders * self.drawn.extra_by_cell(at) for at in self.brings} if flow.wins else {}
        for at, extra in extras.items():
            found = found + extra @ self.reached[at]
        for sums, share, _ in parts_of(self.state, self.drawn):
            for number, sku in enumerate(sums.from_stock.skus):
                units = sums.from_stock.units[:, number]
                for place in np.flatnonzero(self.skus == sku):
                    found[:, place] += share * (flow.orders @ units[:, 0])
                    for at, extra in extras.items():
                        found[:, place] += share * (extra @ units[:, 1 + self.state.numbers.index(at)])
        return found


def _by_group(mix: Mix, weight_by_cart: Floats, skus: Ints) -> Floats:
    """Units of some SKUs by group of carts: [group, SKU]."""
    groups = mix.groups
    cart, place, quantity = mix.batch.kept(("lines of", skus.tobytes()), lambda: _lines_of(mix.batch, skus))
    cell = groups.number_by_cart[cart] * len(skus) + place
    units = weight_by_cart[cart] * quantity
    return summed_by(cell, units, len(groups) * len(skus)).reshape(len(groups), len(skus))


def _lines_of(batch: CartBatch, skus: Ints) -> tuple[Ints, Ints, Ints]:
    """Of lines of some SKUs the cart, which of those SKUs it is, and the units."""
    place = np.full(len(batch.goods.skus), -1)
    place[skus] = np.arange(len(skus))
    place_by_line = place[batch.sku_by_line]
    lines = np.flatnonzero(place_by_line >= 0)
    return batch.axes.cart_by_line[lines], place_by_line[lines], batch.quantity_by_line[lines]
