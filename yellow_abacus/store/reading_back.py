"""A change is only saved if the shop can be read back from it."""

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.store.goods import good_table
from yellow_abacus.store.history import Images, ids_among
from yellow_abacus.store.loading import load_shop

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
            goods = make_goods(good_table(session, ids_among(changed["goods"])))
            every = np.arange(len(goods.skus))
            make_batch(goods, np.zeros(len(every), dtype=np.int64), every, every, np.ones_like(every), every * 0)
    except (ValueError, TypeError, OverflowError, ArithmeticError) as error:
        raise NotReadBackError(str(error)) from error
