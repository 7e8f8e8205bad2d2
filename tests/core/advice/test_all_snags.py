"""Every snag with a plan that has it, and one that just has not."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.slow import SlowCart, SlowGood
from tests.worlds import World, make_world, plain_shop
from yellow_abacus.core.advice.all_snags import SNAGS, snags_of
from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.carts.facts import labels
from yellow_abacus.core.clauses.conditions import Earned, Only, Products, Spend, Units
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import (
    Alongside,
    AmountOff,
    AmountOffEach,
    BuyGet,
    DeliveryLoweredTo,
    Given,
    Limits,
    Offer,
    PercentOff,
    PutIn,
    Response,
    Step,
    UnitPrice,
    When,
    Where,
    Who,
)

FIRST, LAST = date(2027, 3, 1), date(2027, 3, 28)


def good(price, cost, *, product="", reduced=None, **more) -> SlowGood:
    return SlowGood(price, reduced, cost, set(), product=product, **more)


GOODS = {
    "CARD": good(2500, 2400, product="Fern token", never_discounted=True),
    "HEAVY": good(7400, 4400, product="Trough", weight=15_000),
    "OLD": good(2000, 500, reduced=1500, product="Last year’s pot"),
    "PLANT": good(1000, 300, product="Plant", return_bp=2000),
    "SEED": good(300, 80, product="Seed"),
    "SMALL": good(400, 300, product="Label"),
    "SOIL": good(700, 200, product="Soil", steps=[("", 6, 600)]),
    "THIN": good(3000, 2700, product="Lamp"),
}
SHOP = plain_shop(GOODS, far=(600, None, 4_200), home=(500, None, 400))
FREE, HALF, TENTH = PercentOff(10_000), PercentOff(5000), PercentOff(1000)
SEEDS, PLANTS, LAMPS, POTS = (Scope(skus=(sku,)) for sku in ("SEED", "PLANT", "THIN", "OLD"))


def cart(zone="home", before=None, **units: int) -> SlowCart:
    return SlowCart([(sku, 0) for sku, count in units.items() for _ in range(count)], zone, before=before)


CARTS = [
    cart(SEED=4),
    cart(SEED=10, before=3),
    cart(PLANT=2, SEED=2, before=0),
    cart(PLANT=4, before=1),
    cart(SOIL=8),
    cart(OLD=1, SEED=5),
    cart(THIN=1),
    cart(HEAVY=1, before=2),
    cart("far", HEAVY=1, PLANT=2),
    cart(CARD=1, SEED=4),
    cart(SEED=5, SMALL=1),
]


def offer(*gives, name="one", **terms) -> Offer:
    return Offer(tuple(gives), **terms, id=name)


def spend(n, **more) -> Earned:
    return Earned((Spend(n, **more),))


def code(text, by="code") -> Given:
    return Given(by, code=text)


def scene(*offers: Offer, world: World | None = None, names=None, plan=None, today=FIRST) -> Scene:
    world = make_world(SHOP, CARTS * 10, []) if world is None else world
    plan = Plan(FIRST, LAST, offers) if plan is None else plan
    names = [one.id for one in plan.offers] if names is None else names
    return Scene(forecaster(world), plan, names, [""] * len(plan.offers), today)


def keys(*offers: Offer, **told) -> list[str]:
    return [key for key, _ in snags_of(scene(*offers, **told))]


SET_APART = Alongside(never="all")


def sent(anyway_bp: int) -> Response:
    """To more shoppers than ever come."""
    return Response(sends=Sends(size=100_000, response_bp=1000, anyway_bp=anyway_bp, days=5))


PER_SHOPPER = Limits(uses_per_shopper=1)
RISING = (Step(3000, (PercentOff(3000),)),)

CASES: dict[str, tuple[list[Offer], list[Offer]]] = {
    "repeats_without_limit": (
        [offer(AmountOff(100), earned=replace(spend(1000), repeat="each_time"))],
        [offer(AmountOff(100), earned=replace(spend(1000), repeat="each_time"), limits=Limits(times=2))],
    ),
    "code_without_limit": (
        [offer(TENTH, given=code("FRONDLET"))],
        [offer(TENTH, given=code("FRONDLET"), limits=PER_SHOPPER)],
    ),
    "guessable_code": ([offer(TENTH, given=code("SPRING27"))], [offer(TENTH, given=code("SPRINGFROND"))]),
    "codes_alike": (
        [offer(TENTH, given=code("FROND-10")), offer(HALF, name="two", given=code("FROND-1O"))],
        [offer(TENTH, given=code("FROND-10")), offer(HALF, name="two", given=code("FROND-27"))],
    ),
    "below_cost_alone": ([offer(PercentOff(1400), on=LAMPS)], [offer(PercentOff(1300), on=LAMPS)]),
    "below_cost_together": (
        [offer(PercentOff(900), on=LAMPS), offer(PercentOff(900), name="two", on=LAMPS)],
        [offer(PercentOff(650), on=LAMPS), offer(PercentOff(650), name="two", on=LAMPS)],
    ),
    "no_minimum_spend": ([offer(AmountOff(500))], [offer(AmountOff(500), earned=spend(2000))]),
    "more_than_a_unit_keeps": ([offer(AmountOffEach(300), on=LAMPS)], [offer(AmountOffEach(299), on=LAMPS)]),
    "thin_margins": ([offer(PercentOff(1100))], [offer(PercentOff(900))]),
    "on_reduced_prices": ([offer(TENTH, on=POTS)], [offer(TENTH, on=replace(POTS, reduced="out"))]),
    "on_quantity_prices": ([offer(TENTH)], [offer(TENTH, on=Scope(except_skus=("SOIL",)))]),
    "frees_the_dearest": (
        [offer(BuyGet(2, 1, FREE, units_from="dearest"))],
        [offer(BuyGet(2, 1, FREE, of=SEEDS, units_from="dearest"), on=SEEDS)],
    ),
    "unequal_gifts": (
        [offer(PutIn(("SEED", "PLANT")), earned=spend(2000))],
        [offer(PutIn(("PLANT", "SMALL")), earned=spend(2000))],
    ),
    "gift_outlasts_returns": (
        [offer(PutIn(("SEED",)), earned=spend(2000, of=PLANTS))],
        [offer(PutIn(("SEED",)), earned=spend(2000, of=SEEDS))],
    ),
    "no_take_up": (
        [offer(BuyGet(1, 1, FREE, of=PLANTS), on=SEEDS)],
        [offer(BuyGet(1, 1, FREE, of=PLANTS), on=SEEDS, response=Response(take_up_bp=5000))],
    ),
    "more_anyway_than_come": (
        [offer(TENTH, given=code("FRONDLET-9"), response=sent(anyway_bp=9000))],
        [offer(TENTH, given=code("FRONDLET-9"), response=sent(anyway_bp=0))],
    ),
    "threshold_changes_nothing": ([offer(TENTH, earned=spend(2600))], [offer(TENTH, earned=spend(2601))]),
    "more_costs_less": (
        [offer(TENTH, earned=Earned((Units(3),)), steps=(Step(4, (PercentOff(4000),)),))],
        [offer(TENTH, earned=Earned((Units(3),)), steps=(Step(4, (PercentOff(3200),)),))],
    ),
    "smaller_set": (
        [offer(PercentOff(100)), offer(TENTH, name="two", earned=spend(2000), steps=RISING)],
        [offer(PercentOff(100)), offer(TENTH, name="two", earned=spend(2000, at="standing"), steps=RISING)],
    ),
    "place_in_plan": (
        [offer(TENTH), offer(PutIn(("SEED",)), name="two", earned=spend(3000))],
        [offer(TENTH), offer(PutIn(("SEED",)), name="two", earned=spend(3000, at="standing"))],
    ),
    "carriage_eats_it": (
        [offer(DeliveryLoweredTo(0), earned=spend(5000))],
        [offer(DeliveryLoweredTo(0), earned=spend(5000), where=Where(zones=("home",)))],
    ),
    "zone_left_out": ([offer(TENTH, where=Where(zones=("home",)))], [offer(TENTH)]),
    "gift_cards_earn": (
        [offer(PutIn(("SEED",)), earned=spend(2500))],
        [offer(PutIn(("SEED",)), earned=spend(2500, of=Scope(except_skus=("CARD",))))],
    ),
    "reaches_nobody": ([offer(TENTH, earned=spend(12_000))], [offer(TENTH, earned=spend(9400))]),
    "never_applied": (
        [offer(AmountOff(100), alongside=SET_APART), offer(AmountOff(101), name="two")],
        [offer(AmountOff(101), alongside=SET_APART, earned=spend(3000)), offer(AmountOff(100), name="two")],
    ),
    "cannot_hold": (
        [offer(TENTH, earned=Earned((Spend(3000), Spend(2999, "at_most"))))],
        [offer(TENTH, earned=Earned((Spend(3000), Spend(3000, "at_most"))))],
    ),
    "told_twice": ([offer(TENTH), offer(TENTH, name="two")], [offer(TENTH), offer(PercentOff(1001), name="two")]),
    "both_announced": (
        [offer(TENTH, alongside=SET_APART), offer(AmountOff(90), name="two", on=SEEDS)],
        [offer(TENTH, on=PLANTS, alongside=SET_APART), offer(AmountOff(90), name="two", on=LAMPS)],
    ),
    "exactly_at_bound": (
        [offer(TENTH, earned=spend(1200, bound="over"))],
        [offer(TENTH, earned=spend(1201, bound="over"))],
    ),
}


@pytest.mark.parametrize("key", CASES)
def test_a_plan_that_has_it_is_told_and_one_that_just_has_not_is_not(key):
    has, has_not = CASES[key]
    assert key in keys(*has)
    assert key not in keys(*has_not)


@pytest.mark.parametrize("key", CASES)
def test_a_mend_leaves_the_plan_without_the_snag(key):
    has, _ = CASES[key]
    found = [snag for one, snag in snags_of(scene(*has)) if one == key]
    for snag in found:
        if snag.mend is not None and snag.offer is not None:
            mended = [snag.mend.offer if at == snag.offer else one for at, one in enumerate(has)]
            again = [one for one, other in snags_of(scene(*mended)) if other.offer == snag.offer]
            assert key not in again


def test_every_snag_is_tried():
    elsewhere = {
        "no_end_of_its_own",
        "speaks_of_first_orders",
        "strangers_escape",
        "gift_runs_short",
        "shopper_pays_more",
        "option_few_choose",
        "gift_cards_discounted",
        "beyond_the_shop",
        "zone_known_late",
        "under_least_advertised",
        "no_reduction",
        "time_past",
    }
    assert set(SNAGS) == set(CASES) | elsewhere
    assert not set(CASES) & elsewhere


def test_a_code_that_everybody_is_shown_need_not_be_guessed():
    shown = offer(TENTH, given=code("SPRING27"), response=Response(shown="to_all"))
    assert "guessable_code" not in keys(shown)
    assert "guessable_code" in keys(replace(shown, response=Response(shown="to_few")))


def test_a_long_plan_without_an_end():
    for days, told in ((93, True), (92, False)):
        plan = Plan(FIRST, date.fromordinal(FIRST.toordinal() + days - 1), (offer(TENTH),))
        assert ("no_end_of_its_own" in keys(plan=plan)) is told
    ends = offer(TENTH, when=When(last_day=date(2027, 4, 1)))
    assert "no_end_of_its_own" not in keys(plan=Plan(FIRST, date(2027, 9, 1), (ends,)))


def test_a_name_that_speaks_of_first_orders():
    first = offer(TENTH, who=Who(first_order=True))
    assert "speaks_of_first_orders" in keys(offer(TENTH), names=["Welcome"])
    assert "speaks_of_first_orders" not in keys(offer(TENTH), names=["Come again"])
    assert "speaks_of_first_orders" not in keys(first, names=["Welcome"])


def test_shoppers_nobody_knows():
    world = make_world(SHOP, CARTS * 10, [])
    known = replace(world.batch.facts, shopper=labels([f"shopper {at}" for at in range(len(CARTS) * 10)]))
    every = World(world.shop, replace(world.batch, facts=known), (), SHOP, [], [])
    limited = offer(TENTH, limits=PER_SHOPPER)
    assert "strangers_escape" in keys(limited, world=world)
    assert "strangers_escape" not in keys(limited, world=every)
    assert "strangers_escape" not in keys(offer(TENTH), world=world)
    assert "strangers_escape" not in keys(limited, world=with_settings(unknown_bp=499))
    assert "strangers_escape" in keys(limited, world=with_settings(unknown_bp=500))


def with_stock(sku: str, stock: float) -> World:
    world = make_world(SHOP, CARTS * 10, [])
    goods = world.batch.goods
    counted = np.where(np.array(goods.skus) == sku, stock, np.nan)
    return World(world.shop, replace(world.batch, goods=replace(goods, stock=counted)), (), SHOP, [], [])


def test_a_gift_of_which_there_is_too_little():
    gift = offer(PutIn(("SEED",)), earned=spend(2000))
    told = scene(gift).given(0)
    orders = scene(gift).orders_by_row
    sold = orders.sum() * sum(sku == "SEED" for one in CARTS for sku, _ in one.units) / len(CARTS)
    whole = float((orders * (told > 0)).sum() + sold)
    assert "gift_runs_short" in keys(gift, world=with_stock("SEED", np.floor(whole) - 1))
    assert "gift_runs_short" not in keys(gift, world=with_stock("SEED", np.ceil(whole) + 1))


def test_a_discount_that_drops_carts_under_free_delivery():
    for free_from, told in ((4000, True), (4001, False)):
        shop = plain_shop(GOODS, far=(600, None, 5000), home=(500, free_from, 400))
        world = make_world(shop, CARTS * 10, [])
        assert ("shopper_pays_more" in keys(offer(PercentOff(100), on=PLANTS), world=world)) is told


def test_an_option_most_do_not_choose():
    shop = plain_shop(GOODS, far=(600, None, 5000), home=(500, None, 400))
    (option,) = shop.zones["home"]
    for slow_share, told in ((8000, True), (4000, False)):
        options = [option | {"share_bp": slow_share}, option | {"name": "Slow", "share_bp": 10_000 - slow_share}]
        world = make_world(replace(shop, zones=shop.zones | {"home": options}), CARTS * 10, [])
        found = keys(offer(DeliveryLoweredTo(0, options=("Slow",))), world=world)
        assert ("option_few_choose" in found) is told


def test_goods_that_look_like_gift_cards():
    cards = GOODS | {"CARD": good(2500, 2400, product="Gift card")}
    kept = GOODS | {"CARD": good(2500, 2400, product="Gift card", never_discounted=True)}
    for goods, told in ((cards, True), (kept, False)):
        world = make_world(plain_shop(goods, far=(600, None, 5000), home=(500, None, 400)), CARTS * 10, [])
        assert ("gift_cards_discounted" in keys(offer(TENTH), world=world)) is told


def test_codes_the_shop_cannot_hold_and_days_gone_by():
    world = make_world(SHOP, CARTS * 10, [])
    strict = replace(world.shop, settings=replace(world.shop.settings, code_longest=8))
    short = World(strict, world.batch, (), SHOP, [], [])
    assert "beyond_the_shop" in keys(offer(TENTH, given=code("FRONDLET-9")), world=short)
    assert "beyond_the_shop" not in keys(offer(TENTH, given=code("FRONDLET")), world=short)
    assert "time_past" in keys(offer(TENTH), today=date(2027, 3, 29))
    assert "time_past" not in keys(offer(TENTH), today=LAST)


def with_settings(**told) -> World:
    world = make_world(SHOP, CARTS * 10, [])
    shop = replace(world.shop, settings=replace(world.shop.settings, **told))
    return World(shop, world.batch, (), SHOP, [], [])


def test_more_offers_at_once_than_the_shop_holds():
    three = [offer(PercentOff(500 + at), name=f"offer {at}") for at in range(3)]
    assert "beyond_the_shop" in keys(*three, world=with_settings(most_by_itself=2))
    assert "beyond_the_shop" not in keys(*three, world=with_settings(most_by_itself=3, most_by_code=1))
    ends = replace(three[0], when=When(last_day=FIRST))
    begins = replace(three[1], when=When(first_day=date(2027, 3, 2)))
    assert "beyond_the_shop" not in keys(ends, begins, three[2], world=with_settings(most_by_itself=2))
    coded = [offer(TENTH, name=f"code {at}", given=code(f"FROND-{at}7")) for at in range(2)]
    assert "beyond_the_shop" in keys(*coded, world=with_settings(most_by_code=1))


def test_a_zone_that_is_known_late():
    home = offer(TENTH, where=Where(zones=("home",)))
    assert "zone_known_late" in keys(home, world=with_settings(zone_known=False))
    assert "zone_known_late" not in keys(home, world=with_settings(zone_known=True))
    assert "zone_known_late" not in keys(offer(TENTH), world=with_settings(zone_known=False))


def test_a_price_under_what_may_be_advertised():
    world = make_world(SHOP, CARTS * 10, [])
    for least, told in ((901, True), (900, False)):
        goods = world.batch.goods
        bound = np.where(np.array(goods.skus) == "PLANT", least, -1)
        batch = replace(world.batch, goods=replace(goods, least_advertised=bound))
        bounded = World(world.shop, batch, (), SHOP, [], [])
        assert ("under_least_advertised" in keys(offer(TENTH, on=PLANTS), world=bounded)) is told
        secret = offer(TENTH, on=PLANTS, given=code("FRONDLET"))
        assert "under_least_advertised" not in keys(secret, world=bounded)


def test_a_reduction_that_is_none():
    for lowest, told in ((900, True), (901, False), (-1, False)):
        found = scene(offer(TENTH, on=PLANTS))
        by_sku = np.where(np.array(found.goods.skus) == "PLANT", lowest, -1)
        assert ("no_reduction" in [key for key, _ in snags_of(replace(found, lowest=by_sku))]) is told


def test_a_condition_that_leaves_no_room_for_the_reward():
    only = Earned((Only(PLANTS), Products(1)))
    assert "cannot_hold" in keys(offer(UnitPrice(100), earned=only, on=SEEDS))
    assert "cannot_hold" not in keys(offer(UnitPrice(100), earned=only, on=PLANTS))


def test_what_is_at_stake_is_what_is_given_away():
    found = dict(snags_of(scene(offer(AmountOff(500)))))
    snag = found["no_minimum_spend"]
    small = [one for one in CARTS if sum(GOODS[sku].list_price for sku, _ in one.units) < 2000]
    orders = scene(offer(AmountOff(500))).orders
    assert snag.orders == pytest.approx(orders * len(small) / len(CARTS))
    assert snag.stake == pytest.approx(500 * snag.orders)
    assert [one.stake or 0 for one in found.values()] == sorted(
        (one.stake or 0 for one in found.values()), reverse=True
    )
