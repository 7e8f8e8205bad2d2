"""Commission and returns: what follows from each line's own goods and what they came to.

docs/sums.md, "Returns and commission".
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.shop.shop import Shop


@dataclass(frozen=True, eq=False)
class PerNet:
    """What a line's net is multiplied by, one entry a line each; None where it is 0 everywhere."""

    commission: Floats | None
    returned: Floats | None
    commission_of_returned: Floats | None


@dataclass(frozen=True, eq=False)
class Back:
    """Expected of each cart, whatever offers do. cost_returned: unit costs of returned goods, minor units.
    any_returned: the chance that something comes back."""

    cost_returned: Floats
    any_returned: Floats


@dataclass(frozen=True, eq=False)
class FromLines:
    """Expected of each row, minor units. commission: on goods, tax included. returned: net of returned goods without
    tax. commission_of_returned: on those."""

    commission: Floats
    returned: Floats
    commission_of_returned: Floats


def from_lines(shop: Shop, batch: CartBatch, net_by_line: Ints) -> Floats:
    """What each cart's lines come to in commission and returns: one row a part that is not 0 everywhere, in order."""
    told = [part for part in _told(per_net(shop, batch)) if part is not None]
    sums = [batch.axes.sum_floats_by_cart(net_by_line * part) for part in told]
    return np.array(sums, dtype=np.float64).reshape(len(told), batch.axes.carts)


def read_from_lines(shop: Shop, rows: Rows, told: Floats) -> FromLines:
    """What `from_lines` found, by name. told: one column a row."""
    parts, found = iter(told), _told(per_net(shop, rows.batch))
    nothing = np.zeros(len(rows))
    return FromLines(*(nothing if part is None else next(parts) for part in found))


def _told(parts: PerNet) -> Sequence[Floats | None]:
    return (parts.commission, parts.returned, parts.commission_of_returned)


def per_net(shop: Shop, batch: CartBatch) -> PerNet:
    """Kept with the batch."""
    return batch.kept(("per net", shop), partial(_per_net, shop, batch))


def _per_net(shop: Shop, batch: CartBatch) -> PerNet:
    rate, sku = batch.goods.column("return_rate"), batch.sku_by_line
    commission = None
    if batch.goods.column("commission_bp").any():
        commission = commission_share(shop, batch, sku, batch.axes.cart_by_line)
    if not rate.any():
        return PerNet(commission, None, None)
    zone = batch.axes.spread(batch.zone_by_cart)
    without_tax = shop.taxes.without(_tax_bp(shop, batch))
    back = None if commission is None else commission * rate[sku]
    return PerNet(commission, (rate * without_tax)[zone, sku], back)


def returned_more(shop: Shop, batch: CartBatch, net_by_line: Ints, times_by_line: Floats) -> Floats:
    """What each cart loses by as much more coming back of its lines; all of a line at most."""
    settings, axes, sku = shop.settings, batch.axes, batch.sku_by_line
    rate = batch.goods.column("return_rate")[sku]
    more = np.minimum(rate * times_by_line, 1.0) - rate
    zone = axes.spread(batch.zone_by_cart)
    each = net_by_line * shop.taxes.without(_tax_bp(shop, batch))[zone, sku]
    each = each - settings.resale_bp / WHOLE_BP * batch.by_line(batch.goods.column("unit_cost"))
    if settings.commission_returned:
        each = each - net_by_line * commission_share(shop, batch, sku, axes.cart_by_line)
    with np.errstate(divide="ignore"):
        stays, stay = (np.exp(axes.sum_floats_by_cart(np.log1p(-some))) for some in (rate, rate + more))
    handled = (settings.return_postage + settings.return_handling) * (stays - stay)
    return axes.sum_floats_by_cart(more * each) + handled


def back(batch: CartBatch) -> Back:
    """Kept with the batch."""
    return batch.kept("back", partial(_back, batch))


def _back(batch: CartBatch) -> Back:
    goods, axes, rate = batch.goods, batch.axes, batch.goods.column("return_rate")
    if not rate.any():
        return Back(np.zeros(axes.carts), np.zeros(axes.carts))
    with np.errstate(divide="ignore"):
        all_stay = axes.sum_floats_by_cart(np.log1p(-rate)[batch.sku_by_line])
    cost = axes.sum_floats_by_cart(batch.by_line(rate * goods.column("unit_cost")))
    return Back(cost, -np.expm1(all_stay))


def commission_share(shop: Shop, batch: CartBatch, sku: Ints, cart: Ints) -> Floats:
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
