"""What orders paid for delivery: by zone and option, of late, and beside what the shop's options ask."""

from datetime import date

import pytest

from tests.test_bring_in import bring
from yellow_abacus.core.delivery.charges import ChargeByValue, FlatCharge, ValueStep
from yellow_abacus.core.offers import DeliveryLoweredTo, Terms, When
from yellow_abacus.counting import CountingRoom
from yellow_abacus.delivery_paid import delivery_paid, paid_beside_options
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import RunningOfferRow
from yellow_abacus.store.settings import save_tariffs, save_zones, shop_row
from yellow_abacus.store.told_offers import ToldOffer, save_told
from yellow_abacus.told_by_orders import ways_named

PRICES = (8, 15, 28, 46, 80)
GOODS = "sku,product,price,cost,weight (g)\n" + "".join(
    f"P{at},P{at},{price},2,300\n" for at, price in enumerate(PRICES)
)
HEAD = "order,date,sku,quantity,price paid,delivery charge,delivery option,country,code\n"


def orders(rows):
    """rows: month and day, zone, option, code and charge by price of the goods; five orders each."""
    lines, number = [], 0
    for month, day, zone, option, code, charge in rows:
        for at, price in enumerate(PRICES):
            number += 1
            told = (
                f"{month}-{number},2026-{month:02d}-{day:02d},P{at},1,{price},{charge(price)},{option},{zone},{code}"
            )
            lines.append(told)
    return HEAD + "\n".join(lines) + "\n"


def told(shop, rows):
    bring(shop, "goods", GOODS.encode())
    bring(shop, "orders", orders(rows).encode())
    return found(shop)


def found(shop):
    with shop.reading() as session:
        loaded = load(session)
    return {(loaded.shop.zone_names[one.zone], one.option): one for one in delivery_paid(loaded)}


def late(days, *rest):
    return [(10, day, *rest) for day in days]


def free_from_40(price):
    return 4.9 if price < 40 else 0


def in_steps(price):
    return 9 if price < 20 else 6 if price < 60 else 0


def flat(charge):
    return lambda _: charge


OPTIONS = [
    {"name": name, "charge": {"kind": "flat", "amount": amount}, "share_bp": 5_000, "tariffs": [], "free_from": None}
    for name, amount in (("Post", 490), ("Express", 990))
]


def delivers(shop, options):
    with shop.changing("Zones") as session:
        save_zones(session, [{"name": "Home", "places": [], "options": options, "was": None}])


def test_each_option_of_each_zone_tells_its_charge(empty_shop):
    by = told(
        empty_shop,
        [
            *late(range(1, 13), "Home", "Post", "", free_from_40),
            *late(range(1, 5), "Home", "Express", "", flat(9.9)),
            *late(range(1, 9), "Abroad", "", "", in_steps),
            *late((1,), "Far", "", "", flat(20)),  # too few
            *late(range(1, 5), "Home", "Post", "SHIP", flat(0)),
        ],
    )
    assert list(by) == [("Home", "Post"), ("Home", "Express"), ("Abroad", "")]
    post, express, abroad = by.values()
    assert (post.orders, post.found.exact, post.found.charge, post.found.free_from) == (60, 60, FlatCharge(490), 4000)
    assert (express.found.charge, express.share_bp, express.ours) == (FlatCharge(990), 2500, ())
    assert express.dearest == 80_00
    assert abroad.found.charge == ChargeByValue(900, (ValueStep(20_00, 600),))
    assert abroad.found.free_from == 50_00  # the roundest between 46 and 80


def test_names_that_differ_in_case_alone_are_one_option(empty_shop):
    rows = [(10, day, "Home", name, "", flat(4.9)) for day in range(1, 5) for name in ("Post", "POST")]
    by = told(empty_shop, rows)
    assert [(name, one.orders) for (_, name), one in by.items()] == [("POST", 40)]
    with empty_shop.reading() as session:
        assert ways_named(load(session)).options == {0: {"POST": 40}}


def test_a_charge_changed_of_late_is_the_new_one(empty_shop):
    old, new = flat(4.9), flat(5.9)
    by = told(empty_shop, [*late(range(1, 20), "Home", "", "", old), *late(range(20, 25), "Home", "", "", new)])
    one = by["Home", ""]
    assert (one.days, one.orders, one.found.charge) == (90, 120, FlatCharge(490))  # most of them still
    bring(empty_shop, "orders", orders([(11, day, "Home", "", "", new) for day in range(1, 15)]).encode())
    one = found(empty_shop)["Home", ""]
    assert (one.days, one.found.charge, one.another) == (30, FlatCharge(590), 490)


@pytest.mark.parametrize(("name", "ours"), [("post", ("Post",)), ("", ("Post",)), ("Courier", ())])
def test_what_the_shops_option_asks_is_held_against_it(empty_shop, name, ours):
    told(empty_shop, late(range(1, 13), "Home", name, "", free_from_40))
    delivers(empty_shop, OPTIONS[:1])
    one = found(empty_shop)["Home", name]
    assert (one.ours, one.as_asked, one.found.exact) == (ours, 36 if ours else 0, 60)


def test_it_goes_by_what_was_asked_for_goods_where_charges_do(empty_shop):
    bring(empty_shop, "goods", GOODS.encode())
    rows = [(n, at) for n in range(12) for at in range(5)]
    lines = [
        f"{n}-{at},2026-10-{n + 1:02d},P{at},1,{PRICES[at]},{PRICES[at] / 2},{free_from_40(PRICES[at])},,Home,"
        for n, at in rows
    ]
    bring(empty_shop, "orders", (HEAD.replace("price paid", "price,price paid") + "\n".join(lines)).encode())
    assert found(empty_shop)["Home", ""].found.free_from == 20_00
    with empty_shop.changing("Settings") as session:
        shop_row(session).delivery_from = "standing"
    assert found(empty_shop)["Home", ""].found.free_from == 40_00


def test_orders_that_name_no_option_are_held_against_any_there_is(empty_shop):
    delivers(empty_shop, OPTIONS)
    one = told(
        empty_shop,
        [
            *late(range(1, 9), "Home", "", "", flat(4.9)),
            *late(range(1, 5), "Home", "", "", flat(9.9)),
            *late(range(1, 3), "Home", "", "", flat(6)),
        ],
    )["Home", ""]
    assert (one.ours, one.orders, one.as_asked) == (("Post", "Express"), 70, 60)


def test_days_on_which_an_offer_lowered_delivery_tell_nothing(empty_shop):
    rows = [*late(range(1, 9), "Home", "", "", flat(4.9)), *late(range(9, 21), "Home", "", "", flat(0))]
    assert told(empty_shop, rows)["Home", ""].found.charge == FlatCharge(0)
    free = Terms(gives=(DeliveryLoweredTo(0),), when=When(first_day=date(2026, 10, 9)))
    with empty_shop.changing("Running") as session:
        save_told(session, RunningOfferRow, [ToldOffer("free", "Free", "", free)])
    one = found(empty_shop)["Home", ""]
    assert (one.orders, one.found.charge) == (40, FlatCharge(490))


@pytest.mark.parametrize(("paid", "less"), [(4.9, 0), (3.92, 0.2), (9.9, 0), (12.375, -0.2)])
def test_how_much_less_than_asked_was_paid(empty_shop, paid, less):
    delivers(empty_shop, OPTIONS)
    told(empty_shop, late(range(1, 9), "Home", "", "", flat(paid)))
    with empty_shop.reading() as session:
        assert paid_beside_options(load(session)).more_of_late == pytest.approx(-less, abs=1e-3)


def test_forecasts_say_that_orders_paid_otherwise(empty_shop):
    delivers(empty_shop, OPTIONS[:1])
    told(empty_shop, late(range(1, 9), "Home", "Post", "", flat(3.92)))
    says = CountingRoom(empty_shop).current().caveats.of_history
    assert "Orders paid 20\u00a0% less for delivery than your options ask; see Delivery." in says


def test_what_an_option_asks_by_its_cost_is_held_against_what_was_paid(empty_shop):
    with empty_shop.changing("Tariffs") as session:
        save_tariffs(session, [("Cart", {"steps": [{"upto": 30_000, "amount": 300}]})])
    by_cost = {"charge": {"kind": "cost_plus", "markup_bp": 1_000, "amount": 160}, "tariffs": ["Cart"]}
    delivers(empty_shop, [OPTIONS[0] | by_cost])
    one = told(empty_shop, late(range(1, 9), "Home", "Post", "", flat(4.9)))["Home", "Post"]
    assert (one.orders, one.as_asked) == (40, 40)
