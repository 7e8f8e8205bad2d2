"""Generated shops, carts and offers, for the core and for the slow pricer at once."""

from dataclasses import dataclass, replace
from datetime import date
from fractions import Fraction
from functools import wraps
from typing import Any

import numpy as np
from hypothesis import reject
from hypothesis import strategies as st
from pydantic import TypeAdapter

from tests import slow
from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import UNKNOWN, labels, nothing_known
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.price_list import PriceStep, price_list
from yellow_abacus.core.offers import Offer, Terms, named
from yellow_abacus.core.offers.gifts import TooMuchPutInError
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import TaxClass, Taxes

CATEGORIES = ("pots", "seeds", "tools")
BRANDS = ("Mossy", "Oto")
TAGS = ("new", "heavy")
ZONES = ("far", "home")
SKUS = [f"SKU-{at}" for at in range(5)]
MOST_OFFERS = 6
TERMS = TypeAdapter(Terms)
SHAPES = {
    "options": TypeAdapter(tuple[Option, ...]),
    "classes": TypeAdapter(tuple[TaxClass, ...]),
    "tariffs": TypeAdapter(tuple[Tariff, ...]),
    "payments": TypeAdapter(tuple[PaymentMethod, ...]),
    "surcharge": TypeAdapter(Surcharge),
}


@dataclass
class World:
    """One made-up shop with carts and offers, told twice: `slow_*` for the slow pricer."""

    shop: Shop
    batch: CartBatch
    offers: tuple[Offer, ...]
    slow_shop: slow.SlowShop
    slow_carts: list[slow.SlowCart]
    slow_offers: list[dict]


prices = st.one_of(st.integers(0, 12), st.integers(0, 3000), st.sampled_from([99, 100, 1995, 250_000]))
maybe_price = st.one_of(st.none(), prices)
rates = st.one_of(st.integers(1, 10_000), st.sampled_from([1, 333, 1000, 2500, 5000, 10_000]))
amounts = st.one_of(st.integers(1, 60), st.integers(1, 5000))
names = st.lists(st.sampled_from(CATEGORIES), max_size=2, unique=True)
some_skus = st.lists(st.sampled_from(SKUS), max_size=2, unique=True)
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
    st.fixed_dictionaries(
        {
            "products": st.lists(st.sampled_from(["Fern", "Trough"]), max_size=1),
            "brands": st.lists(st.sampled_from(BRANDS), max_size=1),
            "tags": st.lists(st.sampled_from(TAGS), max_size=1),
            "except_products": st.lists(st.just("Trough"), max_size=1),
            "except_brands": st.lists(st.sampled_from(BRANDS), max_size=1),
            "except_tags": st.lists(st.sampled_from(TAGS), max_size=1),
        }
    ),
)
some_zones = st.lists(st.sampled_from(ZONES), max_size=1)
ends = st.sampled_from(["cheapest", "dearest"])


def kind(name: str, **fields: st.SearchStrategy) -> st.SearchStrategy[dict]:
    return st.fixed_dictionaries({"kind": st.just(name), **fields})


percent_off = kind("percent_off", percent_bp=rates, with_delivery=st.just(False))
percent_with_delivery = kind("percent_off", percent_bp=rates, with_delivery=st.just(True))
amount_off = kind("amount_off", amount=amounts)
amount_off_each = kind("amount_off_each", amount=amounts)
unit_price = kind("unit_price", amount=st.integers(0, 1500))
picking_rewards = st.one_of(percent_off, percent_with_delivery, amount_off, amount_off_each, unit_price)
FREE = kind("percent_off", percent_bp=st.just(10_000))
buy_get = kind(
    "buy_get",
    buy=st.integers(0, 3),
    get=st.integers(1, 2),
    of=scopes,
    price=st.one_of(FREE, percent_off, amount_off_each, unit_price),
    units_from=ends,
)
one_part = st.tuples(st.integers(2, 4), scopes).map(lambda told: [{"count": told[0], "of": told[1]}])
apart = st.permutations(SKUS).flatmap(
    lambda skus: st.tuples(st.integers(1, 2), st.integers(1, 2), st.integers(1, 3)).map(
        lambda sizes: [
            {"count": sizes[0], "of": {"skus": skus[: sizes[2]]}},
            {"count": sizes[1], "of": {"skus": skus[sizes[2] : sizes[2] + 2]}},
        ]
    )
)
goods_set = kind(
    "goods_set",
    parts=st.one_of(one_part, apart),
    price=st.one_of(kind("set_price", amount=st.integers(0, 3000)), amount_off, percent_off),
    units_from=ends,
)
put_in = kind(
    "put_in",
    skus=st.sampled_from(SKUS).map(lambda sku: [sku]),
    quantity=st.integers(1, 2),
    amount=st.sampled_from([0, 0, 50, 400]),
)
light = st.one_of(st.none(), st.none(), st.integers(1, 3000))
where_to = {
    "zones": some_zones,
    "below_weight": light,
    "options": st.sampled_from([[], [], ["Post"], ["Courier"]]),
}
delivery_rewards = st.one_of(
    kind("delivery_percent_off", percent_bp=rates, **where_to),
    kind("delivery_amount_off", amount=amounts, **where_to),
    kind("delivery_lowered_to", amount=st.integers(0, 500), **where_to),
)
sizes = {"spend": st.integers(1, 6000), "units": st.integers(1, 9), "weight": st.integers(1, 3000)}
conditions = st.one_of(
    *(
        kind(
            name,
            n=sizes.get(name, st.integers(1, 4)),
            bound=st.sampled_from(["at_least", "at_least", "over", "at_most"]),
            of=scopes,
            **({"at": st.sampled_from(["net", "net", "standing"])} if name == "spend" else {}),
        )
        for name in ("spend", "spend", "units", "units", "weight", "products")
    ),
    kind("only", of=scopes),
)
NO_LIMITS = {"times": None, "units": None, "units_from": "cheapest", "amount": None}
limits = st.one_of(
    st.just(NO_LIMITS),
    st.fixed_dictionaries(
        {
            "times": st.one_of(st.none(), st.integers(1, 3)),
            "units": st.one_of(st.none(), st.integers(1, 6)),
            "units_from": ends,
            "amount": st.one_of(st.none(), st.integers(1, 2500)),
        }
    ),
)
others = st.one_of(
    st.just([]), st.just([]), st.just([]), st.just("all"), st.lists(st.integers(0, MOST_OFFERS - 1), max_size=2)
)
PLAIN = {
    "conditions": [],
    "repeat": "once",
    "need": "all",
    "counted": "pooled",
    "steps": [],
    "every_step": False,
    "limits": NO_LIMITS,
    "on": {},
    "code": "",
    "never_with": [],
    "yields_to": [],
    "when": {"weekdays": [], "from_minute": None, "to_minute": None},
    "who": {"first_order": False, "nth_order": None, "groups": [], "except_groups": []},
    "where": {"except_zones": []},
    "funded": {"share_bp": 0, "each": 0, "of": {}},
    "returned_bp": 10_000,
}
"""An offer that asks for nothing, as both pricers are told it."""

hours = st.sampled_from([(None, None), (None, None), (600, 1200), (1320, 120)])
some_whens = st.builds(
    lambda weekdays, span: {"weekdays": weekdays, "from_minute": span[0], "to_minute": span[1]},
    st.sampled_from([[], [], [0, 1], [4, 5, 6]]),
    hours,
)
some_whos = st.fixed_dictionaries(
    {
        "first_order": st.sampled_from([False, False, True]),
        "nth_order": st.sampled_from([None, None, 1, 3]),
        "groups": st.sampled_from([[], [], ["trade"]]),
        "except_groups": st.sampled_from([[], [], ["trade"]]),
    }
)


@st.composite
def slow_offers(draw: st.DrawFn) -> dict:
    """Any sound offer: one unit reward or several others, steps and each-time only where they mean something."""
    shape = draw(st.sampled_from(["picking", "picking", "picking", "unit", "unit", "put_in", "stepped", "stepped"]))
    told: dict[str, Any] = dict(PLAIN)
    if shape == "unit":
        gives = [draw(st.one_of(buy_get, goods_set)), *draw(st.lists(delivery_rewards, max_size=1))]
    elif shape == "put_in":
        gives = [draw(put_in), *draw(st.lists(st.one_of(picking_rewards, delivery_rewards), max_size=1))]
    else:
        gives = draw(st.lists(st.one_of(picking_rewards, delivery_rewards), min_size=1, max_size=3))
    told["conditions"] = draw(st.lists(conditions, max_size=2))
    told["repeat"] = draw(st.sampled_from(["once", "each_time"]))
    told["counted"] = draw(st.sampled_from(["pooled", "pooled", "pooled", "by_product", "by_sku"]))
    told["need"] = draw(st.sampled_from(["all", "any"]))
    if shape == "stepped":
        first = draw(conditions.filter(lambda one: one.get("bound", "at_most") != "at_most"))
        told |= {"conditions": [first], "repeat": "once", "need": "all", "every_step": draw(st.booleans())}
        step = put_in if told["every_step"] else st.one_of(picking_rewards, delivery_rewards)
        gives = [draw(step)]
        told["steps"] = [
            {"n": first["n"] + more, "gives": [draw(step)]}
            for more in draw(st.lists(st.integers(1, 1500), min_size=1, max_size=2, unique=True).map(sorted))
        ]
    if not told["conditions"] and shape != "unit":
        told["repeat"] = "once"
    how_far = draw(limits)
    if shape == "put_in" and told["repeat"] == "each_time" and how_far["times"] is None:
        how_far = how_far | {"times": 3}  # or by chance more than any cart can hold
    return told | {
        "gives": gives,
        "limits": how_far,
        "on": draw(scopes),
        "code": draw(st.sampled_from(["", "", "FERN", "fern", "MOSS", "Tendril"])),
        "funded": {
            "share_bp": draw(st.sampled_from([0, 0, 3333])),
            "each": draw(st.sampled_from([0, 0, 15])),
            "of": draw(st.one_of(st.just({}), scopes)),
        },
        "returned_bp": draw(st.sampled_from([10_000, 10_000, 15_000, 40_000, 0])),
        "never_with": draw(others),
        "yields_to": draw(others),
        "when": draw(st.one_of(st.just(PLAIN["when"]), st.just(PLAIN["when"]), some_whens)),
        "who": draw(st.one_of(st.just(PLAIN["who"]), st.just(PLAIN["who"]), some_whos)),
        "where": draw(
            st.sampled_from([{}, {}, {}, {"except_zones": ["far"]}, {"payments": ["card"]}, {"currencies": ["SEK"]}])
        ),
    }


goods = st.builds(
    slow.SlowGood,
    list_price=maybe_price,
    reduced_price=maybe_price,
    unit_cost=st.one_of(st.none(), st.floats(0, 2000)),
    categories=st.sets(st.sampled_from(CATEGORIES), max_size=2),
    weight=st.one_of(st.integers(0, 900), st.integers(0, 900_000).map(lambda mg: Fraction(mg, 1000))),
    product=st.sampled_from(["", "Fern", "Trough"]),
    brand=st.sampled_from(["", *BRANDS]),
    tags=st.frozensets(st.sampled_from(TAGS)),
    never_discounted=st.sampled_from([False, False, False, True]),
    steps=st.lists(
        st.tuples(st.sampled_from(["", "", "trade", "club"]), st.sampled_from([1, 2, 3, 6]), prices),
        max_size=3,
        unique_by=lambda step: step[:2],
    ),
    by_product=st.booleans(),
    volume=st.integers(0, 60_000),
    longest=st.integers(0, 900),
    tax_class=st.sampled_from(["", "Standard", "Reduced", "None"]),
    return_bp=st.sampled_from([0, 0, 400, 10_000]),
    commission_bp=st.sampled_from([0, 0, 1200]),
    insured=st.booleans(),
)
tax_rates = st.sampled_from([0, 700, 1900, 2100, 2550])
classes = st.builds(
    lambda rates: [
        {"name": name, "rate_bp": rate, "zones": [{"zone": "far", "rate_bp": away}]}
        for name, (rate, away) in zip(("Standard", "Reduced", "None"), rates, strict=True)
    ],
    st.lists(st.tuples(tax_rates, tax_rates), min_size=3, max_size=3),
)
heaviest = st.one_of(st.none(), st.integers(200, 4000))
refused = st.sampled_from([{}, {}, {}, {"categories": ["pots"]}, {"tags": ["heavy"]}])
limits_of_parcels = st.fixed_dictionaries(
    {"heaviest": heaviest, "longest": st.one_of(st.none(), st.integers(300, 900)), "refuses": refused}
)
TARIFFS = ("Letter", "Parcel", "Fragile")
costs_of_parcels = st.integers(100, 2000)
weight_steps = st.lists(
    st.tuples(st.integers(1, 6000), costs_of_parcels), max_size=3, unique_by=lambda step: step[0]
).map(lambda found: [{"upto": upto, "amount": amount} for upto, amount in sorted(found)])
ONE_PRICE = [{"upto": None, "amount": 500}]
tariffs = st.fixed_dictionaries(
    {
        "steps": weight_steps,
        "per_kilogram": st.one_of(st.none(), st.integers(0, 300)),
        "divisor": st.sampled_from([None, 4000, 5000]),
        "fuel_bp": st.sampled_from([0, 850]),
        "insurance_bp": st.sampled_from([0, 120]),
        "carries": limits_of_parcels,
    }
).map(lambda told: told if told["steps"] or told["per_kilogram"] is not None else told | {"steps": ONE_PRICE})
charges = st.one_of(
    kind("flat", amount=st.integers(0, 900)),
    kind(
        "by_value",
        amount=st.integers(0, 900),
        steps=st.lists(
            st.tuples(st.integers(1, 6000), st.integers(0, 900)), max_size=2, unique_by=lambda step: step[0]
        ).map(lambda found: [{"value": value, "amount": amount} for value, amount in sorted(found)]),
    ),
    kind(
        "by_weight",
        steps=weight_steps.filter(bool),
        per_kilogram=st.integers(0, 300),
    ),
    kind("cost_plus", markup_bp=st.sampled_from([0, 1500]), amount=st.integers(0, 200)),
)
options = st.fixed_dictionaries(
    {
        "charge": charges,
        "free_from": st.one_of(st.none(), amounts),
        "share_bp": st.sampled_from([0, 2500, 6000]),
        "from_weight": st.sampled_from([None, None, None, 800]),
        "carries": limits_of_parcels,
        "tariffs": st.lists(st.sampled_from(TARIFFS), max_size=3, unique=True),
        "preferred": st.lists(
            st.fixed_dictionaries(
                {
                    "of": st.sampled_from([{}, {"categories": ["pots"]}, {"tags": ["new"]}]),
                    "tariff": st.sampled_from(TARIFFS),
                    "from_weight": st.sampled_from([None, None, 900]),
                    "from_value": st.sampled_from([None, None, 2000]),
                }
            ),
            max_size=1,
        ),
    }
)
surcharges = st.fixed_dictionaries(
    {
        "asks": st.one_of(
            kind(
                "amount",
                amount=st.integers(0, 400),
                counted=st.sampled_from(["order", "parcel", "unit", "kilogram", "line"]),
            ),
            kind("part_of_goods", rate_bp=st.sampled_from([150, 1000])),
        ),
        "of": st.sampled_from([{}, {"categories": ["pots"]}, {"tags": ["new"]}]),
        "chosen_bp": st.one_of(st.none(), st.integers(0, 10_000)),
        "conditions": st.lists(conditions, max_size=1),
        "repeat": st.just("once"),
        "groups": st.sampled_from([[], [], ["trade"]]),
        "except_zones": st.sampled_from([[], [], ["far"]]),
        "currencies": st.sampled_from([[], [], ["EUR"], ["SEK", "DKK"]]),
        "tax_class": st.sampled_from([None, None, "Reduced"]),
    }
)


def named_in_turn(names: tuple[str, ...], strategy: st.SearchStrategy[dict], least: int = 0):
    """Some of `names`, each with what the strategy makes."""
    return st.lists(strategy, min_size=least, max_size=len(names)).map(
        lambda found: [{"name": name} | one for name, one in zip(names, found, strict=False)]
    )


shops = st.builds(
    slow.SlowShop,
    goods=st.lists(goods, min_size=5, max_size=5).map(
        lambda found: {f"SKU-{at}": good for at, good in enumerate(found)}
    ),
    zones=st.fixed_dictionaries({zone: named_in_turn(("Post", "Courier"), options) for zone in ZONES}),
    with_tax=st.booleans(),
    classes=classes,
    delivery_class=st.sampled_from([None, None, "Reduced"]),
    payments=named_in_turn(
        ("card", "invoice"),
        st.fixed_dictionaries(
            {
                "cost_bp": st.integers(0, 400),
                "fixed": st.floats(0, 50),
                "share_bp": st.integers(1, 9000),
                "refused_bp": st.sampled_from([0, 0, 150, 3000, 10_000]),
            }
        ),
        least=1,
    ),
    tariffs=named_in_turn(TARIFFS, tariffs),
    surcharges=named_in_turn(("Gift wrap", "Small order"), surcharges),
    picking=st.floats(0, 300),
    picking_unit=st.floats(0, 30),
    packaging=st.floats(0, 60),
    packaging_weight=st.sampled_from([0, 150]),
    postage=st.floats(0, 700),
    handling=st.floats(0, 300),
    resale_bp=st.sampled_from([0, 6000]),
    commission_channels=st.sampled_from([(), ("market",)]),
    commission_returned=st.booleans(),
    codes_per_order=st.integers(1, 2),
    self_applying=st.sampled_from(["any", "any", "one"]),
    codes_with_self_applying=st.sampled_from([True, True, False]),
    percent_of=st.sampled_from(["net", "standing"]),
    delivery_from=st.sampled_from(["net", "standing"]),
)


def make_offer(told: dict, at: int) -> Offer:
    """The offer as the core takes it, by way of the shape it has in files."""

    def other_ids(others: Any) -> list[str]:
        return [] if others == "all" else [f"offer-{other}" for other in others]

    terms = TERMS.validate_python(
        {
            "gives": told["gives"],
            "earned": {name: told[name] for name in ("conditions", "repeat", "need", "counted")},
            "steps": told["steps"],
            "every_step": told["every_step"],
            "on": told["on"],
            "limits": told["limits"],
            "given": {"by": "code", "code": told["code"]} if told["code"] else {},
            "when": told["when"],
            "who": told["who"],
            "where": told["where"],
            "funded": told["funded"],
            "returned_bp": told["returned_bp"],
            "alongside": {
                "never": "all" if told["never_with"] == "all" else "named",
                "never_with": other_ids(told["never_with"]),
                "yields": "all" if told["yields_to"] == "all" else "named",
                "yields_to": other_ids(told["yields_to"]),
            },
        }
    )
    return named(terms, f"offer-{at}")


def make_surcharge(told: dict) -> Surcharge:
    """The surcharge as the core takes it, by way of the shape it has in files."""
    own = {name: told[name] for name in ("name", "asks", "of", "chosen_bp", "tax_class")}
    return SHAPES["surcharge"].validate_python(
        own
        | {"earned": {"conditions": told["conditions"], "repeat": told["repeat"]}}
        | {"who": {"groups": told["groups"]}}
        | {"where": {"except_zones": told["except_zones"], "currencies": told["currencies"]}}
    )


def simple_zone(charge: int, free_from: int | None = None, cost: float = 0) -> tuple[list[dict], list[dict]]:
    """A zone's one option with a flat charge, and the tariff behind it, in the shape they have in files."""
    name = f"flat {cost}"
    option = {"name": "Post", "charge": {"kind": "flat", "amount": charge}, "free_from": free_from, "tariffs": [name]}
    option |= {"share_bp": 10_000, "carries": {}, "from_weight": None, "preferred": []}
    tariff = {"name": name, "steps": [{"upto": None, "amount": cost}], "fuel_bp": 0, "insurance_bp": 0, "carries": {}}
    return [option], [tariff]


def plain_shop(goods: dict[str, slow.SlowGood], **zones: tuple) -> slow.SlowShop:
    """A shop without tax or fees, whose zones have one flat charge each: (charge, free from, cost)."""
    told = {name: simple_zone(*zone) for name, zone in zones.items()}
    tariffs = {tariff["name"]: tariff for _, found in told.values() for tariff in found}
    return slow.SlowShop(goods, {name: found for name, (found, _) in told.items()}, tariffs=list(tariffs.values()))


def make_world(slow_shop: slow.SlowShop, carts: list[slow.SlowCart], offers: list[dict]) -> World:
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
        weight=np.array([float(good.weight * 1000) for good in found]),
        stock=np.full(len(found), np.nan),
        prices=price_list(
            skus,
            [PriceStep(sku, n, p, of) for sku, good in zip(skus, found, strict=True) for of, n, p in good.steps],
            np.array([good.by_product and bool(good.product) for good in found]),
        ),
        reduced_first=np.array([(good.reduced_days[0] or date.min).toordinal() for good in found]),
        reduced_last=np.array([(good.reduced_days[1] or date.max).toordinal() for good in found]),
        tax_classes=tuple(good.tax_class for good in found),
        volume=np.array([float(good.volume * 1000) for good in found]),
        longest=np.array([float(good.longest) for good in found]),
        return_rate=np.array([good.return_bp / 10_000 for good in found]),
        commission_bp=np.array([float(good.commission_bp) for good in found]),
        insured=np.array([good.insured for good in found]),
        brands=tuple(good.brand for good in found),
        tags=tuple(tuple(good.tags) for good in found),
        never_discounted=frozenset(sku for sku, good in zip(skus, found, strict=True) if good.never_discounted),
        categories=CATEGORIES,
        in_category=np.array([[name in good.categories for good in found] for name in CATEGORIES]),
    )
    settings = Settings(
        picking_per_order=slow_shop.picking,
        picking_per_unit=slow_shop.picking_unit,
        packaging_cost=slow_shop.packaging,
        packaging_weight=slow_shop.packaging_weight,
        return_postage=slow_shop.postage,
        return_handling=slow_shop.handling,
        resale_bp=slow_shop.resale_bp,
        commission_channels=slow_shop.commission_channels,
        commission_returned=slow_shop.commission_returned,
        codes_per_order=slow_shop.codes_per_order,
        self_applying=slow_shop.self_applying,
        codes_with_self_applying=slow_shop.codes_with_self_applying,
        percent_of=slow_shop.percent_of,
        delivery_from=slow_shop.delivery_from,
    )
    shop = Shop(
        settings,
        tuple(Zone(name, SHAPES["options"].validate_python(slow_shop.zones[name])) for name in ZONES),
        Taxes(SHAPES["classes"].validate_python(slow_shop.classes), slow_shop.with_tax, slow_shop.delivery_class),
        SHAPES["tariffs"].validate_python(slow_shop.tariffs),
        SHAPES["payments"].validate_python(slow_shop.payments),
        tuple(make_surcharge(told) for told in slow_shop.surcharges),
    )
    raw = [(at, skus.index(sku), 1, paid) for at, cart in enumerate(carts) for sku, paid in cart.units]
    columns = np.array(raw, dtype=np.int64).reshape(-1, 4).T
    zone_by_cart = np.array([ZONES.index(cart.zone) for cart in carts], dtype=np.int64)
    facts = replace(
        nothing_known(len(carts)),
        weekday_by_cart=np.array([cart.weekday for cart in carts], dtype=np.int64),
        minute_by_cart=np.array([cart.minute for cart in carts], dtype=np.int64),
        orders_before_by_cart=np.array(
            [UNKNOWN if cart.before is None else cart.before for cart in carts], dtype=np.int64
        ),
        group=labels([cart.group for cart in carts]),
        channel=labels([cart.channel for cart in carts]),
        payment=labels([cart.payment for cart in carts]),
        option=labels([cart.option for cart in carts]),
        currency=labels([cart.currency for cart in carts]),
    )
    batch = make_batch(goods, zone_by_cart, *columns, facts)
    made = tuple(make_offer(told, at) for at, told in enumerate(offers))
    return World(shop, batch, made, slow_shop, carts, offers)


lines = st.tuples(st.sampled_from(SKUS), st.integers(1, 7), st.integers(0, 900))
carts = st.builds(
    lambda lines, **rest: slow.SlowCart([(sku, paid) for sku, many, paid in lines for _ in range(many)], **rest),
    st.lists(lines, max_size=6),
    zone=st.sampled_from(ZONES),
    weekday=st.integers(0, 6),
    minute=st.one_of(st.integers(0, 1439), st.sampled_from([119, 120, 600, 1200, 1320])),
    before=st.sampled_from([None, 0, 1, 2, 9]),
    group=st.sampled_from(["", "", "trade"]),
    channel=st.sampled_from(["", "web", "market"]),
    payment=st.sampled_from(["", "card", "Invoice", "barter"]),
    option=st.sampled_from(["", "", "Post", "courier", "pigeon"]),
    currency=st.sampled_from(["EUR", "EUR", "SEK"]),
)


@st.composite
def worlds(draw: st.DrawFn, most_carts: int = 8, most_offers: int = MOST_OFFERS) -> World:
    return make_world(
        draw(shops),
        draw(st.lists(carts, min_size=1, max_size=most_carts)),
        draw(st.lists(slow_offers(), max_size=most_offers)),
    )


def unless_too_much_is_put_in(test):
    """Made-up offers may by chance put in more than any cart can hold, which is refused."""

    @wraps(test)
    def tried(*told, **named):
        try:
            test(*told, **named)
        except TooMuchPutInError:
            reject()

    return tried
