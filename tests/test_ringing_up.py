"""A cart rung up by itself comes to the cents the forecast counts it with."""

from datetime import date, datetime

from yellow_abacus.core.branches import branches
from yellow_abacus.core.facts import UNKNOWN, Labels
from yellow_abacus.core.pricing import price_each
from yellow_abacus.demo import FILES
from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.ringing_up import ring_up
from yellow_abacus.store.loading import load


def named(labels: Labels, at: int) -> str:
    number = labels.number_by_cart[at]
    return "" if number == UNKNOWN else labels.names[number]


def test_orders_of_the_demo_shop_rung_up_one_by_one_come_to_the_same_cents(demo_shop):
    with demo_shop.reading() as session:
        loaded = load(session)
    batch = loaded.batch.on_day(date(2027, 3, 1))
    facts = batch.facts
    zones = [zone.name for zone in loaded.shop.zones]
    for doc in PlansFile.model_validate_json(FILES.joinpath("plans.json").read_bytes()).plans:
        offers = doc.plan().offers
        codes = [offer.given.code for offer in offers]
        ways = branches(loaded.shop, batch, offers)
        priced = price_each(loaded.shop, batch, ways)
        for at in range(0, batch.axes.carts, 601):
            first, last = batch.axes.first_line_by_cart[at : at + 2]
            tags = [name for name, has in zip(facts.tags.names, facts.tags.has[:, at], strict=True) if has]
            cart = CartDoc(
                lines=[
                    {"sku": batch.goods.skus[batch.sku_by_line[line]], "quantity": int(batch.quantity_by_line[line])}
                    for line in range(first, last)
                ],
                zone=zones[batch.zone_by_cart[at]],
                shopper={
                    "tags": tags,
                    "orders_before": int(facts.orders_before_by_cart[at]),
                    "group": named(facts.group, at),
                },
                option=named(facts.option, at),
                time=datetime(2027, 3, 1),
                codes=[code for code in codes if code],
            )
            (rung,) = ring_up(loaded, [cart], offers, doc.apply).carts
            found = {(one.total, one.goods, one.delivery) for one in rung.outcomes}
            counted = {
                (int(one.total[at]), int(one.goods_by_cart[at]), int(one.charge_by_cart[at]))
                for way, one in zip(ways, priced, strict=True)
                if way.share_by_cart[at] > 0
            }
            assert found == counted
