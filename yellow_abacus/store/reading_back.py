"""A change is only saved if the shop can be read back from it."""

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.store.goods import good_rows
from yellow_abacus.store.history import Images, ids_among
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.models import GoodRow, OrderLineRow

DEAR = 100_000
"""Minor units: goods that ask less make no order worth too much; none holds so many of them."""
_OF_THE_SHOP = {"shop", "zones", "tariffs", "surcharges"}


class NotReadBackError(ValueError):
    """What was to be saved could not have been read again."""


def read_back(session: Session, changed: Images) -> None:
    """Read what a change touched as a load would. changed: the rows by table. Raises NotReadBackError."""
    try:
        session.expire_all()
        if not _OF_THE_SHOP.isdisjoint(changed):
            load_shop(session)
        if "goods" in changed:
            table, ids = good_rows(session, ids_among(changed["goods"]))
            goods = make_goods(table)
            every = np.arange(len(goods.skus))
            make_batch(goods, np.zeros(len(every), dtype=np.int64), every, every, np.ones_like(every), every * 0)
            _orders_of(session, [one for one, asked in zip(ids, goods.list_price, strict=True) if asked >= DEAR])
    except (ValueError, TypeError, OverflowError, ArithmeticError) as error:
        raise NotReadBackError(str(error)) from error


def _orders_of(session: Session, dear: list[int]) -> None:
    """Make carts of the orders that hold some goods, by their rows' ids. Raises CartTooLargeError."""
    if not dear:
        return
    orders = select(OrderLineRow.order_id).where(OrderLineRow.good_id.in_(ids_among(map(str, dear))))
    columns = (OrderLineRow.order_id, OrderLineRow.good_id, OrderLineRow.quantity)
    rows = session.execute(
        select(*columns).join(GoodRow, OrderLineRow.good_id == GoodRow.id).where(OrderLineRow.order_id.in_(orders))
    ).all()
    if not rows:
        return
    order_id, good_id, quantity = np.array(rows, dtype=np.int64).T
    table, ids = good_rows(session, ids_among(map(str, np.unique(good_id).tolist())))
    place = {one: at for at, one in enumerate(ids)}
    sku = np.array([place[one] for one in good_id.tolist()])
    which, cart = np.unique(order_id, return_inverse=True)
    make_batch(make_goods(table), np.zeros(len(which), dtype=np.int64), cart, sku, quantity, np.zeros_like(sku))
