"""What follows once goods are settled: the delivery charge, offers on it, surcharges, tax, the total.

One `Walk` can be checked out several times: by each option of delivery, and with each choice of what is put in.
docs/sums.md, "One cart, priced".
"""

from functools import cached_property

import numpy as np

from yellow_abacus.core.branches import Branch
from yellow_abacus.core.delivery import Carriage
from yellow_abacus.core.left import earned, portions, room_left
from yellow_abacus.core.money import Bools, Ints
from yellow_abacus.core.offers import DeliveryReward, PercentOff
from yellow_abacus.core.parcels import Load, load_of, with_put_in
from yellow_abacus.core.priced import Gift, Priced, effective
from yellow_abacus.core.settled import Due, Settled, settle, settle_changed
from yellow_abacus.core.surcharges import Surcharge
from yellow_abacus.core.tax import tax_table
from yellow_abacus.core.walk import Walk, gifts_of


class Checkout:
    """The state of a batch while delivery offers have their turns. Used once."""

    def __init__(self, walk: Walk, branch: Branch) -> None:
        self.walk, self.branch, self.shop, self.batch = walk, branch, walk.shop, walk.batch
        self.gifts = gifts_of(branch.offers, self.batch.goods)[0]
        self.delivery_off = np.zeros_like(walk.goods_off)
        asked = sum(
            (gift.asked * units for gift, units in zip(self.gifts, walk.put_in, strict=True)), start=np.int64(0)
        )
        self.goods = self.batch.axes.sum_by_cart(walk.net) + asked
        value = self.goods if self.shop.settings.delivery_from == "net" else self.batch.worth_by_cart + asked
        self.charge = self.shop.delivery.charge(value, self.load, branch.option_by_cart, self._carriage)
        self.charge_before = self.charge

    @cached_property
    def load(self) -> Load:
        return load_with(load_of(self.batch), self.gifts, self.walk.put_in)

    def took_effect(self) -> Bools:
        return effective(self.walk.goods_off, self.delivery_off, self.gifts, self.walk.put_in)

    def _earned(self, at: int) -> Ints:
        """The step an offer reached, from 1; what had no turn on goods is earned on what goods offers left."""
        walk, offer = self.walk, self.walk.offers[at]
        if at not in walk.step_of:
            if walk.met_by_line is not None:
                walk.met_by_line[at] = walk.net
            highest = np.zeros(self.batch.axes.carts, dtype=np.int64)
            for among in portions(offer, self.batch):
                times, step = earned(offer, self.batch, walk.net, among)
                highest = np.maximum(highest, np.where(times > 0, step + 1, 0))
            walk.step_of[at] = highest
        return walk.step_of[at]

    def delivery_turn(self, at: int, where: Bools | None = None) -> None:
        """The offer's turn on the delivery charge, on the carts of `where` (None for all)."""
        offer = self.walk.offers[at]
        step = self._earned(at)
        capped = self.walk.goods_off[at]
        for number, gives in enumerate(offer.gives_by_step):
            reached = step == number + 1
            if where is not None:
                reached = reached & where
            for reward_number, reward in enumerate(gives):
                if isinstance(reward, DeliveryReward):
                    served = reached & reward.serves(self.shop.delivery, self.batch, self.branch.option_by_cart)
                    if reward.below_weight is not None:
                        served = served & reward.light_enough(self.load.weight)
                    off = self.charge - reward.lowered(self.charge)
                elif (base := self.walk.percentage_base.get((at, number, reward_number))) is not None:
                    assert isinstance(reward, PercentOff)
                    served = reached
                    off = np.minimum(reward.off_charge(self.charge, base), room_left(offer.limits, capped))
                    capped = capped + np.where(served, off, 0)
                else:
                    continue
                off = np.where(served, off, 0)
                self.delivery_off[at] += off
                self.charge = self.charge - off

    # --- the end

    def done(self, stood: Bools | None = None) -> Priced:
        """stood: where offers took effect on the way, if that is more than what is left of it."""
        walk, shop = self.walk, self.shop
        found = self._settled()
        on_top = 0 if shop.taxes.included else found.goods_tax + found.delivery_tax + found.surcharge_tax
        return Priced(
            net_by_line=walk.net,
            goods_by_cart=self.goods,
            goods_off=walk.goods_off,
            gifts=self.gifts,
            put_in=walk.put_in,
            option_by_cart=self.branch.option_by_cart,
            charge_before_offers=self.charge_before,
            charge_by_cart=self.charge,
            delivery_off=self.delivery_off,
            surcharge_by_cart=found.surcharge_by_cart,
            chosen_by_cart=found.chosen_by_cart,
            goods_tax=found.goods_tax,
            delivery_tax=found.delivery_tax,
            surcharge_tax=found.surcharge_tax,
            chosen_tax=found.chosen_tax,
            total=self.goods + self.charge + found.surcharge_by_cart + on_top,
            stood=self.took_effect() if stood is None else stood,
            off_by_line=walk.off_by_line,
            met_by_line=walk.met_by_line,
        )

    def _settled(self) -> Settled:
        surcharges = self.shop.surcharges
        if not self.walk.offers:
            return settle(self._due(), surcharges)
        changed = np.flatnonzero(self.took_effect().any(axis=0))
        return settle_changed(self._due(), surcharges, changed, self._without_offers)

    def _due(self) -> Due:
        walk, shop, batch = self.walk, self.shop, self.batch
        table = tax_table(shop.taxes, shop.zone_names, batch)
        put_in = [
            (shop.taxes.class_of_sku(batch.goods)[gift.sku], gift.asked * units)
            for gift, units in zip(self.gifts, walk.put_in, strict=True)
            if gift.asked
        ]
        asked = [self._asked(surcharge) for surcharge in shop.surcharges]
        return Due(table, table.by_slot(walk.net, put_in), self.charge, asked)

    def _asked(self, surcharge: Surcharge) -> Ints:
        batch, zones = self.batch, self.shop.zone_names
        if surcharge.by_parcel:
            return surcharge.asked(batch, zones, self.walk.net, self._carriage.parcels)
        one = np.ones(batch.axes.carts)
        if surcharge.follows_net:
            return surcharge.asked(batch, zones, self.walk.net, one)
        key = ("asked", surcharge, zones)
        return batch.kept(key, lambda: surcharge.asked(batch, zones, batch.worth_by_line, one))

    def _without_offers(self) -> Settled:
        """Of the same carts by the same options, no offer running; kept with the batch."""
        bare = Branch(self.branch.share_by_cart, (), self.branch.option_by_cart)
        key = ("settled", self.shop, bare.option_by_cart.tobytes())
        return self.batch.kept(key, lambda: Checkout(Walk(self.shop, self.batch, ()), bare)._settled())

    @cached_property
    def _carriage(self) -> Carriage:
        return self.shop.delivery.carriage(self.load, self.branch.option_by_cart)


def load_with(load: Load, gifts: tuple[Gift, ...], put_in: Ints) -> Load:
    """A load with all that offers put in."""
    for gift, units in zip(gifts, put_in, strict=True):
        if gift.sku >= 0 and units.any():
            load = with_put_in(load, gift.sku, units)
    return load
