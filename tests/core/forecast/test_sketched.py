"""Shares of sketches among those that come; what they come to is in test_sketch."""

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS
from yellow_abacus.core.carts.sketch import Sketch, SketchedLine, Usual, drawn
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.forecast.sketched import Sketched, is_sketched
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.shop.shop import Settings, Shop

POTS = Sketch("Pots", 3000, (SketchedLine(Scope(skus=("POT",)), 1, 2),), first_bp=0)
SEEDS = Sketch("Seeds", 1000, (SketchedLine(Scope(skus=("SEED",)), 4, 4),), first_bp=10_000)
USUAL = Usual(np.ones(len(GOODS.skus)), np.array([1.0]), None, "EUR")
SKETCHED = Sketched(
    Shop(Settings(), (Zone("Home"),)),
    (POTS, SEEDS),
    drawn([POTS, SEEDS], GOODS, ("Home",), USUAL),
    np.full(1440, 1 / 1440),
)


@pytest.mark.parametrize(
    ("come", "shares", "of_all"), [((0, 1), [0.75, 0.25], 0.4), ((1,), [0, 1], 0.1), ((), [0, 0], 0)]
)
def test_those_that_come_share_the_orders(come, shares, of_all):
    assert SKETCHED.shares(come).tolist() == pytest.approx(shares)
    assert SKETCHED.share_of_all(come) == pytest.approx(of_all)
    assert SKETCHED.by_cart(come).sum() == pytest.approx(sum(shares))


def test_their_carts_are_what_they_say():
    mix = SKETCHED.mix
    assert is_sketched(mix.key)
    assert not is_sketched(("history",))
    value = float(mix.share_by_cart @ mix.batch.worth_by_cart)
    assert value == pytest.approx(0.75 * 1.5 * 1000 + 0.25 * 4 * 300)
    (by_type,) = [one for one in mix.types.values() if one.labels == ("Pots", "Seeds")]
    of_seeds = by_type.type_by_cart == 1
    assert mix.share_by_cart[of_seeds].sum() == pytest.approx(0.25)
    assert (mix.batch.facts.orders_before_by_cart[of_seeds] == 0).all()
    weighed = SKETCHED.weighed(mix, (1,), np.full(7, 1 / 7))
    assert weighed.share_by_cart[of_seeds].sum() == pytest.approx(1)
    assert SKETCHED.all == (0, 1)
