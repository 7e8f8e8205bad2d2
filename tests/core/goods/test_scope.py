import pytest

from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import EVERYTHING, Scope

GOODS = make_goods(
    [
        GoodRecord("FERN", "Fern", categories=("Plants", "Shade"), brand="Moss", tags=("green",)),
        GoodRecord("IVY", "Ivy", categories=("Plants",), brand="Moss", tags=("green", "climbing")),
        GoodRecord("POT", "Pot", categories=("Pots",), brand="Clay & Co"),
    ]
)


@pytest.mark.parametrize(
    ("scope", "held"),
    [
        (EVERYTHING, "FERN IVY POT"),
        (Scope(categories=("plants",)), "FERN IVY"),
        (Scope(categories=("Plants",), except_categories=("Shade",)), "IVY"),
        (Scope(categories=("Shade",), brands=("CLAY & CO",)), "FERN POT"),
        (Scope(except_tags=("climbing",)), "FERN POT"),
        (Scope(skus=("POT",), except_products=("Pot",)), ""),
        (Scope(products=("Ivy",), skus=("POT",), except_brands=("Moss",)), "POT"),
        (Scope(skus=("pot",)), ""),
        (Scope(categories=("Trees",)), ""),
        (Scope(reduced="out"), "FERN IVY POT"),
    ],
)
def test_in_lists_are_united_and_out_lists_win(scope, held):
    found = scope.holds(GOODS)
    assert [sku for sku, inside in zip(GOODS.skus, found, strict=True) if inside] == held.split()


def test_what_was_looked_up_is_not_looked_up_again():
    assert Scope(tags=("green",)).holds(GOODS) is Scope(tags=("green",)).holds(GOODS)
