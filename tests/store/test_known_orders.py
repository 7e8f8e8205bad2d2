"""Orders told again by another file: what it does not tell stays, what it leaves out counts no more."""

import shutil
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path
from tempfile import TemporaryDirectory

from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import select

from yellow_abacus.changing_goods import EVERY_FIELD
from yellow_abacus.core.goods.records import ALL_OF_ORDERS, GoodRecord, OrderLineRecord, OrderRecord
from yellow_abacus.store.goods import Saved, save_goods
from yellow_abacus.store.imports import live_ids
from yellow_abacus.store.loading import load
from yellow_abacus.store.models import GoodRow, OrderLineRow, OrderRow
from yellow_abacus.store.orders import OrderFile, save_orders
from yellow_abacus.store.shop_file import ShopFile

NOON = datetime(2026, 3, 1, 12)
DAY = datetime(2026, 3, 1)
MARCH = OrderRecord(
    "1",
    NOON,
    (OrderLineRecord("POT", 2, 900, 1500, 1), OrderLineRecord("SEED", 3, 300)),
    shopper="Ada",
    code="LEAF",
    delivery_paid=490,
)
OF_LINES = {"unit_price", "paid", "returned"}


def shop_with_goods(shop: ShopFile) -> ShopFile:
    with shop.changing("Goods") as session:
        save_goods(session, [GoodRecord("POT", list_price=2000), GoodRecord("SEED", list_price=300)], EVERY_FIELD)
    return shop


def bring(shop: ShopFile, orders, left_out=None, tells=ALL_OF_ORDERS) -> Saved:
    with shop.changing("Bring in") as session:
        return save_orders(session, list(orders), file=OrderFile("file", left_out or {}, tells=frozenset(tells)))


def counting(shop: ShopFile) -> dict[str, OrderRecord]:
    """The orders that count, read back row by row."""
    with shop.reading() as session:
        skus = dict(session.execute(select(GoodRow.id, GoodRow.sku)).all())
        found = {}
        for row in session.scalars(select(OrderRow).where(OrderRow.id.in_(live_ids()))):
            lines = session.scalars(
                select(OrderLineRow).where(OrderLineRow.order_id == row.id).order_by(OrderLineRow.id)
            )
            of_it = (
                OrderLineRecord(skus[one.good_id], one.quantity, one.unit_price, one.paid, one.returned)
                for one in lines
            )
            found[row.number] = OrderRecord(
                row.number,
                row.placed_at,
                tuple(of_it),
                shopper=row.shopper,
                code=row.code,
                status=row.status,
                delivery_paid=row.delivery_paid,
            )
        assert len(load(session).batch.units_by_cart) == len(found)
        return found


def test_what_a_file_does_not_tell_of_an_order_stays(empty_shop):
    shop = shop_with_goods(empty_shop)
    bring(shop, [MARCH])
    plain = OrderRecord("1", DAY, tuple(OrderLineRecord(one.sku, one.quantity, None) for one in MARCH.lines[::-1]))
    assert bring(shop, [plain], tells={"number", "placed_at"}) == Saved(0, 0, 1)
    assert bring(shop, [plain], tells={"number", "placed_at", "code"}) == Saved(0, 1, 0)
    assert counting(shop)["1"] == replace(MARCH, code="", lines=MARCH.lines[::-1])


def test_an_order_cancelled_since_counts_no_more_until_that_is_taken_back(empty_shop):
    shop = shop_with_goods(empty_shop)
    other = replace(MARCH, number="2")
    bring(shop, [MARCH, other])
    assert bring(shop, [other], {"1": "cancelled", "9": "test"}) == Saved(0, 1, 1)
    assert counting(shop) == {"2": other}
    assert bring(shop, [other], {"1": "cancelled"}) == Saved(0, 0, 1)
    assert bring(shop, [MARCH], tells=ALL_OF_ORDERS - {"status"}) == Saved(0, 0, 1)
    assert counting(shop) == {"2": other}
    shop.undo()
    assert counting(shop) == {"1": MARCH, "2": other}
    shop.redo()
    assert bring(shop, [MARCH]) == Saved(0, 1, 0)
    assert counting(shop) == {"1": MARCH, "2": other}


def test_orders_told_with_fewer_units_are_counted(empty_shop):
    shop = shop_with_goods(empty_shop)
    bring(shop, [MARCH, replace(MARCH, number="2")])
    assert bring(shop, [replace(MARCH, lines=MARCH.lines[:1]), replace(MARCH, number="2")]) == Saved(0, 1, 1, 1)


@dataclass(frozen=True)
class Told:
    orders: tuple[OrderRecord, ...]
    left_out: tuple[str, ...]
    tells: frozenset[str]


lines = st.lists(
    st.builds(
        OrderLineRecord,
        st.sampled_from(["POT", "SEED"]),
        st.integers(1, 3),
        st.sampled_from([None, 900]),
        st.sampled_from([None, 800]),
        st.integers(0, 1),
    ),
    min_size=1,
    max_size=3,
    unique_by=lambda one: (one.sku, one.quantity),
).map(tuple)
orders = st.builds(
    OrderRecord,
    st.sampled_from("123"),
    st.just(NOON),
    lines,
    shopper=st.sampled_from(["", "Ada"]),
    code=st.sampled_from(["", "LEAF"]),
    status=st.sampled_from(["", "paid"]),
    delivery_paid=st.sampled_from([None, 490]),
)
CAN_BE_UNTOLD = sorted(ALL_OF_ORDERS - {"number", "placed_at"})
files = st.builds(
    Told,
    st.lists(orders, max_size=3, unique_by=lambda one: one.number).map(tuple),
    st.lists(st.sampled_from("123"), max_size=2, unique=True).map(tuple),
    st.sets(st.sampled_from(CAN_BE_UNTOLD)).map(lambda some: ALL_OF_ORDERS - some),
)


def expected(files: list[Told]) -> dict[str, OrderRecord]:
    """What counts after all of them, order by order."""
    counts, cancelled = dict[str, OrderRecord](), set[str]()
    for file in files:
        for order in file.orders:
            was = counts.get(order.number)
            if order.number in cancelled and "status" not in file.tells:
                continue
            if was is not None:
                untold = {name: getattr(was, name) for name in vars(order) if name in ALL_OF_ORDERS - file.tells}
                order = replace(order, **untold, lines=told_lines(order, was, file.tells))
            counts[order.number] = order
            cancelled.discard(order.number)
        for number in set(file.left_out) & counts.keys():
            cancelled.add(number)
            counts[number] = replace(counts[number], lines=())
    return {number: one for number, one in counts.items() if number not in cancelled}


def told_lines(order: OrderRecord, was: OrderRecord, tells: frozenset[str]) -> tuple[OrderLineRecord, ...]:
    known = {(one.sku, one.quantity): one for one in was.lines}
    if known.keys() != {(one.sku, one.quantity) for one in order.lines}:
        return order.lines
    untold = OF_LINES - tells
    return tuple(
        replace(one, **{name: getattr(known[one.sku, one.quantity], name) for name in untold}) for one in order.lines
    )


def in_any_order(told: dict[str, OrderRecord]) -> dict[str, OrderRecord]:
    return {number: replace(one, lines=tuple(sorted(one.lines, key=repr))) for number, one in told.items()}


@given(st.lists(files, min_size=1, max_size=4))
@settings(max_examples=40)
def test_whatever_files_tell_one_after_another_counts_as_told_last(empty_path, told):
    disjoint = [replace(one, left_out=tuple(set(one.left_out) - {o.number for o in one.orders})) for one in told]
    with TemporaryDirectory() as folder:
        shop = shop_with_goods(ShopFile(Path(shutil.copy(empty_path, folder))))
        for file in disjoint:
            bring(shop, file.orders, dict.fromkeys(file.left_out, "cancelled"), file.tells)
        assert in_any_order(counting(shop)) == in_any_order(expected(disjoint))
        shop.close()
