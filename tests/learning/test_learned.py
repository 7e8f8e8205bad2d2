"""What history says, on made-up shops whose truth is known. How often ranges hold over many shops is for the bench
(`learning`); here each figure of a few, and what cannot be told."""

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest

from tests.learning.made_shops import (
    DAYS,
    FIRST_DAY,
    Truth,
    coded,
    from_spend,
    made_shop,
    off_all,
    packet_beside_a_pot,
)
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.volume import NamedDays
from yellow_abacus.core.offers import AmountOff, Offer, Step, When
from yellow_abacus.learning.bunching import bins_of, top_ups
from yellow_abacus.learning.codes_found import codes_found
from yellow_abacus.learning.daily import steps_of
from yellow_abacus.learning.learned import Learned, in_bp, learn, thresholds_of
from yellow_abacus.learning.more_orders import NOTHING_TO_HOLD_AGAINST, TOO_FEW_DAYS
from yellow_abacus.learning.next_offers import Before, Next
from yellow_abacus.learning.ran import Past, all_ran
from yellow_abacus.learning.shares import share_of

NOTHING_MORE = Truth(extra=0.0, borrowed=0.0)
SENT = Sends(size=900, response_bp=0)


def learned(seed: int, orders: int, offer, truth: Truth) -> Learned:
    shop = made_shop(np.random.default_rng(seed), orders, offer, truth)
    return next(one for one in learn(shop.past, [offer]) if isinstance(one, Learned))


def said(found: Learned, of: str):
    return next(one for one in found.figures if one.of == of)


@pytest.mark.parametrize(
    ("offer", "truth", "figures"),
    [
        (coded(100, 60), NOTHING_MORE, {"uptake_bp": 0.12, "uptake_first_bp": 0.05}),
        (coded(100, 14, sends=SENT), NOTHING_MORE, {"send_response_bp": 0.08}),
        (from_spend(60, 120), NOTHING_MORE, {"top_up_bp": 0.4}),
        (packet_beside_a_pot(60, 90), NOTHING_MORE, {"take_up_bp": 0.35}),
        (off_all(150, 28), Truth(), {"extra_bp": 0.25, "extra_first_bp": 0.25}),
        (off_all(150, 28), NOTHING_MORE, {"extra_bp": 0.0, "extra_first_bp": 0.0}),
    ],
)
def test_ranges_hold_what_was_so_in_most_shops(offer, truth, figures):
    inside = dict.fromkeys(figures, 0)
    for seed in range(8):
        found = learned(seed, 6_000, offer, truth)
        for of, want in figures.items():
            estimate = said(found, of).said
            assert estimate is not None
            inside[of] += estimate.low <= want <= estimate.high
            assert estimate.low <= estimate.likely <= estimate.high
    assert min(inside.values()) >= 5  # of 8 ranges of 90 %, fewer hold in one run of 2,000


def test_with_many_orders_the_likely_figure_is_near():
    errors: dict[str, list[float]] = {"top_up": [], "reach": [], "extra": []}
    for seed in range(5):
        threshold = said(learned(seed, 30_000, from_spend(60, 120), NOTHING_MORE), "top_up_bp")
        errors["top_up"].append(abs(threshold.said.likely / 0.4 - 1))
        errors["reach"].append(abs(threshold.reach.likely / 1200 - 1))
        errors["extra"].append(
            abs(said(learned(seed, 30_000, off_all(150, 28), Truth()), "extra_bp").said.likely / 0.25 - 1)
        )
    assert np.median(errors["top_up"]) <= 0.25
    assert np.median(errors["reach"]) <= 0.25
    assert np.median(errors["extra"]) <= 0.35


def test_what_is_held_anyway_is_not_taken_up():
    """Everybody who takes a pot has a packet beside it on days without the offer too: nobody took it up."""
    truth = replace(NOTHING_MORE, take_up=0.0)
    found = said(learned(3, 6_000, packet_beside_a_pot(60, 90), truth), "take_up_bp").said
    assert found.low < 0.03
    assert found.likely < 0.06


def test_an_offer_that_always_ran_has_nothing_to_be_held_against():
    found = learned(1, 2_000, off_all(0, DAYS), NOTHING_MORE)
    assert said(found, "extra_bp").said is None
    assert said(found, "extra_bp").why == NOTHING_TO_HOLD_AGAINST
    assert said(found, "borrowed_bp").said is None


def test_two_offers_on_the_same_days_cannot_be_told_apart():
    offer = off_all(100, 21)
    shop = made_shop(np.random.default_rng(1), 3_000, offer, NOTHING_MORE)
    twin = replace(offer, id="twin")
    one, two = (found for found in learn(shop.past, [offer, twin]) if isinstance(found, Learned))
    assert said(one, "extra_bp").said is not None
    assert said(two, "extra_bp").said is None
    assert "cannot be told" in said(two, "extra_bp").why


def test_a_history_of_one_day_or_none_says_so():
    shop = made_shop(np.random.default_rng(1), 3_000, off_all(100, 21), NOTHING_MORE)
    days = shop.past.day_by_cart
    for kept in (np.flatnonzero(days == days[0]), np.zeros(0, dtype=np.int64)):
        past = Past(shop.past.shop, shop.past.batch.some(kept), days[kept])
        (found,) = (one for one in learn(past, [replace(off_all(0, 1), when=When())]) if isinstance(one, Learned))
        assert all(one.said is None for one in found.figures)
        if len(kept):
            assert said(found, "extra_bp").why == TOO_FEW_DAYS


def test_a_code_nobody_told_is_found_with_its_days():
    offer = coded(100, 28)
    shop = made_shop(np.random.default_rng(2), 6_000, offer, NOTHING_MORE)
    (found,) = codes_found(shop.past, [])
    assert found.code == "FRONDLET"
    assert found.orders == int(shop.ran[0].used.sum())
    assert found.first_day >= FIRST_DAY.toordinal() + 100
    assert found.last_day <= FIRST_DAY.toordinal() + 127
    assert codes_found(shop.past, shop.ran) == []


def test_a_code_spelt_in_other_letters_is_the_same():
    shop = made_shop(np.random.default_rng(2), 6_000, coded(100, 28), NOTHING_MORE)
    other = all_ran(shop.past, [coded(100, 28, code="frondlet")])
    assert (other[0].used == shop.ran[0].used).all()


def test_named_days_are_not_taken_for_an_offers():
    days = np.arange(FIRST_DAY.toordinal(), FIRST_DAY.toordinal() + 200)
    fair = NamedDays("Fair", date.fromordinal(int(days[60])), date.fromordinal(int(days[62])), 30_000)
    orders = np.random.default_rng(1).poisson(np.where((days >= days[60]) & (days <= days[62]), 60, 20))
    runs = (days >= days[55]) & (days <= days[68])
    blind, told = steps_of(days, orders, [runs]), steps_of(days, orders, [runs], (fair,))
    assert blind.at[0] > 0.2
    assert abs(told.at[0]) < 0.2


# --- shares


def test_shares_of_one_offer():
    assert share_of(0, 10).low == 0
    assert share_of(10, 10).high == 1
    told = share_of(30, 100)
    assert told.likely == 0.3
    assert told.low == pytest.approx(0.2334, abs=0.005)  # quantiles of Beta(31, 71)
    assert told.high == pytest.approx(0.3812, abs=0.005)


def share_of_next(uses, of):
    return Next("code", tuple(Before(k, n, k, 0.0, 0.0, 0.0) for k, n in zip(uses, of, strict=True))).said


def test_the_next_offer_of_a_kind_holds_the_spread_between_them():
    alike, apart = share_of_next([50, 52, 48], [1000] * 3), share_of_next([10, 50, 120], [1000] * 3)
    assert alike.low < 0.05 < alike.high
    assert apart.width > 2 * alike.width
    assert alike.width < share_of_next([50], [1000]).width


def test_shares_of_next_offers_hold_nine_times_in_ten():
    dice, held = np.random.default_rng(4), 0
    for _ in range(60):
        shares = dice.beta(3, 60, 9)
        uses = dice.binomial(800, shares)
        found = share_of_next(uses[:8].tolist(), [800] * 8)
        held += found.low <= shares[8] <= found.high
    assert held >= 47


# --- thresholds


def test_bins_begin_at_the_threshold():
    bins = bins_of(4_500, whole=False)
    assert bins.starts[bins.at - bins.first] == 4_500
    counts = bins.counts(np.array([4_499, 4_500, 4_501, 10, 9_999_999]))
    assert counts[bins.at - bins.first - 1] == 1
    assert counts[bins.at - bins.first] == 2
    assert counts.sum() == 3


def test_units_are_bins_of_their_own():
    dice = np.random.default_rng(1)
    without = dice.poisson(3, 20_000) + 1
    had = without[:6_000].copy()
    short = (had == 4) & (dice.random(len(had)) < 0.3)
    had[short] = 5
    found = top_ups(5, had, without[6_000:], whole=True)
    assert found.share.low > 0
    assert found.reach.likely == pytest.approx(1, abs=1)


def steps_from(first: int, days: int) -> Offer:
    """5.00 off from 40.00 on, 9.00 from 70.00, 15.00 from 110.00."""
    steps = (Step(7_000, (AmountOff(amount=900),)), Step(11_000, (AmountOff(amount=1_500),)))
    return replace(from_spend(first, days), steps=steps)


def test_several_thresholds_of_one_offer_are_told_beside_other_days():
    offer, shares, reaches = steps_from(60, 120), 0, 0
    assert thresholds_of(offer) == [4_000, 7_000, 11_000]
    for seed in range(6):
        told = said(learned(seed, 12_000, offer, Truth(top_up=0.4, reach=1_200, extra=0.0)), "top_up_bp")
        shares += told.said.low <= 0.4 <= told.said.high
        reaches += told.reach is not None and told.reach.low <= 1_200 <= told.reach.high
    assert shares >= 5
    assert reaches >= 5
    nobody = said(learned(1, 12_000, offer, Truth(top_up=0.0, extra=0.0)), "top_up_bp")
    assert nobody.said.low <= 0 <= nobody.said.high


def test_several_thresholds_that_always_held_are_not_told_and_it_is_said_why():
    offer = replace(steps_from(0, DAYS), when=When(FIRST_DAY, FIRST_DAY + timedelta(days=DAYS - 1)))
    told = said(learned(1, 6_000, offer, NOTHING_MORE), "top_up_bp")
    assert told.said is None
    assert "other days" in told.why


def test_few_orders_say_nothing_of_a_threshold():
    assert top_ups(4_500, np.arange(100) * 50, np.zeros(0, dtype=np.int64)) is None


def test_figures_are_taken_over_within_their_bounds():
    found = learned(0, 6_000, off_all(150, 28), NOTHING_MORE)
    told = said(found, "extra_bp")
    assert told.said.low < 0
    likely, low, high = in_bp(told)
    assert (low, likely >= 0, high > 0) == (0, True, True)
