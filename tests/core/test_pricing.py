"""The core against the slow pricer, and what is always true of a priced cart."""

import numpy as np
from hypothesis import HealthCheck, given, settings

from tests import slow
from tests.worlds import World, make_world, worlds
from yellow_abacus.core.costing import cost
from yellow_abacus.core.ledger import ROWS
from yellow_abacus.core.pricing import Priced, price

many = settings(max_examples=250, deadline=None, suppress_health_check=[HealthCheck.too_slow])


def assert_same_cents(world: World) -> None:
    priced = price(world.shop, world.batch, world.offers)
    rows = cost(world.shop, world.batch, priced)
    for cart, (units, zone) in enumerate(world.slow_carts):
        expected = slow.price(world.slow_shop, units, zone, world.slow_offers)
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
        expected_rows = slow.ledger(world.slow_shop, expected, zone)
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
    off = world.batch.worth_by_cart - priced.goods_by_cart
    assert (priced.goods_off.sum(axis=0) == off).all()
    assert (priced.charge_before_offers - priced.charge_by_cart == priced.delivery_off.sum(axis=0)).all()


@many
@given(worlds())
def test_order_of_carts_and_how_lines_are_split_change_nothing(world):
    turned = []
    for units, zone in reversed(world.slow_carts):
        turned.append(([(sku, 1, paid) for sku, paid in reversed(units)], zone))
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
    for at, (units, zone) in enumerate(world.slow_carts):
        alone = make_world(world.slow_shop, [([(s, 1, p) for s, p in units], zone)], world.slow_offers)
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
    limits = {"times": None, "units": None, "units_from": "cheapest", "amount": None}
    base = {"conditions": [], "repeat": "once", "need": "all", "on": {}, "limits": limits}
    offers = [
        base | {"gives": [{"kind": "percent_off", "percent_bp": 1000}], "code": "FERN"},
        base | {"gives": [{"kind": "amount_off", "amount": 150}], "code": "MOSS"},
    ]
    world = make_world(shop, [([("A", 1, 0)], "home"), ([("A", 2, 0)], "home")], offers)
    priced: Priced = price(world.shop, world.batch, world.offers)
    assert priced.goods_off.tolist() == [[0, 200], [150, 0]]
