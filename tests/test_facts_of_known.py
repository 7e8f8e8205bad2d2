"""Files that tell something of orders the shop has, and no goods: what is told goes with them, all else stays."""

from datetime import datetime

import pytest
from sqlalchemy import select

from tests.test_bring_in import bring
from yellow_abacus import bring_in
from yellow_abacus.store.imports import of_live
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import OrderRow

GOODS = b"sku,product,price,cost\nPOT,Pot,20,2\nFERN,Fern,9,2\n"
ORDERS = (
    "order,date,sku,quantity,price paid,payment,country\n"
    "#1,2026-10-01 09:30,POT,1,18,card,Home\n"
    "#1,2026-10-01 09:30,FERN,2,9,card,Home\n"
    "#2,2026-10-02 10:00,POT,3,20,wallet,Abroad\n"
)


@pytest.fixture
def shop(empty_shop):
    bring(empty_shop, "goods", GOODS)
    bring(empty_shop, "orders", ORDERS.encode())
    return empty_shop


def checked(shop, text, file="labels.csv", **more):
    return bring_in.check(shop, "orders", text.encode(), file=file, **more)


def saved(shop, text, **more):
    return bring_in.save(shop, checked(shop, text, **more))


def rows(shop):
    with shop.reading() as session:
        return {one.number: one for one in session.scalars(of_live(session, select(OrderRow)))}


def test_what_carriers_asked_goes_with_the_orders_and_all_else_stays(shop):
    with shop.reading() as session:
        before = load(session).orders
    file = "Order number;Parcel;Label cost\n1;1;4,20\n1;2;1,30\n2;1;11,00\n7;1;3,00\n"
    says = checked(shop, file).says
    assert says == [
        "What labels.csv tells of orders goes with them, by Order number: Label cost.",
        "1 row of labels.csv is of no order here.",
    ]
    told = saved(shop, file)
    assert (told.new, told.changed, told.unchanged) == (0, 2, 0)
    first = rows(shop)["#1"]
    assert (first.placed_at, first.payment) == (datetime(2026, 10, 1, 9, 30), "card")
    with shop.reading() as session:
        after = load(session).orders
    assert sorted(after.delivery_cost.tolist()) == [550, 1_100]
    assert sorted(after.paid.tolist()) == sorted(before.paid.tolist())
    assert sorted(after.returned.tolist()) == [0, 0, 0]
    assert (saved(shop, file).unchanged, shop.undo() is None) == (2, False)


def test_orders_are_known_by_a_column_that_no_heading_tells_of(shop):
    saved(shop, "Colli,Reference,Label cost\n1,#1,4.20\n1,#2,5.00\n")
    assert [one.delivery_cost for _, one in sorted(rows(shop).items())] == [420, 500]


def test_what_orders_tell_already_is_not_told_anew_but_money_given_back_is(shop):
    file = "Order,Payment,Refunded\n1,cheque,4.00\n2,cheque,0\n"
    saved(shop, file, file="payments.csv")
    assert [(one.payment, one.refunded) for _, one in sorted(rows(shop).items())] == [("card", 400), ("wallet", 0)]


WHERE = (
    "Order,Ship to country,Channel,Email,Postage\n1,Abroad,market,a@x.example,4.90\n2,Abroad,web,b@x.example,0.00\n"
)


def placed(shop):
    found = (one for _, one in sorted(rows(shop).items()))
    return [(one.channel, one.shopper, one.delivery_paid) for one in found]


def zones(shop):
    with shop.reading() as session:
        loaded = load(session)
    return [loaded.shop.zones[at].name for at in loaded.batch.zone_by_cart]


def test_where_orders_went_and_by_whom_they_were_placed_may_be_told_apart(empty_shop):
    bring(empty_shop, "goods", GOODS)
    bring(empty_shop, "orders", b"order,date,sku,quantity\n1,2026-10-01,POT,1\n2,2026-10-02,FERN,2\n")
    saved(empty_shop, WHERE)
    assert placed(empty_shop) == [("market", "a@x.example", 490), ("web", "b@x.example", 0)]
    assert zones(empty_shop) == ["Abroad", "Abroad"]


def test_the_country_of_a_payment_or_of_a_refund_is_not_that_of_its_order(empty_shop):
    bring(empty_shop, "goods", GOODS)
    bring(empty_shop, "orders", b"order,date,sku,quantity\n1,2026-10-01,POT,1\n2,2026-10-02,FERN,2\n")
    before = zones(empty_shop)
    saved(
        empty_shop, "Order,Payment method,Country,Fee\n1,card,Abroad,0.30\n2,card,Abroad,0.25\n", file="payments.csv"
    )
    saved(empty_shop, "Order,Refunded,Country\n1,4.00,Abroad\n2,2.00,Abroad\n")
    assert zones(empty_shop) == before


def test_zones_that_orders_tell_stay(shop):
    before = zones(shop)
    saved(shop, WHERE)
    assert zones(shop) == before


def test_what_being_paid_cost_is_told_by_a_table_of_payments(shop):
    saved(shop, "Order,Amount,Fee,Net\n1,36.00,-0.75,35.25\n2,60.00,-1.09,58.91\n", file="payments.csv")
    with shop.reading() as session:
        assert sorted(load(session).orders.payment_cost.tolist()) == [75, 109]


def test_units_sent_back_are_told_without_their_orders(shop):
    saved(shop, "Order,SKU,Reason\n1,FERN,too small\n", file="returns.csv")
    with shop.reading() as session:
        orders = load(session).orders
    assert sorted(orders.returned.tolist()) == [0, 0, 1]


@pytest.mark.parametrize(
    "text",
    [
        "Order,Label cost\n8,4.20\n9,4.20\n1,4.20\n",  # of other orders
        "Order,Discount\n1,4.20\n2,1.00\n",  # which is part of what they paid
        "Order,Note\n1,leave at the door\n2,\n",
        "Label cost\n4.20\n4.20\n",
    ],
)
def test_a_file_that_tells_nothing_of_them_lacks_what_orders_need(shop, text):
    found = checked(shop, text)
    assert "date" in [one.key for one in found.missing]
    assert found.good == 0


def test_a_file_of_whole_orders_is_one_of_orders(shop):
    found = checked(shop, ORDERS.replace("price paid", "label cost").replace("#", ""), file="orders.csv")
    assert found.missing == []
    assert found.says == []


def test_what_most_call_what_shoppers_paid_is_the_carriers_where_orders_tell_that(shop):
    paid = ORDERS.replace(",country", ",delivery charge,country").replace(",Home", ",4.90,Home")
    bring(shop, "orders", paid.replace(",Abroad", ",8.90,Abroad").encode())
    saved(shop, "Order number,Shipping cost\n1,4.20\n2,7.00\n")
    assert [(one.delivery_paid, one.delivery_cost) for _, one in sorted(rows(shop).items())] == [
        (490, 420),
        (890, 700),
    ]


def test_what_carriers_asked_in_another_currency_is_left_out_and_said(shop):
    found = checked(shop, "Order number,Label cost (USD)\n1,4.20\n2,7.00\n")
    assert found.says[-1] == "What carriers asked is told in USD, and left out: it is taken in EUR."
    assert [one.delivery_cost for one in found.records] == [None, None]


def test_another_number_beside_that_of_the_order_is_passed_over(shop):
    saved(shop, "Order number,Their order,Label cost\nS-71,#1,4.20\nS-72,#2,5.00\n")
    assert [one.delivery_cost for _, one in sorted(rows(shop).items())] == [420, 500]


STATUSES = (
    ORDERS.replace("country\n", "country,status\n")
    .replace("Home\n", "Home,sent\n")
    .replace("Abroad\n", "Abroad,sent\n")
)


def statuses(shop):
    return [(number, one.status) for number, one in sorted(rows(shop).items())]


@pytest.mark.parametrize(
    ("file", "text", "told"),
    [
        ("parcels.csv", "Order;Label cost;Delivery status\n1;4,20;Arrived\n2;5,00;Refused\n", ["Arrived", "Refused"]),
        ("parcels.csv", "Order;Label cost;Delivery status\n1;4,20;Void\n2;5,00;Refused\n", ["", "Refused"]),
        (
            "statuses.csv",
            "Order;Tracking status\n1;Sent back unclaimed\n2;On its way\n",
            ["Sent back unclaimed", "On its way"],
        ),
        ("statuses.csv", "Order;Status\n1;Cancelled\n2;Sent\n", [None, "Sent"]),
        ("cancelled.csv", "Order;Total;Status\n1;9,00;Cancelled\n", [None, "sent"]),
        ("orders.csv", "Order;Payment method;Order status\n1;card;Cancelled\n2;cash;Done\n", [None, "Done"]),
    ],
)
def test_how_orders_went_is_told_by_files_of_parcels_and_of_statuses(empty_shop, file, text, told):
    bring(empty_shop, "goods", GOODS)
    bring(empty_shop, "orders", STATUSES.encode())
    saved(empty_shop, text, file=file)
    count = [(number, status) for number, status in zip(("#1", "#2"), told, strict=True) if status is not None]
    assert statuses(empty_shop) == count


@pytest.mark.parametrize(
    ("file", "text"),
    [
        ("export.csv", "Order;Payment method;Status\n1;card;Failed\n2;cash;Paid\n"),
        ("export.csv", "Order;Payment status\n1;Failed\n2;Paid\n"),
        ("payments.csv", "Order;Status\n1;Failed\n2;Paid\n"),
        ("export.csv", "Order;Return reason;Status\n1;broken;Rejected\n2;late;Accepted\n"),
        ("export.csv", "Order;Status\n1;Sent\n2;Paid\n"),
    ],
)
def test_the_status_of_a_payment_or_of_what_came_back_is_not_that_of_its_order(shop, file, text):
    assert checked(shop, text, file=file).missing


def test_a_parcel_refused_is_told_beside_orders_brought_in_with_it(empty_shop):
    bring(empty_shop, "goods", GOODS)
    both = [
        ("orders.csv", STATUSES.encode()),
        ("parcels.csv", b"Order,Label cost,Tracking status\n1,4,Refused\n2,5,Delivered\n"),
    ]
    bring_in.save(empty_shop, bring_in.check(empty_shop, "orders", both[0][1], file=both[0][0], more=both[1:]))
    assert statuses(empty_shop) == [("#1", "Refused"), ("#2", "Delivered")]
