"""The core against the slow pricer, and what is always true of a priced cart."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings

from tests import slow, slow_costs
from tests.core.single_carts import assert_alike, costed_once, priced_once
from tests.worlds import PLAIN, World, make_world, plain_shop, worlds
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import INDEX, ROWS
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import Rows, by_payment, rows_of

many = settings(max_examples=150)


def assert_same_cents(world: World) -> None:
    """Every way of every cart, by its option of delivery and its payment, to the cent; the shares add up to 1."""
    paid = by_payment(world.shop, world.batch, world.offers)
    rows = rows_of(world.shop, paid.batch, world.offers)
    cart_by_row = paid.cart[rows.cart_by_row]
    share = np.bincount(cart_by_row, weights=rows.share_by_row * paid.share[rows.cart_by_row])
    np.testing.assert_allclose(share, 1)
    for apply in ("best", "first"):
        priced = price(world.shop, rows, world.offers, apply)
        traced = price(world.shop, rows.apart(), world.offers, apply, traced=True)
        assert_alike(priced, traced)
        _assert_same(world, cart_by_row, rows, traced, apply)


def _paid(world: World, rows: Rows, row: int, cart: slow.SlowCart) -> slow.SlowCart:
    """The cart as its row says it is paid."""
    known = rows.batch.facts.payment
    number = known.number_by_cart[rows.cart_by_row[row]]
    return cart if cart.payment or number == UNKNOWN else replace(cart, payment=known.names[number])


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


def _assert_same(world: World, cart_by_row: np.ndarray, rows: Rows, priced: Priced, apply: str) -> None:
    costed, axes = cost(world.shop, rows, priced), rows.apart().batch.axes
    for row, cart in enumerate(cart_by_row):
        option = _option(world, rows.option_by_row[row], cart)
        told = _paid(world, rows, row, world.slow_carts[cart])
        expected = slow.price(world.slow_shop, told, world.slow_offers, apply, option=option)
        first, last = axes.first_line_by_cart[row : row + 2]
        assert [line.net for line in expected.lines] == priced.by_line.net[first:last].tolist()
        assert expected.charge == priced.charge_by_row[row]
        assert expected.total == priced.total[row]
        assert (expected.goods_tax, expected.delivery_tax, expected.surcharge, expected.surcharge_tax) == (
            priced.goods_tax[row],
            priced.delivery_tax[row],
            priced.surcharge_by_row[row],
            priced.surcharge_tax[row],
        )
        assert float(expected.chosen) == pytest.approx(priced.chosen_by_row[row])
        for at in range(len(world.offers)):
            assert expected.goods_off.get(at, 0) == priced.goods_off[at, row]
            assert expected.delivery_off.get(at, 0) == priced.delivery_off[at, row]
            units = sum(many[row] for gift, many in zip(priced.gifts, priced.put_in, strict=True) if gift.offer == at)
            assert sum(many for _, many, _ in expected.put_in.get(at, [])) == units
        expected_rows = slow_costs.ledger(world.slow_shop, expected, told)
        np.testing.assert_allclose([expected_rows[one.key] for one in ROWS], costed[:, row], atol=1e-6)


@many
@given(worlds())
def test_core_and_slow_pricer_agree_to_the_cent(world):
    assert_same_cents(world)


@many
@given(worlds())
def test_no_line_is_below_zero_and_no_share_exceeds_its_base(world):
    priced = priced_once(world)
    assert (priced.by_line.net >= 0).all()
    assert (priced.by_line.net <= world.batch.worth_by_line).all()
    assert (priced.charge_by_row >= 0).all()
    asked = sum(gift.asked * units for gift, units in zip(priced.gifts, priced.put_in, strict=True))
    off = world.batch.worth_by_cart + asked - priced.goods_by_row
    assert (priced.goods_off.sum(axis=0) == off).all()
    assert (priced.charge_before_offers - priced.charge_by_row == priced.delivery_off.sum(axis=0)).all()


@many
@given(worlds())
def test_order_of_carts_and_how_lines_are_split_change_nothing(world):
    turned = []
    for cart in reversed(world.slow_carts):
        turned.append(replace(cart, units=cart.units[::-1]))
    other = make_world(world.slow_shop, turned, world.slow_offers)
    one, two = (priced_once(each) for each in (world, other))
    assert one.total.tolist() == two.total.tolist()[::-1]
    assert one.goods_off.tolist() == two.goods_off[:, ::-1].tolist()
    assert one.by_line.net.sum() == two.by_line.net.sum()


@settings(max_examples=50)  # each of many carts
@given(worlds())
def test_a_batch_of_one_gives_the_same_cents(world):
    together = priced_once(world)
    costed = costed_once(world)
    for at, cart in enumerate(world.slow_carts):
        alone = make_world(world.slow_shop, [cart], world.slow_offers)
        priced = priced_once(alone)
        assert priced.total[0] == together.total[at]
        assert (costed_once(alone)[:, 0] == costed[:, at]).all()


def test_two_codes_on_one_order_keep_the_one_better_for_each_shopper():
    shop = plain_shop({"A": slow.SlowGood(1000, None, 100.0, {"pots"})}, far=(500,), home=(300,))
    offers = [
        PLAIN | {"gives": [{"kind": "percent_off", "percent_bp": 1000}], "code": "FERN"},
        PLAIN | {"gives": [{"kind": "amount_off", "amount": 150}], "code": "MOSS"},
    ]
    carts = [slow.SlowCart([("A", 0)], "home"), slow.SlowCart([("A", 0)] * 2, "home")]
    world = make_world(shop, carts, offers)
    priced: Priced = priced_once(world)
    assert priced.goods_off.tolist() == [[0, 200], [150, 0]]


def test_a_supplier_pays_a_share_of_what_comes_off_and_an_amount_a_unit():
    goods = {
        "SEED": slow.SlowGood(400, None, 100.0, {"All"}, 20, "Seeds"),
        "POT": slow.SlowGood(900, None, 300.0, {"All"}, 20, "Pot"),
    }
    shop = plain_shop(goods, home=(490, None, 450), far=(990, None, 900))
    carts = [slow.SlowCart([("SEED", 400)] * 3 + [("POT", 900)], "home")]
    off = {"kind": "percent_off", "percent_bp": 1000, "with_delivery": False}
    percent = {**PLAIN, "gives": [off], "on": {"skus": ["SEED"]}}
    gift = {**PLAIN, "gives": [{"kind": "put_in", "skus": ["POT"], "quantity": 2, "amount": 100}]}
    both, seeds, pots = {**percent, "on": {}}, {"skus": ["SEED"]}, {"skus": ["POT"]}
    for told, of, pays in (
        (percent, {}, 120 * 0.5 + 3 * 7),
        (both, {}, 210 * 0.5 + 4 * 7),
        (both, seeds, 120 * 0.5 + 3 * 7),
        (percent, pots, 0),
        (gift, {}, 2 * 800 * 0.5 + 2 * 7),
        (gift, pots, 2 * 800 * 0.5 + 2 * 7),
        (gift, seeds, 0),
    ):
        funded = [{"share_bp": share, "each": each, "of": of} for share, each in ((0, 0), (5000, 7))]
        worlds = [make_world(shop, carts, [told | {"funded": one}]) for one in funded]
        without, rows = (costed_once(world)[:, 0] for world in worlds)
        assert rows[INDEX["funding"]] == pytest.approx(pays)
        assert rows.sum() - without.sum() == pytest.approx(pays)
