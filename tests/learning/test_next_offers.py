"""What a next offer may do: on made-up campaigns whose truth is known, each drawn as the product says it is."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from scipy.special import expit

from tests.learning.made_shops import FIRST_DAY, Truth, coded, made_shop
from yellow_abacus.core.clauses.response import Response, Sends
from yellow_abacus.learning.learned import Learned, learn
from yellow_abacus.learning.next_offers import Before, Next, next_of_each

NOTHING_MORE = Truth(extra=0.0, borrowed=0.0)
SENT = Sends(size=900, response_bp=0)
EACH = 800.0


def learned(seed: int, offer) -> Learned:
    shop = made_shop(np.random.default_rng(seed), 3_000, offer, NOTHING_MORE)
    return next(one for one in learn(shop.past, [offer]) if isinstance(one, Learned))


def campaigns(dice, many: int, slope: float) -> list[Before]:
    """Most small, a few large; what orders get is unlike from one to the next."""
    sent = np.where(dice.random(many) < 0.15, dice.integers(900, 1_200, many), dice.integers(20, 400, many))
    share = expit(-2.5 + slope * np.log(sent / 200) + dice.normal(0, 0.4, many))
    used = dice.binomial(sent, share)
    each = EACH * np.exp(dice.normal(0, 0.3, many))
    given = [float(dice.gamma(2, one / 2, uses).sum()) for one, uses in zip(each, used, strict=True)]
    return [
        Before(int(uses), int(of), int(uses), off, off * 8, 0.5)
        for uses, of, off in zip(used, sent, given, strict=True)
    ]


@pytest.mark.parametrize("slope", [0.0, 0.7])
def test_uses_and_what_is_given_away_hold_nine_times_in_ten(slope):
    dice, held, given = np.random.default_rng(3), 0, 0
    for _ in range(50):
        *before, following = campaigns(dice, 16, slope)
        found = Next("sent", tuple(before)).sent_to(following.of)
        held += found.uses.low <= following.used <= found.uses.high
        given += found.given_away.low <= following.given_away <= found.given_away.high
    assert held >= 41
    assert given >= 41


def test_shares_that_rise_with_the_number_sent_are_told_by_it():
    rising = Next("sent", tuple(campaigns(np.random.default_rng(1), 25, 0.9)))
    few, many = rising.sent_to(50), rising.sent_to(1_000)
    assert few.said.high < many.said.likely
    assert few.uses.high < 50
    level = Next("sent", tuple(campaigns(np.random.default_rng(1), 25, 0.0)))
    assert level.sent_to(50).said.likely == pytest.approx(level.sent_to(1_000).said.likely, rel=0.6)


def test_one_before_tells_a_wide_range_and_none_used_tells_no_amount():
    one = Next("sent", (Before(30, 500, 30, 24_000.0, 200_000.0, 0.4),))
    assert one.sent_to(500).uses.low < 15
    assert one.sent_to(500).uses.high > 60
    assert one.each.low < 700 < 900 < one.each.high
    none = Next("sent", (Before(0, 500, 0, 0.0, 0.0, 0.0), Before(0, 20, 0, 0.0, 0.0, 0.0)))
    assert none.each is None
    assert none.depth is None
    assert none.sent_to(100).given_away is None
    assert none.sent_to(100).uses.low == 0
    tiny = Next("sent", (Before(64, 900, 4_096, 1e-322, 1e14, 1e5),))
    assert tiny.sent_to(100).given_away is None


def test_alike_offers_of_many_orders_tell_it_closely():
    near = Next("to_all", tuple(Before(500, 5_000, 500, 400_000.0 + 500 * at, 4e6, 0.2) for at in range(12)))
    assert near.said.low == pytest.approx(0.1, abs=0.02)
    assert near.said.high == pytest.approx(0.1, abs=0.02)
    assert near.depth.likely == pytest.approx(0.1, abs=0.003)


def test_next_offers_go_by_kind():
    found = [learned(seed, coded(60 + 30 * seed, 14, sends=SENT)) for seed in range(3)]
    (sent,) = (one for one in next_of_each(found) if one.kind == "sent")
    assert len(sent.before) == 3
    assert sent.orders == sum(one.used for one in sent.before)
    assert sent.said.low < 0.08 < sent.said.high
    assert sent.depth.likely == pytest.approx(0.1, abs=0.001)


def test_codes_go_by_who_is_told_of_them():
    offer = coded(60, 14)
    told = [replace(offer, response=Response(shown=shown)) for shown in ("to_few", "to_few", "to_all", "")]
    found = [learned(seed, one) for seed, one in enumerate(told)]
    assert {one.kind: len(one.before) for one in next_of_each(found)} == {"to_few": 2, "to_all": 1, "code": 1}


def test_messages_whose_answers_are_to_come_tell_nothing_yet():
    over, under_way = learned(1, coded(60, 14, sends=SENT)), learned(2, coded(350, 14, sends=SENT))
    late = replace(under_way.ran, last_day=under_way.ran.past.last_day + 5)
    assert late.last_day > (FIRST_DAY + timedelta(days=364)).toordinal()
    (found,) = next_of_each([over, replace(under_way, ran=late)])
    assert len(found.before) == 1
    (alone,) = next_of_each([replace(under_way, ran=late)])
    assert len(alone.before) == 1
