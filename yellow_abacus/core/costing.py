"""One batch of priced carts, costed: what each cart leaves the merchant, row by row.

docs/sums.md, "One cart, costed".
"""

import numpy as np

from yellow_abacus.core.blocks import each_block
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.checkout import load_with
from yellow_abacus.core.delivery import Carriage
from yellow_abacus.core.ledger import INDEX, ROWS
from yellow_abacus.core.money import WHOLE_BP, Floats
from yellow_abacus.core.parcels import load_of
from yellow_abacus.core.payments import costs, paid_by
from yellow_abacus.core.priced import Priced, some_of
from yellow_abacus.core.returns import OnGoods, on_goods
from yellow_abacus.core.shop import Shop


def cost(shop: Shop, batch: CartBatch, priced: Priced, payment: str | None = None) -> Floats:
    """One row a row of the ledger, one column a cart; minor units, costs below zero.

    payment: how carts pay of which it is not known (`Branch`); None for what is expected.
    """
    blocks = each_block(batch, lambda carts, block: _cost(shop, block, some_of(priced, batch, carts), payment))
    return blocks[0] if len(blocks) == 1 else np.concatenate(blocks, axis=1)


def _cost(shop: Shop, batch: CartBatch, priced: Priced, payment: str | None) -> Floats:
    settings, included = shop.settings, shop.taxes.included
    carriage = carried(shop, batch, priced)
    goods = on_goods(shop, batch, priced)
    chosen_tax = priced.chosen_tax
    rows = np.zeros((len(ROWS), batch.axes.carts), dtype=np.float64)
    rows[INDEX["goods"]] = priced.goods_by_cart - (priced.goods_tax if included else 0)
    rows[INDEX["delivery_charged"]] = priced.charge_by_cart - (priced.delivery_tax if included else 0)
    surcharges = priced.surcharge_by_cart + priced.chosen_by_cart
    rows[INDEX["surcharges"]] = surcharges - (priced.surcharge_tax + chosen_tax if included else 0)
    rows[INDEX["goods_cost"]] = -batch.unit_costs_by_cart
    units = batch.units_by_cart
    unit_cost = batch.goods.column("unit_cost")
    for gift, put_in in zip(priced.gifts, priced.put_in, strict=True):
        rows[INDEX["put_in_cost"]] -= unit_cost[gift.sku] * put_in
        units = units + put_in
    rows[INDEX["delivery_cost"]] = -carriage.cost
    rows[INDEX["picking"]] = -(
        settings.picking_per_order + settings.picking_per_unit * units + settings.packaging_cost * carriage.parcels
    )
    rows[INDEX["payment"]] = -_payment(shop, batch, priced, payment)
    rows[INDEX["commission"]] = -goods.commission
    rows[INDEX["returns"]] = -_returns(shop, goods)
    return rows


def carried(shop: Shop, batch: CartBatch, priced: Priced) -> Carriage:
    """What carriers ask for each cart."""
    load = load_with(load_of(batch), priced.gifts, priced.put_in)
    return shop.delivery.carriage(load, priced.option_by_cart)


def _payment(shop: Shop, batch: CartBatch, priced: Priced, payment: str | None) -> Floats:
    known = batch.facts.payment
    if payment is None:
        rate, fixed = batch.kept(("payment", shop), lambda: costs(shop.payments, known))
    else:
        rate, fixed = costs(shop.payments, paid_by(known, payment))
    total = priced.total + priced.chosen_by_cart + (0 if shop.taxes.included else priced.chosen_tax)
    return np.where(total > 0, total * rate + fixed, 0.0)


def _returns(shop: Shop, goods: OnGoods) -> Floats:
    settings = shop.settings
    given_back = goods.commission_of_returned if settings.commission_returned else 0.0
    resold = settings.resale_bp / WHOLE_BP * goods.cost_returned
    handled = (settings.return_postage + settings.return_handling) * goods.any_returned
    result: Floats = goods.returned - resold - given_back + handled
    return result
