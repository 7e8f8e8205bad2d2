"""One batch of priced carts, costed: what each cart leaves the merchant, row by row.

docs/sums.md, "One cart, costed".
"""

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.ledger import INDEX, ROWS
from yellow_abacus.core.money import WHOLE_BP, Floats
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.shop import Shop


def cost(shop: Shop, batch: CartBatch, priced: Priced) -> Floats:
    """One row a row of the ledger, one column a cart; minor units, costs below zero."""
    settings = shop.settings
    included = settings.prices_with_tax
    rows = np.zeros((len(ROWS), batch.axes.carts), dtype=np.float64)
    rows[INDEX["goods"]] = priced.goods_by_cart - (priced.goods_tax if included else 0)
    rows[INDEX["delivery_charged"]] = priced.charge_by_cart - (priced.delivery_tax if included else 0)
    rows[INDEX["goods_cost"]] = -batch.unit_costs_by_cart
    for gift, units in zip(priced.gifts, priced.put_in, strict=True):
        rows[INDEX["put_in_cost"]] -= np.nan_to_num(batch.goods.unit_cost[gift.sku]) * units
    rows[INDEX["delivery_cost"]] = -shop.delivery_cost(batch.zone_by_cart)
    rows[INDEX["picking"]] = -settings.picking_per_order
    asked = priced.total * (settings.payment_bp / WHOLE_BP) + settings.payment_fixed
    rows[INDEX["payment"]] = -np.where(priced.total > 0, asked, 0.0)
    return rows
