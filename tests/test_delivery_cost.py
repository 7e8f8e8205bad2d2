"""What orders cost to deliver: by zone and option, of late, beside what tariffs say, and made tariffs."""

import pytest

from tests.test_bring_in import bring
from tests.test_delivery_paid import OPTIONS, delivers, flat, late
from yellow_abacus.core.delivery.tariffs import WeightStep
from yellow_abacus.counting import CountingRoom
from yellow_abacus.delivery_cost import cost_beside_tariffs, delivery_cost, go_by_costs
from yellow_abacus.store.loading import load, load_shop
from yellow_abacus.store.settings import save_tariffs, shop_row

GRAMS = (300, 900, 2_600, 4_800)
GOODS = "sku,product,price,cost,weight (g)\n" + "".join(f"P{at},P{at},20,2,{of}\n" for at, of in enumerate(GRAMS))
HEAD = "order,date,sku,quantity,price paid,label cost,delivery option,country\n"


def orders(rows):
    """rows: month and day, zone, option and cost by grams; four orders each."""
    lines, number = [], 0
    for month, day, zone, option, cost in rows:
        for at, grams in enumerate(GRAMS):
            number += 1
            lines.append(f"{month}-{number},2026-{month:02d}-{day:02d},P{at},1,20,{cost(grams)},{option},{zone}")
    return HEAD + "\n".join(lines) + "\n"


def told(shop, rows):
    bring(shop, "goods", GOODS.encode())
    with shop.changing("Settings") as session:
        shop_row(session).packaging_weight = 200
    bring(shop, "orders", orders(rows).encode())
    return found(shop)


def found(shop):
    with shop.reading() as session:
        loaded = load(session)
    return {(loaded.shop.zone_names[one.zone], one.option): one for one in delivery_cost(loaded)}


def by_weight(grams):
    return 3.9 if grams <= 1_000 else 4.7


def has_tariff(shop, amount, options=("Post",)):
    with shop.changing("Tariffs") as session:
        save_tariffs(session, [("Parcel", {"steps": [{"upto": None, "amount": amount}]})])
    delivers(shop, [one | {"tariffs": ["Parcel"] if one["name"] in options else []} for one in OPTIONS])


def test_each_option_of_each_zone_tells_what_it_costs(empty_shop):
    by = told(
        empty_shop,
        [
            *late(range(1, 13), "Home", "Post", by_weight),
            *late(range(1, 5), "Home", "Express", flat(9.9)),
            *late(range(1, 3), "Abroad", "", flat(12)),  # too few
            *late(range(1, 13), "Abroad", "", flat(0)),  # and these tell nothing
        ],
    )
    post, express = by["Home", "Post"], by["Home", "Express"]
    assert len(by) == 2
    assert (post.orders, post.cost, post.ours, post.by_tariffs) == (48, 48 * 430, (), None)
    assert post.found.steps == (WeightStep(2_000, 390.0), WeightStep(None, 470.0))  # packaging is weighed, too
    assert (express.found.steps, express.found.exact) == ((WeightStep(None, 990.0),), 16)


@pytest.mark.parametrize(("name", "options"), [("post", ("Post",)), ("", ("Post", "Express"))])
def test_they_are_held_against_the_tariffs_of_options_they_may_mean(empty_shop, name, options):
    told(empty_shop, late(range(1, 13), "Home", name, by_weight))
    has_tariff(empty_shop, 400, options)
    one = found(empty_shop)["Home", name]
    assert (one.ours, one.by_tariffs) == (options, pytest.approx(48 * 400))
    has_tariff(empty_shop, 400, ())
    assert found(empty_shop)["Home", name].by_tariffs is None


@pytest.mark.parametrize(("cost", "more"), [(4, 0), (5, 0.2), (3.2, -0.2)])
def test_forecasts_say_by_how_much_more_they_cost(empty_shop, cost, more):
    told(empty_shop, late(range(1, 9), "Home", "Post", flat(cost)))
    has_tariff(empty_shop, 400)
    with empty_shop.reading() as session:
        assert cost_beside_tariffs(load(session)).more_of_late == pytest.approx(more)
    says = [one for one in CountingRoom(empty_shop).current().caveats.of_history if "to deliver" in one]
    way = "more" if more > 0 else "less"
    assert says == ([f"Orders cost 20\u00a0% {way} to deliver than your tariffs say; see Delivery."] if more else [])


def test_prices_that_rose_of_late_are_the_new_ones(empty_shop):
    rows = [*late(range(1, 20), "Home", "", flat(4)), *[(11, day, "Home", "", flat(4.4)) for day in range(10, 25)]]
    one = told(empty_shop, rows)["Home", ""]
    assert (one.days, one.found.steps) == (30, (WeightStep(None, 440.0),))


def test_what_they_cost_is_made_the_tariff_of_an_option(empty_shop):
    told(empty_shop, late(range(1, 13), "Home", "Post", by_weight))
    has_tariff(empty_shop, 400)
    with empty_shop.changing("Costs") as session:
        assert go_by_costs(session, load(session), {("Home", "Post"), ("Home", "Express")}) == 1
    with empty_shop.reading() as session:
        shop = load_shop(session)
    post, express = (option for _, option in shop.delivery.options)
    assert (post.tariffs, express.tariffs) == (("Post to Home, as it cost",), ())
    one = found(empty_shop)["Home", "Post"]
    assert one.by_tariffs == pytest.approx(one.cost)


def test_a_carriers_tax_is_taken_off_where_its_heading_tells_of_it(empty_shop):
    bring(empty_shop, "goods", GOODS.encode())
    with empty_shop.changing("Settings") as session:
        shop_row(session).tax_classes = [{"name": "Standard", "rate_bp": 2_000}]
    file = orders(late(range(1, 5), "Home", "Post", flat(6))).replace("label cost", "label cost (incl. VAT)")
    bring(empty_shop, "orders", file.encode())
    assert found(empty_shop)["Home", "Post"].cost == 16 * 500
