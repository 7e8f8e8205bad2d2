"""What came on a plan's days: real orders, each priced as the plan should have priced it, and as it was charged.

A code holds for the orders that used it, an offer without one for all it is open to, until its limits are reached
(`learning.used_up`). Lines that paid nothing for what
an offer puts in are what it put in, and no goods ordered. docs/sums.md, "Afterwards".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.expected import History
from yellow_abacus.core.forecast.outlook import costed_of
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.ground.axes import among, summed_by
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.offers.free_lines import beside_others, given_free
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.shop.payments import costs
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.learning.ran import usual_by_line
from yellow_abacus.learning.used_up import beyond_limits


@dataclass(frozen=True, eq=False)
class Came:
    """One entry an order of the plan's days. carts: which of the history. day: ordinals.

    as_today, planned, charged: what it kept, minor units, priced as things stood without the plan, as the plan should
    have priced it, and as it was charged. sales: goods with tax after offers; goods_net: without tax; off: what came
    off; all as the plan should have priced them. sales_charged, off_charged: as they were charged, off what was
    asked, or is usual. goods_should, goods_paid: what its goods came to in the shop's way of prices, after offers.
    What was paid is what it should be where that was not told (`told`). delivery: charged for it, without tax.
    delivery_should, delivery_paid: in the shop's way of prices, what it should be the nearest to what was paid of all
    the ways the order may have gone; the same where that was not told. put_in: what things put in cost: those in the
    orders, where any order tells of one, else as planned.

    used, given: one row an offer of the plan: whether an order used its code, or without one it took effect; and what
    it gave away as the plan should have priced it, minor units. works: whether it took effect as the plan should have
    priced it.
    """

    carts: Ints
    day: Ints
    as_today: Floats
    planned: Floats
    charged: Floats
    sales: Floats
    goods_net: Floats
    off: Floats
    sales_charged: Floats
    off_charged: Floats
    goods_should: Floats
    goods_paid: Floats
    delivery: Floats
    delivery_should: Floats
    delivery_paid: Floats
    put_in: Floats
    told: Bools
    used: Bools
    given: Floats
    works: Bools


@dataclass(frozen=True)
class CameBack:
    """units: of some orders that were not refused; returned: of those, that came back; expected: by the return rates
    of their goods. orders: all of them; refused: of those, on the way; as_expected: as many as settings say."""

    units: int
    returned: int
    expected: float
    orders: int
    refused: int
    as_expected: float


def came(
    history: History,
    paid_by_line: Ints,
    plan: Plan,
    last_day: date | None = None,
    delivery_paid: Ints | None = None,
    usual: Ints | None = None,
) -> Came:
    """paid_by_line: for all units of each raw line, after discounts, minor units, below 0 where that was not said.
    last_day: leave out what came later; None for all of the plan's days. delivery_paid: by cart of the history, as
    paid_by_line; None where no order says it. usual: by SKU, what one is usually sold at where it is not what orders
    say they were asked, below 0 for others; what came off is told from it."""
    window = [day for day in plan.window() if last_day is None or day <= last_day]
    days = history.day_by_cart
    carts = np.flatnonzero(np.isin(days, [day.toordinal() for day in window]))
    found = _nothing(carts, days, len(plan.offers))
    free = _put_in(history, paid_by_line, plan, carts)
    delivered = np.full(len(carts), -1) if delivery_paid is None else delivery_paid[carts]
    alike = list(_alike(history, plan, window))
    facts, there = history.batch.facts.some(carts), np.ones(found.used.shape, dtype=np.bool_)
    again: Bools = np.ones(len(carts), dtype=np.bool_)
    while again.any():
        for opened, now, some in alike:
            mine = np.flatnonzero(again & np.isin(days[carts], [day.toordinal() for day in some]))
            for held, here in _held_alike(opened, there, mine):
                _price(found, here, history, plan, opened, held, now, some[0], delivered[here], free)
        beyond = beyond_limits(plan.offers, found.works, found.given, days[carts], facts) & there
        there &= ~beyond
        again = np.logical_or.reduce(beyond, axis=0)
    _charge(found, history, paid_by_line, free, usual)
    return found


def _held_alike(opened: Opened, there: Bools, carts: Ints) -> Iterator[tuple[Bools, Ints]]:
    """Those of some carts for which the same of the opened offers have not reached their limits: which, and the
    carts."""
    held = there[[at for at, _ in opened]][:, carts]
    if held.all():
        if len(carts):
            yield np.ones(len(opened), dtype=np.bool_), carts
        return
    kinds, kind = np.unique(held, axis=1, return_inverse=True)
    for number in range(kinds.shape[1]):
        yield kinds[:, number], carts[kind.reshape(-1) == number]


def _put_in(history: History, paid_by_line: Ints, plan: Plan, carts: Ints) -> Bools:
    """Which raw lines of the orders of its days are things that an offer put in: nothing was paid for what one puts
    in at no price, or another one put them in. Not where an order has nothing else."""
    raw, size = history.batch.raw, history.batch.axes.carts
    assert raw is not None, "a part of a batch does not tell what was paid"
    of_plan = given_free(plan.every, history.batch.goods)[raw.sku] & (paid_by_line == 0)
    return beside_others((of_plan | raw.is_put_in) & among(carts, size)[raw.cart], raw.cart, size)


def _nothing(carts: Ints, days: Ints, offers: int) -> Came:
    size = len(carts)
    figures = (
        "as_today",
        "planned",
        "charged",
        "sales",
        "goods_net",
        "off",
        "sales_charged",
        "off_charged",
        "goods_should",
        "goods_paid",
        "delivery",
        "delivery_should",
        "delivery_paid",
        "put_in",
    )
    return Came(
        carts,
        days[carts],
        **{name: np.zeros(size) for name in figures},
        told=np.zeros(size, dtype=np.bool_),
        used=np.zeros((offers, size), dtype=np.bool_),
        given=np.zeros((offers, size)),
        works=np.zeros((offers, size), dtype=np.bool_),
    )


def _alike(
    history: History, plan: Plan, window: Sequence[date]
) -> Iterator[tuple[Opened, tuple[Offer, ...], list[date]]]:
    """Days with the same prices on which the same offers are open, under the plan and today."""
    by_price: dict[bytes, list[date]] = {}
    for day in window:
        by_price.setdefault(history.batch.goods.on_day(day).price_key, []).append(day)
    for days in by_price.values():
        for opened, some in plan.open_over(days):
            yield opened, tuple(offer for _, offer in plan.today.opened_on(some[0])), some


def _price(
    found: Came,
    mine: Ints,
    history: History,
    plan: Plan,
    opened: Opened,
    held: Bools,
    now: tuple[Offer, ...],
    day: date,
    delivered: Ints,
    free: Bools,
) -> None:
    """mine: orders of days alike, by number among those that came. held: which of the opened offers have not reached
    their limits. delivered: what they paid for it, below 0 where that was not said. free: raw lines that are no goods
    ordered."""
    batch = history.batch.remade(found.carts[mine], history.batch.goods.on_day(day), free)
    offers = tuple(replace(offer, runs=True) for (_, offer), is_held in zip(opened, held, strict=True) if is_held)
    before, _ = _costed(history.shop, batch, now, plan)
    after, charge_by_row = _costed(history.shop, batch, offers, plan)
    found.as_today[mine] = _by_cart(before, before.figures[AT["kept"]], len(mine))
    found.planned[mine] = _by_cart(after, after.figures[AT["kept"]], len(mine))
    found.sales[mine] = _by_cart(after, after.figures[AT["goods_with_tax"]], len(mine))
    found.goods_net[mine] = _by_cart(after, after.figures[INDEX["goods"]], len(mine))
    found.off[mine] = _by_cart(after, after.figures[AT["goods_off"]], len(mine))
    found.goods_should[mine] = batch.worth_by_cart - found.off[mine]
    found.delivery[mine] = _by_cart(after, after.figures[INDEX["delivery_charged"]], len(mine))
    found.put_in[mine] = -_by_cart(after, after.figures[INDEX["put_in_cost"]], len(mine))
    charge = _by_cart(after, charge_by_row.astype(np.float64), len(mine))
    least, most = _between(after.cart_by_row, charge_by_row, len(mine))
    found.delivery_should[mine] = np.where(delivered < 0, charge, np.clip(delivered, least, most))
    found.delivery_paid[mine] = np.where(delivered < 0, charge, delivered)
    places = np.cumsum(held) - 1
    for place, (at, offer), is_held in zip(places.tolist(), opened, held.tolist(), strict=True):
        took_effect = after.took_effect[place].astype(np.float64) if is_held else np.zeros(len(after.cart_by_row))
        found.works[at, mine] = _by_cart(after, took_effect, len(mine)) > 0
        has_code = offer.given.key is not None
        found.used[at, mine] = batch.facts.code.among(offer.given.accepted) if has_code else found.works[at, mine]
        found.given[at, mine] = _by_cart(after, after.given[place], len(mine)) if is_held else 0.0


def _costed(shop: Shop, batch: CartBatch, offers: tuple[Offer, ...], plan: Plan) -> tuple[Costed, Ints]:
    """Every row, and what delivery is charged on it as the shop states prices."""
    rows = rows_of(shop, batch, offers)
    priced = price(shop, rows, offers, plan.apply)
    return costed_of(shop, rows, priced), priced.charge_by_row


def _between(cart_by_row: Ints, charge_by_row: Ints, carts: int) -> tuple[Ints, Ints]:
    """The least and the most each cart is charged, of the ways it may go."""
    first = np.searchsorted(cart_by_row, np.arange(carts))  # each cart has a row
    return np.minimum.reduceat(charge_by_row, first), np.maximum.reduceat(charge_by_row, first)


def _by_cart(costed: Costed, figure: Floats, carts: int) -> Floats:
    return summed_by(costed.cart_by_row, figure * costed.share_by_row, carts)


def _charge(found: Came, history: History, paid_by_line: Ints, free: Bools, usual: Ints | None) -> None:
    """What each order kept as it was charged: what it paid more for goods and delivery, less tax and what payment
    costs of it; and what was put in for less than planned. More for delivery is taxed as the order's goods are."""
    raw, batch = history.batch.raw, history.batch
    assert raw is not None, "a part of a batch does not tell what was paid"
    size = batch.axes.carts
    paid = summed_by(raw.cart, np.maximum(paid_by_line, 0).astype(np.float64), size)
    unsaid = np.bincount(raw.cart, weights=paid_by_line < 0, minlength=size)
    lines = np.bincount(raw.cart, minlength=size)
    found.told[:] = (unsaid == 0)[found.carts] & (lines > 0)[found.carts]
    found.goods_paid[:] = np.where(found.told, paid[found.carts], found.goods_should)
    more = found.goods_paid - found.goods_should
    in_lines = np.where(free, 0, usual_by_line(batch, usual) * raw.quantity).astype(np.float64)
    asked = summed_by(raw.cart, in_lines, size)[found.carts]
    found.off_charged[:] = np.where(found.told, asked - found.goods_paid, found.off)
    rate, _ = costs(history.shop.payments, batch.facts.payment.some(found.carts))
    whole = np.maximum(found.goods_should, 1.0)
    net, with_tax = found.goods_net / whole, found.sales / whole
    nothing = found.goods_should <= 0
    found.sales_charged[:] = found.sales + more * np.where(nothing, 1.0, with_tax)
    found.charged[:] = found.planned + more * np.where(nothing, 1.0, net - rate * with_tax)
    delivered = found.delivery_paid - found.delivery_should
    net, with_tax = (np.where(nothing, 1.0, one) for one in (net, with_tax))
    found.delivery[:] += delivered * net
    found.charged[:] += delivered * (net - rate * with_tax)
    if free.any():
        cost = np.where(free, batch.goods.column("unit_cost")[raw.sku] * raw.quantity, 0.0)
        really = summed_by(raw.cart, cost, size)[found.carts]
        found.charged[:] += found.put_in - really
        found.put_in[:] = really
