"""Priced rows, costed: what each leaves the merchant, by row of the ledger.

docs/sums.md, "One cart, costed".
"""

import numpy as np

from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.pricing.carried import carriage_of
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.returns import FromLines, back, commission_share, read_from_lines
from yellow_abacus.core.pricing.rows import Rows
from yellow_abacus.core.shop.payments import costs
from yellow_abacus.core.shop.payments import refused as chances
from yellow_abacus.core.shop.shop import Shop


def cost(shop: Shop, rows: Rows, priced: Priced) -> Floats:
    """One entry a row of the ledger (`ledger.ROWS`), one column a row; minor units, costs below zero."""
    settings, included, batch = shop.settings, shop.taxes.included, rows.batch
    carriage = carriage_of(shop.delivery, rows, priced.put_in)
    lines = read_from_lines(shop, rows, priced.from_lines)
    found = np.zeros((len(ROWS), len(rows)), dtype=np.float64)
    found[INDEX["goods"]] = priced.goods_by_row - (priced.goods_tax if included else 0)
    found[INDEX["funding"]] = priced.funded
    found[INDEX["delivery_charged"]] = priced.charge_by_row - (priced.delivery_tax if included else 0)
    surcharges = priced.surcharge_by_row + priced.chosen_by_row
    found[INDEX["surcharges"]] = surcharges - (priced.surcharge_tax + priced.chosen_tax if included else 0)
    found[INDEX["goods_cost"]] = -rows.of_carts(batch.unit_costs_by_cart)
    units = rows.of_carts(batch.units_by_cart)
    unit_cost = batch.goods.column("unit_cost")
    commission = lines.commission
    for number, (gift, put_in) in enumerate(zip(priced.gifts, priced.put_in, strict=True)):
        sku = priced.sku_of(number)
        found[INDEX["put_in_cost"]] -= unit_cost[sku] * put_in
        units = units + put_in
        if gift.asked:
            commission = commission + gift.asked * put_in * commission_share(shop, batch, sku, rows.cart_by_row)
    found[INDEX["delivery_cost"]] = -carriage.cost
    found[INDEX["picking"]] = -(
        settings.picking_per_order + settings.picking_per_unit * units + settings.packaging_cost * carriage.parcels
    )
    found[INDEX["payment"]] = -_payment(shop, rows, priced)
    found[INDEX["commission"]] = -commission
    found[INDEX["returns"]] = -_returns(shop, rows, lines) - priced.returned_more
    refused = rows.of_carts(batch.kept(("refused", shop), lambda: chances(shop.payments, batch.facts.payment)))
    if refused.any():
        all_back = np.where(units > 0, _all_back(shop, found), 0.0)
        found[INDEX["returns"]] = (1 - refused) * found[INDEX["returns"]] - refused * all_back
    return found


def _all_back(shop: Shop, found: Floats) -> Floats:
    """What is lost where all of an order comes back: what it brought, less what its goods are worth yet.

    found: by row of the ledger, those before returns.
    """
    settings = shop.settings
    brought = (
        found[INDEX["goods"]]
        + found[INDEX["funding"]]
        + found[INDEX["delivery_charged"]]
        + found[INDEX["surcharges"]]
    )
    costs = found[INDEX["goods_cost"]] + found[INDEX["put_in_cost"]]
    given_back = found[INDEX["commission"]] if settings.commission_returned else 0.0
    handled = settings.return_postage + settings.return_handling
    result: Floats = brought + settings.resale_bp / WHOLE_BP * costs + given_back + handled
    return result


def _payment(shop: Shop, rows: Rows, priced: Priced) -> Floats:
    """What is expected where it is not known how the order is paid."""
    batch = rows.batch
    rate, fixed = batch.kept(("payment", shop), lambda: costs(shop.payments, batch.facts.payment))
    total = priced.total + priced.chosen_by_row + (0 if shop.taxes.included else priced.chosen_tax)
    return np.where(total > 0, total * rows.of_carts(rate) + rows.of_carts(fixed), 0.0)


def _returns(shop: Shop, rows: Rows, lines: FromLines) -> Floats:
    settings, sent_back = shop.settings, back(rows.batch)
    given_back = lines.commission_of_returned if settings.commission_returned else 0.0
    resold = settings.resale_bp / WHOLE_BP * rows.of_carts(sent_back.cost_returned)
    handled = (settings.return_postage + settings.return_handling) * rows.of_carts(sent_back.any_returned)
    result: Floats = lines.returned - resold - given_back + handled
    return result
