import pytest

from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CHARGE
from yellow_abacus.core.offers import Offer, PercentOff, PutIn, Step
from yellow_abacus.core.offers.gifts import gifts_of

GOODS = make_goods(
    [
        GoodRecord("GONE", list_price=900, stock=0),
        GoodRecord("POT", list_price=1000, stock=5),
        GoodRecord("SEED", list_price=300),
        GoodRecord("SPRAY"),
    ]
)
FERNS = Offer((PercentOff(1000), PutIn(("SEED", "POT"), shares_bp=(2500, 7500), amount=400)))
STEPPED = Offer((PutIn(("GONE",)),), steps=(Step(5, (PutIn(("SPRAY",)),)),))


def test_each_reward_has_the_choices_there_are_in_its_place():
    found = gifts_of((FERNS, STEPPED), GOODS)
    assert found.place == {(0, 0, 1): 0, (1, 1, 0): 1}
    both, spray = found.gifts
    assert [GOODS.skus[at] for at in both.skus] == ["SEED", "POT"]
    assert both.shares.tolist() == pytest.approx([0.25, 0.75])
    assert both.standing.tolist() == [300, 1000]
    assert (spray.standing.tolist(), spray.offer, spray.asked) == ([0], 1, 0)


def test_a_shopper_saves_no_less_than_nothing():
    both, spray = gifts_of((FERNS, STEPPED), GOODS).gifts
    assert both.saving.tolist() == [0, 600]
    assert (both.worth, spray.worth) == (1000, 1)
    assert (both.most, spray.most) == (LARGEST_CHARGE // 1000, LARGEST_CHARGE)


def test_gifts_alike_have_one_key():
    one, other = (gifts_of((offer,), GOODS).gifts[0] for offer in (FERNS, Offer(FERNS.gives, id="other")))
    assert one.key == other.key
    assert one.key != gifts_of((Offer((PutIn(("SEED", "POT"), amount=400),)),), GOODS).gifts[0].key
