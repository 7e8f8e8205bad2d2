"""Generated shops, carts and offers, for the core and for the slow pricer at once."""

from dataclasses import dataclass

import numpy as np
from hypothesis import strategies as st

from tests import slow
from yellow_abacus.core.carts import CartBatch, make_batch
from yellow_abacus.core.conditions import Earned, Products, Spend, Units, Weight
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.offers import (
    AmountOff,
    AmountOffEach,
    DeliveryAmountOff,
    DeliveryLoweredTo,
    DeliveryPercentOff,
    Given,
    Limits,
    Offer,
    PercentOff,
    UnitPrice,
)
from yellow_abacus.core.scope import Scope
from yellow_abacus.core.shop import Settings, Shop, Zone

CATEGORIES = ("pots", "seeds", "tools")
ZONES = ("far", "home")
KINDS = {
    "percent_off": PercentOff,
    "amount_off": AmountOff,
    "amount_off_each": AmountOffEach,
    "unit_price": UnitPrice,
    "delivery_percent_off": DeliveryPercentOff,
    "delivery_amount_off": DeliveryAmountOff,
    "delivery_lowered_to": DeliveryLoweredTo,
}
CONDITIONS = {"spend": Spend, "units": Units, "weight": Weight, "products": Products}


@dataclass
class World:
    """One made-up shop with carts and offers, told twice: `slow_*` for the slow pricer."""

    shop: Shop
    batch: CartBatch
    offers: tuple[Offer, ...]
    slow_shop: slow.SlowShop
    slow_carts: list[tuple[list[tuple[str, int]], str]]
    slow_offers: list[dict]


prices = st.one_of(st.integers(0, 12), st.integers(0, 3000), st.sampled_from([99, 100, 1995, 250_000]))
maybe_price = st.one_of(st.none(), prices)
rates = st.one_of(st.integers(1, 10_000), st.sampled_from([1, 333, 1000, 2500, 5000, 10_000]))
amounts = st.one_of(st.integers(1, 60), st.integers(1, 5000))
names = st.lists(st.sampled_from(CATEGORIES), max_size=2, unique=True)
some_skus = st.lists(st.sampled_from([f"SKU-{at}" for at in range(5)]), max_size=2, unique=True)
scopes = st.one_of(
    st.just({}),
    st.fixed_dictionaries({"categories": names, "except_categories": names}),
    st.fixed_dictionaries(
        {
            "categories": names,
            "skus": some_skus,
            "except_skus": some_skus,
            "reduced": st.sampled_from(["in", "out"]),
        }
    ),
)
some_zones = st.lists(st.sampled_from(ZONES), max_size=1)

goods_rewards = st.one_of(
    st.fixed_dictionaries({"kind": st.just("percent_off"), "percent_bp": rates}),
    st.fixed_dictionaries({"kind": st.just("amount_off"), "amount": amounts}),
    st.fixed_dictionaries({"kind": st.just("amount_off_each"), "amount": amounts}),
    st.fixed_dictionaries({"kind": st.just("unit_price"), "amount": st.integers(0, 1500)}),
)
delivery_rewards = st.one_of(
    st.fixed_dictionaries({"kind": st.just("delivery_percent_off"), "percent_bp": rates, "zones": some_zones}),
    st.fixed_dictionaries({"kind": st.just("delivery_amount_off"), "amount": amounts, "zones": some_zones}),
    st.fixed_dictionaries(
        {"kind": st.just("delivery_lowered_to"), "amount": st.integers(0, 500), "zones": some_zones}
    ),
)
sizes = {"spend": st.integers(1, 6000), "units": st.integers(1, 9), "weight": st.integers(1, 3000)}
conditions = st.one_of(
    *(
        st.fixed_dictionaries(
            {
                "kind": st.just(kind),
                "n": sizes.get(kind, st.integers(1, 4)),
                "bound": st.sampled_from(["at_least", "at_least", "over", "at_most"]),
                "of": scopes,
            }
        )
        for kind in ("spend", "spend", "units", "weight", "products")
    )
)
limits = st.one_of(
    st.just({"times": None, "units": None, "units_from": "cheapest", "amount": None}),
    st.fixed_dictionaries(
        {
            "times": st.one_of(st.none(), st.integers(1, 3)),
            "units": st.one_of(st.none(), st.integers(1, 6)),
            "units_from": st.sampled_from(["cheapest", "dearest"]),
            "amount": st.one_of(st.none(), st.integers(1, 2500)),
        }
    ),
)
slow_offers = st.fixed_dictionaries(
    {
        "gives": st.lists(st.one_of(goods_rewards, delivery_rewards), min_size=1, max_size=3),
        "conditions": st.lists(conditions, max_size=2),
        "repeat": st.sampled_from(["once", "each_time"]),
        "need": st.sampled_from(["all", "any"]),
        "limits": limits,
        "on": scopes,
        "code": st.sampled_from(["", "", "FERN", "fern", "MOSS", "Tendril"]),
    }
)
goods = st.builds(
    slow.SlowGood,
    list_price=maybe_price,
    reduced_price=maybe_price,
    unit_cost=st.one_of(st.none(), st.floats(0, 2000)),
    categories=st.sets(st.sampled_from(CATEGORIES), max_size=2),
    weight=st.integers(0, 900),
    product=st.sampled_from(["", "Fern", "Trough"]),
)
shops = st.builds(
    slow.SlowShop,
    goods=st.lists(goods, min_size=1, max_size=5).map(
        lambda found: {f"SKU-{at}": good for at, good in enumerate(found)}
    ),
    zones=st.fixed_dictionaries(
        {zone: st.tuples(st.integers(0, 900), st.one_of(st.none(), amounts), st.floats(0, 900)) for zone in ZONES}
    ),
    with_tax=st.booleans(),
    tax_bp=st.sampled_from([0, 700, 1900, 2100, 2550]),
    payment_bp=st.integers(0, 400),
    payment_fixed=st.floats(0, 50),
    picking=st.floats(0, 300),
    codes_per_order=st.integers(1, 2),
    percent_of=st.sampled_from(["net", "standing"]),
    delivery_from=st.sampled_from(["net", "standing"]),
)


def make_offer(told: dict) -> Offer:
    rewards = []
    for reward in told["gives"]:
        fields = {name: value for name, value in reward.items() if name != "kind"}
        if "zones" in fields:
            fields["zones"] = tuple(fields["zones"])
        rewards.append(KINDS[reward["kind"]](**fields))
    earned = Earned(
        tuple(CONDITIONS[one["kind"]](one["n"], one["bound"], make_scope(one["of"])) for one in told["conditions"]),
        told["repeat"],
        told["need"],
    )
    given = Given("code", told["code"]) if told["code"] else Given()
    return Offer(tuple(rewards), earned, make_scope(told["on"]), Limits(**told["limits"]), given)


def make_scope(told: dict) -> Scope:
    return Scope(**{name: tuple(value) if isinstance(value, list) else value for name, value in told.items()})


def make_world(slow_shop: slow.SlowShop, carts: list, offers: list[dict]) -> World:
    skus = tuple(sorted(slow_shop.goods))
    found = [slow_shop.goods[sku] for sku in skus]

    def price_array(name: str) -> np.ndarray:
        told = [getattr(good, name) for good in found]
        return np.array([NO_PRICE if price is None else price for price in told], dtype=np.int64)

    goods = Goods(
        skus=skus,
        products=tuple(good.product for good in found),
        list_price=price_array("list_price"),
        reduced_price=price_array("reduced_price"),
        unit_cost=np.array([np.nan if good.unit_cost is None else good.unit_cost for good in found]),
        weight=np.array([float(good.weight) for good in found]),
        categories=CATEGORIES,
        in_category=np.array([[name in good.categories for good in found] for name in CATEGORIES]),
    )
    settings = Settings(
        prices_with_tax=slow_shop.with_tax,
        tax_bp=slow_shop.tax_bp,
        payment_bp=slow_shop.payment_bp,
        payment_fixed=slow_shop.payment_fixed,
        picking_per_order=slow_shop.picking,
        codes_per_order=slow_shop.codes_per_order,
        percent_of=slow_shop.percent_of,
        delivery_from=slow_shop.delivery_from,
    )
    zones = tuple(Zone(name, *slow_shop.zones[name]) for name in ZONES)
    raw = [
        (at, skus.index(sku), quantity, paid) for at, (lines, _) in enumerate(carts) for sku, quantity, paid in lines
    ]
    columns = np.array(raw, dtype=np.int64).reshape(-1, 4).T
    zone_by_cart = np.array([ZONES.index(zone) for _, zone in carts], dtype=np.int64)
    batch = make_batch(goods, zone_by_cart, *columns)
    slow_carts = [
        ([(sku, paid) for sku, quantity, paid in lines for _ in range(quantity)], zone) for lines, zone in carts
    ]
    return World(Shop(settings, zones), batch, tuple(map(make_offer, offers)), slow_shop, slow_carts, offers)


@st.composite
def worlds(draw: st.DrawFn, carts: int = 8) -> World:
    slow_shop = draw(shops)
    line = st.tuples(st.sampled_from(sorted(slow_shop.goods)), st.integers(1, 7), st.integers(0, 900))
    cart = st.tuples(st.lists(line, max_size=6), st.sampled_from(ZONES))
    return make_world(
        slow_shop,
        draw(st.lists(cart, min_size=1, max_size=carts)),
        draw(st.lists(slow_offers, max_size=4)),
    )
