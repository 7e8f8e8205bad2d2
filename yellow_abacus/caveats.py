"""The missing figures a forecast leans on, in words."""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.being_paid import being_paid_beside_settings
from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.paid import prices_paid
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.delivery_cost import cost_beside_tariffs
from yellow_abacus.delivery_paid import paid_beside_options
from yellow_abacus.files.words import share
from yellow_abacus.refusals import refused_otherwise
from yellow_abacus.store.loading import LoadedShop

TOLD_FROM = 0.02
"""A forecast says so where orders paid so much less, or more, than the prices it goes by."""
PAYMENT_FROM = 0.1
"""The same of what being paid costs, which is little beside those."""
REFUSED_FROM = 0.005
"""The same of the share of orders refused on the way, of all orders."""


@dataclass(frozen=True, eq=False)
class Caveats:
    """Of a shop and its history. forecaster: of all of it. stuck_before: `stuck` of the same carts, before some of
    their goods were otherwise."""

    loaded: LoadedShop
    forecaster: Forecaster
    stuck_before: Bools | None = None

    @cached_property
    def of_history(self) -> list[str]:
        return self.of(self.forecaster)

    def of(self, forecaster: Forecaster) -> list[str]:
        """forecaster: of some mix of the history."""
        loaded, shop, batch = self.loaded, forecaster.shop, forecaster.batch
        delivery, told = shop.delivery, list[str]()
        if missing := forecaster.missing_costs:
            told.append(f"{_skus(missing, 'has', 'have')} no unit cost and {_count(missing)} as costing nothing.")
        if any(tariff.billed_by_weight for tariff in shop.tariffs) and (missing := forecaster.missing_weights):
            told.append(f"{_skus(missing, 'has', 'have')} no weight and {_count(missing)} as weighing nothing.")
        told += self._taxed_as_the_first(forecaster)
        bare = [zone.name for zone in shop.zones if not zone.options]
        if bare:
            told.append(
                f"No delivery option is set for {', '.join(bare)}; orders there are delivered free and cost nothing."
            )
        options = [(shop.zones[zone].name, option) for zone, option in delivery.options]
        costless = [f"{zone}, {option.name}" for zone, option in options if not option.tariffs]
        if costless:
            told.append(f"No tariff is set for {'; '.join(costless)}: delivery costs nothing there.")
        if forecaster.expected.has_history:
            paid = -prices_paid(batch, loaded.orders.paid).less
            told += _otherwise("Orders paid {} than the prices of Goods, which forecasts go by; see Carts.", paid)
            told += _otherwise(
                "Orders paid {} for delivery than your options ask; see Delivery.", self.delivery_paid_more
            )
            told += _otherwise("Orders cost {} to deliver than your tariffs say; see Delivery.", self.delivery_more)
            words = "Being paid cost {} than your ways to pay say; see Delivery, Payment."
            told += _otherwise(words, self.payment_more, PAYMENT_FROM)
            told += self._refused
        if forecaster.expected.has_history and (kits := loaded.kits_told):
            told.append(
                f"{'1 SKU looks' if len(kits) == 1 else f'{len(kits)} SKUs look'} like a kit whose parts orders tell "
                "beside it, and those count as ordered, too; see Carts."
            )
        if forecaster.expected.has_history and self.stuck.any():
            told.append(
                f"{self.stuck.sum()} orders hold goods that no option of their zone can carry, "
                "and count as sent all the same."
            )
        return told

    @staticmethod
    def _taxed_as_the_first(forecaster: Forecaster) -> list[str]:
        """Of goods that were ordered and name a tax class that the shop does not have."""
        taxes = forecaster.shop.taxes
        unknown = {
            name: many
            for name, skus in taxes.unknown_to(forecaster.batch.goods).items()
            if (many := int(forecaster.ordered[skus].sum()))
        }
        if not unknown:
            return []
        which = _skus(sum(unknown.values()), "is", "are")
        names = f"{'class' if len(unknown) == 1 else 'classes'} {', '.join(unknown)}"
        return [f"No rate is said for tax {names}: {which} taxed as {taxes.classes[0].name}."]

    @cached_property
    def delivery_paid_more(self) -> float:
        """The share by which orders paid more for delivery than is asked, whichever of them are expected."""
        return paid_beside_options(self.loaded).more_of_late

    @cached_property
    def delivery_more(self) -> float:
        """The share by which orders cost more to deliver than tariffs say, whichever of them are expected."""
        return cost_beside_tariffs(self.loaded).more_of_late

    @cached_property
    def payment_more(self) -> float:
        """The share by which being paid cost more than ways to pay say, whichever orders are expected."""
        return being_paid_beside_settings(self.loaded).more_of_late

    @cached_property
    def _refused(self) -> list[str]:
        """Whether other orders are refused on the way than ways to pay say, whichever are expected."""
        found = refused_otherwise(self.loaded)
        if found is None or abs(found[0] - found[1]) < REFUSED_FROM:
            return []
        refused, said = map(share, found)
        return [
            f"{refused} of orders were refused on the way, and your ways to pay say {said}; see Delivery, Payment."
        ]

    @cached_property
    def stuck(self) -> Bools:
        """By cart, whether no option of its zone can carry it."""
        delivery, batch, touched = self.loaded.shop.delivery, self.loaded.batch, self.loaded.touched
        if self.stuck_before is None or touched is None:
            return np.concatenate(each_block(batch, lambda _, block: delivery.stuck(block)))
        if not len(touched.carts):
            return self.stuck_before
        stuck = self.stuck_before.copy()
        some = batch.some(touched.carts)
        stuck[touched.carts] = delivery.stuck(some)
        some.let_go()
        return stuck


def _otherwise(words: str, more: float, least: float = TOLD_FROM) -> list[str]:
    """words: with a place for how much more or less it is; none where that is less than the least."""
    way = "more" if more > 0 else "less"
    return [words.format(f"{share(abs(more))} {way}")] if abs(more) >= least else []


def _skus(count: int, one: str, several: str) -> str:
    return f"1 SKU that was ordered {one}" if count == 1 else f"{count} SKUs that were ordered {several}"


def _count(count: int) -> str:
    return "counts" if count == 1 else "count"
