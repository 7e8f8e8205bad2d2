"""The Goods place."""

import numpy as np
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel

from yellow_abacus.core.money import Ints
from yellow_abacus.core.tax import tax_in
from yellow_abacus.store.goods import all_goods
from yellow_abacus.web.context import context

api = APIBlueprint("goods", __name__, url_prefix="/api", abp_tags=[Tag(name="Goods")])


class GoodDoc(BaseModel):
    """Minor units. units: ordered in the history. kept: standing price without tax less unit cost, if known."""

    sku: str
    product: str
    option: str
    categories: list[str]
    list_price: int | None
    reduced_price: int | None
    unit_cost: float | None
    weight: float | None
    stock: int | None
    brand: str
    tags: list[str]
    never_discounted: bool
    units: int
    standing: int | None
    tax: int | None
    kept: float | None


class GoodsDoc(BaseModel):
    goods: list[GoodDoc]


@api.get("/goods", responses={200: GoodsDoc})
def get_goods():
    at = context()
    shop, batch = at.room.shop_and_batch()
    units = np.bincount(batch.sku_by_line, weights=batch.quantity_by_line, minlength=len(batch.goods.skus))
    with at.shop_file.reading() as session:
        records = all_goods(session)
    found = []
    for number, good in enumerate(records):
        prices = [price for price in (good.list_price, good.reduced_price) if price is not None]
        standing = min(prices) if good.list_price is not None else None
        tax = kept = None
        if standing is not None:
            price: Ints = np.array([standing], dtype=np.int64)
            tax = int(tax_in(shop.settings, price)[0])
            net = standing - (tax if shop.settings.prices_with_tax else 0)
            kept = None if good.unit_cost is None else net - good.unit_cost
        found.append(
            GoodDoc(
                sku=good.sku,
                product=good.product,
                option=good.option,
                categories=list(good.categories),
                list_price=good.list_price,
                reduced_price=good.reduced_price,
                unit_cost=good.unit_cost,
                weight=good.weight,
                stock=good.stock,
                brand=good.brand,
                tags=list(good.tags),
                never_discounted=good.never_discounted,
                units=int(units[number]),
                standing=standing,
                tax=tax,
                kept=kept,
            )
        )
    return GoodsDoc(goods=found).model_dump(mode="json")
