"""One setting of a shop changed, to be looked at beside the shop as it is and never saved.

A twist is of what the merchant could decide or might be told: from what value on delivery is free, what one order may
combine, what goods are sold at, what they cost, what a carrier asks. docs/sums.md, "Side by side".

>>> from yellow_abacus.core.delivery.zones import Zone
>>> from yellow_abacus.core.shop.shop import Settings
>>> shop = Shop(Settings(), (Zone("Home", (Option("Parcel", free_from=5000),)),))
>>> FreeFrom(amount=6000).shop(shop).zones[0].options[0].free_from
6000
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np

from yellow_abacus.core.delivery.zones import Option
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.price_list import PriceList, Steps
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import WHOLE_BP, Ints, percent_of
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds
from yellow_abacus.core.shop.shop import MOST_CODES_PER_ORDER, Shop

LEAST_CHANGE_BP, MOST_CHANGE_BP = -9_000, 100_000


class _Nothing:
    """A twist leaves alone what it does not name."""

    def shop(self, shop: Shop) -> Shop:
        return shop

    def goods(self, goods: Goods) -> Goods:
        """Of the same SKUs in the same order."""
        return goods

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        yield from ()


@dataclass(frozen=True)
class FreeFrom(_Nothing):
    """amount: value of goods, minor units, from which delivery is free; None for never. zone: empty for every one.
    Options that are free from no value as things stand become so too."""

    amount: int | None
    zone: str = ""
    kind: Literal["free_from"] = "free_from"

    __pydantic_config__ = CLOSED

    def shop(self, shop: Shop) -> Shop:
        def otherwise(option: Option) -> Option:
            return replace(option, free_from=self.amount)

        zones = tuple(
            replace(zone, options=tuple(map(otherwise, zone.options))) if self._means(zone.name) else zone
            for zone in shop.zones
        )
        return replace(shop, zones=zones)

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        if self.amount is not None:
            yield from amount_between("amount", "The value", self.amount, 1)
        if not any(self._means(name) for name in shop.zone_names):
            named, mend = f"no zone “{self.zone}”", "Choose one of its zones, or all."
            if not shop.zones:
                named, mend = "no zone", "Add one at Delivery."
            yield Problem(("zone",), f"The shop has {named}.", mend)

    def _means(self, zone: str) -> bool:
        return not self.zone or folded(zone) == folded(self.zone)


@dataclass(frozen=True)
class Combining(_Nothing):
    """What one order may combine at all, as in Settings."""

    codes_per_order: int
    self_applying: Literal["any", "one"] = "any"
    codes_with_self_applying: bool = True
    kind: Literal["combining"] = "combining"

    __pydantic_config__ = CLOSED

    def shop(self, shop: Shop) -> Shop:
        return replace(
            shop,
            settings=replace(
                shop.settings,
                codes_per_order=self.codes_per_order,
                self_applying=self.self_applying,
                codes_with_self_applying=self.codes_with_self_applying,
            ),
        )

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        if not 1 <= self.codes_per_order <= MOST_CODES_PER_ORDER:
            message = f"An order takes 1 to {MOST_CODES_PER_ORDER} codes, not {self.codes_per_order}."
            yield Problem(("codes_per_order",), message, f"Choose from 1 to {MOST_CODES_PER_ORDER}.")


@dataclass(frozen=True)
class _OfGoods(_Nothing):
    """change_bp: how much more, basis points; on: which goods."""

    change_bp: int
    on: Scope = EVERYTHING

    __pydantic_config__ = CLOSED

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        yield from _change_problems(self.change_bp)
        if not self.on.holds(goods).any():
            yield Problem(("on",), "It is of no goods the shop has.", "Choose others.")


@dataclass(frozen=True)
class Prices(_OfGoods):
    """Every price of the goods so much higher: of the list, reduced, by quantity and of groups, rounded half up."""

    kind: Literal["prices"] = "prices"

    def goods(self, goods: Goods) -> Goods:
        changed = self.on.holds(goods)

        def otherwise(price: Ints) -> Ints:
            return np.where(changed & (price != NO_PRICE), percent_of(price, WHOLE_BP + self.change_bp), price)

        def steps(told: Steps) -> Steps:
            return replace(told, price=otherwise(told.price))

        prices = goods.prices
        if prices is not None:
            by_group = {group: steps(told) for group, told in prices.by_group.items()}
            prices = PriceList(steps(prices.everybody), by_group, prices.by_product)
        return replace(
            goods,
            list_price=otherwise(goods.list_price),
            reduced_price=otherwise(goods.reduced_price),
            prices=prices,
            _of_days={},
        )


@dataclass(frozen=True)
class Costs(_OfGoods):
    """The unit cost of the goods so much higher."""

    kind: Literal["costs"] = "costs"

    def goods(self, goods: Goods) -> Goods:
        more = goods.unit_cost * (1 + self.change_bp / WHOLE_BP)
        return replace(goods, unit_cost=np.where(self.on.holds(goods), more, goods.unit_cost), _of_days={})


@dataclass(frozen=True)
class Tariffs(_Nothing):
    """What a tariff asks for parcels so much higher, its fuel surcharge as it is. tariff: empty for every one."""

    change_bp: int
    tariff: str = ""
    kind: Literal["tariffs"] = "tariffs"

    __pydantic_config__ = CLOSED

    def shop(self, shop: Shop) -> Shop:
        by = 1 + self.change_bp / WHOLE_BP
        return replace(
            shop,
            tariffs=tuple(
                replace(
                    one,
                    steps=tuple(replace(step, amount=step.amount * by) for step in one.steps),
                    per_kilogram=None if one.per_kilogram is None else one.per_kilogram * by,
                )
                if self.tariff in ("", one.name)
                else one
                for one in shop.tariffs
            ),
        )

    def problems(self, shop: Shop, goods: Goods) -> Iterator[Problem]:
        yield from _change_problems(self.change_bp)
        if not any(self.tariff in ("", one.name) for one in shop.tariffs):
            message = f"The shop has no tariff “{self.tariff}”." if self.tariff else "The shop has no tariff."
            yield Problem(("tariff",), message, "Choose one of its tariffs, or all.")


Twist = Annotated[FreeFrom | Combining | Prices | Costs | Tariffs, OneOfKinds()]


def _change_problems(change_bp: int) -> Iterator[Problem]:
    if not LEAST_CHANGE_BP <= change_bp <= MOST_CHANGE_BP:
        low, high = LEAST_CHANGE_BP // 100, MOST_CHANGE_BP // 100
        message = f"It is changed by {change_bp / 100:g} %, which is out of bounds."
        yield Problem(("change_bp",), message, f"Choose from {low} to {high} %.")
