"""A plan day by day as JSON, and what it needs of the goods in stock."""

from collections.abc import Sequence
from datetime import date

from pydantic import BaseModel

from yellow_abacus.core.forecast.over_time import Need, OverTime
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import foot


class DayDoc(BaseModel):
    """kept_today, kept: minor units; what a plan costs once is on its first day. starts, ends: ids of offers whose
    own days begin or end on it."""

    day: date
    orders_today: float
    orders: float
    kept_today: int
    kept: int
    starts: list[str]
    ends: list[str]


class NeedDoc(BaseModel):
    """Units the plan's days need of a SKU, today and under the plan, things put in included, as if there were enough;
    and the day on which the stock no longer lasts, null where it does. kits: how many it is a part of, whose units
    are in it."""

    sku: str
    product: str
    stock: float
    today: float
    plan: float
    ends_today: date | None
    ends: date | None
    kits: int


class OverTimeDoc(BaseModel):
    """needs: of goods whose stock is counted, those first of which the plan needs the largest part. others: how many
    more there are; none of them ends sooner."""

    days: list[DayDoc]
    needs: list[NeedDoc]
    others: int


def over_time_doc(
    found: OverTime, goods: Goods, marks: Sequence[tuple[str, date | None, date | None]]
) -> OverTimeDoc:
    kept_today, kept = (foot([getattr(one, name) for one in found.days]) for name in ("kept_today", "kept"))
    return OverTimeDoc(
        days=[
            DayDoc(
                day=date.fromordinal(one.day),
                orders_today=one.orders_today,
                orders=one.orders,
                kept_today=kept_today[at],
                kept=kept[at],
                starts=[offer for offer, first, _ in marks if first is not None and first.toordinal() == one.day],
                ends=[offer for offer, _, last in marks if last is not None and last.toordinal() == one.day],
            )
            for at, one in enumerate(found.days)
        ],
        needs=[_need(one, goods) for one in found.needs],
        others=found.others,
    )


def _need(need: Need, goods: Goods) -> NeedDoc:
    return NeedDoc(
        sku=goods.skus[need.sku],
        product=goods.products[need.sku],
        stock=need.stock,
        today=need.today,
        plan=need.plan,
        ends_today=_day(need.ends_today),
        ends=_day(need.ends),
        kits=len(goods.kits.kits_with(need.sku)),
    )


def _day(ordinal: int | None) -> date | None:
    return None if ordinal is None else date.fromordinal(ordinal)
