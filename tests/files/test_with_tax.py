"""Costs, tariffs, charges and surcharges that are told with tax or without, as the shop does not have them."""

import pytest

from tests.files.test_taxes_told import said
from yellow_abacus import bring_in


def test_costs_and_tariffs_that_are_told_with_tax_are_taken_without_it(empty_shop):
    said(empty_shop, {"Usual": 2000, "Books": 500})
    file = b"SKU,Price,Cost incl. VAT,Packaging,Tax class\nA,20,12.00,0.60,\nB,20,12.00,0.60,Books\n"
    checked = bring_in.check(empty_shop, "goods", file)
    assert checked.says == ["Costs are told with tax, and taken without it."]
    assert [(one.purchase_cost, one.packaging_cost) for one in checked.records] == [(1000.0, 60.0), (1142.86, 60.0)]
    tariffs = bring_in.check(
        empty_shop, "tariffs", b"Tariff,Up to (kg),Price incl. VAT\nPost,2,6.00\nPost,any,9.00\n"
    )
    assert tariffs.says == checked.says
    assert [step.amount for step in tariffs.records[0].steps] == [500.0, 750.0]


def test_what_else_amounts_include_is_not_tax(empty_shop):
    tariffs = bring_in.check(empty_shop, "tariffs", b"Tariff,Up to (kg),Price incl. fuel\nPost,2,6.00\n")
    assert ([step.amount for step in tariffs.records[0].steps], tariffs.says) == ([600.0], [])
    goods = bring_in.check(empty_shop, "goods", b"SKU,Price excl. delivery,Cost incl. freight\nA,20,12\n")
    assert (goods.records[0].list_price, goods.records[0].purchase_cost, goods.says) == (2000, 1200.0, [])


@pytest.mark.parametrize(("included", "charge", "amount"), [(True, 714, 595), (False, 600, 500)])
def test_charges_and_surcharges_become_as_the_shops_prices_are(empty_shop, included, charge, amount):
    said(empty_shop, {"Usual": 1900}, included=included)
    charges = bring_in.check(empty_shop, "charges", b"Zone,Option,Charge (net),Free from\nHome,Parcel,6.00,80\n")
    assert (charges.records[0].option.charge.amount, charges.records[0].option.free_from) == (charge, 8000)
    surcharges = bring_in.check(empty_shop, "surcharges", b"Surcharge,Amount excl. VAT\nGift wrap,5.00\n")
    assert surcharges.records[0].asks.amount == amount
    told = [] if not included else ["{} are told without tax, and taken with it, as your shop’s are."]
    assert charges.says == [one.format("Charges") for one in told]
    assert surcharges.says == [one.format("Amounts") for one in told]
