"""The counting room: what it keeps of a shop between forecasts, and what goes when the shop changes."""

import gc
import weakref
from dataclasses import replace
from unittest.mock import patch

import numpy as np
import pytest

from yellow_abacus.bring_in_json import plan_of
from yellow_abacus.changing_goods import put_good
from yellow_abacus.core.carts import blocks
from yellow_abacus.core.delivery.zones import Delivery
from yellow_abacus.core.pricing import rows
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.plans import all_plans


@pytest.fixture
def plans(demo_shop) -> list[PlanDoc]:
    with demo_shop.reading() as session:
        return [plan_of(row) for row in all_plans(session)]


def dearer(shop_file) -> None:
    """Save another price."""
    with shop_file.reading() as session:
        record = all_goods(session)[0]
    assert record.list_price is not None
    put_good(shop_file, replace(record, list_price=record.list_price + 100))


def test_nothing_of_the_shop_as_it_was_outlasts_a_saved_price(demo_shop, plans):
    room = CountingRoom(demo_shop)
    for plan in plans:
        room.forecast(plan)
        room.over_time(plan)
        room.reach(plan)
    counted = room.current()
    table, batch, mix = counted.loaded.table, counted.loaded.batch, counted.forecaster.mix
    before = [weakref.ref(one) for one in (table, batch, mix, counted.forecaster.expected)]
    del counted, table, batch, mix
    gc.disable()  # nothing may wait for it: until it comes a large shop is held several times over
    try:
        dearer(demo_shop)
        for plan in plans:
            room.forecast(plan)
        assert [one() for one in before] == [None] * len(before)
    finally:
        gc.enable()


def nearly_all_reached(percent_bp: int, sku: str) -> PlanDoc:
    """Nearly every cart gets something off, and a gift until its stock ends."""

    def offer(number: int, spend: int, reward: dict[str, object]) -> dict[str, object]:
        earned = {"conditions": [{"kind": "spend", "n": spend}]}
        return {"id": f"o{number}", "name": f"Offer {number}", "terms": {"earned": earned, "gives": [reward]}}

    gives = {"kind": "percent_off", "percent_bp": percent_bp}, {"kind": "put_in", "skus": [sku]}
    offers = [offer(number, spend, one) for number, (spend, one) in enumerate(zip((1, 1_000), gives, strict=True))]
    told = {"name": "All", "first_day": "2027-03-01", "last_day": "2027-05-31", "offers": offers}
    return PlanDoc.model_validate(told)


def test_carriers_are_not_asked_again_of_what_a_changed_number_leaves_as_it_was(demo_shop):
    room, asked, carriage = CountingRoom(demo_shop), [], Delivery.carriage
    goods = room.current().loaded.batch.goods
    gift = goods.skus[int(np.flatnonzero(goods.stock > 0)[0])]

    def told(self, load, option_by_row):
        asked.append(len(option_by_row))
        return carriage(self, load, option_by_row)

    with (
        patch.object(blocks, "LINES_A_BLOCK", 6_000),
        patch.object(rows, "LINES_A_BLOCK", 6_000),
        patch.object(Delivery, "carriage", told),
    ):
        first = room.forecast(nearly_all_reached(1_000, gift))
        assert any(one.put_in for one in first.ends), "the gift runs out: there are carts with and without it"
        assert sum(asked) > 12_000
        asked.clear()
        room.forecast(nearly_all_reached(1_100, gift))
    assert sum(asked) < 100  # those on which the gift is due or not by what comes off
