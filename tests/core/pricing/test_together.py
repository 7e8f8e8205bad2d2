"""Which offers go together, on carts made for it; random ones against the slow pricer are in test_pricing."""

from tests import slow
from tests.core.pricing.test_why import FREE_DELIVERY, PLAIN, SHOP, TEN_PERCENT, spend
from tests.core.single_carts import likeliest, priced_once
from tests.worlds import make_world
from yellow_abacus.core.pricing.reasons import REASONS
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.core.pricing.why import NOBODY, why

FREE = FREE_DELIVERY | {"below_weight": None}


def pays(offers: list[dict], *skus: str) -> tuple[int, int, list[bool]]:
    """What goods and delivery come to, and which offers took effect, for one cart sent home."""
    world = make_world(SHOP, [slow.SlowCart([(sku, 0) for sku in skus], "home")], offers)
    priced = priced_once(world)
    return int(priced.goods_by_row[0]), int(priced.charge_by_row[0]), priced.took_effect[:, 0].tolist()


def off(amount: int) -> dict:
    return {"kind": "amount_off", "amount": amount}


def test_two_that_may_not_stand_together_never_both_take_effect():
    free = PLAIN | {"gives": [FREE], "conditions": [spend(1500)]}
    tenth = PLAIN | {"gives": [TEN_PERCENT], "yields_to": "all"}
    bare = pays([], "TOOL")
    assert bare[1] > 0
    assert pays([free, tenth], "TOOL") == (1500, 0, [True, False])
    assert pays([tenth, free], "TOOL")[:2] == (1500, 0)
    assert pays([free, tenth], "SEED") == (270, bare[1], [False, True])


def test_what_is_put_in_counts_at_its_standing_price_also_where_something_is_asked():
    tool = PLAIN | {"gives": [{"kind": "put_in", "skus": ["TOOL"], "quantity": 1, "amount": 1000}], "never_with": [1]}
    assert pays([tool, PLAIN | {"gives": [off(499)]}], "POT")[2] == [True, False]
    assert pays([tool, PLAIN | {"gives": [off(1501)]}], "POT")[2] == [False, True]


def test_an_offer_that_takes_effect_in_no_set_plays_no_part():
    late = PLAIN | {"gives": [off(100)]}
    idle = PLAIN | {"gives": [off(2000)], "conditions": [spend(90_000)], "never_with": [0]}
    best = pays([late, idle], "POT")
    assert best == (2900, best[1], [True, False])
    yielding = PLAIN | {"gives": [off(300)], "yields_to": [1]}
    assert pays([late, idle, yielding], "POT")[2] == [True, False, True]


def test_yielding_is_what_an_offer_says_whoever_else_is_there():
    yielding = PLAIN | {"gives": [TEN_PERCENT], "yields_to": [1]}
    gone = PLAIN | {"gives": [off(100)], "conditions": [spend(90_000)]}
    after = PLAIN | {"gives": [off(500)]}
    world = make_world(SHOP, [slow.SlowCart([("POT", 0)], "home")], [yielding, gone, after])
    assert Together(world.offers, world.shop.settings).steady([0, 2]) == [2]
    assert pays([yielding, gone, after], "POT")[0] == 2250  # a tenth of what is left


def test_what_stood_once_goes_on_shutting_out_and_is_named():
    less = {"kind": "delivery_amount_off", "amount": 100, "zones": [], "below_weight": None}
    offers = [
        PLAIN | {"gives": [FREE], "conditions": [spend(1500)]},
        PLAIN | {"gives": [TEN_PERCENT], "yields_to": [3]},
        PLAIN | {"gives": [less], "never_with": [0]},
        PLAIN | {"gives": [off(100)], "conditions": [spend(90_000)]},
    ]
    assert pays(offers, "TOOL") == (1350, pays([], "TOOL")[1], [False, True, False, False])
    world = make_world(SHOP, [slow.SlowCart([("TOOL", 0)], "home")], offers)
    rows, priced = likeliest(world.shop, world.batch, world.offers)
    assert priced.stood[:, 0].tolist() == [True, True, False, False]
    told = why(world.shop, rows, world.offers, priced)
    assert [REASONS[one.reason[0]] for one in told[:3]] == ["short", "applied", "shut_out"]
    assert [int(one.shut_out_by[0]) for one in told[:3]] == [NOBODY, NOBODY, 0]
