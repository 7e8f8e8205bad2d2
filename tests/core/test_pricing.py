"""The core against the slow pricer, and what is always true of a priced cart."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings

from tests import slow, slow_costs
from tests.worlds import PLAIN, World, make_world, plain_shop, worlds
from yellow_abacus.core.branches import Branch, branches
from yellow_abacus.core.costing import cost
from yellow_abacus.core.facts import UNKNOWN
from yellow_abacus.core.ledger import ROWS
from yellow_abacus.core.priced import Priced
from yellow_abacus.core.pricing import price, price_each

many = settings(max_examples=250)


def assert_same_cents(world: World) -> None:
    """Every branch of every cart, by the option of delivery it has there, to the cent; the shares add up to 1."""
    ways = branches(world.shop, world.batch, world.offers)
    np.testing.assert_allclose(sum(way.share_by_cart for way in ways), 1)
    for apply in ("best", "first"):
        for way, priced in zip(ways, price_each(world.shop, world.batch, ways, apply), strict=True):
            _assert_same(world, way, priced, apply)


def paying(cart: slow.SlowCart, method: dict | None) -> slow.SlowCart:
    """The cart paid by this method where it is not known how it is paid."""
    return cart if cart.payment or method is None else replace(cart, payment=method["name"])


def _option(world: World, number: int, at: int) -> dict | None:
    """The option the core numbers so, after checking how likely the cart `at` is to go by it."""
    cart = world.slow_carts[at]
    if number == UNKNOWN:
        assert world.slow_shop.zones[cart.zone] == []
        return None
    name = world.shop.delivery.options[number][1].name
    (option,) = [one for one in world.slow_shop.zones[cart.zone] if one["name"] == name]
    likely = {one["name"]: chance for chance, one in slow_costs.options_of(world.slow_shop, cart)}
    assert float(likely.get(name, 0)) == pytest.approx(world.shop.delivery.shares(world.batch)[number, at])
    return option


def _assert_same(world: World, way: Branch, priced: Priced, apply: str) -> None:
    rows = cost(world.shop, world.batch, priced, way.payment)
    for cart, told in enumerate(world.slow_carts):
        option = _option(world, way.option_by_cart[cart], cart)
        method = next((one for one in world.slow_shop.payments if one["name"] == way.payment), None)
        told = paying(told, method)
        expected = slow.price(world.slow_shop, told, world.slow_offers, apply, option=option)
        first, last = world.batch.axes.first_line_by_cart[cart : cart + 2]
        assert [line.net for line in expected.lines] == priced.net_by_line[first:last].tolist()
        assert expected.charge == priced.charge_by_cart[cart]
        assert expected.total == priced.total[cart]
        assert (expected.goods_tax, expected.delivery_tax, expected.surcharge, expected.surcharge_tax) == (
            priced.goods_tax[cart],
            priced.delivery_tax[cart],
            priced.surcharge_by_cart[cart],
            priced.surcharge_tax[cart],
        )
        assert float(expected.chosen) == pytest.approx(priced.chosen_by_cart[cart])
        for at in range(len(world.offers)):
            assert expected.goods_off.get(at, 0) == priced.goods_off[at, cart]
            assert expected.delivery_off.get(at, 0) == priced.delivery_off[at, cart]
            units = sum(
                many[cart] for gift, many in zip(priced.gifts, priced.put_in, strict=True) if gift.offer == at
            )
            assert sum(many for _, many, _ in expected.put_in.get(at, [])) == units
        expected_rows = slow_costs.ledger(world.slow_shop, expected, told)
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
    shop = plain_shop({"A": slow.SlowGood(1000, None, 100.0, {"pots"})}, far=(500,), home=(300,))
    offers = [
        PLAIN | {"gives": [{"kind": "percent_off", "percent_bp": 1000}], "code": "FERN"},
        PLAIN | {"gives": [{"kind": "amount_off", "amount": 150}], "code": "MOSS"},
    ]
    carts = [slow.SlowCart([("A", 0)], "home"), slow.SlowCart([("A", 0)] * 2, "home")]
    world = make_world(shop, carts, offers)
    priced: Priced = price(world.shop, world.batch, world.offers)
    assert priced.goods_off.tolist() == [[0, 200], [150, 0]]
