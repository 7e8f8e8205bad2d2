"""What being paid cost, by way to pay and beside what settings say."""

import pytest

from tests.test_bring_in import bring
from yellow_abacus.being_paid import being_paid, being_paid_beside_settings
from yellow_abacus.counting import CountingRoom
from yellow_abacus.learning.payment_costs import PaymentCost
from yellow_abacus.store.loading import load
from yellow_abacus.store.settings import shop_row

PRICES = (8, 15, 28, 46, 80)
GOODS = "sku,product,price,cost\n" + "".join(f"P{at},P{at},{price},2\n" for at, price in enumerate(PRICES))
HEAD = "order,date,sku,quantity,price paid,delivery charge,payment,transaction fee\n"


def told(shop, rows, tax=None):
    """rows: way to pay, delivery and cost by total; twenty orders each. tax: percent on top of prices."""
    bring(shop, "goods", GOODS.encode())
    if tax:
        with shop.changing("Settings") as session:
            row = shop_row(session)
            row.prices_with_tax, row.tax_classes = False, [{"name": "Standard", "rate_bp": tax * 100}]
    lines = [
        f"{payment}{day}-{at},2026-10-{day:02d},P{at},1,{price},{delivery},{payment},"
        f"{cost(price + float(delivery or 0))}"
        for payment, delivery, cost in rows
        for day in range(1, 5)
        for at, price in enumerate(PRICES)
    ]
    bring(shop, "orders", (HEAD + "\n".join(lines)).encode())
    return found(shop)


def found(shop):
    with shop.reading() as session:
        return {one.payment: one for one in being_paid(load(session))}


def pays(shop, *methods):
    with shop.changing("Settings") as session:
        shop_row(session).payments = [
            {"name": name, "cost_bp": cost_bp, "fixed": fixed, "share_bp": 5_000, "refused_bp": 0}
            for name, cost_bp, fixed in methods
        ]


def of_total(rate, fixed=0.25):
    return lambda total: f"{total * rate + fixed:.2f}"


def test_each_way_to_pay_tells_what_it_costs_of_the_total(empty_shop):
    by = told(
        empty_shop,
        [
            ("card", "4.90", of_total(0.014)),
            ("invoice", "4.90", of_total(0, 0.95)),
            ("cash", "4.90", of_total(0, 0)),
            ("gift card", "", of_total(0.014)),  # what it paid in all is not told
        ],
    )
    assert {name: (one.orders, one.found) for name, one in by.items()} == {
        "card": (20, PaymentCost(140, 25.0, 20)),
        "invoice": (20, PaymentCost(0, 95.0, 20)),
    }
    assert by["card"].ours == ""


def test_a_cost_that_rose_of_late_is_the_new_one(empty_shop):
    told(empty_shop, [("card", "4.90", of_total(0.014))])
    later = [
        f"n{day}-{at},2026-11-{day:02d},P{at},1,{price},4.90,card,{(price + 4.9) * 0.02 + 0.25:.2f}"
        for day in range(20, 26)
        for at, price in enumerate(PRICES)
    ]
    bring(empty_shop, "orders", (HEAD + "\n".join(later)).encode())
    one = found(empty_shop)["card"]
    assert (one.days, one.orders, one.found) == (30, 30, PaymentCost(200, 25.0, 30))


def test_the_total_is_with_tax(empty_shop):
    by = told(empty_shop, [("card", "4.90", lambda total: of_total(0.014)(total * 1.2))], tax=20)
    assert (by["card"].found.cost_bp, by["card"].found.fixed) == (140, 25.0)


@pytest.mark.parametrize(("rate", "more"), [(0.014, 0), (0.02, 0.23), (0.01, -0.2)])
def test_forecasts_say_where_it_cost_clearly_more(empty_shop, rate, more):
    told(empty_shop, [("Card", "4.90", of_total(rate)), ("other", "4.90", of_total(0.5))])
    pays(empty_shop, ("card", 140, 25))
    one = found(empty_shop)["Card"]
    assert one.ours == "card"
    with empty_shop.reading() as session:
        assert being_paid_beside_settings(load(session)).more_of_late == pytest.approx(more, abs=0.02)
    says = [one for one in CountingRoom(empty_shop).current().caveats.of_history if "Being paid" in one]
    assert len(says) == (more != 0)
