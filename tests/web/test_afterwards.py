"""Offers that ran before, and what history says of them, through the API."""

import json
import re
from typing import Any

import pytest
from click.testing import CliRunner
from sqlalchemy import text

from yellow_abacus.cli import main
from yellow_abacus.store.models import ShopRow
from yellow_abacus.web.app import make_app
from yellow_abacus.web.context import IS_GONE

NEWLEAF = {
    "id": "newleaf",
    "name": "New leaf",
    "terms": {
        "gives": [{"kind": "percent_off", "percent_bp": 1000}],
        "given": {"by": "code", "code": "NEWLEAF"},
        "when": {"first_day": "2026-03-01", "last_day": "2026-04-30"},
    },
}


def look(demo) -> dict:
    lines = demo.get("/api/history-says").text.splitlines()
    told = [json.loads(line) for line in lines]
    assert [one["kind"] for one in told[:-1]] == ["looked"] * (len(told) - 1)
    shares = [one["share"] for one in told[:-1]]
    assert shares == sorted(shares)
    assert shares[-1] == 1  # the values from which delivery is free take most of it
    return told[-1]


def test_what_ran_is_kept_with_the_shop_and_undone(demo):
    assert demo.get("/api/past").json["offers"] == []
    assert demo.put("/api/past", json={"offers": [NEWLEAF]}).status_code == 200
    assert [one["name"] for one in demo.get("/api/past").json["offers"]] == ["New leaf"]
    demo.post("/api/undo")
    assert demo.get("/api/past").json["offers"] == []


@pytest.mark.parametrize(
    ("terms", "pointer"),
    [
        ({"when": {}}, "/offers/0/when/first_day"),
        ({"gives": [{"kind": "percent_off", "percent_bp": 20_000}]}, "/offers/0/gives/0/percent_bp"),
        ({"given": {"by": "code", "code": "?"}}, "/offers/0/given/code"),
    ],
)
def test_what_makes_no_sense_is_refused_by_name(demo, terms, pointer):
    wrong = NEWLEAF | {"terms": NEWLEAF["terms"] | terms}
    told = demo.put("/api/past", json={"offers": [wrong]})
    assert told.status_code == 422
    assert told.json["errors"][0]["pointer"] == pointer
    assert demo.get("/api/past").json["offers"] == []


def test_codes_nobody_told_are_found_and_gone_once_they_are(demo):
    before = look(demo)
    assert [one["code"] for one in before["found"]] == ["NEWLEAF", "TRADEROOT"]
    assert before["offers"] == []
    demo.put("/api/past", json={"offers": [NEWLEAF]})
    after = look(demo)
    assert [one["code"] for one in after["found"]] == ["TRADEROOT"]
    (offer,) = after["offers"]
    uptake = next(one for one in offer["figures"] if one["of"] == "uptake_bp")
    assert uptake["low"] < 500 < uptake["high"]  # the demo shop's shoppers use it in 5 of 100 orders
    assert uptake["orders"] > 500
    assert sum(one["runs"] for one in offer["by_day"]) == offer["days"] == 61
    assert len(offer["uses_by_day"]) == 61
    assert 0 < sum(one["used"] for one in offer["uses_by_day"]) <= offer["uses"]
    assert all(one["used"] <= one["could"] for one in offer["uses_by_day"])
    assert offer["given_away"] == pytest.approx(offer["goods"] / 10, rel=0.02)


@pytest.fixture
def cheap_seeds(demo_shop):
    """A client on the demo shop, whose seeds cost a fifth less from 3 to 16 June."""
    make_seeds_cheap(demo_shop)
    return make_app(demo_shop).test_client()


def make_seeds_cheap(shop):
    rewrite(shop, CHEAPER)


def rewrite(shop, statement):
    """Change what the orders of a shop tell."""
    with shop.changing("Other orders") as session:
        session.execute(statement)
        session.get_one(ShopRow, 1).data_version += 1


CHEAPER = text("""
    update order_lines set unit_price = (
        select round(goods.list_price * 0.8) from goods where goods.id = order_lines.good_id
    )
    where order_id in (select id from orders where placed_at >= '2026-06-03' and placed_at < '2026-06-17')
    and good_id in (select id from goods where sku like 'HF-SE%')
""")


def test_goods_that_cost_less_for_some_days_are_told_until_an_offer_says_why(cheap_seeds):
    (spell,) = look(cheap_seeds)["spells"]
    assert (spell["category"], spell["everything"]) == ("Seeds", False)
    assert (spell["first_day"], spell["last_day"]) == ("2026-06-03", "2026-06-16")
    assert all(sku.startswith("HF-SE") for sku in spell["skus"])
    assert spell["off_bp"] == pytest.approx(2_000, abs=20)
    when = {name: spell[name] for name in ("first_day", "last_day")}
    terms = {"gives": [{"kind": "percent_off", "percent_bp": 2_000}], "on": {"categories": ["Seeds"]}, "when": when}
    told = cheap_seeds.put("/api/past", json={"offers": [{"id": "seeds", "terms": terms}]})
    assert told.status_code == 200, told.json
    assert look(cheap_seeds)["spells"] == []


@pytest.fixture
def post_paid(demo_shop):
    """A client on the demo shop, whose orders tell what they paid for delivery: nothing from €60 on, and from €40 on
    from 3 to 16 June."""
    make_post_free(demo_shop)
    return make_app(demo_shop).test_client()


def make_post_free(shop):
    rewrite(shop, PAID)


PAID = text("""
    update orders set delivery_paid = case when (
        select sum(quantity * unit_price) from order_lines where order_id = orders.id
    ) >= case when placed_at >= '2026-06-03' and placed_at < '2026-06-17' then 4000 else 6000 end then 0 else 490 end
""")


def test_delivery_free_from_less_for_some_days_is_told_until_an_offer_says_why(post_paid):
    (found,) = look(post_paid)["freed"]
    assert found["zones"] == ["Home", "Near abroad"]  # few orders go further
    assert (found["free_from"], found["usual"]) == (4_000, 6_000)
    assert "2026-06-03" <= found["first_day"] < found["last_day"] <= "2026-06-16"
    terms = {
        "gives": [{"kind": "delivery_lowered_to", "amount": 0}],
        "earned": {"conditions": [{"kind": "spend", "n": 4_000}]},
        "when": {name: found[name] for name in ("first_day", "last_day")},
    }
    told = post_paid.put("/api/past", json={"offers": [{"id": "post", "terms": terms}]})
    assert told.status_code == 200, told.json
    assert look(post_paid)["freed"] == []


@pytest.fixture
def maiden_pinks_given(demo_shop):
    """A client on the demo shop; orders from €50 on got seeds of maiden pinks from 3 to 16 June for nothing."""
    give_maiden_pinks(demo_shop)
    return make_app(demo_shop).test_client()


def give_maiden_pinks(shop):
    rewrite(shop, GIVEN)


GIVEN = text("""
    insert into order_lines (order_id, good_id, quantity, unit_price, paid, returned)
    select id, (select id from goods where sku = 'HF-SEMAI-1'), 1, 395, 0, 0 from orders
    where placed_at >= '2026-06-03' and placed_at < '2026-06-17' and (
        select sum(quantity * unit_price) from order_lines where order_id = orders.id
    ) >= 5000
""")


def test_goods_that_nobody_paid_for_are_told_until_an_offer_puts_them_in(maiden_pinks_given):
    (found,) = look(maiden_pinks_given)["gifts"]
    assert (found["skus"], found["units"], found["code"]) == (["HF-SEMAI-1"], 1, "")
    assert (found["given_for"], found["from_value"], found["with_sku"]) == ("value", 5_000, None)
    assert "2026-06-03" <= found["first_day"] < found["last_day"] <= "2026-06-16"
    terms = {
        "gives": [{"kind": "put_in", "skus": found["skus"], "quantity": 1}],
        "earned": {"conditions": [{"kind": "spend", "n": 5_000}]},
        "when": {name: found[name] for name in ("first_day", "last_day")},
    }
    told = maiden_pinks_given.put("/api/past", json={"offers": [{"id": "gift", "terms": terms}]})
    assert told.status_code == 200, told.json
    after = look(maiden_pinks_given)
    assert after["gifts"] == []
    assert after["offers"][0]["uses"] == pytest.approx(found["orders"], rel=0.1)


SENT = {3: (120, 9), 4: (900, 131), 5: (260, 24), 6: (60, 3), 7: (1000, 164), 8: (180, 15)}
"""Months of codes sent by letter: how many letters, and how many orders that used one."""


def send_codes(shop, put):
    """The first orders of some months used a code, of which all shoppers of a list were told. put: the offers."""
    with shop.changing("Codes by letter") as session:
        for month, (_, used) in SENT.items():
            first = f"2026-{month:02}-01"
            session.execute(
                text(
                    "update orders set code = :code where id in (select id from orders where placed_at >= :first"
                    " order by placed_at limit :used)"
                ),
                {"code": f"LETTER{month}", "first": first, "used": used},
            )
        session.get_one(ShopRow, 1).data_version += 1
    offers = []
    for month, (size, _) in SENT.items():
        terms = NEWLEAF["terms"] | {
            "given": {"by": "code", "code": f"LETTER{month}"},
            "when": {"first_day": f"2026-{month:02}-01", "last_day": f"2026-{month:02}-28"},
            "response": {"sends": {"size": size, "response_bp": 0}},
        }
        offers.append({"id": f"letter-{month}", "name": f"Letter {month}", "terms": terms})
    put({"offers": offers})


def test_a_next_message_is_told_by_how_many_are_sent(demo, demo_shop):
    send_codes(demo_shop, lambda body: demo.put("/api/past", json=body))
    (sent,) = (one for one in look(demo)["next"] if one["kind"] == "sent")
    assert [(one["of"], one["used"]) for one in sent["before"]] == list(SENT.values())
    few, many = sent["by_sent"][0], sent["by_sent"][-1]
    assert (few["sent"], many["sent"]) == (30, 2000)
    assert few["likely"] < 900 < many["likely"]
    asked = {"before": sent["before"], "sent": 500}
    told = demo.post("/api/next-sent", json=asked).json
    assert few["likely"] < told["likely"] < many["likely"]
    assert told["uses_low"] < told["uses_likely"] < told["uses_high"]
    assert told["says"].startswith("Sent to 500, ")
    assert "off in all" in told["says"]


@pytest.mark.parametrize(
    "wrong", [{"sent": 0}, {"before": []}, {"before": [{"used": 1, "of": 0}]}, {"sent": "many"}, {"others": 1}]
)
def test_a_hand_made_question_of_a_next_message_is_refused(demo, wrong):
    before = {"used": 3, "of": 50, "orders": 3, "given_away": 900, "goods": 9000, "unlike": 0.2}
    assert demo.post("/api/next-sent", json={"before": [before], "sent": 50}).status_code == 200
    assert demo.post("/api/next-sent", json={"before": [before], "sent": 50} | wrong).status_code == 422


def test_what_runs_already_is_looked_at_too(demo):
    always = NEWLEAF | {"terms": {**NEWLEAF["terms"], "when": {}}}
    assert demo.put("/api/running", json={"offers": [always]}).status_code == 200
    (offer,) = look(demo)["offers"]
    assert offer["running"] is True
    assert offer["days"] == 365
    extra = next(one for one in offer["figures"] if one["of"] == "extra_bp")
    assert extra["likely"] is None
    assert "all days" in extra["says"]


def test_what_a_short_test_would_tell_is_said_of_every_figure_that_history_may_tell(demo):
    demo.put("/api/past", json={"offers": [NEWLEAF]})
    tests, told = demo.get("/api/short-tests").json["tests"], look(demo)
    asked = {figure["of"] for one in told["offers"] for figure in one["figures"]}
    assert told["tests"] == tests
    assert asked <= {one["of"] for one in tests}
    (uptake,) = (one["says"] for one in tests if one["of"] == "uptake_bp")
    assert re.match(r"A test of 14 days would tell it: 10\s% of some 46\d orders would show as 7\.7\s% to", uptake)


def test_an_empty_shop_has_nothing_to_say(empty):
    assert empty.get("/api/short-tests").json == {"tests": []}
    told = look(empty)
    assert (told["orders"], told["first_day"], told["offers"], told["found"]) == (0, None, [], [])


def test_many_offers_are_refused_in_one_sentence(demo):
    told = demo.put("/api/past", json={"offers": [NEWLEAF] * 401})
    assert told.status_code == 422


# --- kept forecasts

LEAF = {
    "name": "Autumn leaf",
    "first_day": "2026-09-01",
    "last_day": "2026-09-21",
    "offers": [
        {
            "id": "leaf",
            "name": "Leaf",
            "terms": {
                "gives": [{"kind": "percent_off", "percent_bp": 1000}],
                "given": {"by": "code", "code": "NEWLEAF"},
                "response": {"uptake_bp": 500, "ranges": [{"of": "uptake_bp", "low": 350, "high": 700}]},
            },
        }
    ],
}


def kept(demo, plan=LEAF) -> dict:
    told = demo.post("/api/kept", json=plan)
    assert told.status_code == 200
    return told.json["kept"][0]


def test_a_forecast_is_kept_listed_and_let_go(demo):
    one = kept(demo)
    assert (one["plan"], one["state"], one["knew"]) == ("Autumn leaf", "over", True)
    said = demo.post("/api/forecast", json=LEAF).json
    assert one["answer"] == said["answer_text"]
    assert demo.delete(f"/api/kept/{one['id']}").json == {"kept": []}
    assert demo.get(f"/api/kept/{one['id']}").status_code == 404
    demo.post("/api/undo")
    assert [line["id"] for line in demo.get("/api/kept").json["kept"]] == [one["id"]]


def test_a_forecast_is_kept_though_who_asked_for_it_has_gone(demo):
    gone = {IS_GONE: lambda: True}
    assert demo.post("/api/kept", json=LEAF, environ_overrides=gone).status_code == 200
    assert len(demo.get("/api/kept").json["kept"]) == 1


def test_what_was_kept_is_never_computed_again(demo):
    before = demo.get(f"/api/kept/{kept(demo)['id']}").json
    settings = demo.get("/api/delivery").json["settings"]
    demo.put("/api/settings", json=settings | {"picking_per_order": 500.0})
    one = demo.get("/api/kept").json["kept"][0]
    after = demo.get(f"/api/kept/{one['id']}").json
    assert [line["expected"] for line in after["figures"]] == [line["expected"] for line in before["figures"]]
    prices = {line["key"]: line["exact"] for line in after["split"]}["prices"]
    assert prices == pytest.approx(-(500 - settings["picking_per_order"]) * after["figures"][0]["came"], rel=0.02)


def test_the_difference_splits_into_parts_that_add_up(demo):
    told = demo.get(f"/api/kept/{kept(demo)['id']}").json
    profit = next(line for line in told["figures"] if line["key"] == "profit")
    parts = told["split"]
    assert [one["key"] for one in parts] == ["volume", "prices", "mix", "response", "charged"]
    assert sum(one["exact"] for one in parts) == pytest.approx(profit["came"] - profit["expected"], abs=0.01)
    assert sum(one["amount"] for one in parts) == round(profit["came"] - profit["expected"])
    assert sum(day["orders"] for day in told["by_day"]) == told["figures"][0]["came"]
    assert len(told["by_day"]) == told["days"] == told["days_gone"] == 21
    (leaf,) = told["offers"]
    assert leaf["uses"]["came"] == 22  # orders of those days with the code
    assert [one["code"] for one in told["unknown_codes"]] == ["TRADEROOT"]
    assert (told["told"], told["odd"]) == (0, [])  # the demo orders tell the prices asked alone


def test_each_part_opens_to_the_days_or_orders_it_is_made_of(demo):
    one = kept(demo)["id"]
    told = demo.get(f"/api/kept/{one}").json
    came = told["figures"][0]["came"]
    for part in told["split"]:
        found = demo.get(f"/api/kept/{one}/{part['key']}").json
        assert (found["label"], found["amount"]) == (part["label"], part["amount"])
        shown = found["days"] + found["orders"]
        assert sum(line["amount"] for line in shown) + found["others_amount"] == part["amount"]
        if part["key"] == "volume":
            assert [day["orders"] for day in found["days"]] == [day["orders"] for day in told["by_day"]]
        else:
            assert len(found["orders"]) + found["others"] == came
    mix = demo.get(f"/api/kept/{one}/mix").json
    off = [abs(line["amount"]) for line in mix["orders"]]
    assert off == sorted(off, reverse=True)
    assert all(abs(line["as_today"] - mix["each"] - line["amount"]) <= 1 for line in mix["orders"])


def test_a_part_there_is_none_of_or_of_days_to_come_is_refused(demo):
    assert demo.get(f"/api/kept/{kept(demo)['id']}/weather").status_code == 422
    late = kept(demo, LEAF | {"first_day": "2027-01-01", "last_day": "2027-01-07"})["id"]
    assert demo.get(f"/api/kept/{late}/mix").status_code == 409
    assert demo.get("/api/kept/999/mix").status_code == 404


BACK = text("""
    update orders set refunded = 995 where id in (
        select id from orders where placed_at >= '2026-09-01' and placed_at < '2026-09-22' order by id limit 4
    )
""")
A_UNIT_EACH = text("""
    update order_lines set returned = 1 where id in (
        select min(id) from order_lines where order_id in (select id from orders where refunded > 0) group by order_id
    )
""")


def test_what_came_back_is_told_beside_what_return_rates_expect(demo, demo_shop):
    one = kept(demo)["id"]
    before = demo.get(f"/api/kept/{one}").json
    assert before["came_back"] is None
    rewrite(demo_shop, BACK)
    rewrite(demo_shop, A_UNIT_EACH)
    after = demo.get(f"/api/kept/{one}").json
    told = after["came_back"]
    assert (told["returned"], told["refunded"]) == (4, 4 * 995)
    assert told["units"] > 1_000
    assert 0 < told["expected"] < told["units"] * 0.1
    assert "4 of 1," in told["says"]
    assert "€39.80 was given back" in told["says"]
    assert after["figures"] == before["figures"]


REFUSED = text("update orders set status = 'refused' where placed_at >= '2026-09-01' and placed_at < '2026-09-02'")


def test_how_many_were_refused_is_told_beside_what_ways_to_pay_expect(demo, demo_shop):
    one = kept(demo)["id"]
    before = demo.get(f"/api/kept/{one}").json
    rewrite(demo_shop, REFUSED)
    after = demo.get(f"/api/kept/{one}").json
    told = after["came_back"]
    assert 10 < told["refused"] < told["orders"] / 10
    assert (told["as_expected"], told["returned"]) == (0, 0)
    assert told["says"].startswith(f"{told['refused']} of {told['orders']} orders (")
    assert "were refused on the way; your ways to pay expect 0." in told["says"]
    assert after["figures"] == before["figures"]


FOR_DELIVERY = text("update orders set delivery_paid = 490 where placed_at >= '2026-09-01' and id % 2")
ASKED = text("update orders set delivery_cost = 700, payment_cost = 150 where delivery_paid = 490")


def test_what_carriers_asked_is_told_beside_the_tariffs_that_what_was_kept_counts(demo, demo_shop):
    one = kept(demo)["id"]
    rewrite(demo_shop, FOR_DELIVERY)
    before = demo.get(f"/api/kept/{one}").json
    assert before["costs"] == []
    rewrite(demo_shop, ASKED)
    after = demo.get(f"/api/kept/{one}").json
    delivery, payment = after["costs"]
    orders = round(next(one["came"] for one in after["figures"] if one["key"] == "orders"))
    assert orders * 0.4 < payment["orders"] <= delivery["orders"] < orders * 0.6
    assert (delivery["told"], payment["told"]) == (700 * delivery["orders"], 150 * payment["orders"])
    more = (delivery["told"] - delivery["as_set"]) / 100
    which = "more" if more > 0 else "less"
    assert f" to deliver, €{abs(more):,.2f} {which} than your tariffs say" in delivery["says"]
    assert delivery["as_set"] == pytest.approx(delivery["told"], rel=0.4)
    assert payment["says"].endswith("than your ways to pay say; what you kept counts your ways to pay.")
    assert after["figures"] == before["figures"]


def test_while_it_runs_days_gone_are_held_against_their_part(demo):
    late = LEAF | {"first_day": "2026-10-25", "last_day": "2026-11-07"}
    one = kept(demo, late)
    assert one["state"] == "under_way"
    told = demo.get(f"/api/kept/{one['id']}").json
    assert (told["days"], told["days_gone"]) == (14, 7)
    orders = told["figures"][0]
    whole = demo.post("/api/forecast", json=late).json["plan"]["orders"]
    assert 0.3 * whole < orders["expected"] < 0.7 * whole
    assert told["sentence"].startswith("In the first 7 of 14 days you kept ")


def test_days_to_come_have_nothing_to_be_held_against(demo):
    one = kept(demo, LEAF | {"first_day": "2027-01-01", "last_day": "2027-01-07"})
    assert one["state"] == "to_come"
    told = demo.get(f"/api/kept/{one['id']}")
    assert told.status_code == 409
    assert "No order" in told.json["detail"]


def test_a_plan_that_makes_no_sense_is_not_kept(demo):
    wrong = LEAF | {"last_day": "2026-08-01"}
    assert demo.post("/api/kept", json=wrong).status_code == 422
    assert demo.get("/api/kept").json == {"kept": []}


def test_while_it_runs_a_sentence_says_whether_to_carry_on(demo):
    late = LEAF | {"first_day": "2026-10-25", "last_day": "2026-11-07"}
    told = demo.get(f"/api/kept/{kept(demo, late)['id']}").json
    assert told["to_come"].startswith("Stop or change it")  # 10 % off brings no order in it
    assert "the days to come should keep" in told["to_come"]
    assert demo.get(f"/api/kept/{kept(demo)['id']}").json["to_come"] == ""


EVERYBODY: dict[str, Any] = {"given": {"by": "itself"}, "response": {}}


@pytest.mark.parametrize(
    ("terms", "says"),
    [
        ({}, "Stop or change it"),
        ({"limits": {"uses": 100}}, "as much as without it, .*“Leaf” is used up"),
        ({"limits": {"uses": 400}}, r"Of the 400 uses of “Leaf” 2\d\d are left, which should last"),
        ({"limits": {"uses": 300}}, r"Of the 300 uses of “Leaf” 1\d\d are left, until \d+ November as things go"),
        ({"limits": {"spending": 100_000}}, "Of the €1,000 that “Leaf” may give away €[0-9]+ are left, until "),
        ({"gives": [{"kind": "put_in", "skus": ["HF-SECHE-1"]}]}, "HF-SECHE-1, which is put in, has run out"),
        ({"gives": [{"kind": "put_in", "skus": ["HF-SEWIL-1"]}]}, "than without it"),
    ],
)
def test_days_to_come_have_what_is_left_of_limits_and_stock(demo, terms, says):
    late = LEAF | {"first_day": "2026-10-25", "last_day": "2026-11-07"}
    (leaf,) = late["offers"]
    late["offers"] = [leaf | {"terms": leaf["terms"] | EVERYBODY | terms}]
    told = demo.get(f"/api/kept/{kept(demo, late)['id']}").json["to_come"]
    assert re.search(says, told), told
    assert "run out" in says or "run out" not in told


def test_stock_counted_since_is_what_is_left(demo):
    late = LEAF | {"first_day": "2026-10-25", "last_day": "2026-11-07"}
    gift = {"gives": [{"kind": "put_in", "skus": ["HF-SECHE-1"]}]}
    (leaf,) = late["offers"]
    late["offers"] = [leaf | {"terms": leaf["terms"] | EVERYBODY | gift}]
    one = kept(demo, late)["id"]
    demo.put("/api/goods/one?sku=HF-SECHE-1", json={"stock": 60})
    told = demo.get(f"/api/kept/{one}").json["to_come"]
    assert re.search(r"HF-SECHE-1, which is put in, should last until \d November", told), told


def test_only_forecasts_that_knew_none_of_their_days_are_judged(demo):
    kept(demo)
    told = demo.get("/api/kept-record").json
    (became,) = told.pop("became")
    assert told == {"forecasts": 0, "held": 0, "half_within": None}
    (profit,) = (one for one in demo.get(f"/api/kept/{became['id']}").json["figures"] if one["key"] == "profit")
    assert (became["kept"], became["inside"]) == (round(profit["came"]), profit["inside"])


def test_orders_that_paid_otherwise_are_told_with_their_difference(demo, demo_shop, tmp_path):
    """Three orders of a plan's days with what they paid: as the plan says, with too much off, and in full."""
    rows = [
        "Order,Placed at,SKU,Quantity,Unit price,Line total,Zone,Code used",
        "X1,2026-11-02 10:00,HF-TOHAN-1,2,14.50,26.10,Home,NEWLEAF",
        "X2,2026-11-02 11:00,HF-TOHAN-1,2,14.50,20.00,Home,NEWLEAF",
        "X3,2026-11-03 11:00,HF-TOHAN-1,1,14.50,14.50,Home,",
    ]
    plan = LEAF | {"first_day": "2026-11-01", "last_day": "2026-11-03"}
    kept(demo, plan)
    file = tmp_path / "orders.csv"
    file.write_text("\n".join(rows), encoding="utf-8")
    assert CliRunner().invoke(main, ["import", "orders", str(file), "--shop", str(demo_shop.path)]).exit_code == 0
    told = demo.get(f"/api/kept/{demo.get('/api/kept').json['kept'][0]['id']}").json
    assert told["told"] == 1
    assert [(one["number"], one["paid"], one["should"]) for one in told["odd"]] == [("X2", 2000, 2610)]
    assert told["odd"][0]["delivery_paid"] == told["odd"][0]["delivery_should"]
    assert demo.get("/api/kept-record").json["forecasts"] == 1
    charged = next(one["exact"] for one in told["split"] if one["key"] == "charged")
    assert -610 < charged < -450  # less tax, and what payment costs of it


def test_delivery_charged_otherwise_than_the_plan_says_is_told_too(demo, demo_shop, tmp_path):
    """Paid for delivery: as its option asks, as one of the options does, twice otherwise, and not told."""
    rows = [
        "Order,Placed at,SKU,Quantity,Unit price,Line total,Zone,Delivery option,Delivery paid",
        "Y1,2026-11-02 10:00,HF-TOHAN-1,1,14.50,14.50,Home,To the door,4.90",
        "Y2,2026-11-02 11:00,HF-TOHAN-1,1,14.50,14.50,Home,,4.90",
        "Y3,2026-11-03 11:00,HF-TOHAN-1,1,14.50,14.50,Home,To the door,0.00",
        "Y4,2026-11-03 12:00,HF-TOHAN-1,1,14.50,14.50,Home,,29.90",
        "Y5,2026-11-03 13:00,HF-TOHAN-1,1,14.50,14.50,Home,,",
    ]
    kept(demo, LEAF | {"first_day": "2026-11-01", "last_day": "2026-11-03"})
    file = tmp_path / "orders.csv"
    file.write_text("\n".join(rows), encoding="utf-8")
    assert CliRunner().invoke(main, ["import", "orders", str(file), "--shop", str(demo_shop.path)]).exit_code == 0
    told = demo.get(f"/api/kept/{demo.get('/api/kept').json['kept'][0]['id']}").json
    odd = {one["number"]: (one["delivery_paid"], one["delivery_should"]) for one in told["odd"]}
    assert odd["Y3"] == (0, 490)
    assert set(odd) == {"Y3", "Y4"}
    assert odd["Y4"][0] == 2990
    figures = {one["key"]: one for one in told["figures"]}
    assert list(figures) == ["orders", "sales", "off", "delivery", "profit"]
    charged = next(one["exact"] for one in told["split"] if one["key"] == "charged")
    more = 2990 - odd["Y4"][1] - 490
    assert 0.7 * more < charged < more  # less tax, and what payment costs of it


def test_what_the_shops_own_free_delivery_does_is_told(demo):
    lines = demo.get("/api/history-says").text.splitlines()
    told = json.loads(lines[-1])["free_delivery"]
    assert [(one["name"], *one["thresholds"]) for one in told] == [
        ("Delivery to Home free from €90", 9_000),
        ("Delivery to Near abroad free from €150", 15_000),
    ]
    assert told[0]["uses"] > 300
    assert told[0]["around"]
    assert "as wide as the figure may be" in told[0]["figures"][0]["says"]
    assert (told[1]["around"], told[1]["figures"][0]["likely"]) == ([], None)


def test_how_long_a_plan_must_run_is_told_before_it_does(demo, plan):
    told = demo.post("/api/how-long", json=plan["plan"]).json
    needed = demo.post("/api/forecast", json=plan["plan"]).json["more_orders"]
    assert told["days"] >= 1
    assert told["says"].startswith(f"{told['days']} days of orders tell whether it brings the ")
    assert needed is not None
    assert demo.post("/api/how-long", json=plan["plan"] | {"offers": []}).json["says"] == ""


def test_what_those_kept_out_tell_is_read(demo):
    home = {"gives": [{"kind": "percent_off", "percent_bp": 1000}], "where": {"zones": ["Home"]}}
    plan = LEAF | {"offers": [{"id": "home", "name": "Home", "terms": home}]}
    told = demo.get(f"/api/kept/{kept(demo, plan)['id']}").json["difference"]
    assert told["kept_out"] > 100
    assert told["orders"]["low"] < 0 < told["orders"]["high"]  # nobody told the shoppers of the made-up year
    assert told["each"]["high"] < 0  # ten of a hundred came off, as the plan would have it
    assert demo.get(f"/api/kept/{kept(demo)['id']}").json["difference"] is None
