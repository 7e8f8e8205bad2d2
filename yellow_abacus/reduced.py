"""From a plan to the reduced prices that would do the same, as rows of a table."""

from datetime import date

from yellow_abacus.core.advice.reduced import lowers_prices_alone, reduced_prices
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.offers import Offer
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.writing import decimal

HEADER = ["SKU", "Product", "List price", "Reduced price", "Reduced from", "Reduced to"]
"""As Goods reads them."""


def reduced_table(room: CountingRoom, doc: PlanDoc) -> tuple[list[str], list[list[str]]]:
    """Header, and a row a SKU; of offers on other days the first that lowers it counts. Raises UnsoundPlanError."""
    at = room.current()
    plan = at.checked(doc).plan()
    by_days: dict[tuple[date, date], list[Offer]] = {}
    for offer in plan.offers:
        if not offer.runs and lowers_prices_alone(offer):
            days = (offer.when.first_day or plan.first_day, offer.when.last_day or plan.last_day)
            by_days.setdefault(days, []).append(offer)
    rows: dict[str, list[str]] = {}
    shop, digits = at.loaded.shop, at.loaded.minor_digits
    for (first, last), offers in by_days.items():
        goods = at.loaded.batch.goods.on_day(first)
        prices = reduced_prices(shop, goods, offers, plan)
        for sku, product, listed, price in zip(goods.skus, goods.products, goods.list_price, prices, strict=True):
            if price != NO_PRICE and sku not in rows:
                told = decimal(None if listed == NO_PRICE else int(listed), digits), decimal(int(price), digits)
                rows[sku] = [sku, product, *told, first.isoformat(), last.isoformat()]
    return HEADER, list(rows.values())
