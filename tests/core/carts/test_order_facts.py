"""What is known of an order from its own row and from the shopper's earlier ones."""

from datetime import datetime

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.carts.facts import UNKNOWN, Facts
from yellow_abacus.core.carts.order_facts import OrderColumns, facts_of

NAMES = ("shopper", "group", "channel", "payment", "currency", "option", "code")


def on(day: int, **known) -> dict:
    return {"placed_at": datetime(2026, 3, day, 18, 30)} | known


def order_facts(orders: list[dict], currency: str) -> Facts:
    first = {True: 1, False: 0, None: UNKNOWN}
    columns = OrderColumns(
        placed_at=np.array([one["placed_at"] for one in orders], dtype="datetime64[us]"),
        first_order=np.array([first[one.get("first_order")] for one in orders], dtype=np.int64),
        tags=[one.get("tags", []) for one in orders],
        **{name: [one.get(name, "") for one in orders] for name in NAMES},
    )
    return facts_of(columns, currency)


orders_of_few = st.lists(
    st.builds(
        on,
        st.integers(1, 28),
        shopper=st.sampled_from(["", "A", "B"]),
        first_order=st.sampled_from([None, True, False]),
    ),
    max_size=9,
)


@given(orders_of_few)
def test_earlier_orders_counted_one_by_one_come_to_the_same(orders):
    facts, seen = order_facts(orders, "EUR"), {}
    for at in sorted(range(len(orders)), key=lambda at: orders[at]["placed_at"]):
        shopper, first, day = orders[at]["shopper"], orders[at]["first_order"], orders[at]["placed_at"].date()
        count, last = seen.get(shopper, (0, None)) if shopper else (0, None)
        before = UNKNOWN
        if first is not None or shopper:
            before = 0 if first else max(count, int(first is False))
        assert facts.orders_before_by_cart[at] == before
        since = (day - last).days if last is not None and before > 0 else UNKNOWN
        assert facts.days_since_by_cart[at] == since
        if shopper:
            seen[shopper] = (count + 1, day)


def test_earlier_orders_are_counted_by_shopper_in_order_of_time():
    facts = order_facts([on(20, shopper="A"), on(5, shopper="A"), on(9, shopper="B"), on(9, shopper="A")], "EUR")
    assert facts.orders_before_by_cart.tolist() == [2, 0, 0, 1]
    assert facts.days_since_by_cart.tolist() == [11, UNKNOWN, UNKNOWN, 4]


def test_what_an_order_says_of_being_the_first_wins():
    orders = [on(5, shopper="A", first_order=False), on(9, shopper="A", first_order=True), on(9, first_order=False)]
    facts = order_facts([*orders, on(9)], "EUR")
    assert facts.orders_before_by_cart.tolist() == [1, 0, 1, UNKNOWN]
    assert facts.days_since_by_cart.tolist() == [UNKNOWN] * 4


def test_names_weekday_minute_and_the_shops_own_currency():
    orders = [
        on(6, group="trade", tags=["letter", "new"], channel="web"),
        on(7, tags=["new"], currency="GBP"),
    ]
    facts = order_facts(orders, "EUR")
    assert facts.weekday_by_cart.tolist() == [4, 5]
    assert facts.minute_by_cart.tolist() == [1110, 1110]
    assert facts.group.among(["Trade"]).tolist() == [True, False]
    assert facts.tags.among(["LETTER"]).tolist() == [True, False]
    assert facts.tags.among(["new"]).tolist() == [True, True]
    assert facts.channel.among(["stall"]).tolist() == [False, False]
    assert facts.currency.among(["eur"]).tolist() == [True, False]
