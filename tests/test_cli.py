"""The command line: what it says and how it exits."""

import json
from pathlib import Path

import pytest
from click.testing import CliRunner

from tests.web.test_afterwards import send_codes
from yellow_abacus.cli import main
from yellow_abacus.demo import fill_apart
from yellow_abacus.store.plans import all_plans
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app


@pytest.fixture
def run(tmp_path):
    def call(*words: str):
        return CliRunner().invoke(main, [*words, "--shop", str(tmp_path / "shop.sqlite")])

    return call


def file(tmp_path: Path, name: str, text: str | bytes) -> str:
    path = tmp_path / name
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    return str(path)


def test_a_bad_row_stops_the_import_and_the_good_ones_come_in_if_asked(run, tmp_path):
    goods = file(tmp_path, "goods.csv", "sku,price\nA,1.00\nB,-2\n")
    listed = tmp_path / "rejected.csv"
    refused = run("import", "goods", goods, "--rejected", str(listed))
    assert refused.exit_code == 1
    assert "row 3, List price: “-2” is below 0." in refused.output
    assert "3,List price" in listed.read_text()
    taken = run("import", "goods", goods, "--good-rows-only")
    assert (taken.exit_code, "1 new" in taken.output) == (0, True)
    assert "0 new, 0 changed, 1 as they were" in run("import", "goods", goods, "--good-rows-only").output


def test_skus_that_goods_lacks_are_written_as_a_goods_file(run, tmp_path):
    run("import", "goods", file(tmp_path, "goods.csv", "sku,price\nA,1.00\n"))
    orders = file(tmp_path, "orders.csv", "order,date,sku,qty,price\n1,2026-03-01,A,1,1.00\n2,2026-03-01,B,1,2.00\n")
    lacking = tmp_path / "lacking.csv"
    assert run("import", "orders", orders, "--missing-goods", str(lacking)).exit_code == 1
    assert "1 new" in run("import", "goods", str(lacking)).output
    assert "2 new" in run("import", "orders", orders).output


def test_the_demo_shop_goes_into_an_empty_shop_alone(tmp_path):
    shop = ShopFile(tmp_path / "shop.sqlite")
    fill_apart(shop)
    fill_apart(shop)  # which is not empty any more, and stays as it is
    with shop.reading() as session:
        names = [plan.name for plan in all_plans(session)]
    assert names == ["Potting-up fortnight", "Seed weeks", "Balcony days"]
    again = CliRunner().invoke(main, ["demo-shop", "--shop", str(shop.path)])
    assert again.exit_code == 1
    assert "not empty" in again.output


def test_a_sparse_200_megabyte_file_is_refused(run, tmp_path):
    path = tmp_path / "huge.csv"
    with path.open("wb") as out:
        out.truncate(200_000_000)
    result = run("import", "orders", str(path))
    assert result.exit_code == 1
    assert "200 MB; up to 180 MB" in result.output


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("goods", "colour\nred\n", "No column was found for: SKU"),
        ("goods", b"\x89PNG\r\n\x1a\n", "PNG picture"),
        ("shop", "{}", "settings"),
        ("plans", '{"plans": [{"name": "P"}]}', "first_day"),
        ("plans", "not json", "JSON"),
    ],
)
def test_what_cannot_come_in_exits_with_a_reason(run, tmp_path, kind, text, says):
    result = run("import", kind, file(tmp_path, "file", text))
    assert result.exit_code == 1
    assert says in result.output


def test_plans_come_in_all_or_none(run, tmp_path):
    sound = '{"name": "One", "first_day": "2027-03-01", "last_day": "2027-03-02"}'
    unsound = '{"name": "Two", "first_day": "2027-03-05", "last_day": "2027-03-02"}'
    result = run("import", "plans", file(tmp_path, "plans.json", f'{{"plans": [{sound}, {unsound}]}}'))
    assert result.exit_code == 1
    assert "ends before it starts" in result.output
    assert "Its plans: none" in run("forecast", "--plan", "One").output


def test_forecast_says_what_is_missing(run, tmp_path):
    assert "no shop file" in run("forecast", "--plan", "One").output
    run("import", "plans", file(tmp_path, "plans.json", '{"plans": []}'))
    assert "no plan “One”" in run("forecast", "--plan", "One").output


def test_a_file_that_is_no_shop_is_named(tmp_path):
    path = file(tmp_path, "photo.sqlite", b"nothing like a database" * 50)
    result = CliRunner().invoke(main, ["forecast", "--plan", "One", "--shop", path])
    assert result.exit_code == 1
    assert "not a shop file" in result.output


LATE_FRIDAYS = {"weekdays": [4], "from_minute": 1320, "to_minute": 120}
GIFT = {"kind": "put_in", "skus": ["B", "C"], "shares_bp": [7500, 2500]}


@pytest.fixture
def priced(run, tmp_path):
    """Prices one cart of the small shop, with parts of it or of the file changed."""
    run("import", "goods", file(tmp_path, "goods.csv", "sku,price,cost\nA,10.00,4\nB,3.00,1\nC,2.00,1\n"))
    settings = {"name": "x", "currency": "EUR", "prices_with_tax": True}
    settings["tax_classes"] = [{"name": "None", "rate_bp": 0}]
    settings |= {"picking_per_order": 0}
    zones = [
        {"name": name, "options": [{"name": "Post", "charge": {"kind": "flat", "amount": amount}}]}
        for name, amount in (("Home", 500), ("Away", 900))
    ]
    run("import", "shop", file(tmp_path, "shop.json", json.dumps({"settings": settings, "zones": zones})))

    def call(cart: dict, *offers: dict, **rest):
        terms = [{"id": f"o{at}", "terms": one} for at, one in enumerate(offers)]
        told = {"carts": [{"lines": [{"sku": "A", "quantity": 2}]} | cart], "offers": terms} | rest
        return run("price", "--carts", file(tmp_path, "carts.json", json.dumps(told)), "--json")

    return call


def outcomes(result) -> list[dict]:
    assert result.exit_code == 0, result.output
    return json.loads(result.stdout)["carts"][0]["outcomes"]


def test_a_gift_to_choose_is_priced_for_each_choice_and_for_the_chosen_one(priced):
    both = outcomes(priced({}, {"gives": [GIFT]}))
    assert [(one["share"], one["put_in"][0]["sku"], one["put_in"][0]["saved"]) for one in both] == [
        (0.75, "B", 300),
        (0.25, "C", 200),
    ]
    (chosen,) = outcomes(priced({"chooses": {"o0": "C"}}, {"gives": [GIFT]}))
    assert (chosen["share"], chosen["put_in"][0]["sku"], chosen["total"]) == (1.0, "C", 2500)


@pytest.mark.parametrize(
    ("cart", "terms", "reason"),
    [
        ({"codes": [" leaf-9 "]}, {"given": {"by": "codes", "codes": ["LEAF-8", "LEAF-9"]}}, "applied"),
        ({"codes": ["LEAF-7"]}, {"given": {"by": "codes", "codes": ["LEAF-8", "LEAF-9"]}}, "no_code"),
        ({"shopper": {"orders_before": 1}}, {"who": {"nth_order": 2}}, "applied"),
        ({"shopper": {"orders_before": 0}}, {"who": {"nth_order": 2}}, "not_this_shopper"),
        ({}, {"who": {"first_order": True}}, "not_this_shopper"),
        ({"shopper": {"days_since": 60}}, {"who": {"days_since": 60}}, "applied"),
        ({"shopper": {"id": "Mina"}}, {"who": {"shoppers": ["mina", "Oto"]}}, "applied"),
        ({"shopper": {"tags": ["Letter"]}}, {"who": {"except_tags": ["letter"]}}, "not_this_shopper"),
        ({"zone": "Away"}, {"where": {"except_zones": ["Away"]}}, "not_this_destination"),
        ({"channel": "stall"}, {"where": {"channels": ["web"]}}, "not_this_channel"),
        ({"payment": "card"}, {"where": {"payments": ["CARD"]}}, "applied"),
        ({"currency": "GBP"}, {"where": {"currencies": ["EUR"]}}, "not_this_currency"),
        ({"time": "2027-03-02T09:59"}, {"when": {"first_day": "2027-03-02", "first_minute": 600}}, "out_of_dates"),
        ({"time": "2027-03-02T10:00"}, {"when": {"first_day": "2027-03-02", "first_minute": 600}}, "applied"),
        ({"time": "2027-03-02T10:00"}, {"when": {"last_day": "2027-03-02", "last_minute": 600}}, "out_of_dates"),
        # 6 March 2027 is a Saturday; hours across midnight belong to the day they start
        ({"time": "2027-03-06T01:00"}, {"when": LATE_FRIDAYS}, "applied"),
        ({"time": "2027-03-07T01:00"}, {"when": LATE_FRIDAYS}, "wrong_hours"),
        ({"time": "2027-03-05T01:00"}, {"when": LATE_FRIDAYS}, "wrong_hours"),
        ({"time": "2027-03-06T01:00"}, {"when": LATE_FRIDAYS | {"last_day": "2027-03-05"}}, "applied"),
        ({"time": "2027-03-06T23:00"}, {"when": LATE_FRIDAYS | {"last_day": "2027-03-05"}}, "out_of_dates"),
        ({"time": "2027-03-28T02:30"}, {"when": {"from_minute": 120, "to_minute": 180}}, "applied"),
    ],
)  # fmt: skip
def test_who_where_and_when_are_judged_by_the_carts_own_facts(priced, cart, terms, reason):
    (outcome,) = outcomes(priced(cart, {"gives": [{"kind": "percent_off", "percent_bp": 1000}]} | terms))
    assert outcome["reasons"][0]["reason"] == reason
    assert outcome["goods"] == (1800 if reason == "applied" else 2000)


@pytest.mark.parametrize(
    ("cart", "offers", "says"),
    [
        ({"lines": [{"sku": "GONE"}]}, [], "carts/0/lines/0/sku: The shop has no SKU “GONE”."),
        ({"zone": "Atlantis"}, [], "carts/0/zone: The shop does not deliver to “Atlantis”."),
        ({"lines": [{"sku": "A", "quantity": 0}]}, [], "carts/0/lines/0/quantity"),
        ({"lines": [{"sku": "A", "quantity": 10**12}]}, [], "carts/0/lines/0/quantity"),
        ({"lines": [{"sku": "A", "quantity": 10**6}] * 3}, [], "carts/0/lines: It is worth more than any cart"),
        ({"colour": "red"}, [], "carts/0/colour"),
        ({}, [{"gives": [{"kind": "percent_off", "percent_bp": 0}]}], "offers/0/terms/gives/0/percent_bp"),
        ({}, [{"gives": [{"kind": "wishes"}]}], "offers/0/terms/gives/0"),
    ],
)
def test_carts_that_cannot_be_priced_say_where(priced, cart, offers, says):
    result = priced(cart, *offers)
    assert (result.exit_code, says in result.output) == (1, True), result.output


def test_a_plan_of_the_file_closes_its_offers_outside_its_days(priced):
    offer = {"id": "o", "terms": {"gives": [{"kind": "amount_off", "amount": 100}]}}
    plan = {"name": "x", "first_day": "2027-03-01", "last_day": "2027-03-02", "offers": [offer]}
    told = [
        outcomes(priced({"time": time}, plan=plan, offers=None))[0]["reasons"][0]["reason"]
        for time in ("2027-02-28T23:59", "2027-03-01T00:00", "2027-03-02T23:59", "2027-03-03T00:00")
    ]
    assert told == ["out_of_dates", "applied", "applied", "out_of_dates"]


def test_columns_are_chosen_by_hand_and_those_not_understood_are_named(run, tmp_path):
    goods = file(tmp_path, "goods.csv", "thing,price,shelf\nA,1.00,9\n")
    refused = run("import", "goods", goods)
    assert "Name one with --column HEADING=FIELD" in refused.output
    taken = run("import", "goods", goods, "--column", "Thing=SKU")
    assert (taken.exit_code, "1 new" in taken.output) == (0, True)
    assert "Not understood and left out: shelf" in taken.output
    assert "no field “skew”" in run("import", "goods", goods, "--column", "thing=skew").output


def test_orders_and_their_lines_may_be_named_together(run, tmp_path):
    orders = file(tmp_path, "orders.csv", "order,date,zone\n1,2026-03-01,Home\n2,2026-03-02,Home\n")
    lines = file(tmp_path, "lines.csv", "order,sku,quantity\n2,A,1\n1,A,2\n")
    run("import", "goods", file(tmp_path, "goods.csv", "sku,price\nA,2.00\n"))
    alone = run("import", "orders", orders)
    assert alone.exit_code == 1
    assert "Where orders and their lines stand in two files, name both." in alone.output
    taken = run("import", "orders", orders, lines)
    assert "What orders.csv tells of orders goes with their lines of lines.csv, by order;" in taken.output
    assert "2 new, 0 changed" in taken.output


def test_rows_of_no_goods_are_named_and_those_of_a_name_passed_over(run, tmp_path):
    told = "order,date,sku,product,quantity\n1,2026-03-01,A,Pot,2\n1,2026-03-01,,Tip,1\n1,2026-03-01,,Card,1\n"
    orders = file(tmp_path, "orders.csv", told)
    run("import", "goods", file(tmp_path, "goods.csv", "sku,price\nA,2.00\n"))
    refused = run("import", "orders", orders)
    assert refused.exit_code == 1
    assert "Passed over, as no goods: Tip (1)." in refused.output
    taken = run("import", "orders", orders, "--no-goods", "card")
    assert "Passed over, as no goods: Tip (1), Card (1)." in taken.output
    assert "1 new, 0 changed" in taken.output
    assert "1 as they were" in run("import", "orders", orders).output, "it is remembered"
    assert run("import", "orders", orders, "--no-goods", "x" * 201).exit_code == 2


def test_times_in_utc_are_put_on_a_clock_that_is_told(run, tmp_path):
    orders = file(tmp_path, "orders.csv", "order,date,sku,quantity\n1,2026-07-01T22:30:00Z,A,2\n")
    run("import", "goods", file(tmp_path, "goods.csv", "sku,price\nA,2.00\n"))
    assert "stand as they are: say your shop’s clock" in run("import", "orders", orders).output
    told = run("import", "orders", orders, "--clock", "Europe/Berlin").output
    assert "Its times, told in UTC, are put on the clock of Europe/Berlin." in told
    assert "0 new, 1 changed" in told
    assert "1 as they were" in run("import", "orders", orders).output, "it is remembered"
    assert "No clock is known as “Berlin”" in run("import", "orders", orders, "--clock", "Berlin").output


def test_amounts_in_other_currencies_come_in_by_a_rate(run, tmp_path):
    goods = file(tmp_path, "goods.csv", "sku,price,cost\nA,€12.00,$4.00\n")
    assert "Say what one USD is in EUR" in run("import", "goods", goods).output
    told = run("import", "goods", goods, "--rate", "usd=0.5")
    assert (told.exit_code, "One USD is taken as 0.5 EUR." in told.output) == (0, True)
    again = run("import", "goods", goods)  # it is remembered with the headings
    assert (again.exit_code, "0 new, 0 changed, 1 as they were" in again.output) == (0, True)
    for wrong in ("USD", "USD=0", "USD=-1", "=2", "USD=much"):
        assert "tells no rate" in run("import", "goods", goods, "--rate", wrong).output


def test_json_that_no_file_may_hold_is_refused_by_its_place(run, tmp_path):
    for text, says in (
        ('{"plans": [{"name": "a\\u0007"}]}', "plans/0/name: It holds a character that cannot be shown."),
        ('{"plans": NaN}', "larger than any can be"),
        ("[" * 100_000, "not JSON that can be read"),
        ("{", "is not JSON"),
    ):
        result = run("import", "plans", file(tmp_path, "plans.json", text))
        assert (result.exit_code, says in result.output) == (1, True), result.output


LEAF = {
    "name": "Autumn leaf",
    "first_day": "2026-09-01",
    "last_day": "2026-09-14",
    "offers": [
        {
            "name": "Leaf",
            "terms": {
                "gives": [{"kind": "percent_off", "percent_bp": 1000}],
                "given": {"by": "code", "code": "NEWLEAF"},
                "response": {"uptake_bp": 500},
            },
        }
    ],
}


def test_a_forecast_from_before_is_kept_and_held_against_what_came(demo_shop, tmp_path):
    def run(*arguments: str):
        return CliRunner().invoke(main, [*arguments, "--shop", str(demo_shop.path)])

    file = tmp_path / "plans.json"
    file.write_text(json.dumps({"plans": [LEAF]}), encoding="utf-8")
    assert run("import", "plans", str(file)).exit_code == 0
    none = run("afterwards", "--plan", "Autumn leaf")
    assert none.exit_code == 1
    assert "No forecast of “Autumn leaf” was kept" in none.output
    assert run("forecast", "--plan", "Autumn leaf", "--keep").exit_code == 0
    late = run("afterwards", "--plan", "Autumn leaf")
    assert late.exit_code == 1
    assert "knew orders of its days" in late.output
    before = run("forecast", "--plan", "Autumn leaf", "--until", "2026-09-01", "--keep", "--json")
    assert before.exit_code == 0
    told = json.loads(run("afterwards", "--plan", "Autumn leaf", "--json").output)
    expected = next(one["expected"] for one in told["figures"] if one["key"] == "orders")
    assert expected == pytest.approx(json.loads(before.output)["plan"]["orders"])
    assert sum(one["exact"] for one in told["split"]) == pytest.approx(
        next(one["came"] - one["expected"] for one in told["figures"] if one["key"] == "profit")
    )
    assert "Over these 14 days you kept" in run("afterwards", "--plan", "Autumn leaf").output


def test_what_history_says_stops_at_a_day(demo_shop):
    def learned(*more: str) -> dict:
        return json.loads(CliRunner().invoke(main, ["learn", "--json", "--shop", str(demo_shop.path), *more]).output)

    whole, half = learned(), learned("--until", "2026-05-01")
    assert (whole["orders"], whole["last_day"]) == (12_000, "2026-10-31")
    assert half["orders"] < whole["orders"]
    assert half["last_day"] == "2026-04-30"
    assert [one["code"] for one in half["found"]] == ["NEWLEAF", "TRADEROOT"]


def test_what_history_says_of_a_next_message(demo_shop):
    send_codes(demo_shop, lambda body: make_app(demo_shop).test_client().put("/api/past", json=body))

    def run(*more: str) -> str:
        return CliRunner().invoke(main, ["learn", "--shop", str(demo_shop.path), "--sent", "777", *more]).output

    (sent,) = (one for one in json.loads(run("--json"))["next"] if one["kind"] == "sent")
    assert 777 in [one["sent"] for one in sent["by_sent"]]
    assert "Sent to 777, " in run()
    assert "0 is not in the range" in run("--sent", "0")
