"""The core against the slow pricer, and what is always true of a priced cart."""

from dataclasses import replace

import numpy as np
from hypothesis import given, settings

from tests import slow
from tests.worlds import PLAIN, World, make_world, worlds
from yellow_abacus.core.costing import cost
from yellow_abacus.core.ledger import ROWS
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.pricing import price

many = settings(max_examples=250)


def assert_same_cents(world: World) -> None:
    for apply in ("best", "first"):
        priced = price(world.shop, world.batch, world.offers, apply)
        _assert_same(world, priced, apply)


def _assert_same(world: World, priced: Priced, apply: str) -> None:
    rows = cost(world.shop, world.batch, priced)
    for cart, told in enumerate(world.slow_carts):
        expected = slow.price(world.slow_shop, told, world.slow_offers, apply)
        first, last = world.batch.axes.first_line_by_cart[cart : cart + 2]
        assert [line.net for line in expected.lines] == priced.net_by_line[first:last].tolist()
        assert expected.charge == priced.charge_by_cart[cart]
        assert expected.total == priced.total[cart]
        assert (expected.goods_tax, expected.delivery_tax) == (
            priced.goods_tax[cart],
            priced.delivery_tax[cart],
        )
        for at in range(len(world.offers)):
            assert expected.goods_off.get(at, 0) == priced.goods_off[at, cart]
            assert expected.delivery_off.get(at, 0) == priced.delivery_off[at, cart]
            units = sum(
                many[cart] for gift, many in zip(priced.gifts, priced.put_in, strict=True) if gift.offer == at
            )
            assert sum(many for _, many, _ in expected.put_in.get(at, [])) == units
        expected_rows = slow.ledger(world.slow_shop, expected, told.zone)
        np.testing.assert_allclose([expected_rows[row.key] for row in ROWS], rows[:, cart], atol=1e-6)


@many
@given(worlds())
def test_core_and_slow_pricer_agree_to_the_cent(world):
    assert_same_cents(world)


@many
@given(worlds())
def test_no_line_is_below_zero_and_no_share_exceeds_its_base(world):
    priced = price(world.shop, world.batch, world.offers)
    assert (priced.net_by_line >= 0).all()
    assert (priced.net_by_line <= world.batch.worth_by_line).all()
    assert (priced.charge_by_cart >= 0).all()
    asked = sum(gift.asked * units for gift, units in zip(priced.gifts, priced.put_in, strict=True))
    off = world.batch.worth_by_cart + asked - priced.goods_by_cart
    assert (priced.goods_off.sum(axis=0) == off).all()
    assert (priced.charge_before_offers - priced.charge_by_cart == priced.delivery_off.sum(axis=0)).all()


@many
@given(worlds())
def test_order_of_carts_and_how_lines_are_split_change_nothing(world):
    turned = []
    for cart in reversed(world.slow_carts):
        turned.append(replace(cart, units=cart.units[::-1]))
    other = make_world(world.slow_shop, turned, world.slow_offers)
    one, two = (price(each.shop, each.batch, each.offers) for each in (world, other))
    assert one.total.tolist() == two.total.tolist()[::-1]
    assert one.goods_off.tolist() == two.goods_off[:, ::-1].tolist()
    assert one.net_by_line.sum() == two.net_by_line.sum()


@many
@given(worlds())
def test_a_batch_of_one_gives_the_same_cents(world):
    together = price(world.shop, world.batch, world.offers)
    rows = cost(world.shop, world.batch, together)
    for at, cart in enumerate(world.slow_carts):
        alone = make_world(world.slow_shop, [cart], world.slow_offers)
        priced = price(alone.shop, alone.batch, alone.offers)
        assert priced.total[0] == together.total[at]
        assert (cost(alone.shop, alone.batch, priced)[:, 0] == rows[:, at]).all()


def test_two_codes_on_one_order_keep_the_one_better_for_each_shopper():
    shop = slow.SlowShop(
        goods={"A": slow.SlowGood(1000, None, 100.0, {"pots"})},
        zones={"far": (500, None, 0.0), "home": (300, None, 0.0)},
        with_tax=True,
        tax_bp=0,
        payment_bp=0,
        payment_fixed=0,
        picking=0,
    )
    offers = [
        PLAIN | {"gives": [{"kind": "percent_off", "percent_bp": 1000}], "code": "FERN"},
        PLAIN | {"gives": [{"kind": "amount_off", "amount": 150}], "code": "MOSS"},
    ]
    carts = [slow.SlowCart([("A", 0)], "home"), slow.SlowCart([("A", 0)] * 2, "home")]
    world = make_world(shop, carts, offers)
    priced: Priced = price(world.shop, world.batch, world.offers)
    assert priced.goods_off.tolist() == [[0, 200], [150, 0]]
