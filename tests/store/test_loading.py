"""What changed since a shop was loaded is read, and nothing else; it comes to what a cold load comes to."""

import gc
import weakref
from dataclasses import fields, replace
from datetime import date

import numpy as np
import pytest
from sqlalchemy import delete

from yellow_abacus.changing_goods import EVERY_FIELD, put_good
from yellow_abacus.core.forecast.expected import MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.known_types import Centre, KnownType, KnownTypes
from yellow_abacus.core.goods.kits import KitParts
from yellow_abacus.core.goods.records import GoodRecord, OrderLineRecord, OrderRecord
from yellow_abacus.core.offers import PercentOff, Terms
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.core.shop.tax import TaxClass, Taxes
from yellow_abacus.store import loading
from yellow_abacus.store.cart_types import save_types
from yellow_abacus.store.goods import all_goods, save_goods
from yellow_abacus.store.history import changed_since
from yellow_abacus.store.loading import LoadedShop, load
from yellow_abacus.store.mixes import save_mix
from yellow_abacus.store.models import GoodRow, PastOfferRow, RunningOfferRow
from yellow_abacus.store.orders import save_orders
from yellow_abacus.store.settings import save_settings, save_surcharges, save_tariffs, save_zones, taxes_as_kept
from yellow_abacus.store.told_offers import ToldOffer, save_told


@pytest.fixture
def small(empty_shop):
    goods = [GoodRecord("POT", list_price=2000), GoodRecord("SEED", list_price=300, purchase_cost=40.0)]
    lines = (OrderLineRecord("POT", 1, None), OrderLineRecord("SEED", 3, None))
    with empty_shop.changing("Goods and orders") as session:
        save_goods(session, goods, EVERY_FIELD)
        save_orders(session, [OrderRecord(f"N{at}", date_of(at), lines) for at in range(4)])
    return empty_shop


def date_of(at: int):
    return np.datetime64(f"2026-03-0{at + 1}T12:00").astype(object)


def loaded(shop_file, held: LoadedShop | None = None) -> LoadedShop:
    with shop_file.reading() as session:
        return load(session, held)


def assert_alike(one: LoadedShop, other: LoadedShop) -> None:
    assert one.table.columns == other.table.columns
    assert one.good_ids.tolist() == other.good_ids.tolist()
    for name in ("sku_by_line", "quantity_by_line", "standing_by_line", "zone_by_cart"):
        assert getattr(one.batch, name).tolist() == getattr(other.batch, name).tolist()
    for field in fields(one.batch.goods):
        mine, theirs = getattr(one.batch.goods, field.name), getattr(other.batch.goods, field.name)
        if isinstance(mine, np.ndarray):
            np.testing.assert_array_equal(mine, theirs)
        elif isinstance(mine, KitParts):
            of_each = ({kit: parts.parts_of(kit) for kit in parts.kit.tolist()} for parts in (mine, theirs))
            assert next(of_each) == next(of_each)
        elif field.name != "prices":
            assert mine == theirs


def price_of(shop_file, sku: str, price: int) -> None:
    with shop_file.reading() as session:
        record = next(one for one in all_goods(session) if one.sku == sku)
    put_good(shop_file, replace(record, list_price=price))


CHANGES = [
    lambda shop: price_of(shop, "POT", 1900),
    lambda shop: put_good(shop, GoodRecord("AXE", list_price=500)),
    lambda shop: put_good(shop, GoodRecord("SET", list_price=2500, kit=(("POT", 1), ("SEED", 2)))),
    lambda shop: shop.undo(),
    lambda shop: shop.redo(),
]


def test_the_round_amount_goes_by_what_orders_ask_else_by_list_prices(small):
    assert loaded(small).round_amount == 50  # a sixtieth of 29.00 is 0.48
    small.undo()
    assert loaded(small).round_amount == 100  # nothing is known
    with small.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=2000), GoodRecord("SEED", list_price=300)], EVERY_FIELD)
    assert loaded(small).round_amount == 100  # of three times 11.50


def test_each_change_of_goods_comes_to_what_a_cold_load_comes_to(small, monkeypatch):
    held = loaded(small)
    for change in (*CHANGES, CHANGES[3], CHANGES[3], CHANGES[0]):
        change(small)
        cold = loaded(small)
        with monkeypatch.context() as no_orders:
            no_orders.setattr(loading, "loaded_orders", lambda *_: pytest.fail("orders were read again"))
            held = loaded(small, held)
        assert_alike(held, cold)


def told(table, *offers: ToldOffer):
    return lambda session: save_told(session, table, offers)


SUMMER = ToldOffer("summer", "Summer", "", Terms(gives=(PercentOff(1000),)))
PARCEL = ("Parcel", {"steps": [{"upto": None, "amount": 400}]})
WRAP = ("Wrap", {"asks": {"kind": "amount", "amount": 350}, "chosen_bp": 700})
SET = {
    "settings": lambda session: save_settings(session, {"picking_per_order": 90.0}),
    "taxes": lambda session: save_settings(session, taxes_as_kept(Taxes((TaxClass("all", 700),)))),
    "payments": lambda session: save_settings(session, {"payments": [{"name": "card", "share_bp": 140}]}),
    "zones": lambda session: save_zones(session, [{"name": "Home", "places": ["Hill"], "options": []}]),
    "tariffs": lambda session: save_tariffs(session, [PARCEL]),
    "surcharges": lambda session: save_surcharges(session, [WRAP]),
    "mixes": lambda session: save_mix(session, "Busy", MixTerms(orders_a_day=40)),
    "running": told(RunningOfferRow, SUMMER),
    "past": told(PastOfferRow, SUMMER),
    "known": lambda session: save_types(session, KnownTypes((KnownType("Pots", (Centre({"pots": 1.0}, 2, 900),)),))),
}
OF_THE_SHOP = {field.name for field in fields(Shop)}


@pytest.mark.parametrize("what", SET)
def test_what_is_set_is_read_again_where_it_changed_and_only_there(small, what):
    held = loaded(small)
    for change in (lambda: done(small, SET[what]), small.undo, small.redo):
        change()
        before, cold, held = held, loaded(small), loaded(small, held)
        for name in SET:
            was, now, told = (getattr(one.shop if name in OF_THE_SHOP else one, name) for one in (before, held, cold))
            assert now == told
            assert (now != was) == (name == what)
        for name in SET.keys() - {what, "settings", "taxes", "payments"} - OF_THE_SHOP:
            assert getattr(held, name) is getattr(before, name)
        assert (held.shop is before.shop) == (what not in OF_THE_SHOP)


def done(shop_file, change) -> None:
    with shop_file.changing("Set by hand") as session:
        change(session)


def test_a_sku_taken_back_and_told_again_is_another_row(small):
    put_good(small, GoodRecord("AXE", list_price=500))
    held = loaded(small)
    with small.changing("The same SKU in another row") as session:
        session.execute(delete(GoodRow).where(GoodRow.sku == "AXE"))
        save_goods(session, [GoodRecord("AXE", list_price=600)], EVERY_FIELD)
    after = loaded(small, held)
    assert_alike(after, loaded(small))
    assert after.good_ids.tolist() != held.good_ids.tolist()


def test_what_did_not_change_stays_the_same_object(small):
    held = loaded(small)
    with small.changing("Zones") as session:
        save_zones(session, [{"name": "Home", "places": ["Hill"], "options": []}])
    after = loaded(small, held)
    assert after.version > held.version
    assert after.batch is held.batch
    assert after.table is held.table


def test_what_was_touched_is_told(small):
    with small.changing("One order of seeds") as session:
        save_orders(session, [OrderRecord("N9", date_of(8), (OrderLineRecord("SEED", 2, None),))])
    held = loaded(small)
    price_of(small, "POT", 1500)
    touched = loaded(small, held).touched
    assert (touched.skus, touched.carts.tolist()) == ({"POT"}, [0, 1, 2, 3])
    assert held.touched is None
    put_good(small, GoodRecord("AXE", list_price=500))
    assert loaded(small, held).touched is None


def test_what_is_let_go_is_gone_with_its_last_use(small):
    shop = loaded(small)
    forecaster = Forecaster(expect(shop.history))
    forecaster.outlook.on_day(date(2026, 3, 1))
    batch = weakref.ref(shop.batch)
    gc.disable()
    try:
        forecaster.mix.let_go()
        del shop, forecaster
        assert batch() is None
    finally:
        gc.enable()


def test_what_was_read_first_is_not_looked_through_again(small):
    loaded(small)
    assert gc.isenabled()
    frozen = gc.get_freeze_count()
    assert frozen > 0
    loaded(small)
    assert gc.get_freeze_count() <= frozen  # or what is let go since would stay for good


def test_new_orders_are_read(small):
    held = loaded(small)
    with small.changing("Another order") as session:
        save_orders(session, [OrderRecord("N9", date_of(8), (OrderLineRecord("POT", 2, None),))])
    assert_alike(loaded(small, held), loaded(small))
    again = loaded(small, held)
    assert again.batch.axes.carts == 5
    assert again.table is held.table
    assert again.batch.goods is held.batch.goods
    price_of(small, "POT", 1500)
    with small.changing("And another") as session:
        save_orders(session, [OrderRecord("N10", date_of(8), (OrderLineRecord("POT", 1, None),))])
    assert_alike(loaded(small, held), loaded(small))


def test_where_changes_are_not_known_any_more_all_is_read(small):
    held = loaded(small)
    price_of(small, "POT", 1500)
    small.undo()
    price_of(small, "SEED", 250)  # the change taken back is forgotten
    with small.reading() as session:
        assert changed_since(session, held.version, loaded(small).version) is None
    assert_alike(loaded(small, held), loaded(small))


def test_goods_otherwise_reach_the_carts_that_hold_them_alone(small):
    with small.changing("One order of seeds") as session:
        save_orders(session, [OrderRecord("N9", date_of(8), (OrderLineRecord("SEED", 2, None),))])
    shop = loaded(small)
    found = shop.with_goods([replace(shop.table["POT"], list_price=1000)])
    assert found.before.axes.carts == 4
    before, after = (one.on_day(date(2026, 3, 1)).worth_by_cart for one in (found.before, found.after))
    assert (before - after).tolist() == [1000] * 4


def test_lines_are_those_of_the_state_that_is_loaded_though_more_came_in_meanwhile(small):
    before = loaded(small)
    with small.reading() as session:
        assert all_goods(session)  # the state that is seen from here on
        more = OrderRecord("N9", date_of(5), (OrderLineRecord("POT", 7, None),))
        with small.changing("More orders") as other:
            save_orders(other, [more])
        assert_alike(load(session), before)
    assert loaded(small).batch.quantity_by_line.sum() == before.batch.quantity_by_line.sum() + 7


def test_parts_beside_their_kit_count_once_and_again_when_it_is_none(small):
    told = (OrderLineRecord("SET", 1, 2600, 2600), OrderLineRecord("POT", 1, 0, 0), OrderLineRecord("SEED", 2, 0, 0))
    kit = GoodRecord("SET", list_price=2600, kit=(("POT", 1), ("SEED", 2)))
    with small.changing("A kit") as session:
        save_goods(session, [replace(kit, kit=())], EVERY_FIELD)
        save_orders(session, [OrderRecord(f"K{at}", date_of(at), told) for at in range(3)])
    apart = loaded(small)
    assert apart.batch.worth_by_cart[-1] == 2600 + 2000 + 600
    assert [one.orders for one in apart.kits_told] == [3]
    put_good(small, kit)
    once = loaded(small, apart)
    assert once.batch.worth_by_cart[-1] == 2600
    assert (once.told, once.kits_told) == (apart.told, [])
    assert_alike(once, loaded(small))
    price_of(small, "POT", 2100)
    dearer = loaded(small, once)
    assert (dearer.orders, dearer.batch.worth_by_cart[-1]) == (once.orders, 2600)
    put_good(small, replace(kit, kit=()))
    assert_alike(loaded(small, dearer), loaded(small))
    assert loaded(small, dearer).batch.worth_by_cart[-1] == 2600 + 2100 + 600
