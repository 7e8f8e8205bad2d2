"""Sums against plain sums of priced rows, and a changed number against all priced anew."""

from dataclasses import replace
from datetime import date
from unittest.mock import patch

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.pricing.test_why import SHOP
from tests.worlds import World, make_offer, make_world, slow_offers, unless_too_much_is_put_in, worlds
from yellow_abacus.core.carts import blocks
from yellow_abacus.core.carts.carts import CartBatch, Touched, make_batch
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.forecast import known_sets
from yellow_abacus.core.forecast import variants as sets_together
from yellow_abacus.core.forecast.mix import Mix, alike
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.sums import AT, LEDGER, Sums
from yellow_abacus.core.offers import Offer, PutIn
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.rows import rows_of

some = settings(max_examples=60)


def outlook_of(world: World) -> Outlook:
    return Outlook(world.shop, alike(world.shop, world.batch))


def plain_sums(world: World, mix: Mix, offers: tuple[Offer, ...], apply: Apply) -> dict[str, np.ndarray]:
    """Every row priced with every offer, reached or not, and added up one by one."""
    mix = mix.branched(offers)
    rows = rows_of(world.shop, mix.batch, offers)
    rows, of_row = rows.apart(), rows.cart_by_row
    priced = price(world.shop, rows, offers, apply, traced=True)
    costed, took_effect = cost(world.shop, rows, priced), priced.took_effect
    ledger, reached = np.zeros(len(costed)), np.zeros(len(offers))
    kept, given = np.zeros_like(reached), np.zeros_like(reached)
    zone = np.zeros(len(world.shop.zones))
    for row, cart in enumerate(of_row):
        weight = rows.share_by_row[row] * mix.share_by_cart[cart]
        ledger += weight * costed[:, row]
        reached += weight * took_effect[:, row]
        kept += weight * costed[:, row].sum() * took_effect[:, row]
        given += weight * (priced.goods_off + priced.delivery_off + priced.saved)[:, row]
        zone[mix.batch.zone_by_cart[cart]] += weight * costed[:, row].sum()
    return {"ledger": ledger, "reached": reached, "kept": kept, "given": given, "zone": zone}


def assert_same(found: Sums, plain: dict[str, np.ndarray]) -> None:
    found = found.weighed(np.ones(len(found.groups)))
    told = {
        "ledger": found.total[LEDGER],
        "reached": found.reached[:, AT["orders"]],
        "kept": found.kept_if_reached,
        "given": found.given,
        "zone": found.by_type["zone"].total[:, LEDGER].sum(axis=1),
    }
    for name, figures in plain.items():
        np.testing.assert_allclose(told[name], figures, rtol=1e-9, atol=1e-6, err_msg=name)


@some
@given(worlds(most_carts=8), st.sampled_from(["best", "first"]))
@unless_too_much_is_put_in
def test_sums_are_plain_sums_of_priced_rows(world, apply):
    outlook = outlook_of(world)
    assert_same(outlook.sums(outlook.mix, world.offers, apply), plain_sums(world, outlook.mix, world.offers, apply))


@some
@given(worlds(most_carts=8), st.lists(slow_offers(), min_size=1, max_size=3), st.data())
@unless_too_much_is_put_in
def test_a_changed_added_or_left_out_offer_comes_to_what_all_priced_anew_comes_to(world, others, data):
    outlook, offers = outlook_of(world), world.offers
    others = [make_offer(told | {"never_with": [], "yields_to": []}, 0) for told in others]
    with patch.object(known_sets, "MOSTLY", 1.1):  # or few carts would all be priced anew
        for other in others:
            at = data.draw(st.integers(0, len(offers)))
            left_out = data.draw(st.booleans())
            changed = replace(other, id=f"other-{at}")
            offers = (*offers[:at], *(() if left_out else (changed,)), *offers[at + data.draw(st.integers(0, 1)) :])
            for _ in range(2):  # the second time from what was kept
                assert_same(outlook.sums(outlook.mix, offers), plain_sums(world, outlook.mix, offers, "best"))


@some
@given(worlds(most_carts=8), st.lists(slow_offers(), min_size=1, max_size=4), st.sampled_from([1, 10_000]), st.data())
@unless_too_much_is_put_in
def test_sets_found_together_come_to_what_each_comes_to_by_itself(world, others, lines, data):
    outlook, at = outlook_of(world), data.draw(st.integers(0, len(world.offers)))
    variants = [replace(make_offer(told | {"never_with": [], "yields_to": []}, at), id="variant") for told in others]
    many = [(*world.offers[:at], one, *world.offers[at + 1 :]) for one in variants]
    with patch.object(sets_together, "LINES_TOGETHER", lines):
        outlook.find_together(outlook.mix, many)
    for offers in many:
        assert_same(outlook.sums(outlook.mix, offers), plain_sums(world, outlook.mix, offers, "best"))


def with_another_price(batch: CartBatch, sku: int, price: int) -> tuple[CartBatch, Touched]:
    """The batch where a SKU costs something else."""
    goods = replace(
        batch.goods, list_price=np.where(np.arange(len(batch.goods.skus)) == sku, price, batch.goods.list_price)
    )
    product = goods.product_number
    carts = np.unique(batch.axes.cart_by_line[(product == product[sku])[batch.sku_by_line]])
    return batch.with_goods(goods, carts), Touched(frozenset([goods.skus[sku]]), carts)


@some
@given(worlds(most_carts=8), st.integers(0, 3000), st.data())
@unless_too_much_is_put_in
def test_carts_with_another_price_are_as_if_all_were_made_anew(world, price, data):
    sku = data.draw(st.integers(0, len(world.batch.goods.skus) - 1))
    found, _ = with_another_price(world.batch, sku, price)
    raw = found.raw
    anew = make_batch(found.goods, found.zone_by_cart, raw.cart, raw.sku, raw.quantity, raw.asked, found.facts)
    assert found.axes.first_line_by_cart.tolist() == anew.axes.first_line_by_cart.tolist()
    for name in ("sku_by_line", "quantity_by_line", "standing_by_line", "reduced_by_line"):
        assert getattr(found, name).tolist() == getattr(anew, name).tolist()


@some
@given(worlds(most_carts=8), slow_offers(), st.lists(st.integers(0, 3000), min_size=1, max_size=3), st.data())
@unless_too_much_is_put_in
def test_after_a_price_changed_sums_are_those_of_all_priced_anew(world, other, prices, data):
    outlook = outlook_of(world)
    offers = (*world.offers, make_offer(other | {"never_with": [], "yields_to": []}, len(world.offers)))
    with patch.object(known_sets, "MOSTLY", 1.1):  # or few carts would all be priced anew
        outlook.sums(outlook.mix, world.offers)
        for price in prices:
            sku = data.draw(st.integers(0, len(world.batch.goods.skus) - 1))
            batch, touched = with_another_price(world.batch, sku, price)
            world, former = replace(world, batch=batch), outlook.before(touched)
            outlook = Outlook(world.shop, alike(world.shop, batch), former)
            for some_offers in data.draw(st.sampled_from([(), (world.offers,), (offers,), (world.offers, offers)])):
                sums = outlook.sums(outlook.mix, some_offers)
                assert_same(sums, plain_sums(world, outlook.mix, some_offers, "best"))
                assert_same(outlook.sums(outlook.mix, ()), plain_sums(world, outlook.mix, (), "best"))


def test_the_price_of_what_is_put_in_instead_matters_to_carts_that_hold_none_of_it():
    """The seed has run out, so carts of pots get a tool, which then costs 10.00 more: they save more."""
    world = make_world(SHOP, [slow.SlowCart([(sku, 1)], "home") for sku in ("POT", "TOOL")], [])
    goods = world.batch.goods
    goods = replace(goods, stock=np.array([0.0 if sku == "SEED" else np.nan for sku in goods.skus]))
    world = replace(world, batch=replace(world.batch, goods=goods))
    gift = Offer((PutIn(("SEED",), substitute="TOOL"),), id="gift")
    with patch.object(known_sets, "MOSTLY", 1.1):
        outlook = outlook_of(world)
        before = outlook.sums(outlook.mix, (gift,)).given.sum()
        batch, touched = with_another_price(world.batch, goods.skus.index("TOOL"), 2500)
        outlook = Outlook(world.shop, alike(world.shop, batch), outlook.before(touched))
        assert outlook.sums(outlook.mix, (gift,)).given.sum() == pytest.approx(before + 1000)


@some
@given(worlds(most_carts=6))
@unless_too_much_is_put_in
def test_bare_carts_add_up_to_their_sums(world):
    outlook = outlook_of(world)
    bare = outlook.on_day(date(2026, 3, 1))
    kept = outlook.sums(bare.mix, ()).profit.sum()
    assert bare.profit / max(world.batch.axes.carts, 1) == pytest.approx(kept, rel=1e-9, abs=1e-6)
    np.testing.assert_allclose(bare.figures.by_cart[AT["orders"]], 1)


@some
@given(worlds(most_carts=8), st.integers(1, 9))
@unless_too_much_is_put_in
def test_blocks_of_carts_add_up_to_the_whole(world, lines):
    whole, cut = outlook_of(world), outlook_of(world)
    with patch.object(blocks, "LINES_A_BLOCK", lines):
        found = cut.sums(cut.mix, world.offers)
    np.testing.assert_allclose(found.total, whole.sums(whole.mix, world.offers).total, rtol=1e-9, atol=1e-6)


def test_an_outlook_of_no_carts_comes_to_nothing():
    outlook = outlook_of(make_world(SHOP, [], []))
    assert outlook.sums(outlook.mix, ()).profit.sum() == 0


def test_carts_of_a_shop_without_zones_are_summed_like_any_other():
    world = make_world(SHOP, [], [])
    shop = replace(world.shop, zones=())
    batch = make_batch(
        world.batch.goods, *(np.array(one, dtype=np.int64) for one in ([0, 0], [0, 1], [0, 0], [1, 2], [0, 0]))
    )
    outlook = Outlook(shop, alike(shop, batch))
    found = outlook.sums(outlook.mix, ())
    assert found.total[:, AT["orders"]].sum() == pytest.approx(1.0)
    assert found.by_type["zone"].total.shape[1] == 0
