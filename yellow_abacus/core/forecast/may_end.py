"""What may end while a plan runs: uses and spending of its offers, and the stock of goods.

A kit has no stock of its own: it takes of that of its parts, and is gone with the first of them. docs/sums.md,
"Limits over time", "Goods that sell out".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.forecast.from_stock import FromStock
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.states import Span
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer, PutIn

Ended = frozenset[int]
"""The numbers of the limits that have ended."""


@dataclass(frozen=True)
class Limit:
    """What may end while the plan runs: uses or spending (minor units) of an offer, by its number, or units of a SKU
    that offers put in or that may sell out. most: how much there is. put_in: whether offers put it in."""

    of: Literal["uses", "spending", "stock"]
    most: float
    offer: int = -1
    sku: int = -1
    put_in: bool = False


def limits_of(plan: Plan, spans: Sequence[Span]) -> list[Limit]:
    """Everything of the plan's offers that may end."""
    found = []
    for at, offer in enumerate(plan.offers):
        if offer.most_uses is not None:
            found.append(Limit("uses", float(offer.most_uses), offer=at))
        if offer.limits.spending is not None:
            found.append(Limit("spending", float(offer.limits.spending), offer=at))
    if not spans:
        return found
    goods = spans[0].mix.batch.goods
    put_in = stocks_put_in(plan, goods)
    found += [
        Limit("stock", float(goods.stock[sku]), sku=sku, put_in=sku in put_in)
        for sku in dict.fromkeys((*put_in, *spans[0].mix.may_sell_out))
    ]
    return found


def stocks_put_in(plan: Plan, goods: Goods) -> list[int]:
    """The SKUs (index) from whose stock, of which there is some, offers put things in."""
    rewards = [one for offer in plan.offers for one in offer.rewards() if isinstance(one, PutIn)]
    named = dict.fromkeys(sku for one in rewards for sku in one.may_be(goods))
    put_in = (at for sku in named if (at := goods.index_of(sku)) is not None and goods.stock[at] > 0)
    return list(dict.fromkeys(stock for sku in put_in for stock in goods.stocks_of(sku)))


def gone_of(span: Span, limits: Sequence[Limit], ended: Ended) -> int:
    """Which of the goods that may sell out are gone once some limits have ended: bits, as in `Mix.sold_out`."""
    bit = {sku: 1 << at for at, sku in enumerate(span.mix.may_sell_out)}
    return sum(bit.get(limits[number].sku, 0) for number in ended)


def open_after(span: Span, limits: Sequence[Limit], ended: Ended) -> Opened:
    """The offers open in a span once some limits have ended."""
    goods = span.mix.batch.goods
    found = []
    for at, offer in span.opened:
        left: Offer | None = offer
        for number in sorted(ended):
            limit = limits[number]
            if limit.of != "stock":
                left = None if limit.offer == at else left
            else:
                for sku in goods.taken_from(limit.sku):
                    left = None if left is None else left.without(goods.skus[sku], goods)
        if left is not None:
            found.append((at, left))
    return tuple(found)


def taken_of(limit: Limit, from_stock: FromStock, goods: Goods) -> Iterator[Floats]:
    """Units of the stock of a limit that are taken by each SKU that takes any: [group, offer + 1]."""
    for sku, each in goods.taken_from(limit.sku).items():
        units = from_stock.of(sku)
        if units is not None:
            yield units * each
