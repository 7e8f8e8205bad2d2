"""What is known of an order from its own row and from the shopper's earlier ones."""

from dataclasses import dataclass, field
from datetime import datetime

from yellow_abacus.core.facts import UNKNOWN
from yellow_abacus.store.order_facts import order_facts


@dataclass
class Order:
    placed_at: datetime
    shopper: str = ""
    first_order: bool | None = None
    shopper_group: str = ""
    tags: list[str] = field(default_factory=list)
    channel: str = ""
    payment: str = ""
    currency: str = ""
    option: str = ""


def on(day: int, **known) -> Order:
    return Order(datetime(2026, 3, day, 18, 30), **known)


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
        on(6, shopper_group="trade", tags=["letter", "new"], channel="web"),
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
