"""A cart rung up by itself comes to the cents the forecast counts it with."""

from dataclasses import replace
from datetime import date, datetime

import numpy as np
import pytest

from yellow_abacus.changing_goods import EVERY_FIELD
from yellow_abacus.core.carts.facts import UNKNOWN, Labels
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import Offer, PercentOff, PutIn
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.demo import FILES
from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.ringing_up import UnsoundCartsError, ring_up
from yellow_abacus.store.goods import save_goods
from yellow_abacus.store.loading import load
from yellow_abacus.store.settings import save_zones


def named(labels: Labels, at: int) -> str:
    number = labels.number_by_cart[at]
    return "" if number == UNKNOWN else labels.names[number]


def test_orders_of_the_demo_shop_rung_up_one_by_one_come_to_the_same_cents(demo_shop):
    with demo_shop.reading() as session:
        loaded = load(session)
    batch = loaded.batch.on_day(date(2027, 3, 1))
    facts = batch.facts
    zones = [zone.name for zone in loaded.shop.zones]
    for doc in PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans:
        offers = doc.plan().offers
        codes = [offer.given.code for offer in offers]
        rows = rows_of(loaded.shop, batch, offers, reached(offers, loaded.shop, batch))
        priced = price(loaded.shop, rows, offers)
        for at in range(0, batch.axes.carts, 601):
            first, last = batch.axes.first_line_by_cart[at : at + 2]
            tags = [name for name, has in zip(facts.tags.names, facts.tags.has[:, at], strict=True) if has]
            cart = CartDoc(
                lines=[
                    {"sku": batch.goods.skus[batch.sku_by_line[line]], "quantity": int(batch.quantity_by_line[line])}
                    for line in range(first, last)
                ],
                zone=zones[batch.zone_by_cart[at]],
                shopper={
                    "tags": tags,
                    "orders_before": int(facts.orders_before_by_cart[at]),
                    "group": named(facts.group, at),
                },
                option=named(facts.option, at),
                time=datetime(2027, 3, 1),
                codes=[code for code in codes if code],
            )
            (rung,) = ring_up(loaded, [cart], offers, doc.apply).carts
            found = {(one.total, one.goods, one.delivery) for one in rung.outcomes}
            counted = {
                (int(priced.total[row]), int(priced.goods_by_row[row]), int(priced.charge_by_row[row]))
                for row in np.flatnonzero(rows.cart_by_row == at)
            }
            assert found == counted


CHOICE = Offer((PutIn(("SEED-A", "SEED-B"), quantity=1), PercentOff(1000)), id="gift")


@pytest.fixture
def stocked(empty_shop):
    """Two packets to choose from, of which one is out of stock."""
    with empty_shop.changing("Stock") as session:
        save_zones(session, [{"name": "Home", "places": [], "options": []}])
        goods = [
            GoodRecord("POT", list_price=2000),
            GoodRecord("SEED-A", list_price=300, stock=9),
            GoodRecord("SEED-B", list_price=400, stock=0),
        ]
        save_goods(session, goods, EVERY_FIELD)
    with empty_shop.reading() as session:
        return load(session)


def rung(loaded, chooses: str, offer: Offer = CHOICE):
    cart = CartDoc(lines=[{"sku": "pot"}], chooses={"gift": chooses})
    (outcome,) = ring_up(loaded, [cart], [offer]).carts[0].outcomes
    return [(one.sku, one.quantity) for one in outcome.put_in], outcome.goods, outcome.reasons[0].reason


def test_a_choice_is_matched_like_a_sku(stocked):
    assert rung(stocked, "seed-a") == ([("SEED-A", 1)], 1800, "applied")


def test_a_choice_that_is_out_of_stock_is_a_reason_and_the_rest_goes_on(stocked):
    assert rung(stocked, "SEED-B") == ([], 1800, "applied")
    alone = replace(CHOICE, gives=CHOICE.gives[:1])
    assert rung(stocked, "SEED-B", alone) == ([], 2000, "gift_out_of_stock")
    substituted = replace(CHOICE, gives=(replace(CHOICE.gives[0], substitute="SEED-A"),))
    assert rung(stocked, "SEED-B", substituted) == ([("SEED-A", 1)], 2000, "applied")


@pytest.mark.parametrize("wanted", ["POT", "SEED-C", ""])
def test_a_choice_the_offer_does_not_put_in_is_refused_by_name(stocked, wanted):
    with pytest.raises(UnsoundCartsError, match=f"does not put in “{wanted}”") as refused:
        rung(stocked, wanted)
    assert [one.path for one in refused.value.problems] == [("carts", 0, "chooses", "gift")]
