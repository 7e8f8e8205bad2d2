"""One cart costed row by row with a pencil; whole carts are held against the slow pricer in test_pricing."""

from dataclasses import replace

import pytest

from tests.core.single_carts import likeliest, one_cart
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import Funded, Offer, PercentOff, PutIn
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.surcharges import AmountFor, Surcharge
from yellow_abacus.core.shop.tax import TaxClass, Taxes

GOODS = make_goods(
    [
        GoodRecord("POT", list_price=6000, purchase_cost=2000.0, return_bp=1000, commission_bp=500),
        GoodRecord("SEED", list_price=600, purchase_cost=100.0),
    ]
)
SETTINGS = Settings(
    picking_per_order=80.0,
    picking_per_unit=10.0,
    packaging_cost=25.0,
    return_postage=300.0,
    return_handling=100.0,
    resale_bp=5000,
)
SHOP = Shop(
    SETTINGS,
    (Zone("Home", (Option("Post", FlatCharge(600), tariffs=("Parcel",)),)),),
    Taxes((TaxClass("Standard", 2000),)),
    (Tariff("Parcel", steps=(WeightStep(None, 450.0),)),),
    (PaymentMethod("Card", cost_bp=200, fixed=30.0),),
    (Surcharge("Wrapping", AmountFor(120)), Surcharge("Card with words", AmountFor(240), chosen_bp=2500)),
)
OFFERS = (Offer((PercentOff(1000),), funded=Funded(share_bp=5000)), Offer((PutIn(("SEED",), amount=60),)))


def costed(shop: Shop = SHOP, offers: tuple[Offer, ...] = OFFERS, units: int = 1) -> dict[str, float]:
    rows, priced = likeliest(shop, one_cart(GOODS, *([("POT", units)] if units else [])), offers)
    found = cost(shop, rows, priced)
    assert found.shape == (len(ROWS), 1)
    return {row.key: float(found[at, 0]) for at, row in enumerate(ROWS)}


def test_every_row_of_the_ledger():
    goods, put_in, delivery, always, chosen = 5400, 60, 600, 120, 60
    commission = 0.05 * goods
    assert costed() == pytest.approx(
        {
            "goods": (goods + put_in) / 1.2,
            "funding": 300,
            "delivery_charged": delivery / 1.2,
            "surcharges": (always + chosen) / 1.2,
            "goods_cost": -2000,
            "put_in_cost": -100,
            "delivery_cost": -450,
            "picking": -(80 + 2 * 10 + 25),
            "payment": -(0.02 * (goods + put_in + delivery + always + chosen) + 30),
            "commission": -commission,
            "returns": -0.1 * (goods / 1.2 - 0.5 * 2000 - commission + 400),
        }
    )


def test_prices_without_tax_are_income_as_they_are_and_the_whole_is_paid():
    on_top = replace(SHOP, taxes=replace(SHOP.taxes, included=False))
    found = costed(on_top)
    assert (found["goods"], found["delivery_charged"], found["surcharges"]) == (5460, 600, 180)
    assert found["payment"] == pytest.approx(-(0.02 * 1.2 * (5460 + 600 + 180) + 30))
    assert found["commission"] == pytest.approx(-0.05 * 1.2 * 5400)


def test_an_order_that_is_refused_brings_nothing_and_comes_back_whole():
    refusing = replace(SHOP, payments=(replace(SHOP.payments[0], refused_bp=2000),))
    kept, was = costed(refusing), costed()
    brought = sum(was[row] for row in ("goods", "funding", "delivery_charged", "surcharges"))
    all_back = brought - 0.5 * 2100 + was["commission"] + 400
    assert kept["returns"] == pytest.approx(0.8 * was["returns"] - 0.2 * all_back)
    assert {**kept, "returns": 0} == {**was, "returns": 0}


def test_commission_that_stays_with_what_comes_back():
    stays = replace(SHOP, settings=replace(SETTINGS, commission_returned=False))
    assert costed(stays)["returns"] == pytest.approx(costed()["returns"] - 0.1 * 0.05 * 5400)


def test_a_cart_that_is_for_nothing_costs_no_payment():
    free = replace(SHOP, surcharges=(), zones=(Zone("Home", (Option("Post"),)),))
    assert costed(free, (Offer((PercentOff(10_000),)),))["payment"] == 0
