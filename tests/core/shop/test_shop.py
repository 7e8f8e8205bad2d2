from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.shop.code_rules import CodeRules
from yellow_abacus.core.shop.shop import Settings, Shop


def test_a_shop_that_says_nothing_costs_nothing_and_taxes_nothing():
    shop = Shop(Settings(), ())
    assert (shop.zone_names, shop.delivery.options, shop.payments) == ((), (), ())
    assert shop.taxes.rates([]).tolist() == [[0]]


def test_packaging_is_weighed_in_whole_milligrams():
    shop = Shop(Settings(packaging_weight=120.05), (Zone("Home", (Option("Post"),)), Zone("Abroad")))
    assert shop.delivery.packaging_weight == 120_050
    assert shop.zone_names == ("Home", "Abroad")
    assert [(zone, option.name) for zone, option in shop.delivery.options] == [(0, "Post")]
    assert shop.delivery is shop.delivery


def test_what_codes_the_shop_takes_is_said_in_its_settings():
    settings = Settings(code_shortest=5, code_longest=9, code_letters="a_to_z", code_marks="-")
    assert settings.code_rules == CodeRules(5, 9, "a_to_z", "-")
