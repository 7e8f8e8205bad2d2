"""One batch of carts walked through goods offers, in turn; `checkout` takes it from there.

Each goods offer sees the line amounts that earlier ones left (`net`). Which offers may walk together is decided in
`pricing`. docs/sums.md, "One cart, priced".
"""

from collections.abc import Sequence

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.core.offers import GoodsReward, Offer, PutIn
from yellow_abacus.core.offers.allowance import Allowance, earned, portions
from yellow_abacus.core.offers.gifts import TooMuchPutInError, gifts_of
from yellow_abacus.core.offers.turn import Turn
from yellow_abacus.core.pricing.priced import effective
from yellow_abacus.core.pricing.trace import Trace
from yellow_abacus.core.shop.shop import Shop


class Walk:
    """The state of a batch while goods offers have their turns. Used once; what comes after only reads it."""

    def __init__(
        self,
        shop: Shop,
        batch: CartBatch,
        offers: Sequence[Offer],
        trace: Trace | None = None,
    ) -> None:
        self.shop, self.batch, self.offers, self.trace = shop, batch, offers, trace
        carts = batch.axes.carts
        self.net = batch.worth_by_line.copy()
        self.used = np.zeros_like(self.net)
        self.goods_off = np.zeros((len(offers), carts), dtype=np.int64)
        gifts = gifts_of(offers, batch.goods)
        self.gifts, self.gift_at = gifts.gifts, gifts.place
        self.no_delivery_off = np.zeros_like(self.goods_off)
        self.put_in = np.zeros((len(self.gifts), carts), dtype=np.int64)
        self.put_in_worth = np.zeros(carts, dtype=np.int64)
        self.funded_by_cart = np.zeros(carts)
        """What suppliers pay of what comes off goods."""
        self.returned_by_line: Floats | None = None
        """How many times as much of each line comes back; None where that is 1 everywhere."""
        self.step_of: dict[int, Ints] = {}
        self.percentage_base: dict[tuple[int, int, int], Ints] = {}

    def after(self, other: "Walk", numbers: Sequence[int]) -> None:
        """Begin where another walk ended, whose offers put nothing in. numbers: of its offers among these; no other
        takes anything off goods from here on."""
        self.net, self.goods_by_cart, self.returned_by_line = other.net, other.goods_by_cart, other.returned_by_line
        self.goods_off[numbers] = other.goods_off
        self.funded_by_cart = other.funded_by_cart
        self.step_of = {numbers[at]: step for at, step in other.step_of.items()}
        bases = other.percentage_base.items()
        self.percentage_base = {(numbers[at], step, reward): base for (at, step, reward), base in bases}

    @cached_property
    def goods_by_cart(self) -> Ints:
        """What is left of each cart's goods, once no offer takes anything off them any more."""
        return self.batch.axes.sum_by_cart(self.net)

    def took_effect(self) -> Bools:
        return effective(self.goods_off, self.no_delivery_off, self.gifts, self.put_in)

    def goods_turn(self, at: int, where: Bools | None = None) -> None:
        """The offer's turn on goods, on the carts of `where` (None for all)."""
        go_on()
        offer = self.offers[at]
        if self.trace is not None:
            self.trace.met(at, self.net)
        before = self.net if offer.earned.counted == "pooled" else self.net.copy()
        allowance = Allowance(offer, self.batch.axes.carts)
        highest = np.zeros(self.batch.axes.carts, dtype=np.int64)
        for among in portions(offer, self.batch):
            times, step = earned(offer, self.batch, before, among)
            if where is not None:
                times = np.where(where, times, 0)
            highest = np.maximum(highest, np.where(times > 0, step + 1, 0))
            self._work(at, allowance, allowance.allowed(times), step, among)
        self.step_of[at] = highest

    def _work(self, at: int, allowance: Allowance, times: Ints, step: Ints, among: Bools | None) -> None:
        offer = self.offers[at]
        worked = np.zeros_like(times)
        for number, gives in enumerate(offer.gives_by_step):
            reached = (step >= number) if offer.every_step else (step == number)
            mine = np.where(reached, times, 0)
            for reward_number, reward in enumerate(gives):
                if isinstance(reward, PutIn):
                    gift = self.gift_at.get((at, number, reward_number))
                    if gift is not None:
                        self._put_in(gift, reward.quantity * mine)
                        worked = np.maximum(worked, mine)
                elif isinstance(reward, GoodsReward):
                    done = self._take(at, allowance, reward, (number, reward_number), mine, among)
                    worked = np.maximum(worked, done)
        allowance.times_done(worked)

    def _put_in(self, gift: int, units: Ints) -> None:
        """Raises TooMuchPutInError."""
        one = self.gifts[gift]
        if units.max(initial=0) <= one.most:  # else the sum below might not hold it
            self.put_in[gift] += units
            self.put_in_worth += units * one.worth
        if units.max(initial=0) > one.most or self.put_in_worth.max(initial=0) > LARGEST_CHARGE:
            raise TooMuchPutInError(self.offers[one.offer].id)

    def _take(
        self,
        at: int,
        allowance: Allowance,
        reward: GoodsReward,
        key: tuple[int, int],
        times: Ints,
        among: Bools | None,
    ) -> Ints:
        """Let the reward take; the times it came about."""
        offer = self.offers[at]
        taken = reward.take(
            Turn(
                batch=self.batch,
                on=offer.on,
                percent_from=self.shop.settings.percent_of,
                units_from=offer.limits.units_from,
                net_by_line=self.net,
                used_by_line=self.used,
                among=among,
                times_by_cart=times,
                room_by_cart=allowance.room(self.goods_off[at]),
                units_by_cart=allowance.units(key),
            )
        )
        off_by_cart = taken.axes.sum_by_cart(taken.off_by_line)
        self.net[taken.at] -= taken.off_by_line
        if self.trace is not None:
            self.trace.took(at, taken.at, taken.off_by_line)
        self.goods_off[at] += off_by_cart
        if offer.funded.pays_anything:
            theirs = self.batch.lines_in(offer.funded.of)[taken.at]
            units = taken.axes.sum_by_cart(taken.units_by_line * (theirs & (taken.off_by_line > 0)))
            self.funded_by_cart += offer.funded.pays(taken.axes.sum_by_cart(taken.off_by_line * theirs), units)
        if offer.returned_bp != WHOLE_BP:
            if self.returned_by_line is None:
                self.returned_by_line = np.ones(self.batch.axes.lines)
            self.returned_by_line[taken.at[taken.off_by_line > 0]] *= offer.returned_bp / WHOLE_BP
        allowance.units_picked(key, taken.picked_by_cart)
        if taken.base_by_cart is not None:
            self.percentage_base[at, *key] = self.percentage_base.get((at, *key), 0) + taken.base_by_cart
        worked = off_by_cart > 0
        if taken.used_by_line is not None:
            self.used[taken.at] += taken.used_by_line * taken.axes.spread(worked)
        return taken.times_by_cart * worked
