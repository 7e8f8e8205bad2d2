"""Things put in: where stock ends, and how much a cart can hold; whole carts are in test_pricing."""

import numpy as np
import pytest

from tests.core.single_carts import likeliest, one_cart
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.forecast.check_offer import check_offer
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import Offer, PercentOff, PutIn, Step
from yellow_abacus.core.offers.gifts import TooMuchPutInError
from yellow_abacus.core.pricing.reasons import REASONS
from yellow_abacus.core.pricing.why import why
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home"),))
GOODS = make_goods(
    [
        GoodRecord("GONE", list_price=300, stock=0),
        GoodRecord("GOLD", list_price=1_000_000, stock=5),
        GoodRecord("POT", list_price=2000),
    ]
)
GIFT, TENTH = PutIn(("GONE",)), PercentOff(1000)


def rung(offer: Offer, cart: CartBatch) -> tuple[list[int], str]:
    """Line amounts after the offer in its one branch, and why it applied or not."""
    rows, priced = likeliest(SHOP, cart, (offer,))
    (told,) = why(SHOP, rows, (offer,), priced)
    assert not priced.put_in.any()
    return priced.by_line.net.tolist(), REASONS[told.reason[0]]


def test_the_other_rewards_go_on_where_a_gift_is_out_of_stock():
    cart = one_cart(GOODS, ("POT", 1))
    assert rung(Offer((GIFT, TENTH), id="a"), cart) == ([1800], "applied")
    assert rung(Offer((GIFT,), id="a"), cart) == ([2000], "gift_out_of_stock")


def test_a_step_of_which_nothing_is_left_says_so_and_the_other_still_works():
    earned = Earned((Spend(1000),))
    stepped = Offer((TENTH,), earned=earned, steps=(Step(3000, (GIFT,)),), id="a")
    assert rung(stepped, one_cart(GOODS, ("POT", 1))) == ([1800], "applied")
    assert rung(stepped, one_cart(GOODS, ("POT", 2))) == ([4000], "gift_out_of_stock")


def test_more_than_a_cart_can_hold_is_refused():
    each_cent = Earned((Spend(1),), repeat="each_time")
    greedy = Offer((PutIn(("GOLD",), amount=900_000),), earned=each_cent, id="greedy")
    with pytest.raises(TooMuchPutInError) as refused:
        likeliest(SHOP, one_cart(GOODS, ("POT", 1)), (greedy,))
    assert refused.value.offer == "greedy"


def test_several_things_put_in_share_the_bound():
    each = [PutIn(("GOLD",), quantity=600), PutIn(("GOLD",), quantity=600, amount=1)]
    cart = one_cart(GOODS, ("POT", 1))
    assert likeliest(SHOP, cart, (Offer((each[0],), id="a"),))[1].put_in.tolist() == [[600]]
    with pytest.raises(TooMuchPutInError):
        likeliest(SHOP, cart, tuple(Offer((one,), id=str(at)) for at, one in enumerate(each)))


def test_what_is_too_much_at_once_is_refused_when_it_is_written():
    found = list(check_offer(Offer((PutIn(("GOLD",), quantity=1000, amount=1_000_001),), id="a"), SHOP, GOODS))
    assert [problem.path for problem in found] == [("gives", 0, "quantity")]
    assert np.array(GOODS.stock)[0] == 5
