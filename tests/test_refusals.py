"""How many orders were refused on the way, by way to pay and beside what settings say."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.test_bring_in import bring
from yellow_abacus.counting import CountingRoom
from yellow_abacus.files.order_statuses import says_left_out, says_refused
from yellow_abacus.refusals import _clearly, refusals, refused_otherwise
from yellow_abacus.store.loading import load
from yellow_abacus.store.settings import shop_row
from yellow_abacus.told_by_orders import sent_back

GOODS = b"sku,product,price,cost\nPOT,Pot,20,2\n"
HEAD = "order,date,sku,quantity,payment,status,returned units\n"
LAST = date(2026, 10, 31)


def brought(shop, rows):
    """rows: days before the last one, way to pay, status, units sent back."""
    bring(shop, "goods", GOODS)
    lines = [
        f"{number},{LAST - timedelta(days=days)},POT,2,{payment},{status},{back}"
        for number, (days, payment, status, back) in enumerate(rows)
    ]
    bring(shop, "orders", (HEAD + "\n".join(lines)).encode())


def pays(shop, **refused_bp):
    with shop.changing("Settings") as session:
        shop_row(session).payments = [
            {"name": name, "cost_bp": 0, "fixed": 0, "share_bp": 5_000, "refused_bp": bp}
            for name, bp in refused_bp.items()
        ]


def loaded(shop):
    with shop.reading() as session:
        return load(session)


def orders(many, refused, payment, days=20, back=0):
    return [(days, payment, "Returned to sender" if at < refused else "Delivered", back) for at in range(many)]


def told(shop):
    return {one.payment: (one.orders, one.refused, one.said_bp, one.clearly) for one in refusals(loaded(shop))}


def test_each_way_to_pay_tells_how_many_were_refused(empty_shop):
    brought(
        empty_shop,
        [
            *orders(100, 12, "cash"),
            *orders(100, 4, "Card"),
            *orders(50, 0, "wallet"),
            *orders(40, 0, "cash", days=5),  # may be on the way
            *orders(40, 0, "cash", days=150),  # of long ago
            *orders(20, 9, "cheque"),  # too few
            *((20, "cash", "", 0) for _ in range(30)),  # not said
        ],
    )
    pays(empty_shop, cash=500, card=500)
    assert told(empty_shop) == {
        "cash": (100, 12, 500, True),
        "Card": (100, 4, 500, False),
        "wallet": (50, 0, None, False),
    }


def test_all_orders_tell_it_where_too_few_are_of_late(empty_shop):
    brought(empty_shop, [*orders(40, 4, "cash", days=0), *orders(10, 1, "cash", days=200)])
    (one,) = refusals(loaded(empty_shop))
    assert (one.days, one.orders, one.refused, one.said_bp) == (None, 50, 5, None)


def test_where_no_order_names_how_it_was_paid_all_tell_it_together(empty_shop):
    brought(empty_shop, orders(60, 6, ""))
    pays(empty_shop, cash=2_000, card=0)
    assert told(empty_shop) == {"": (60, 6, 1_000, False)}


def test_a_shop_whose_orders_tell_of_none_refused_says_nothing(empty_shop):
    brought(empty_shop, orders(60, 0, "cash"))
    pays(empty_shop, cash=2_000)
    assert told(empty_shop) == {}
    assert refused_otherwise(loaded(empty_shop)) is None


def test_a_forecast_says_so_where_others_are_refused_than_settings_say(empty_shop):
    brought(empty_shop, [*orders(100, 12, "cash"), *orders(100, 0, "card")])

    def caveats():
        return [one for one in CountingRoom(empty_shop).current().caveats.of_history if "refused" in one]

    says = "6\u00a0% of orders were refused on the way, and your ways to pay say 0\u00a0%; see Delivery, Payment."
    assert caveats() == [says]
    pays(empty_shop, cash=1_000, card=0)
    assert caveats() == []


def test_units_of_orders_that_were_refused_are_none_sent_back(empty_shop):
    brought(empty_shop, [*orders(10, 10, "cash", back=2), *orders(10, 0, "cash", back=1)])
    found = sent_back(loaded(empty_shop))
    assert (found.units.tolist(), found.returned.tolist()) == ([20], [10])


def test_nothing_is_sent_back_where_all_that_came_back_was_refused(empty_shop):
    brought(empty_shop, [*orders(10, 10, "cash", back=2), *orders(10, 0, "cash")])
    assert sent_back(loaded(empty_shop)) is None


@pytest.mark.parametrize(
    ("status", "left_out", "refused"),
    [
        ("REFUSED", False, True),
        ("Returned to sender (no answer)", False, True),
        ("Delivery failed", False, True),
        ("Annahme verweigert", False, True),
        ("Rifiutato dal destinatario", False, True),
        ("Nedoručeno", False, True),
        ("拒收", False, True),
        ("Refused in part", False, False),
        ("Payment refused", True, False),
        ("Zahlung verweigert", True, False),
        ("Payment failed", True, False),
        ("Returned", False, False),
        ("Refund refused", False, False),
        ("Delivered", False, False),
        ("Partially cancelled", False, False),
        ("iptal edildi", True, False),
    ],
)
def test_statuses_say_whether_an_order_was_refused_or_never_sent(status, left_out, refused):
    assert (says_left_out(status), says_refused(status)) == (left_out, refused)


@given(st.integers(30, 500), st.floats(0, 1), st.integers(0, 500))
def test_so_many_refused_are_clear_beyond_two_standard_errors(many, said, refused):
    refused = min(refused, many)
    found = _clearly(np.arange(many) < refused, np.full(many, said))
    off = abs(refused - many * said) - 2 * (many * said * (1 - said)) ** 0.5
    assert found == (off > 0) or abs(off) < 1e-6
