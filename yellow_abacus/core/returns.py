"""Commission and returns: what follows from each line's own goods and what they came to.

docs/sums.md, "Returns and commission".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.shop import Shop


@dataclass(frozen=True, eq=False)
class OnGoods:
    """Expected of each cart, minor units; one entry a cart.

    commission: on goods, tax included. returned: net of returned goods without tax. commission_of_returned: on those.
    cost_returned: unit costs of returned goods. any_returned: the chance that something comes back.
    """

    commission: Floats
    returned: Floats
    commission_of_returned: Floats
    cost_returned: Floats
    any_returned: Floats


@dataclass(frozen=True, eq=False)
class _Parts:
    """What a line's net is multiplied by, one entry a line; None where it is 0 everywhere. The rest as `OnGoods`."""

    commission: Floats | None
    returned: Floats | None
    commission_of_returned: Floats | None
    cost_returned: Floats
    any_returned: Floats


def on_goods(shop: Shop, batch: CartBatch, priced: Priced) -> OnGoods:
    """What the lines of each cart come to in commission and returns."""
    parts = batch.kept(("on goods", shop), lambda: _parts(shop, batch))

    def expected(part: Floats | None) -> Floats:
        if part is None:
            return np.zeros(batch.axes.carts)
        return batch.axes.sum_floats_by_cart(priced.net_by_line * part)

    commission = expected(parts.commission)
    for gift, units in zip(priced.gifts, priced.put_in, strict=True):
        if gift.asked:
            sku = np.full(batch.axes.carts, gift.sku)
            commission = commission + gift.asked * units * _commission(shop, batch, sku, np.arange(batch.axes.carts))
    return OnGoods(
        commission=commission,
        returned=expected(parts.returned),
        commission_of_returned=expected(parts.commission_of_returned),
        cost_returned=parts.cost_returned,
        any_returned=parts.any_returned,
    )


def _parts(shop: Shop, batch: CartBatch) -> _Parts:
    goods, sku, axes = batch.goods, batch.sku_by_line, batch.axes
    rate = goods.column("return_rate")
    commission = _commission_by_line(shop, batch)
    if not rate.any():
        nothing = np.zeros(axes.carts)
        return _Parts(commission, None, None, nothing, nothing)
    zone = axes.spread(batch.zone_by_cart)
    without_tax = shop.taxes.without(_tax_bp(shop, batch))
    with np.errstate(divide="ignore"):
        all_stay = axes.sum_floats_by_cart(np.log1p(-rate)[sku])
    return _Parts(
        commission=commission,
        returned=(rate * without_tax)[zone, sku],
        commission_of_returned=None if commission is None else commission * rate[sku],
        cost_returned=axes.sum_floats_by_cart(batch.by_line(rate * goods.column("unit_cost"))),
        any_returned=-np.expm1(all_stay),
    )


def _commission_by_line(shop: Shop, batch: CartBatch) -> Floats | None:
    if not batch.goods.column("commission_bp").any():
        return None
    return _commission(shop, batch, batch.sku_by_line, batch.axes.cart_by_line)


def _commission(shop: Shop, batch: CartBatch, sku: Ints, cart: Ints) -> Floats:
    """The share of a price, as the shop states prices, that is taken for one SKU of one cart each."""
    rate: Floats = (batch.goods.column("commission_bp") / WHOLE_BP)[sku]
    channels = shop.settings.commission_channels
    if channels:
        rate = rate * batch.facts.channel.among(channels)[cart]
    if shop.taxes.included:
        return rate
    result: Floats = rate * (1 + _tax_bp(shop, batch) / WHOLE_BP)[batch.zone_by_cart[cart], sku]
    return result


def _tax_bp(shop: Shop, batch: CartBatch) -> Ints:
    """One row a zone, one column a SKU."""
    result: Ints = shop.taxes.rates(shop.zone_names)[:, shop.taxes.class_of_sku(batch.goods)]
    return result
