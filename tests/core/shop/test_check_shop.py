"""Every way settings, zones, tariffs, taxes and surcharges can be wrong is told by its path."""

from dataclasses import replace

import pytest

from yellow_abacus.core.clauses.conditions import Earned
from yellow_abacus.core.delivery.charges import (
    ChargeByValue,
    ChargeByWeight,
    ChargeStep,
    CostPlus,
    FlatCharge,
    ValueStep,
)
from yellow_abacus.core.delivery.parcels import Carries
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option, Preferred, Zone
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import Where
from yellow_abacus.core.shop.check_shop import check_shop
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.surcharges import AmountFor, PartOfGoods, Surcharge
from yellow_abacus.core.shop.tax import RateIn, TaxClass, Taxes

POST = Tariff("Post", steps=(WeightStep(2000, 400), WeightStep(5000, 600)))
HOME = Zone("Home", (Option("Parcel", tariffs=("Post",)),), ("Fernland",))
SOUND = Shop(
    Settings(packaging_weight=200),
    (HOME, Zone("Far")),
    Taxes((TaxClass("Standard", 2000, (RateIn("Far", 0),)),)),
    (POST,),
    (PaymentMethod("card", 150, 25),),
    (Surcharge("Wrap", AmountFor(300), chosen_bp=1000),),
)


def with_option(**part) -> dict:
    return {"zones": (replace(HOME, options=(replace(HOME.options[0], **part),)), *SOUND.zones[1:])}


def with_tariff(**part) -> dict:
    return {"tariffs": (replace(POST, **part),)}


def with_surcharge(**part) -> dict:
    return {"surcharges": (replace(SOUND.surcharges[0], **part),)}


def test_a_sound_shop_has_no_problem():
    assert check_shop(SOUND) == []


OPTION, TARIFF, SURCHARGE = ("zones", 0, "options", 0), ("tariffs", 0), ("surcharges", 0)


@pytest.mark.parametrize(
    ("part", "path"),
    [
        ({"taxes": Taxes(())}, ("tax_classes",)),
        ({"taxes": Taxes((TaxClass("A", -1),))}, ("tax_classes", 0, "rate_bp")),
        ({"taxes": Taxes((TaxClass("A", 5_001),))}, ("tax_classes", 0, "rate_bp")),
        ({"taxes": Taxes((TaxClass("A", 1), TaxClass("a", 2)))}, ("tax_classes", 1, "name")),
        ({"taxes": Taxes((TaxClass("A", 1, (RateIn("Moon", 0),)),))}, ("tax_classes", 0, "zones", 0, "zone")),
        ({"taxes": Taxes((TaxClass("A", 1),), delivery="B")}, ("delivery_tax_class",)),
        ({"payments": (PaymentMethod("", 1),)}, ("payments", 0, "name")),
        ({"payments": (PaymentMethod("card", -1),)}, ("payments", 0, "cost_bp")),
        ({"payments": (PaymentMethod("card", 1, -2),)}, ("payments", 0, "fixed")),
        ({"payments": (PaymentMethod("card", share_bp=0),)}, ("payments",)),
        (with_tariff(steps=()), (*TARIFF, "steps")),
        (with_tariff(steps=(WeightStep(2000, -1),)), (*TARIFF, "steps", 0, "amount")),
        (with_tariff(steps=(WeightStep(2000, 1), WeightStep(2000, 2))), (*TARIFF, "steps", 1, "upto")),
        (with_tariff(steps=(WeightStep(None, 1), WeightStep(2000, 2))), (*TARIFF, "steps", 0, "upto")),
        (with_tariff(per_kilogram=-1), (*TARIFF, "per_kilogram")),
        (with_tariff(divisor=0), (*TARIFF, "divisor")),
        (with_tariff(fuel_bp=20_001), (*TARIFF, "fuel_bp")),
        (with_tariff(insurance_bp=-1), (*TARIFF, "insurance_bp")),
        (with_tariff(carries=Carries(heaviest=200)), (*TARIFF, "carries", "heaviest")),
        (with_tariff(carries=Carries(longest=0)), (*TARIFF, "carries", "longest")),
        ({"zones": (*SOUND.zones, Zone("home"))}, ("zones", 2, "name")),
        ({"zones": (HOME, Zone("Far", places=("fernland",)))}, ("zones", 1, "places", 0)),
        (with_option(name=" "), (*OPTION, "name")),
        (with_option(charge=FlatCharge(-1)), (*OPTION, "charge", "amount")),
        (
            with_option(charge=ChargeByValue(1, (ValueStep(9, 1), ValueStep(9, 2)))),
            (*OPTION, "charge", "steps", 1, "value"),
        ),
        (with_option(charge=ChargeByWeight(())), (*OPTION, "charge", "steps")),
        (with_option(charge=ChargeByWeight((ChargeStep(0, 1),))), (*OPTION, "charge", "steps", 0, "upto")),
        (with_option(charge=CostPlus(-1)), (*OPTION, "charge", "markup_bp")),
        (with_option(free_from=0), (*OPTION, "free_from")),
        (with_option(share_bp=10_001), (*OPTION, "share_bp")),
        (with_option(tariffs=("Owl",)), (*OPTION, "tariffs", 0)),
        (with_option(preferred=(Preferred(Scope(), "Owl"),)), (*OPTION, "preferred", 0, "tariff")),
        (with_option(carries=Carries(heaviest=150)), (*OPTION, "carries", "heaviest")),
        (with_surcharge(asks=AmountFor(-1)), (*SURCHARGE, "asks", "amount")),
        (with_surcharge(asks=PartOfGoods(10_001)), (*SURCHARGE, "asks", "rate_bp")),
        (with_surcharge(chosen_bp=-1), (*SURCHARGE, "chosen_bp")),
        (with_surcharge(earned=Earned(repeat="each_time")), (*SURCHARGE, "earned", "repeat")),
        (with_surcharge(tax_class="B"), (*SURCHARGE, "tax_class")),
        (with_surcharge(where=Where(except_zones=("Moon",))), (*SURCHARGE, "where", "except_zones")),
    ],
    ids=lambda one: "/".join(map(str, one)) if isinstance(one, tuple) else "",
)
def test_what_is_wrong_is_told_by_its_path(part, path):
    found = check_shop(replace(SOUND, **part))
    assert path in [problem.path for problem in found]
    assert all(problem.message and problem.mend for problem in found)
