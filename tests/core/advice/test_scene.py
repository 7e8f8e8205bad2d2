"""What snags look at: the plan on the carts to expect, with all codes and with those that are held."""

from dataclasses import replace
from unittest.mock import patch

import numpy as np
import pytest

from tests.core.advice.test_all_snags import CARTS, SHOP, code, offer, scene, spend
from tests.worlds import make_world
from yellow_abacus.core.advice import scene as scene_of
from yellow_abacus.core.advice.scene import whole, without
from yellow_abacus.core.forecast.plan import Dropped
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import AmountOff, PercentOff, Response, Step

TENTH, PLANTS = PercentOff(1000), Scope(skus=("PLANT",))


def test_orders_are_those_of_the_plans_days():
    found = scene(offer(TENTH))
    assert found.orders == pytest.approx(28 * len(CARTS) * 10 / 30)
    assert found.orders_by_cart.sum() == pytest.approx(found.orders)
    assert found.orders_by_row.sum() == pytest.approx(found.orders)


def test_codes_are_held_by_as_many_as_it_is_said():
    half = offer(TENTH, given=code("FRONDLET"), response=Response(uptake_bp=5000), on=PLANTS)
    found = scene(half)
    given, orders = found.given_on(0, np.ones(len(found.rows), dtype=np.bool_))
    everybody = scene(replace(half, response=Response()))
    all_given, _ = everybody.given_on(0, np.ones(len(everybody.rows), dtype=np.bool_))
    assert given == pytest.approx(all_given / 2)
    plants = sum(any(sku == "PLANT" for sku, _ in one.units) for one in CARTS) / len(CARTS)
    assert orders == pytest.approx(found.orders * (1 - plants / 2))


def test_what_is_kept_is_held_against_today():
    found = scene(offer(AmountOff(700)))
    assert (found.kept <= found.kept_today).all()
    turns = found.turns_to_loss
    assert turns.any()
    assert (found.kept[turns] < 0).all()
    assert (found.kept_today[turns] >= 0).all()
    assert found.carts_of(turns).sum() <= turns.sum()


def test_offers_alone_and_those_of_today():
    one, two = offer(TENTH, name="one"), offer(AmountOff(100), name="two")
    found = scene(one, two)
    assert found.alone(1).goods_off[0].sum() == 0
    assert found.alone(1) is found.alone(1)
    runs = scene(two, plan=replace(found.plan, offers=(two,), running=(one,), dropped=(Dropped(one),)))
    assert [each.id for each in runs.both_sides] == ["two", "one"]
    assert runs.bare.goods_off[1].sum() > 0
    assert runs.took_effect.shape[0] == 1


def test_a_large_mix_is_looked_at_by_a_part_that_stands_for_it():
    with patch.object(scene_of, "LOOKED_AT", 40):
        part = scene(offer(TENTH))
        assert part.batch.axes.carts <= 40
        assert part.orders_by_cart.sum() == pytest.approx(part.orders)


def test_goods_that_are_ordered_and_how_they_are_named():
    found = scene(offer(TENTH))
    skus = found.goods.skus
    ordered = [skus[at] for at in found.sold_in(np.ones(len(skus), dtype=np.bool_))]
    assert ordered[0] == "SEED"
    with_card = np.array([sku == "CARD" for sku in skus])
    assert found.orders_with(with_card) == pytest.approx(found.orders / len(CARTS))
    assert found.named([skus.index(sku) for sku in ("SEED", "PLANT")]) == "Seed, Plant"
    assert found.named(list(range(len(skus)))).endswith(f" and {len(skus) - 3} more")
    assert found.most_off[skus.index("THIN")] < 0.15 < found.most_off[skus.index("PLANT")]


def test_lines_lose_what_offers_take_off_them():
    found = scene(offer(TENTH, on=PLANTS))
    lines = found.batch.lines_in(PLANTS)
    off, orders = found.off_lines(0, lines)
    assert off == pytest.approx(float((found.orders_by_line * 0.1 * found.batch.worth_by_line)[lines].sum()))
    assert orders == pytest.approx(found.orders_with(np.array([sku == "PLANT" for sku in found.goods.skus])))
    assert found.off_lines(0, ~lines)[0] == 0


def test_thresholds_and_scopes():
    found = scene(
        offer(TENTH, earned=spend(2000), steps=(Step(3000, (PercentOff(2000),)),)), offer(TENTH, name="two")
    )
    assert (found.thresholds(0), found.thresholds(1)) == ([2000, 3000], [])
    assert whole(Scope())
    assert not whole(PLANTS)
    assert without(without(PLANTS, ["SEED"]), ["SEED", "SOIL"]) == Scope(
        skus=("PLANT",), except_skus=("SEED", "SOIL")
    )


def test_no_carts_are_no_orders():
    nobody = scene(offer(TENTH), world=make_world(SHOP, [], []))
    assert nobody.orders == 0
