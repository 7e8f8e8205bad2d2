"""What follows once goods are walked: the delivery charge, offers on it, surcharges, tax, the total; row by row.

docs/sums.md, "One cart, priced".
"""

from functools import partial

import numpy as np

from yellow_abacus.core.delivery.parcels import Load
from yellow_abacus.core.delivery.zones import Carriage
from yellow_abacus.core.ground.money import LARGEST_CHARGE, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.core.offers import DeliveryReward, PercentOff
from yellow_abacus.core.offers.allowance import earned, portions, room_left
from yellow_abacus.core.pricing.carried import carriage_of, load_with
from yellow_abacus.core.pricing.due import Due, find_due
from yellow_abacus.core.pricing.priced import ByLine, Priced, effective
from yellow_abacus.core.pricing.returns import from_lines, returned_more
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import TaxTable, tax_table


class Checkout:
    """The state of rows while delivery offers have their turns. Used once; `walk` is over the rows' carts."""

    def __init__(self, walk: Walk, rows: Rows) -> None:
        self.walk, self.rows, self.shop, self.batch = walk, rows, walk.shop, walk.batch
        self.goods_off, self.put_in = rows.of_carts(walk.goods_off), rows.of_carts(walk.put_in)
        self.delivery_off = np.zeros_like(self.goods_off)
        self.asked_for_put_in = sum(
            (gift.asked * units for gift, units in zip(rows.gifts, self.put_in, strict=True) if gift.asked),
            start=np.zeros(len(rows), dtype=np.int64),
        )
        self.goods = rows.of_carts(walk.goods_by_cart) + self.asked_for_put_in
        if self.shop.settings.delivery_from == "net":
            value = self.goods
        else:
            value = rows.of_carts(self.batch.worth_by_cart) + self.asked_for_put_in
        self.charge = self.shop.delivery.charge(value, self.load, rows.option_by_row, self.carriage)
        self.charge_before = self.charge

    @cached_property
    def load(self) -> Load:
        return load_with(self.rows, self.put_in)

    @cached_property
    def carriage(self) -> Carriage:
        return carriage_of(self.shop.delivery, self.rows, self.put_in)

    @cached_property
    def _zone_by_row(self) -> Ints:
        return self.rows.of_carts(self.batch.zone_by_cart)

    def took_effect(self) -> Bools:
        return effective(self.goods_off, self.delivery_off, self.rows.gifts, self.put_in)

    def _earned(self, at: int) -> Ints:
        """The step an offer reached on each row, from 1; what had no turn on goods is earned on what they left."""
        walk, offer = self.walk, self.walk.offers[at]
        if at not in walk.step_of:
            if walk.trace is not None:
                walk.trace.met(at, walk.net)
            highest = np.zeros(self.batch.axes.carts, dtype=np.int64)
            for among in portions(offer, self.batch):
                times, step = earned(offer, self.batch, walk.net, among)
                highest = np.maximum(highest, np.where(times > 0, step + 1, 0))
            walk.step_of[at] = highest
        return self.rows.of_carts(walk.step_of[at])

    def delivery_turn(self, at: int, where: Bools | None = None) -> None:
        """The offer's turn on the delivery charge, on the rows of `where` (None for all)."""
        offer = self.walk.offers[at]
        step = self._earned(at)
        capped = self.goods_off[at]
        for number, gives in enumerate(offer.gives_by_step):
            reached = step == number + 1
            if where is not None:
                reached = reached & where
            for reward_number, reward in enumerate(gives):
                if isinstance(reward, DeliveryReward):
                    serves = reward.serves(self.shop.delivery, self._zone_by_row, self.rows.option_by_row)
                    served = reached & serves
                    if reward.below_weight is not None:
                        served = served & reward.light_enough(self.load.weight)
                    off = self.charge - reward.lowered(self.charge)
                elif (base := self.walk.percentage_base.get((at, number, reward_number))) is not None:
                    assert isinstance(reward, PercentOff)
                    served = reached
                    part = reward.off_charge(self.charge, self.rows.of_carts(base))
                    off = np.minimum(part, room_left(offer.limits, capped))
                    capped = capped + np.where(served, off, 0)
                else:
                    continue
                off = np.where(served, off, 0)
                self.delivery_off[at] += off
                self.charge = self.charge - off

    # --- the end

    def done(self, stood: Bools | None = None) -> Priced:
        """stood: where offers took effect on the way, if that is more than what is left of it."""
        go_on()
        walk, shop, rows = self.walk, self.shop, self.rows
        found = find_due(self._due(), self.shop.surcharges)
        on_top = 0 if shop.taxes.included else found.goods_tax + found.delivery_tax + found.surcharge_tax
        trace = walk.trace
        return Priced(
            gifts=rows.gifts,
            choice_by_row=rows.choice_by_row,
            goods_by_row=self.goods,
            goods_off=self.goods_off,
            put_in=self.put_in,
            charge_before_offers=self.charge_before,
            charge_by_row=self.charge,
            delivery_off=self.delivery_off,
            surcharge_by_row=found.surcharge_by_row,
            chosen_by_row=found.chosen_by_row,
            goods_tax=found.goods_tax,
            delivery_tax=found.delivery_tax,
            surcharge_tax=found.surcharge_tax,
            chosen_tax=found.chosen_tax,
            total=self.goods + self.charge + found.surcharge_by_row + on_top,
            stood=self.took_effect() if stood is None else stood,
            from_lines=rows.of_carts(from_lines(shop, self.batch, walk.net)),
            funded=self._funded(),
            returned_more=self._returned_more(),
            lines=None if trace is None else ByLine(walk.net, trace.met_by_line, trace.off_by_line),
        )

    def _funded(self) -> Floats:
        """What suppliers pay of each row."""
        found = self.rows.of_carts(self.walk.funded_by_cart)
        for gift, units, choice in zip(self.rows.gifts, self.put_in, self.rows.choice_by_row, strict=True):
            funded = self.walk.offers[gift.offer].funded
            if funded.pays_anything:
                theirs = units * funded.of.holds(self.batch.goods)[gift.skus][choice]
                found = found + funded.pays(gift.saving[choice] * theirs, theirs)
        return found

    def _returned_more(self) -> Floats:
        """What it costs that more comes back of each row than of its goods without offers."""
        times = self.walk.returned_by_line
        if times is None:
            return np.zeros(len(self.rows))
        return self.rows.of_carts(returned_more(self.shop, self.batch, self.walk.net, times))

    def _due(self) -> Due:
        by_cart = tax_table(self.shop.taxes, self.shop.zone_names, self.batch)
        table: TaxTable = self.rows.plain.kept(("tax", self.shop), lambda: _table_of(by_cart, self.rows))
        goods = self.rows.of_carts(by_cart.by_slot(self.walk.net, self.walk.goods_by_cart))
        goods = table.with_put_in(goods, self._asked_by_class())
        return Due(table, goods, self.charge, [self._asked(surcharge) for surcharge in self.shop.surcharges])

    def _asked_by_class(self) -> list[tuple[int, Ints]]:
        """What is asked for things put in: the tax class, and how much on each row."""
        found = []
        of_sku = self.shop.taxes.class_of_sku
        for gift, units, choice in zip(self.rows.gifts, self.put_in, self.rows.choice_by_row, strict=True):
            if gift.asked:
                number = of_sku(self.batch.goods)[gift.skus][choice]
                found += [(int(one), np.where(number == one, gift.asked * units, 0)) for one in np.unique(number)]
        return found

    def _asked(self, surcharge: Surcharge) -> Ints:
        batch, zones = self.batch, self.shop.zone_names
        if surcharge.follows_net:
            found = surcharge.asked(batch, zones, self.walk.net)
        else:
            find = partial(surcharge.asked, batch, zones, batch.worth_by_line)
            found = batch.kept(("asked", surcharge, zones), find)
        by_row = self.rows.of_carts(found)
        if surcharge.by_parcel:
            return np.minimum(by_row * self.carriage.parcels.astype(np.int64), LARGEST_CHARGE)
        return by_row


def _table_of(by_cart: TaxTable, rows: Rows) -> TaxTable:
    return by_cart if rows.one_a_cart else by_cart.some(rows.cart_by_row)
